"""cut.groove-as-rougher: a narrow tool that clears what a turning tool would take quicker."""

from __future__ import annotations

from collections.abc import Iterator
from math import inf

from machining.cutting.data import constant
from machining.facts.context import PlanFacts, Ready
from machining.plan.proposal import Proposal
from machining.plan.turned import Groove, TurnGroove, TurnRough
from machining.quantities.said import Shown, length
from machining.ways.choices.turned import turned_first

from ..finding import Finding, keep, of_operation
from ..tools import other_tools


def groove_as_rougher(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind, tool = op.operation, op.tool
    if op.work.turned is None or op.work.turned.is_empty or "cutting_speed" not in op.figures:
        return
    stay = keep(op, "cut.groove-as-rougher", "grooved on purpose: spares the finisher the corner")
    if isinstance(kind, TurnRough) and tool.kind == "turning_groove":
        others = other_tools(
            op,
            facts,
            lambda _: True,
            None,
            frozenset({"boring_bar"} if kind.on.side == "inside" else {"turning_rough"}),
        )
        sentence = (
            "A grooving tool roughs along the spindle here: its blade is bent sideways, and a"
            " turning tool takes more at once."
        )
        yield of_operation(
            op, "cut.groove-as-rougher", "look", sentence, {}, "cutting_force", (*others, stay)
        )
        return
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
        "cut.groove-as-rougher",
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
            stay,
        ),
    )
