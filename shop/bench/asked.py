"""The material and the machines a comparison is asked for."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from machining.quantities.said import Said
from machining.world.capability import Rig, turns_work, usual_rig
from machining.world.library import Library
from machining.world.material import Material
from shop.base.problems import Refused
from shop.library.snapshot import snapshot


def material_and_rigs(
    material: str, machines: Sequence[str]
) -> tuple[Library, Material, list[Rig]]:
    """The library's, all mills where none is named. Raises Refused for a key it does not have, and
    for a lathe: it makes none of these with a turning tool.
    """
    library = snapshot()
    if material not in library.materials:
        raise Refused(f"The library has no material {material!r}.", "material", material)
    for key in machines:
        if key not in library.machines:
            raise Refused(f"The library has no machine {key!r}.", "machines", key)
        if turns_work(library.machines[key]):
            raise Refused(
                f"{library.machines[key].name} turns the part; the comparison is for machines that"
                " turn the tool.",
                "machines",
                key,
            )
    return (
        library,
        library.materials[material],
        [
            usual_rig(machine)
            for key, machine in library.machines.items()
            if (key in machines if machines else not turns_work(machine))
        ],
    )


def said(sentence: Said) -> dict[str, dict[str, Any]]:
    """The values of a reason's sentence."""
    return {
        name: {"value": shown.value, "quantity": shown.quantity}
        for name, shown in sentence.values.items()
    }
