"""Bosses: outward cylinders all the way round, along one of the six directions."""

from __future__ import annotations

from collections import defaultdict

import numpy as np

from machining.geometry.frames import Direction, axis

from ..feature import Boss, feature_id
from .body import FULL_TURN_DEG, Body, across, as_point, ends_along, lies_along

SHORTEST_MM = 0.5  # along its axis: less is an edge, nothing to sweep an indicator round


def bosses_of(body: Body) -> list[Boss]:
    """Faces of one cylinder together, as far as they go round."""
    groups = defaultdict[tuple[object, ...], list[int]](list)
    for number, face in enumerate(body.faces):
        along = lies_along(face) if face.kind == "cylinder" and not face.inward else None
        if along is not None:
            where = np.round(across(face, along), 4) + 0.0
            low, high = ends_along(face, axis(along))
            ends = round(low, 3), round(high, 3)
            groups[(along, round(face.radius, 4), *where, *ends)].append(number)
    return [
        _boss(body, key[0], numbers)  # type: ignore[arg-type]
        for key, numbers in groups.items()
        if sum(body.faces[n].sweep_deg for n in numbers) >= FULL_TURN_DEG
        and float(key[-1]) - float(key[-2]) >= SHORTEST_MM  # type: ignore[arg-type]
    ]


def _boss(body: Body, along: Direction, numbers: list[int]) -> Boss:
    face, unit = body.faces[numbers[0]], axis(along)
    low, high = ends_along(face, unit)
    foot = as_point(np.array(face.origin) * (1.0 - unit) + low * unit)
    return Boss(
        id=feature_id("boss", along, foot, face.radius),
        point=foot,
        axis=along,
        diameter_mm=round(2.0 * face.radius, 6),
        length_mm=round(high - low, 6),
        surfaces=tuple(numbers),
    )
