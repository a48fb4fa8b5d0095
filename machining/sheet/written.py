"""Figures of a sheet as a setter reads them."""

from __future__ import annotations

from dataclasses import dataclass

from machining.quantities.display import System, number, show, unit
from machining.quantities.said import Said, Shown, fill


@dataclass(frozen=True)
class Written:
    """Figures of a sheet in its system, the other one small beside what is measured, typed or set
    at the machine.
    """

    system: System

    @property
    def others(self) -> System:
        return "inch" if self.system == "metric" else "metric"

    def n(self, value: float, quantity: str) -> str:
        return number(value, quantity, self.system)

    def unit(self, quantity: str) -> str:
        return unit(quantity, self.system)

    def show(self, value: float, quantity: str) -> str:
        return show(value, quantity, self.system)

    def other(self, value: float, quantity: str) -> str:
        """The same in the other system, with its unit; empty where both write it alike."""
        said = show(value, quantity, self.others)
        return "" if said == self.show(value, quantity) else said

    def both(self, value: float, quantity: str) -> str:
        """``1.339 in (34.0 mm)``, for a sentence."""
        other = self.other(value, quantity)
        return self.show(value, quantity) + (f" ({other})" if other else "")

    def said(self, sentence: Said) -> str:
        return fill(sentence.text, sentence.values, self.system)

    def said_both(self, sentence: Said) -> str:
        """A sentence with its values in both systems, as a setter needs them; what there ``had``
        been to choose from stays in one.
        """
        both = {
            name: Shown(self.both(float(each.value), each.quantity))
            if each.quantity and not name.startswith("had")
            else each
            for name, each in sentence.values.items()
        }
        return fill(sentence.text, both, self.system)
