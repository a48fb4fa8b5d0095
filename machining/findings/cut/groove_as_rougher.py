"""cut.groove-as-rougher: a narrow tool that clears what a turning tool would take quicker."""

from __future__ import annotations

from collections.abc import Iterator
from math import inf

from machining.cutting.data import constant
from machining.facts.context import PlanFacts, Ready
from machining.plan.proposal import Proposal
from machining.plan.turned import Groove, TurnFinish, TurnGroove, TurnRough
from machining.quantities.said import Shown, length
from machining.ways.choices.turned import turned_first

from ..finding import Finding, keep, of_operation
from ..tools import other_tools

ID = "cut.groove-as-rougher"
ROUGHS = (
    "A grooving tool roughs along the spindle here: its blade is bent sideways, and a turning tool"
    " takes more at once."
)
FINISHES = (
    "A grooving tool follows the contour here: its blade is bent sideways by what stands on it, so"
    " little may be left for it, and none of its corners cuts along a face."
)


def groove_as_rougher(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind, tool = op.operation, op.tool
    if op.work.turned is None or op.work.turned.is_empty or "cutting_speed" not in op.figures:
        return
    if isinstance(kind, TurnRough | TurnFinish) and tool.kind == "turning_groove":
        yield _along(op, kind, facts)
    if not isinstance(kind, TurnGroove) or not isinstance(kind.on, Groove):
        return
    wide, on = tool.insert_width_mm or inf, kind.on
    if on.width_mm < constant("turning", "groove_rough") * wide:
        return
    found = turned_first(op, facts)
    if found is None:
        return
    edits, name, rest = found
    yield of_operation(
        op,
        ID,
        "look",
        "The groove is {wide} wide, {plunges} plunges of a tool {insert} wide: turned first, only"
        " {rest} is left to groove.",
        {
            "wide": length(on.width_mm),
            "plunges": Shown(op.value("plunges") or 0.0, "count"),
            "insert": length(wide),
            "rest": length(rest),
        },
        "plunges",
        (
            Proposal("Turn it first with {tool}, groove the rest", edits, {"tool": Shown(name)}),
            _stay(op),
        ),
    )


def _along(op: Ready, kind: TurnRough | TurnFinish, facts: PlanFacts) -> Finding:
    """A blade that is led along the spindle instead of into the part."""
    finishes = isinstance(kind, TurnFinish)
    better = "turning_finish" if finishes else "turning_rough"
    wanted = frozenset({"boring_bar" if kind.on.side == "inside" else better})
    others = other_tools(op, facts, lambda _: True, None, wanted)
    sentence = FINISHES if finishes else ROUGHS
    return of_operation(op, ID, "look", sentence, {}, "cutting_force", (*others, _stay(op)))


def _stay(op: Ready) -> Proposal:
    return keep(op, ID, "grooved on purpose: spares the finisher the corner")
