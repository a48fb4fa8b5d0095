"""Points of the part read in every station."""

from __future__ import annotations

from typing import Any

import numpy as np

from machining.evaluation import plain_said
from machining.facts.context import PlanFacts
from machining.facts.read import Picked, ReadAt, between, named_as, picked, read_at
from machining.facts.route import walk
from machining.memo import Memo
from machining.plan.document import Plan
from machining.quantities.said import Said
from machining.ways.pointed import along_both, pointed
from machining.world.library import Library

from .asked import station_of

# a point in a station's frame and which way it looks, or the id of a feature
Pointed = tuple[list[float], list[float] | None] | str


def read(
    plan: Plan, library: Library, memo: Memo, points: list[Pointed], station: str, near_mm: float
) -> dict[str, Any]:
    """One point, or two, given as they stand in a station: what they are, where in every station
    and for every position, what lies between, and what the last of them can be used for there.
    Raises Missing.
    """
    facts = walk(plan, library, memo)
    seen = station_of(facts, station)
    back, found = seen.lie.pose.inverse(), list[Picked]()
    for point in points:
        if isinstance(point, str):
            found.append(named_as(point, facts))
            continue
        at, normal = point
        turned = back.rotation @ np.array(normal) if normal is not None else None
        found.append(picked(back.apply(np.array(at)), turned, near_mm, facts, memo))
    apart = between(found[0], found[1]) if len(found) > 1 else None
    return {
        "points": [_point(each, facts) for each in found],
        "between": None
        if apart is None
        else {
            "distance_mm": apart.distance_mm,
            "along": apart.along.tolist(),
            "angle_deg": apart.angle_deg,
        },
        "offers": [
            {
                "label": each.label,
                "values": plain_said(Said("", each.values))["values"],
                "edits": [edit.model_dump(mode="json") for edit in each.edits],
            }
            for each in (
                *pointed(found[-1], seen, facts),
                *(along_both(found[0], found[1], seen) if len(found) > 1 else ()),
            )
        ],
    }


def _point(point: Picked, facts: PlanFacts) -> dict[str, Any]:
    return {
        "said": plain_said(point.said),
        "at": point.at.tolist(),
        "feature": point.feature,
        "stations": [_read(each) for each in read_at(point.at, facts)],
    }


def _read(found: ReadAt) -> dict[str, Any]:
    return {
        "station": found.station.id,
        "setup": found.station.setup.planned.id,
        "at": found.at.tolist(),
        "diameter_mm": found.diameter_mm,
        "positions": [
            {
                "position": offset.position,
                "code": offset.code,
                "reference": offset.reference,
                "at": None if at is None else at.tolist(),
            }
            for offset, at in found.positions
        ],
    }
