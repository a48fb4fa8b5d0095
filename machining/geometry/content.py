"""What a solid is, however its faces happen to be cut into triangles."""

from __future__ import annotations

from hashlib import blake2b
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from .solids import BLANK, Solid

Ints = NDArray[np.int64]
STEP_MM = 1e-6  # corners nearer than this are the same
UPRIGHT = 1e-9  # of a unit vector: what leans no more stands upright, or lies flat
OFF = 3.0  # steps: a corner that lies no further off what goes past it is none
MOST_JOINED = 64  # times, twice as many edges each time
SIDES = 1e5  # of a unit vector: upright faces that look so much another way are others


class Rims(NamedTuple):
    """Edges (n) of flat and upright faces, each from a corner to the next one, with its face."""

    first: Ints
    then: Ints
    face: Ints


def content_of(solid: Solid, by_triangles: bool = False) -> bytes:
    """Equal for solids of the same metal with the same skin: the same corners to a micrometre's
    thousandth, and the same edges. What stands upright or lies flat may be cut into other
    triangles, but ``by_triangles``; what slopes may not, as its triangles are asked how high they
    stand.
    """
    raw = solid.to_mesh64()
    spots = np.asarray(raw.vert_properties)[:, :3]
    known, place = _known(np.round(spots / STEP_MM).astype(np.int64))
    corners = place[np.asarray(raw.tri_verts).astype(np.int64)].reshape(-1, 3)
    normals = _normals(spots[np.asarray(raw.tri_verts)])
    even = (np.abs(normals[:, 2]) < UPRIGHT) | (np.abs(normals[:, 2]) > 1.0 - UPRIGHT)
    even &= not by_triangles
    faces = _faces(normals, _of_blank(raw, len(corners)))
    sloping = corners[~even]
    rims = _straight(_rims(corners[even], faces[even], len(known)), sloping, known)
    used = np.unique(np.concatenate([rims.first, rims.then, sloping.reshape(-1)]))
    first, then, slopes = (np.searchsorted(used, each) for each in (*rims[:2], sloping))
    found = blake2b(digest_size=12)
    for each in (
        known[used],
        _sorted(np.column_stack([first, then, rims.face])),
        _as_listed(slopes, faces[~even]),
    ):
        found.update(np.ascontiguousarray(each).tobytes())
        found.update(b"|")
    return found.digest()


def _of_blank(raw: object, many: int) -> Ints:
    """Of each triangle: is it of the blank's own skin?"""
    ends = np.asarray(raw.run_index, dtype=np.int64) // 3  # type: ignore[attr-defined]
    kinds = [int(each == BLANK) for each in raw.run_original_id]  # type: ignore[attr-defined]
    return np.repeat(np.array(kinds, dtype=np.int64), np.diff(ends))[:many]


def _normals(corners: NDArray[np.float64]) -> NDArray[np.float64]:
    found = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    long = np.linalg.norm(found, axis=1, keepdims=True)
    return np.asarray(found / np.where(long > 0.0, long, 1.0))


def _known(spots: Ints) -> tuple[Ints, Ints]:
    """Different ones in order, and of each the place in them."""
    order = np.lexsort(spots.T[::-1])
    listed = spots[order]
    new = np.concatenate([[True], (listed[1:] != listed[:-1]).any(axis=1)])[: len(spots)]
    place = np.empty(len(spots), dtype=np.int64)
    place[order] = np.cumsum(new) - 1
    return listed[new], place


def _faces(normals: NDArray[np.float64], of_blank: Ints) -> Ints:
    """A number for the way each triangle looks, and whose skin it is."""
    x, y, z = (np.round(SIDES * normals) + SIDES).astype(np.int64).T
    return np.asarray(((x << 18 | y) << 18 | z) << 1 | of_blank)


def _rims(corners: Ints, faces: Ints, many: int) -> Rims:
    """The edges of triangles with none of the same face beyond them."""
    ways, which = np.unique(faces, return_inverse=True)
    which = np.tile(which, 3)
    first, then = (np.concatenate([corners[:, k] for k in ks]) for ks in ((0, 1, 2), (1, 2, 0)))
    named, beyond = ((a * many + b) * len(ways) + which for a, b in ((first, then), (then, first)))
    alone = (first != then) & ~np.isin(named, beyond)
    return Rims(first[alone], then[alone], ways[which[alone]])


def _straight(rims: Rims, sloping: Ints, known: Ints) -> Rims:
    """Without corners at which none of the edges that go through bends: they came with triangles
    that are no more.
    """
    if not len(rims.first):
        return rims
    ways, face = np.unique(rims.face, return_inverse=True)
    begin, end = (each * len(ways) + face for each in (rims.first, rims.then))
    order = np.argsort(begin, kind="stable")
    at = np.minimum(np.searchsorted(begin[order], end), len(begin) - 1)
    after = order[at]
    needed = np.zeros(len(known), dtype=bool)
    needed[sloping.reshape(-1)] = True
    once = np.concatenate([[True], np.diff(begin[order]) != 0, [True]])
    single = (begin[after] == end) & once[at] & once[at + 1]
    bends = _bends(rims, rims.then[after], known)
    needed[rims.then[~single | bends]] = True
    needed[rims.first[order][~(once[:-1] & once[1:])]] = True
    then = rims.then
    for _ in range(MOST_JOINED):
        over = ~needed[then]
        if not over.any():
            break
        then, after = np.where(over, then[after], then), np.where(over, after[after], after)
    kept = needed[rims.first]
    return Rims(rims.first[kept], then[kept], rims.face[kept])


def _bends(rims: Rims, onwards: Ints, known: Ints) -> NDArray[np.bool_]:
    """Does each edge go on another way?"""
    came, goes = (
        (known[b] - known[a]).astype(float)
        for a, b in ((rims.first, rims.then), (rims.then, onwards))
    )
    long = np.linalg.norm(came, axis=1) + np.linalg.norm(goes, axis=1)
    aside = np.linalg.norm(np.cross(came, goes), axis=1)
    back = np.einsum("ij,ij->i", came, goes) <= 0.0
    return np.asarray((aside > OFF * long) | back)


def _as_listed(corners: Ints, faces: Ints) -> Ints:
    """Triangles from their lowest corner on, with their faces."""
    begin = np.argmin(corners, axis=1) if len(corners) else np.zeros(0, dtype=np.int64)
    turned = [np.take_along_axis(corners, ((begin + k) % 3)[:, None], 1) for k in range(3)]
    return _sorted(np.column_stack([*turned, faces]))


def _sorted(rows: Ints) -> Ints:
    return rows[np.lexsort(rows.T[::-1])]
