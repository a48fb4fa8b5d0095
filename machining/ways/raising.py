"""Ways to bring what is slanted on a part to the tool: raised at an angle in its holding, or turned
by the machine's axes.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import atan2, degrees, hypot
from typing import Literal

from machining.facts import index
from machining.facts.at_angle import END_WORDS
from machining.facts.context import StationFacts
from machining.geometry.frames import Sideways, Vector
from machining.plan.document import Orientation
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.feature import Slanted

STRAIGHT = 2e-6  # of a unit vector as it is kept: what it leans across the way it is raised
USUAL_BLOCK_DEG = 5.0  # angle blocks come in steps of this


def raised_for(towards: Vector, station: StationFacts) -> Orientation | None:
    """How a part is raised, as it is turned, so that a direction of it looks to the tool. None for
    what leans two ways at once, looks down, or does look to it.
    """
    now = station.planned.orientation
    x, y, z = (float(each) for each in now.square @ towards)
    if z <= 0.0 or min(abs(x), abs(y)) > STRAIGHT:
        return None
    out, letter = (x, "x") if abs(x) > abs(y) else (y, "y")
    side: Sideways = f"{'+' if out > 0 else '-'}{letter}"  # type: ignore[assignment]
    angle = round(degrees(atan2(hypot(x, y), z)), 4)
    if not angle:
        return None
    by: Literal["block", "sine", "vise"] = "block" if angle % USUAL_BLOCK_DEG == 0.0 else "sine"
    held = station.planned.in_vise
    if held is not None and held.fixed[1] == letter:
        by = "vise"  # along its jaws flat ones meet edges alone
    return now.model_copy(update={"raised": side, "raised_deg": angle, "raised_by": by})


def raised(feature: Slanted, station: StationFacts) -> Iterator[Proposal]:
    """Nothing where it looks to the tool as the part lies, leans two ways, or is turned in a
    spindle.
    """
    to = index.towards(station, feature.id)
    if to is None or station.turns or index.looks_up(station, feature.id):
        return
    found = raised_for(to, station)
    if found is None:
        return
    so_that = "it lies level" if feature.shape == "face" else "it stands upright"
    fields = {f"orientation.{name}": value for name, value in found.model_dump().items()}
    yield Proposal(
        f"Raise its {{end}} by {{angle}}, so that {so_that}",
        (Change(on=station.on, fields=fields),),
        {"end": Shown(END_WORDS[found.raised]), "angle": Shown(found.raised_deg, "angle")},
    )
