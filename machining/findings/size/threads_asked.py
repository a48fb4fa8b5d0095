"""size.drawing-uncovered: a thread of the drawing that no operation cuts, or only another one."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence

from machining.facts.context import OperationFacts, PlanFacts
from machining.plan.edit import Change
from machining.plan.operation import MillThread, Tap
from machining.plan.proposal import Proposal
from machining.plan.turned import TurnThread
from machining.quantities.names import same_thread, thread_name, thread_of
from machining.quantities.said import Shown
from machining.world.part import Requirement

from ..finding import Finding, Severity
from ..tools import other_tools

ID = "size.drawing-uncovered"
THREADS = (Tap, MillThread, TurnThread)
LEFT = re.compile(r"\b(LH|left)\b", re.IGNORECASE)
Thread = tuple[float, float]


def thread_not_made(
    asked: Requirement,
    makers: list[OperationFacts],
    facts: PlanFacts,
    offers: Sequence[Proposal],
) -> Finding | None:
    """Of what works on a feature with a thread; ``offers`` would cut it."""
    cutters = [op for op in makers if isinstance(op.operation, THREADS)]
    values = {"what": Shown(asked.what), "thread": Shown(asked.thread)}
    if not cutters:
        words = "{what} asks for a thread {thread}; no operation cuts it."
        return _told("stop", words, values, offers, asked)
    wanted = thread_of(asked.thread)
    if wanted is None:
        words = (
            "{what} asks for {thread}, a thread that is not known: what cuts it was not checked."
        )
        return _told("note", words, values, (), asked)
    cut = [(op, _cut_by(op)) for op in cutters]
    others = [(op, has) for op, has in cut if has is not None and not same_thread(has, wanted)]
    if len(others) < len(cut):  # one cuts it, or is not said what it cuts: told of its tool
        return _cut_otherwise(asked, cutters, values)
    op, has = others[-1]
    values |= {"number": Shown(str(op.number)), "other": Shown(thread_name(*has))}
    words = "{what} asks for {thread}; operation {number} cuts {other}."
    return _told("stop", words, values, tuple(_instead(op, wanted, facts)), asked)


def _told(
    severity: Severity,
    words: str,
    values: dict[str, Shown],
    fixes: Sequence[Proposal],
    asked: Requirement,
) -> Finding:
    return Finding(ID, severity, "", "", words, values, "", fixes, about=asked.id)


def _cut_by(op: OperationFacts) -> Thread | None:
    """Major diameter and pitch (mm) of what it cuts; a tap's are its own."""
    kind, tool = op.operation, op.kit.tool if op.kit else None
    if isinstance(kind, MillThread):
        return kind.major_mm, kind.pitch_mm
    if isinstance(kind, TurnThread):
        return kind.diameter_mm, kind.pitch_mm
    return (tool.diameter_mm, tool.pitch_mm) if tool and tool.pitch_mm else None


def _cut_otherwise(
    asked: Requirement, cutters: list[OperationFacts], values: dict[str, Shown]
) -> Finding | None:
    """The thread that is asked for, but of the other hand or of more than one start."""
    wanted = {"hand": "left" if LEFT.search(asked.thread) else "right", "starts": 1}
    for field, value in wanted.items():
        has = [getattr(op.operation, field, value) for op in cutters]
        if value in has:
            continue
        change = Change(on=f"operation:{cutters[-1].operation.id}", fields={field: value})
        words = "{what} asks for {thread}, a {wanted}; operation {number} cuts a {other}."
        said = {"hand": "{}-hand thread", "starts": "thread of {} start"}[field]
        more = {
            "wanted": Shown(said.format(value)),
            "number": Shown(str(cutters[-1].number)),
            "other": Shown(said.format(has[-1]) + ("s" if field == "starts" else "")),
        }
        fix = Proposal("Cut a {wanted}", (change,), {"wanted": more["wanted"]})
        return _told("stop", words, values | more, (fix,), asked)
    return None


def _instead(op: OperationFacts, wanted: Thread, facts: PlanFacts) -> Iterator[Proposal]:
    """The thread that is asked for, by the same operation."""
    kind, (major, pitch) = op.operation, wanted
    field = {"mill_thread": "major_mm", "turn_thread": "diameter_mm"}.get(kind.kind)
    if field is not None:
        fields = {field: major, "pitch_mm": pitch}
        yield Proposal(
            "Cut {thread}",
            (Change(on=f"operation:{kind.id}", fields=fields),),
            {"thread": Shown(thread_name(*wanted))},
        )
        return
    yield from other_tools(
        op,
        facts,
        lambda tool: (
            tool.pitch_mm is not None and same_thread((tool.diameter_mm, tool.pitch_mm), wanted)
        ),
        None,
        frozenset({"tap"}),
    )
