"""A plan that would keep a computer busy for hours keeps nobody else waiting, and is remembered as
too large.
"""

from __future__ import annotations

import json
import time
from concurrent.futures import Future

import pytest

from machining.evaluation import ENGINE
from machining.plan.document import Plan as Document
from machining.plan.edit import SetPart
from machining.plan.operation import Drill, FinishWalls, RoughOutside, RoughPocket, Slope, Undercut
from machining.plan.places import Lines, OnFeatures, Outside, Points
from machining.world.feature import Hole
from machining.world.part import Part
from shop.jobs import documents, evaluation
from shop.jobs.actions.revise import edit_document
from shop.jobs.actions.warm import warm
from shop.jobs.models import Answer
from shop.jobs.reckoners import MOST_WAITING, Asked, Busy, Overtaken, Reckoners, Refusal, TooLarge
from tests.at_length import some
from tests.core import build

from .conftest import put_plan, subject_of

TOOLS = (*build.TOOLS, build.tool(8, "undercut-mill-20-60"), build.tool(9, "ball-mill-8"))
LONG_PATH = tuple((0.01 * k, 10.0 * (k % 2)) for k in range(500))
GRID = tuple((-45.0 + 4.0 * (k % 23), -28.0 + 2.5 * (k // 23)) for k in range(500))
BIG = Part(size_mm=(5000.0, 5000.0, 100.0))
MESH_OF_HOLES = Part(
    size_mm=(400.0, 400.0, 30.0),
    typed=tuple(
        Hole(
            id=f"h{k}",
            point=(-190.0 + 16.0 * (k % 24), -190.0 + 18.0 * (k // 24), 0.0),
            axis="+z",
            diameter_mm=6.8,
            length_mm=30.0,
            through=True,
            opens=("+z", "-z"),
        )
        for k in range(500)
    ),
)


def again(operation, count: int):
    return [operation.model_copy(update={"id": f"x{k}"}) for k in range(count)]


# each is allowed by every single bound, and together far too much
POISONED: dict[str, Document] = {
    "holes by the hundred in many operations": build.plan(
        *again(Drill(id="d", tool="t4", on=Points(at_mm=GRID, diameter_mm=6.8, depth_mm=12.0)), 60)
    ),
    "a part full of holes, drilled again and again": build.plan(
        *again(Drill(id="d", tool="t4", on=OnFeatures(ids=tuple(f"h{k}" for k in range(500)))), 60),
        part=MESH_OF_HOLES,
    ),
    "the finest steps over the largest part": build.plan(
        *again(
            RoughOutside(
                id="r", tool="t2", on=Outside(depth_mm=90.0), step_down_mm=0.05, step_over_mm=0.01
            ),
            40,
        ),
        part=BIG,
    ),
    "a pocket in the finest steps": build.plan(
        *again(
            RoughPocket(
                id="p",
                tool="t3",
                on=OnFeatures(ids=("recess",)),
                step_down_mm=0.02,
                step_over_mm=0.02,
                ramp_deg=0.1,
            ),
            60,
        )
    ),
    "walls in the thinnest layers": build.plan(
        *again(
            FinishWalls(
                id="w",
                tool="t2",
                on=Outside(depth_mm=18.0),
                step_down_mm=0.02,
                width_mm=0.01,
                passes=10,
                chain=5,
            ),
            120,
        )
    ),
    "lines of many corners": build.plan(
        *again(
            Undercut(
                id="u",
                tool="t8",
                on=Lines(at_mm=(LONG_PATH,) * 40),
                depth_mm=5.0,
                width_mm=2.0,
                passes=30,
            ),
            30,
        ),
        tools=TOOLS,
    ),
    "a slope without a cusp": build.plan(
        *again(
            Slope(
                id="s",
                tool="t9",
                on=Lines(at_mm=(LONG_PATH,) * 20),
                size_mm=40.0,
                angle_deg=30.0,
                cusp_mm=0.0005,
            ),
            30,
        ),
        tools=TOOLS,
    ),
    "lines without end": build.plan(
        *again(
            Undercut(
                id="u",
                tool="t8",
                on=Lines(at_mm=(LONG_PATH,) * 150),
                depth_mm=5.0,
                width_mm=2.0,
                passes=30,
            ),
            10,
        ),
        tools=TOOLS,
    ),
    "a hundred pecks in every hole": build.plan(
        *again(
            Drill(
                id="d",
                tool="t4",
                on=Points(at_mm=GRID, diameter_mm=6.8, depth_mm=200.0),
                peck_mm=0.01,
            ),
            60,
        )
    ),
    "many setups of it": build.plan(
        setups=tuple(
            build.setup(
                *[
                    op.model_copy(update={"id": f"{op.id}-{s}"})
                    for op in again(
                        Drill(
                            id="d", tool="t4", on=Points(at_mm=GRID, diameter_mm=6.8, depth_mm=12.0)
                        ),
                        10,
                    )
                ],
                id=f"s{s}",
                takes=f"st{s - 1}" if s else "blank",
            )
            for s in range(20)
        )
    ),
}


@pytest.fixture
def endless(monkeypatch):
    """Processes that never give up by themselves."""
    made = Reckoners(longest_s=3600.0, most_bytes=int(2.5 * 1024**3))
    monkeypatch.setattr(evaluation, "reckoners", made)
    yield made
    made.close()


@pytest.fixture
def quick(monkeypatch):
    """Processes that give up after three seconds; the others are answered meanwhile."""
    made = Reckoners(longest_s=3.0, most_bytes=int(2.5 * 1024**3))
    monkeypatch.setattr(evaluation, "reckoners", made)
    yield made
    made.close()


def poison(caller, plan, document: Document) -> None:
    head = documents.head(plan)
    edit_document(caller.user, plan, head, document, [SetPart(part=document.part)])


TRIED = some(POISONED, each=4)


@pytest.mark.parametrize("name", TRIED)
def test_another_plan_is_answered_while_a_poisoned_one_is_worked_on(planner, plan, endless, name):
    """The other's whole answer is there before the poisoned one's, or together with it where it is
    not that bad.
    """
    bad = put_plan(planner, build.good(), "J-bad")
    poison(planner, bad, POISONED[name])
    planner.get(f"/plans/{plan.pk}")
    working: Future[bytes] = endless.ask(subject_of(bad).asked("answer", {}))
    answer = planner.post(
        f"/plans/{plan.pk}/edits",
        {
            "revision": 2,
            "edits": [{"do": "change", "on": "operation:rough", "fields": {"step_down_mm": 6.0}}],
        },
    )
    assert answer["evaluation"]["setups"]
    if working.done():
        assert json.loads(working.result())["evaluation"]


HEAVY = "a part full of holes, drilled again and again"


def test_an_edit_overtakes_what_is_asked_of_the_plan_before_it(planner, plan, endless):
    """Who works on the plan leaves it for the edit, and what waited is not worked out any more;
    nobody else begins with the plan anew.
    """
    assert planner.get(f"/plans/{plan.pk}")["evaluation"]
    poison(planner, plan, POISONED[HEAVY])
    before = subject_of(plan)
    heavy = endless.ask(before.asked("answer", {}))
    while not heavy.done() and not endless._busy:
        time.sleep(0.01)
    search = endless.ask(before.asked("fixes", {"finding": "hold.none@x1"}))
    while not search.done() and len(endless._busy) < 2:
        time.sleep(0.01)
    waiting = endless.ask(before.asked("coverage", {}))
    quick = endless.ask(before.asked("meant", {"edits": []}))  # an edit itself is never lost
    poison(planner, plan, build.good())
    edited = endless.ask(subject_of(plan).asked("answer", {"since": "the plan before"}))
    assert json.loads(edited.result(120))["evaluation"]["setups"]
    assert quick.result(120) == b"[]"
    for left in (heavy, search, waiting):
        with pytest.raises(Overtaken):
            left.result(120)
    assert {endless._answers[name] for name in before.asked("answer", {}).subjects} == {
        endless._answers[name] for name in subject_of(plan).asked("answer", {}).subjects
    }


def test_who_asked_what_was_overtaken_is_told_to_ask_again(planner, plan, monkeypatch):
    left: Future[bytes] = Future()
    left.set_exception(Overtaken())
    monkeypatch.setattr(evaluation.reckoners, "ask", lambda asked: left)
    assert planner.get(f"/plans/{plan.pk}/coverage", 503)["working"]


def test_what_passes_the_limit_is_unknown_remembered_and_not_tried_again(
    planner, approver, plan, quick
):
    poison(planner, plan, POISONED[HEAVY])
    told = planner.get(f"/plans/{plan.pk}")["evaluation"]
    assert told["problem"].startswith(
        "This plan is too large to work out here: it took more than 3 s."
    )
    assert not told["ready"] and told["setups"] == []
    row = Answer.objects.get(document_id=documents.head(plan).document_id)
    assert (row.too_large, row.engine, row.ready) == (True, ENGINE, False)
    assert warm() == 0
    quick.forget()
    asked: list[Asked] = []
    quick.ask = lambda each: asked.append(each)  # type: ignore[method-assign]
    for path in (
        f"/plans/{plan.pk}/setups/s1/offers",
        f"/plans/{plan.pk}/operations/x1/choices",
        f"/plans/{plan.pk}/operations/x1/tools",
    ):
        assert "too large to work out here" in planner.get(path, 422)["sentence"]
    preview = {"revision": 3, "edits": [{"do": "change", "on": "plan", "fields": {"quantity": 3}}]}
    assert "too large" in planner.post(f"/plans/{plan.pk}/preview", preview, 422)["sentence"]
    assert approver.get(f"/plans/{plan.pk}/review")["against"][0].startswith(
        "This plan is too large"
    )
    assert asked == []
    assert [job["problem"][:22] for job in planner.get("/jobs")["jobs"]] == [
        "This plan is too large"
    ]


def test_those_who_wait_leave_hands_free(planner, plan, quick, monkeypatch):
    """Reviews asked while the answer is being worked out say so at once; only so many requests
    wait.
    """
    poison(planner, plan, POISONED[HEAVY])
    with monkeypatch.context() as hurried:
        hurried.setattr(evaluation, "PATIENCE_S", 0.0)
        for _ in range(8):
            answer = planner.get(f"/plans/{plan.pk}/review")
            assert answer["working"] and answer["against"] == [
                "The plan is still being worked out."
            ]
        for _ in range(evaluation.MOST_WAITING):
            assert evaluation._patient.acquire(blocking=False)
        try:
            refused = planner.get(f"/plans/{plan.pk}/setups/s1/offers", 503)
            assert refused["working"] is True
        finally:
            for _ in range(evaluation.MOST_WAITING):
                evaluation._patient.release()


def asked_of(document: Document, name: str = "answer", **about) -> Asked:
    from shop.library.snapshot import snapshot

    key, library = snapshot().key, documents.library_bytes()[1]
    return Asked(
        name,
        document.model_dump_json()[-40:] + str(len(document.setups)),
        document.model_dump_json(),
        key,
        library,
        about=about,
    )


def test_equal_questions_share_one_answer_and_refusals_come_through(library):
    made = Reckoners(longest_s=60.0)
    try:
        first = made.ask(asked_of(build.good()))
        assert made.ask(asked_of(build.good())) is first
        assert json.loads(first.result(120))["evaluation"]["setups"]
        with pytest.raises(Refusal) as refused:
            made.ask(asked_of(build.good(), "offers", setup="nope")).result(120)
        assert (
            refused.value.about["missing"]
            and refused.value.about["sentence"] == "Setup 'nope' doesn't exist."
        )
        with pytest.raises(RuntimeError):
            made.ask(asked_of(build.good(), "no such question")).result(120)
    finally:
        made.close()


def test_memory_is_bounded_and_the_next_question_is_answered(library):
    """With little more than it takes to start, a plan of thousands of holes ends, and the process
    after it works.
    """
    made = Reckoners(longest_s=3600.0, most_bytes=int(0.6 * 1024**3))
    try:
        with pytest.raises(TooLarge):
            made.ask(asked_of(POISONED["many setups of it"])).result(300)
        assert json.loads(made.ask(asked_of(build.good())).result(120))["evaluation"]["setups"]
    finally:
        made.close()


def test_more_questions_than_can_be_answered_soon_are_told_so(library, monkeypatch):
    made = Reckoners()
    monkeypatch.setattr(made, "_staff", lambda: None)
    for k in range(MOST_WAITING):
        made.ask(asked_of(build.good(), "offers", setup=str(k)))
    with pytest.raises(Busy):
        made.ask(asked_of(build.good(), "offers", setup="one more"))
    made.close()
