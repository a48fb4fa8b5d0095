"""A sentence with values: nobody formats numbers into text, so that it reads in both systems of
units.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from .display import System, show


@dataclass(frozen=True, slots=True)
class Shown:
    """A value for a sentence's ``{name}``: a number of a quantity, or plain text
    (quantity empty).
    """

    value: float | str
    quantity: str = ""


@dataclass(frozen=True, slots=True)
class Said:
    """A sentence with the ``{names}`` of its values."""

    text: str = ""
    values: dict[str, Shown] = field(default_factory=dict)

    def __bool__(self) -> bool:
        return bool(self.text)


def within(said: Said, prefix: str) -> Said:
    """The same, to stand inside another sentence: its names begin with ``prefix``."""
    names = {name: f"{prefix}{name}" for name in said.values}
    text = said.text
    for name, new in names.items():
        text = text.replace(f"{{{name}}}", f"{{{new}}}")
    return Said(text, {names[name]: shown for name, shown in said.values.items()})


def length(value: float) -> Shown:
    return Shown(value, "length")


def fill(sentence: str, values: Mapping[str, Shown], system: System = "metric") -> str:
    """A sentence with its ``{names}`` written out in one system of units."""
    return sentence.format(
        **{
            name: (
                show(shown.value, shown.quantity, system)
                if isinstance(shown.value, float) and shown.quantity
                else str(shown.value)
            )
            for name, shown in values.items()
        }
    )
