"""What edits would change, and which fixes of a finding keep what they promise."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any

from pydantic import TypeAdapter

from machining.evaluate import evaluate
from machining.evaluation import Evaluation, plain_fix, to_plain
from machining.findings.finding import Finding
from machining.memo import Memo
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan
from machining.plan.edit import Edit, Keep, RemoveOperation, RemoveSetup
from machining.plan.proposal import Proposal
from machining.quantities.errors import Missing
from machining.world.library import Library

EDITS: TypeAdapter[list[Edit]] = TypeAdapter(list[Edit])
# how many operations, each at each position of its station, are worked out before what is left of
# a finding's fixes waits until it is asked for
SOON = 400


def preview(
    plan: Plan, library: Library, memo: Memo, edits: Sequence[Any], figures: Sequence[str] = ()
) -> dict[str, Any]:
    """Only the differences: seconds, findings that go and come, named figures before and after.
    Raises EditRefused.
    """
    before = evaluate(plan, library, memo)
    after = evaluate(apply(plan, EDITS.validate_python(edits)), library, memo)
    known, then = {f.key for f in before.open}, {f.key for f in after.open}
    return {
        "one_part_s": (before.one_part_s, after.one_part_s),
        "gone": sorted(known - then),
        "come": [f for f in to_plain(after)["findings"] if f["key"] not in known and not f["kept"]],
        "stops": (before.count("stop"), after.count("stop")),
        "looks": (before.count("look"), after.count("look")),
        "figures": {
            name: tuple(
                found.value if (found := e.figures.get(name)) else None for e in (before, after)
            )
            for name in figures
        },
    }


def keeps_its_word(
    fix: Proposal,
    finding: Finding,
    plan: Plan,
    before: Evaluation,
    answer: Callable[[Plan], Evaluation],
) -> Evaluation | None:
    """The ``answer`` after a fix where the finding is gone and nothing else stops the plan, or is
    left open, that was not before; None otherwise.
    """
    try:
        after = answer(apply(plan, fix.edits))
    except EditRefused:
        return None
    gone = finding.key not in {f.key for f in after.open}
    return after if gone and not is_worse(after, before) else None


def is_worse(after: Evaluation, before: Evaluation) -> bool:
    """Is anything stopped or unknown that was not?"""
    known = {f.key for f in before.open if f.severity == "stop"}
    stopped = any(f.severity == "stop" and f.key not in known for f in after.open)
    return stopped or bool(after.problem) or after.unknown > before.unknown


def tried_fixes(
    plan: Plan,
    library: Library,
    memo: Memo,
    finding: str,
    enough: Callable[[int], bool] = lambda tried: False,
) -> dict[str, Any]:
    """The fixes of a finding that keep what they promise, the cheapest first; what only keeps it or
    takes the operation out comes last.

    Each with its edits and what it does to the time of one part (s). Once one is found and so
    many tried are ``enough``, what is left is not tried: so many are ``untried``. Raises Missing
    for a finding that is gone.
    """
    answer = partial(evaluate, library=library, memo=memo)
    before = answer(plan)
    found = next((f for f in before.findings if f.key == finding), None)
    if found is None:
        raise Missing("Finding", finding)
    offered, tried = (*found.fixes, *_way_out(found)), 0
    kept: list[tuple[tuple[int, float], int, list[str]]] = []
    for place, fix in enumerate(offered):
        if kept and enough(tried):
            break
        tried += 1
        after = keeps_its_word(fix, found, plan, before, answer)
        if after is not None:
            looks = sorted(
                {f.id for f in after.open if f.severity == "look"} - {f.id for f in before.open}
            )
            kept.append(((_last(fix), after.one_part_s - before.one_part_s), place, looks))
    kept.sort()
    return {
        "tried": tried,
        "untried": len(offered) - tried,
        "fixes": [
            {**plain_fix(offered[place]), "one_part_s": seconds, "looks": looks}
            for (_, seconds), place, looks in kept
        ],
    }


def tried_soon(plan: Plan) -> Callable[[int], bool]:
    """Whether so many fixes tried are enough for now: by what one has to work out, never by a
    clock.
    """
    one = sum(setup.station_of(op).positions for setup in plan.setups for op in setup.operations)
    return lambda tried: tried * one >= SOON


def _way_out(found: Finding) -> tuple[Proposal, ...]:
    """A stop can always be left by taking the operation out, where no fix of its own says so."""
    if found.severity != "stop" or not found.operation or any(_last(f) == 2 for f in found.fixes):
        return ()
    return (Proposal("Take the operation out", (RemoveOperation(operation=found.operation),)),)


def _last(fix: Proposal) -> int:
    if any(isinstance(edit, RemoveOperation | RemoveSetup) for edit in fix.edits):
        return 2
    return 1 if all(isinstance(edit, Keep) for edit in fix.edits) else 0
