"""cut.thread: a turned thread where the metal stands too low for its crests, or too high for its
passes.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from shapely import box

from machining.facts.at_hand import at_hand
from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds.turned import taken
from machining.facts.kinds.turned_thread import thread_depth
from machining.geometry.contours import FAR_MM
from machining.plan.edit import AddOperation, Change
from machining.plan.proposal import Proposal
from machining.plan.turned import Profile, TurnRough, TurnThread
from machining.quantities.names import thread_of
from machining.quantities.said import Shown, length

from ..finding import Finding, Severity, of_operation

# of the section between core and crest: chamfers and a low turning take some
FULL, HALF = 0.75, 0.5
BEYOND = 2.0  # turns, for what is turned under it
OVER = 0.15  # of its pitch the metal may stand over the thread: its crests are what is turned


def thread_on(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind = op.operation
    if not isinstance(kind, TurnThread) or not op.turns:
        return
    high, low, major = kind.on.z_mm, kind.on.z_mm - kind.on.length_mm, kind.diameter_mm / 2.0
    depth = thread_depth(kind)
    standing = taken(op.before.half_section().intersection(box(0.0, low, FAR_MM, high)))
    widest = 0.0 if standing.is_empty else float(standing.bounds[2])
    share = standing.intersection(box(major - depth, low, major, high)).area / (
        depth * (high - low)
    )
    values = {"has": Shown(2.0 * widest, "size"), "major": Shown(kind.diameter_mm, "size")}
    if widest > major + OVER * kind.pitch_mm:
        words = (
            "Where it threads Ø {major} the metal stands Ø {has}: its first pass meets all of that."
        )
        fixes = [*_turned_first(op, facts), *_of_what_stands(op, facts, 2.0 * widest)]
        yield _told(op, "stop", words, values, fixes)
    elif share < FULL:
        words = (
            "Where it threads Ø {major} the metal stands Ø {has}: {share} of the thread is there to"
            " be cut."
        )
        values["share"] = Shown(share, "percent")
        severity: Severity = "stop" if share < HALF else "look"
        yield _told(op, severity, words, values, _of_what_stands(op, facts, 2.0 * widest))


def _told(
    op: Ready, severity: Severity, words: str, values: dict[str, Shown], fixes: list[Proposal]
) -> Finding:
    return of_operation(op, "cut.thread", severity, words, values, "thread_depth", tuple(fixes))


def _turned_first(op: Ready, facts: PlanFacts) -> list[Proposal]:
    """The diameter under it, with a tool that turns outside and is loaded or in the library."""
    kind = op.operation
    assert isinstance(kind, TurnThread)
    found = at_hand(facts, op.setup.planned.machine, lambda tool: tool.kind == "turning_finish")
    if found is None:
        return []
    # some turns further: a leaning edge leaves a wedge where it ends
    high, low = kind.on.z_mm, kind.on.z_mm - kind.on.length_mm - BEYOND * kind.pitch_mm
    turning = TurnRough(
        id=f"{kind.id[:38]}under",
        tool=found.loaded.id,
        on=Profile(at_mm=((high, kind.diameter_mm), (low, kind.diameter_mm))),
        depth_mm=1.0,
        leave_mm=0.0,
        leave_face_mm=0.0,
    )
    at = [each.id for each in op.setup.planned.operations].index(kind.id)
    add = AddOperation(setup=op.setup.planned.id, operation=turning, index=at)
    return [
        Proposal(
            "Turn Ø {major} first",
            (*found.loads, add),
            {"major": Shown(kind.diameter_mm, "size")},
        )
    ]


def _of_what_stands(op: Ready, facts: PlanFacts, stands: float) -> list[Proposal]:
    """The thread of the drawing that fits what stands, else one of its diameter."""
    drawn = [thread_of(each.thread) for each in facts.plan.part.requirements if each.thread]
    fits = [each for each in drawn if each and abs(each[0] - stands) < OVER * 2.0 * each[1]]
    major, pitch = fits[0] if fits else (ceil(2.0 * stands - 1e-6) / 2.0, None)
    if major <= 0 or (drawn and not fits):
        return []
    fields = {"diameter_mm": major} | ({"pitch_mm": pitch} if pitch else {})
    return [
        Proposal("Thread Ø {major}", (Change(on=op.on, fields=fields),), {"major": length(major)})
    ]
