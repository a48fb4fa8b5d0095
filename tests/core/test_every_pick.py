"""Every kind of operation at every place with every tool has an answer, and none of them by way of
the last net.
"""

from __future__ import annotations

import logging

import pytest

from machining.evaluate import evaluate
from machining.evaluation import to_bytes
from machining.facts import reach, titles
from machining.facts.context import NOT_WORKED_OUT, Ready
from machining.facts.route import walk
from machining.facts.suits import can_do, why_not
from machining.findings.rules import OPERATION_RULES
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.operation import Chamfer, RoughPocket
from machining.plan.places import OnFeatures
from machining.plan.trade import Load
from machining.ways.choices import (
    finish_choices,
    hole_choices,
    rough_choices,
    slope_choices,
    turn_choices,
)
from machining.ways.offers import offers
from machining.ways.trade import structural
from tests.at_length import ALL, some

from . import build, every_pick, lathe

WAYS = (rough_choices, finish_choices, hole_choices, turn_choices, slope_choices)


def tools_to_try() -> list[str]:
    """One of every third kind of tool, or all."""
    every = sorted(build.LIBRARY.assemblies)
    kinds = {build.LIBRARY.tools[build.LIBRARY.assemblies[each].tool].kind: each for each in every}
    return every if ALL else sorted(kinds.values())[::3]


@pytest.mark.parametrize("assembly", tools_to_try())
def test_every_kind_at_every_place_is_answered(assembly, caplog):
    first = tools_to_try().index(assembly) % 4
    for plan in some(every_pick.plans(assembly), each=4, first=first):
        bench = lathe if plan.part.geometry else build
        seen = evaluate(plan, bench.LIBRARY, bench.MEMO)
        assert to_bytes(seen)
        facts = walk(plan, bench.LIBRARY, bench.MEMO)
        op, answers = facts.operations()[0], seen.setups[0].operations[0].answers
        assert op.kit is not None
        assert all(each.reason for each in answers.values() if each.state == "unknown")
        if not can_do(op.operation.kind, op.kit.tool):
            assert answers["reach"].state == "stop" or op.work_problem is not None
            assert "fine" not in {each.state for each in answers.values()}
            assert why_not(op, facts, op.kit.tool) is not None
        if op.work_problem is not None:
            assert "fine" not in {each.state for each in answers.values()}
        if isinstance(op, Ready):
            for ways in WAYS:
                ways(op, facts)
    assert [row.getMessage() for row in caplog.records if row.levelno >= logging.ERROR] == []


def test_what_is_offered_beside_every_kind_at_every_place(caplog):
    for plan in some(every_pick.plans("end-mill-10-z3"), each=4):
        bench = lathe if plan.part.geometry else build
        facts = walk(plan, bench.LIBRARY, bench.MEMO)
        assert all(offer.edits for offer in offers(facts.setups[0].first, facts, lambda: "new"))
    assert [row.getMessage() for row in caplog.records if row.levelno >= logging.ERROR] == []


def breaks(*args, **more):
    raise ZeroDivisionError


@pytest.mark.parametrize("where", ["facts", "rule", "title"])
def test_a_fault_of_the_program_leaves_only_its_own_operation_unknown(where, monkeypatch, caplog):
    """The last net: a fault in one operation's facts, in a rule over it, or in what is
    shown of it.
    """
    real_facts, real_title = reach.of_operation, titles.title

    def faulty(op, *more):
        return (
            breaks()
            if op.operation.id == "pocket"
            else (
                real_facts(op, *more)
                if where == "facts"
                else real_title(op, *more)
                if where == "title"
                else iter(())
            )
        )

    if where == "rule":
        monkeypatch.setitem(evaluate.__globals__, "OPERATION_RULES", (*OPERATION_RULES, faulty))
    else:
        monkeypatch.setattr(
            *(
                ("machining.facts.reach.of_operation", faulty)
                if where == "facts"
                else ("machining.facts.titles.title", faulty)
            )
        )
    seen = evaluate(build.good(), build.LIBRARY)
    pocket = build.result(seen, "pocket")
    assert {
        question: answer.reason
        for question, answer in pocket.answers.items()
        if answer.state == "unknown"
    } == dict.fromkeys(("hold", "reach", "travel", "cut", "size"), NOT_WORKED_OUT)
    assert pocket.title == "Rough pocket"
    assert {answer.state for answer in build.result(seen, "drill").answers.values()} == {"fine"}
    assert not seen.ready
    assert "operation pocket (rough_pocket) could not be worked out" in caplog.text


def test_a_pocket_is_no_hole_and_a_hole_no_pocket():
    drilled = build.answer(
        build.plan(build.DRILL.model_copy(update={"on": OnFeatures(ids=("recess",))}))
    )
    assert (
        "it must be holes of one diameter" in build.result(drilled, "drill").answers["cut"].reason
    )
    milled = build.answer(
        build.plan(
            RoughPocket(
                id="pocket",
                tool="t3",
                on=OnFeatures(ids=("hole0",)),
                step_down_mm=4.0,
                step_over_mm=1.6,
            )
        )
    )
    assert "it must be one pocket" in build.result(milled, "pocket").answers["reach"].reason


def test_edges_of_a_pocket_are_broken_at_its_mouth():
    """The recess lies 8 deep under the top at 20: its edge is broken at the top, round 2 × (40 +
    24) of it.
    """
    made = build.plan(
        Chamfer(id="edge", tool="t7", on=OnFeatures(ids=("recess",)), size_mm=0.5),
        tools=(*build.TOOLS, build.tool(7, "chamfer-8-90")),
    )
    found = build.result(build.answer(made), "edge")
    assert (found.title, found.detail, found.sizes) == (
        "Break edges",
        "{s} round {l} × {w}",
        {"s": 0.5, "l": 40.0, "w": 24.0},
    )
    assert found.z_to_mm == pytest.approx(-0.5)
    assert found.path_mm == pytest.approx(2 * (40 + 24), abs=4.0)


REASONS = {
    "tap-m8": "A tap can't do this.",
    "drill-6-8": None,
    "drill-19": "Ø {has} is larger than the hole, Ø {drawn}.",
    "turn-drill-12": "It stands still, and on this machine the work does too.",
}


@pytest.mark.parametrize(("assembly", "words"), REASONS.items())
def test_the_list_of_tools_says_why_one_does_not_suit(assembly, words):
    facts = walk(build.plan(build.DRILL), build.LIBRARY, build.MEMO)
    found = why_not(
        facts.operations()[0], facts, build.LIBRARY.tools[build.LIBRARY.assemblies[assembly].tool]
    )
    assert (found[0] if found else None) == words


@pytest.mark.parametrize("at", ["machining.facts.beside._worst", "machining.facts.hold.of_station"])
def test_a_fault_beside_or_in_what_holds_it_leaves_the_rest_answered(at, monkeypatch, caplog):
    """Of what could not be worked out nothing is called fine."""

    monkeypatch.setattr(at, breaks)
    two = structural(build.good(), build.LIBRARY, Memo(), [Load(station="st1", parts=2)])
    seen = evaluate(apply(build.good(), two), build.LIBRARY)
    assert not seen.problem and not seen.ready and seen.one_part_s > 0.0
    question = "travel" if "beside" in at else "hold"
    for op in seen.setups[0].operations:
        assert op.answers[question].state == "unknown", op.id
        assert op.answers[question].reason == NOT_WORKED_OUT
    assert "could not be worked out: what" in caplog.text
