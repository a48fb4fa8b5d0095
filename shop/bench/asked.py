"""The material and the machines a comparison is asked for."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from machining.cutting.hole_methods import Reason
from machining.world.library import Library
from machining.world.machine import Machine
from machining.world.material import Material
from shop.base.problems import Refused
from shop.library.snapshot import snapshot


def material_and_machines(material: str, machines: Sequence[str]) -> tuple[Library, Material, list[Machine]]:
    """The library's, all machines where none is named. Raises Refused for a key it does not have."""
    library = snapshot()
    if material not in library.materials:
        raise Refused(f"The library has no material {material!r}.", "material", material)
    for key in machines:
        if key not in library.machines:
            raise Refused(f"The library has no machine {key!r}.", "machines", key)
    return library, library.materials[material], [library.machines[key] for key in machines or library.machines]


def said(reason: Reason) -> dict[str, dict[str, Any]]:
    """The values of a reason's sentence."""
    return {name: {"value": value, "quantity": quantity} for name, (value, quantity) in reason.values.items()}
