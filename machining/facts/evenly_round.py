"""Flats and holes that lie evenly round an axis of the part, as one."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Hashable, Iterator
from dataclasses import dataclass

import numpy as np

from machining.geometry.evenly import angle_about, are_even
from machining.geometry.frames import Vector, axis
from machining.world.feature import Hole, Pocket, Slanted, is_round
from machining.world.geometry import PartGeometry

from .index import Aim

SAME_MM = 0.02
Member = Hole | Pocket | Slanted


@dataclass(frozen=True, slots=True)
class EvenlyRound:
    """``each`` is the id of a flat or hole and what is turned to the tool for it, in their order
    about the ``axis`` ("x", "y" or "z" of the part); ``first`` is the first of them. Flats lie
    ``out_mm`` from the axis.
    """

    axis: str
    out_mm: float
    first: Member
    each: tuple[tuple[str, Aim], ...]

    @property
    def ids(self) -> tuple[str, ...]:
        return tuple(id for id, _ in self.each)

    @property
    def are_holes(self) -> bool:
        return is_round(self.first)


def evenly_round(geometry: PartGeometry) -> Iterator[EvenlyRound]:
    """Sets of at least three about an axis through the middle of the part, flats first; what has
    none but the six directions is found as sides.
    """
    low, high = geometry.mesh.vertices.min(axis=0), geometry.mesh.vertices.max(axis=0)
    middle = (low + high) / 2.0
    for k, letter in enumerate("xyz"):
        groups = defaultdict[Hashable, list[tuple[float, Member]]](list)
        for each in geometry.features:
            looks = _looks(each)
            if isinstance(each, Member) and looks is not None and abs(float(looks[k])) < 1e-6:
                key = _key(each, looks, middle, k)
                if key is not None:
                    groups[key].append((angle_about(looks, k), each))
        for found in sorted(groups.values(), key=lambda each: isinstance(each[0][1], Hole)):
            in_order = sorted(found, key=lambda each: each[0])
            slanted = any(isinstance(each, Slanted) for _, each in in_order)
            if slanted and are_even(at for at, _ in in_order):
                first = in_order[0][1]
                named = tuple((each.id, _aim(each)) for _, each in in_order)
                yield EvenlyRound(letter, _out(first, middle), first, named)


def _looks(each: object) -> Vector | None:
    """Outwards to where a tool comes from; None for what has no one such direction."""
    if isinstance(each, Pocket):
        return each.looks
    if isinstance(each, Hole):
        return axis(each.opens[0]) if len(each.opens) == 1 else None
    if isinstance(each, Slanted):
        if each.shape == "face":
            return each.looks
        if len(each.comes) == 1:
            return -each.direction if each.comes == ("low",) else each.direction
    return None


def _key(each: Member, looks: Vector, middle: Vector, k: int) -> Hashable:
    """Equal for what is alike but for where it looks; None for holes beside the axis."""
    if isinstance(each, Pocket) or (isinstance(each, Slanted) and each.shape == "face"):
        return "flats", round(_out(each, middle) / SAME_MM)
    off = np.array(each.point) - middle
    along = float(off[k])
    aside = off - along * np.eye(3)[k] - float(off @ looks) * looks
    if float(np.linalg.norm(aside)) > SAME_MM:
        return None
    return "holes", round(each.diameter_mm / SAME_MM), round(along / SAME_MM)


def _out(each: Member, middle: Vector) -> float:
    if isinstance(each, Hole) or each.looks is None:
        return 0.0
    return each.out_mm - float(each.looks @ middle)


def _aim(each: Member) -> Aim:
    if isinstance(each, Slanted):
        return each.id
    return each.opens if isinstance(each, Pocket) else each.opens[0]
