"""route.zero-direction: Z lies so far from a face on the wrong side of it."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.zero import axis_said
from machining.geometry.frames import Vector
from machining.geometry.solids import to_mesh
from machining.plan.edit import Change, Keep
from machining.plan.proposal import Proposal
from machining.plan.zero import From
from machining.quantities.said import Shown, length, within

from ..finding import Finding

ID = "route.zero-direction"
SAME_MM, SQUARE = 0.02, 0.9999
KEPT = "Z zero lies in the air on purpose"


def zero_direction(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """A Z zero that is a distance from an end or a face, and lies outside all stock."""
    taken, lie = station.planned.zero.z, station.lie
    ended = taken.of in ("stock", "part") and taken.at != "middle"
    if not taken.off_mm or not (ended or taken.of == "face"):
        return
    beyond = max(0.0 - float(lie.stock_high[2]), float(lie.stock_low[2]))
    if beyond <= SAME_MM:
        return
    faces, other = _across(station), -2.0 * taken.off_mm
    if np.abs(faces).min(initial=np.inf) <= SAME_MM:
        return
    meant = bool(np.abs(faces - other).min(initial=np.inf) <= SAME_MM)
    said = within(axis_said(2, taken, station.turns, facts.geometry), "zero_")
    yield Finding(
        ID,
        "stop" if meant else "look",
        station.setup.id,
        "",
        f"Zero is {said.text}: that is {{beyond}} outside the stock, and as far the other way is a"
        " face of the part."
        if meant
        else f"Zero is {said.text}: that is {{beyond}} outside the stock, where nothing can be"
        " touched, and every depth counts from it.",
        {"beyond": length(beyond), **said.values},
        "",
        tuple(_fixes(station, taken, meant)),
        station=station.id,
    )


def _across(station: StationFacts) -> Vector:
    """How high the faces of the finished part lie that are square to Z (n,), mm."""
    geometry, lie = station.geometry, station.lie

    def made() -> Vector:
        mesh = to_mesh(geometry.solid).posed(lie.pose)
        a, b, c = (mesh.vertices[mesh.triangles[:, k]] for k in range(3))
        square = np.cross(b - a, c - a)
        long = np.linalg.norm(square, axis=1)
        level = np.abs(square[:, 2]) >= SQUARE * np.maximum(long, 1e-12)
        return np.unique(a[level, 2].round(3))

    found: Vector = station.arrives.memo.get(("across", geometry.key, lie.key), made)
    return found


def _fixes(station: StationFacts, taken: From, meant: bool) -> Iterator[Proposal]:
    for words, off in (("As far the other way", 0.0 - taken.off_mm), ("On the face itself", 0.0)):
        turned = taken.model_copy(update={"off_mm": off}).model_dump(mode="json")
        yield Proposal(words, (Change(on=station.on, fields={"zero.z": turned}),))
    if not meant:
        yield Proposal(
            "Keep it: {words}",
            (Keep(on=station.on, finding=ID, words=KEPT),),
            {"words": Shown(KEPT)},
        )
