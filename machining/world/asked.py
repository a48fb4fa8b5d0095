"""How a field of a plan is asked for: its words, its quantity and its choices, declared with it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from pydantic import BaseModel


@dataclass(frozen=True, slots=True)
class Asked:
    """``empty`` is what an empty field means, ``instead_of`` a field that typing this one empties.
    ``choices`` are values with their words, for what is chosen and not typed.
    """

    label: str
    quantity: str = "length"
    empty: str = ""
    instead_of: str = ""
    choices: tuple[tuple[str, str], ...] = ()

    def __get_pydantic_json_schema__(self, core: Any, handler: Any) -> dict[str, Any]:
        """The same words in the schema of the document."""
        schema: dict[str, Any] = handler(core)
        said: dict[str, Any] = {"title": self.label}
        if self.choices:
            said["choices"] = dict(self.choices)
        else:
            said["quantity"] = self.quantity
        if self.empty:
            said["empty"] = self.empty
        return {**schema, **said}


def asked_of(model: type[BaseModel]) -> dict[str, Asked]:
    """The fields of a record that are asked for, in the order it has them."""
    found = {}
    for name, field in model.model_fields.items():
        words = [each for each in field.metadata if isinstance(each, Asked)]
        if words:
            found[name] = words[0]
    return found
