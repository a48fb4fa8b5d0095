"""size.hole-before: a hole that is too narrow or too wide for the thread or the reamer that comes
into it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

from machining.facts.bored import narrowest
from machining.facts.context import OperationFacts, PlanFacts, Ready
from machining.plan.operation import MillThread, Ream, Tap
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.tool import DRILLS, Tool

from ..finding import Finding, Severity, of_operation
from ..sizes import places_of
from ..tools import other_tools

MOST_SHARE, HIGH_SHARE, LOW_SHARE, LEAST_SHARE = 1.0, 0.9, 0.5, 0.3  # of a full thread
NOTHING_MM = 0.01
REAMS_MM, REAMS_SHARE = (0.05, 0.25), (0.005, 0.03)  # in diameter, and of the diameter


def hole_before(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    has = narrowest(op)
    if has is None:  # nothing is drilled there yet: a finding of its own
        return
    kind, tool = op.operation, op.tool
    if isinstance(kind, MillThread):
        yield from _thread(op, facts, has, kind.major_mm, kind.pitch_mm)
    elif isinstance(kind, Tap) and tool.pitch_mm is not None:
        yield from _thread(op, facts, has, tool.diameter_mm, tool.pitch_mm)
    elif isinstance(kind, Ream):
        yield from _reamed(op, facts, has)


def _thread(
    op: Ready, facts: PlanFacts, has: float, major: float, pitch: float
) -> Iterator[Finding]:
    share = (major - has) / (1.299 * pitch)
    if LOW_SHARE <= share <= HIGH_SHARE:
        return
    severity: Severity = "look" if LEAST_SHARE <= share <= MOST_SHARE else "stop"
    words = (
        "The hole is {has}: the thread is only {share} of a full one."
        if share < LOW_SHARE
        else "The hole is {has}: {share} of a full thread has to be cut, and the tool may break."
    )

    def suits(tool: Tool) -> bool:
        left = (major - tool.diameter_mm) / (1.299 * pitch)
        return tool.kind in DRILLS and LOW_SHARE <= left <= HIGH_SHARE

    yield of_operation(
        op,
        "size.hole-before",
        severity,
        words if share > 0 else "The hole is {has} already: no thread is left to cut.",
        {"has": Shown(has, "size"), "share": Shown(max(share, 0.0), "percent")},
        "thread_share" if "thread_share" in op.figures else "",
        tuple(_drills(op, facts, suits)),
    )


def _reamed(op: Ready, facts: PlanFacts, has: float) -> Iterator[Finding]:
    wide = op.tool.diameter_mm
    takes = wide - has
    low, high = (a + b * wide for a, b in zip(REAMS_MM, REAMS_SHARE, strict=True))
    if low <= takes <= high:
        return

    def suits(tool: Tool) -> bool:
        return tool.kind in DRILLS and low <= wide - tool.diameter_mm <= high

    nothing = takes <= NOTHING_MM
    yield of_operation(
        op,
        "size.hole-before",
        "stop" if nothing else "look",
        "The hole is {has} already: nothing is left to ream."
        if nothing
        else "It reams {takes} off the diameter; a reamer cuts {low} to {high} of it well.",
        {
            "has": Shown(has, "size"),
            "takes": Shown(takes, "size"),
            "low": Shown(low, "size"),
            "high": Shown(high, "size"),
        },
        "",
        tuple(_drills(op, facts, suits)),
    )


def _drills(op: Ready, facts: PlanFacts, suits: Callable[[Tool], bool]) -> Iterator[Proposal]:
    """Another drill for what made its hole."""
    drilled = _made_by(op, facts)
    if isinstance(drilled, Ready):
        yield from other_tools(drilled, facts, suits, None, DRILLS)


def _made_by(op: Ready, facts: PlanFacts) -> OperationFacts | None:
    """The last operation before it that drilled where it works."""
    places, every = places_of(op), facts.operations()
    before = [
        each
        for each in every[: [other.id for other in every].index(op.id)]
        if each.operation.kind == "drill" and places_of(each) & places
    ]
    return before[-1] if before else None
