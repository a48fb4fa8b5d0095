"""size.chain: a size on the drawing that the solid has otherwise."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from machining.facts.context import PlanFacts
from machining.facts.left import Piece
from machining.plan.edit import SetPart
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.feature import Flat, Hole, Pocket
from machining.world.part import Requirement

from ..finding import Finding

ID = "size.chain"
NEAR = 0.05  # of the size: what is further off measures something else, a distance or a place
EXACT_MM = 0.001
OUTSIDE = "outside"


def chain(facts: PlanFacts, left: list[Piece]) -> Iterator[Finding]:
    """Whether the solid lies in the band of the size it is nearest to."""
    for asked in facts.plan.part.requirements:
        nominal, sizes = asked.nominal_mm, sizes_of(asked.feature, facts)
        if nominal is None or nominal <= 0 or not sizes:
            continue
        drawn = min(sizes, key=lambda size: abs(size - nominal))
        low, high = nominal + asked.lower_mm - EXACT_MM, nominal + asked.upper_mm + EXACT_MM
        if low <= drawn <= high or abs(drawn - nominal) > NEAR * nominal:
            continue
        values = {
            "what": Shown(asked.what),
            "asked": Shown(nominal, "size"),
            "drawn": Shown(round(drawn, 4), "size"),
        }
        yield Finding(
            ID,
            "look",
            "",
            "",
            "{what} is {asked} on the drawing and {drawn} in the solid: the paths follow the"
            " solid.",
            values,
            "",
            (Proposal("The solid is right: {drawn}", (_said(asked, drawn, facts),), values),),
            about=asked.id,
        )


def sizes_of(feature: str, facts: PlanFacts) -> list[float]:
    """What can be measured of a feature in the solid (mm): diameter and depth, length and width."""
    part = facts.geometry
    if feature in ("", OUTSIDE):
        return [float(size) for size in part.size]
    found = part.feature(feature)
    if isinstance(found, Hole):
        return [found.diameter_mm, found.length_mm]
    if isinstance(found, Pocket):
        floor = np.array(found.loops[0])
        across = [size for size in np.ptp(floor, axis=0).tolist() if size > 0]
        return [found.depth_mm, found.corner_radius_mm, *across]
    if isinstance(found, Flat):
        return [float(part.size["xyz".index(found.faces[1])])]
    return []


def _said(asked: Requirement, drawn: float, facts: PlanFacts) -> SetPart:
    part = facts.plan.part
    right = asked.model_copy(update={"nominal_mm": round(drawn, 4)})
    rows = tuple(right if each is asked else each for each in part.requirements)
    return SetPart(part=part.model_copy(update={"requirements": rows}))
