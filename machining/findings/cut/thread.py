"""cut.thread: no room under a thread in a blind hole, or a thread milled against its feed."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.operation import MillThread, Tap
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation


def thread(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind, room, below = op.operation, op.value("room"), op.seen.below_thread_mm
    on = f"operation:{kind.id}"
    if (
        isinstance(kind, Tap | MillThread)
        and room is not None
        and isinstance(below, float)
        and below < room - 1e-6
    ):
        shorter = float(int(10 * (kind.depth_mm - room + below))) / 10
        fixes = (
            (
                Proposal(
                    "Thread {depth} deep",
                    (Change(on=on, fields={"depth_mm": shorter}),),
                    {"depth": Shown(shorter, "length")},
                ),
            )
            if shorter > 0
            else ()
        )
        yield of_operation(
            op,
            "cut.thread",
            "stop",
            "Under the thread the hole goes on for {below}; the tool needs {room}: it meets the"
            " bottom.",
            {"below": Shown(max(below, 0.0), "length"), "room": Shown(room, "length")},
            "room",
            fixes,
        )
    if isinstance(kind, MillThread) and (kind.hand == "right") != (kind.cuts == "up"):
        other = "down" if kind.cuts == "up" else "up"
        yield of_operation(
            op,
            "cut.thread",
            "look",
            "A {hand}-hand thread cut {way} is cut against the feed: the tool pulls in and the"
            " flanks tear.",
            {"hand": Shown(kind.hand), "way": Shown(kind.cuts)},
            "",
            (Proposal("Cut it " + other, (Change(on=on, fields={"cuts": other}),)),),
        )
