"""Pieces of lines joined end to end."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import TypeAlias

import numpy as np
from shapely import STRtree, points

Corners: TypeAlias = tuple[tuple[float, float], ...]
ROUNDED = 4  # decimals of a corner, mm
SAME_MM = 1e-4


@dataclass(frozen=True, slots=True)
class Found:
    """Pieces as a file holds them (mm), the unit they were read in and whether the file says it,
    and what was left out, by kind.
    """

    lines: list[Corners]
    unit: str
    unit_said: bool
    left_out: dict[str, int] = field(default_factory=dict)


def joined(pieces: Sequence[Corners], meet_mm: float) -> tuple[list[Corners], float]:
    """Pieces joined where an end of one lies within ``meet_mm`` of an end of just one other, or of
    its own: in the order and direction of the first of each; and the widest gap (mm) that was
    closed. Where three meet none is joined: nobody can tell which go together.
    """
    kept = [each for each in map(_cleaned, pieces) if len(each) > 1]
    partner, gaps = _partners(kept, meet_mm)
    done, lines = set[int](), list[Corners]()
    widest = 0.0
    for first in range(len(kept)):
        if first in done:
            continue
        chain, closed = _chain(first, partner, done)
        corners: list[tuple[float, float]] = []
        for piece, flipped in chain:
            line = kept[piece][::-1] if flipped else kept[piece]
            corners += line[1:] if corners else line
        widest = max([widest, *(gaps.get(2 * p, 0.0) for p, _ in chain)])
        widest = max([widest, *(gaps.get(2 * p + 1, 0.0) for p, _ in chain)])
        if closed:
            corners[-1] = corners[0]
        lines.append(tuple(corners))
    return lines, widest


def _cleaned(line: Corners) -> Corners:
    """Rounded, without corners that repeat the last."""
    kept: list[tuple[float, float]] = []
    for x, y in line:
        spot = (round(float(x), ROUNDED) + 0.0, round(float(y), ROUNDED) + 0.0)  # no minus nought
        if not kept or abs(spot[0] - kept[-1][0]) + abs(spot[1] - kept[-1][1]) > SAME_MM:
            kept.append(spot)
    if len(kept) > 2 and abs(kept[0][0] - kept[-1][0]) + abs(kept[0][1] - kept[-1][1]) <= SAME_MM:
        kept[-1] = kept[0]
    return tuple(kept)


def _partners(lines: Sequence[Corners], meet_mm: float) -> tuple[dict[int, int], dict[int, float]]:
    """For each end (twice its line, plus one at the last corner) the only other one near it, and
    how far that is.
    """
    open_ends = [
        (2 * k + last, line[-last])
        for k, line in enumerate(lines)
        if line[0] != line[-1]
        for last in (0, 1)
    ]
    if not open_ends:
        return {}, {}
    names = [name for name, _ in open_ends]
    spots = np.array([spot for _, spot in open_ends])
    tree = STRtree(points(spots))
    a, b = tree.query(points(spots), predicate="dwithin", distance=meet_mm)
    near: dict[int, list[int]] = {}
    for i, j in zip(a.tolist(), b.tolist(), strict=True):
        if i != j and not _short(lines, names[i], names[j], meet_mm):
            near.setdefault(i, []).append(j)
    partner, gaps = dict[int, int](), dict[int, float]()
    for i, others in near.items():
        if len(others) == 1 and near.get(others[0]) == [i]:
            partner[names[i]] = names[others[0]]
            gaps[names[i]] = float(np.linalg.norm(spots[i] - spots[others[0]]))
    return partner, gaps


def _short(lines: Sequence[Corners], one: int, other: int, meet_mm: float) -> bool:
    """Are they the two ends of one line that is no longer than what is closed?"""
    if one // 2 != other // 2:
        return False
    way = np.linalg.norm(np.diff(np.array(lines[one // 2]), axis=0), axis=1).sum()
    return bool(way <= 2.0 * meet_mm)


def _chain(
    first: int, partner: dict[int, int], done: set[int]
) -> tuple[list[tuple[int, bool]], bool]:
    """Lines one after the other with whether each is turned round, from the end that leads back
    farthest; and whether they run into themselves.
    """
    begin = 2 * first
    while (before := partner.get(begin)) is not None:
        begin = before ^ 1
        if begin // 2 == first:
            break
    chain, end = list[tuple[int, bool]](), begin
    while True:
        piece, flipped = end // 2, bool(end % 2)
        done.add(piece)
        chain.append((piece, flipped))
        after = partner.get(end ^ 1)
        if after is None:
            return chain, False
        if after // 2 == chain[0][0]:
            return chain, True
        end = after
