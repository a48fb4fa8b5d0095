"""What a material does to people and the shop when it is cut, with the coolant it is cut with."""

from __future__ import annotations

from dataclasses import dataclass

from .context import PlanFacts, SetupFacts

DRY = frozenset({"air", "none"})


@dataclass(frozen=True, slots=True)
class Hazard:
    """``sentence`` says what it does, ``care`` what is to be done, in few words."""

    sentence: str
    care: str


DUST = Hazard(
    "Its dust harms lungs and slideways: extraction on, doors shut, masks as the shop rules.",
    "Dust: extraction on, doors shut.",
)
SLUDGE = Hazard(
    "Its dust stays in the coolant: clean it out before it dries and is breathed.",
    "Dust in the coolant: out before it dries.",
)
FIRE = Hazard(
    "Its chips and dust can burn: the shop's fire rules first, chips out, extinguisher for metal"
    " fires at hand, never water.",
    "Chips burn: metal-fire extinguisher at hand, chips out.",
)
FUMES = Hazard("It gives off fumes when hot: extraction on, sharp edges.", "Fumes: extraction on.")
MIST = Hazard(
    "Coolant blown as mist is breathed: extraction on, doors shut until it has settled.",
    "Mist: extraction on, doors shut.",
)


def hazards(setup: SetupFacts, facts: PlanFacts) -> list[Hazard]:
    """Of a setup that cuts; none where the material is not chosen."""
    if facts.material is None or not setup.operations:
        return []
    of, coolants = facts.material.hazards, {op.operation.coolant for op in setup.operations}
    found = []
    if "dust" in of:
        found.append(DUST if coolants & DRY else SLUDGE)
    if "fire" in of:
        found.append(FIRE)
    if "fumes" in of:
        found.append(FUMES)
    if "mist" in coolants:
        found.append(MIST)
    return found
