"""How fast the demo plan is answered, edited, opened and read. Run with ``make bench``; quote
ratios, machines differ.
"""

from __future__ import annotations

import json
from itertools import count

import pytest

from machining.calculators.registry import calculate, load
from machining.cutting import forces
from machining.cutting.hole_steps import Hole
from machining.cutting.slope_methods import Slope
from machining.evaluate import evaluate
from machining.evaluation import to_bytes
from machining.facts.context import Ready
from machining.facts.found import look
from machining.facts.route import walk
from machining.geometry.kernel import examine
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.edit import Change
from machining.ways.choices import rough_choices
from machining.ways.hole_ways import hole_ways
from machining.ways.slope_ways import slope_ways
from machining.world.geometry import from_examined, to_json
from shop.base import blobs
from shop.demo import manifold
from shop.jobs import documents, evaluation
from shop.jobs.actions.create import create
from shop.jobs.evaluation import Subject
from shop.jobs.models import Geometry
from shop.jobs.reckoners import Reckoners
from tests.browser.conftest import PASSWORDS
from tests.core import build, lathe
from tests.core.conftest import DEMO
from tests.core.long import long_plan
from tests.shop.conftest import put_plan, subject_of
from tests.shop.test_poison import POISONED


def edited(plan, k: int):
    """One field of one operation in the middle, never twice the same."""
    return apply(plan, [Change(on="operation:a50", fields={"width_mm": 0.15 + 0.001 * k})])


def test_evaluate_warm(benchmark, demo):
    """The memo is filled by the previous revision, then one field of one middle
    operation changes.
    """
    plan, library = demo
    memo, turn = Memo(), count(1)
    evaluate(plan, library, memo)
    benchmark.pedantic(
        lambda changed: evaluate(changed, library, memo),
        setup=lambda: ((edited(plan, next(turn)),), {}),
        rounds=40,
    )


def test_evaluate_cold(benchmark, demo):
    plan, library = demo
    benchmark.pedantic(lambda: evaluate(plan, library, Memo()), rounds=5)


def test_loads_along_the_paths_of_ten_operations_cold(benchmark, demo):
    plan, library = demo
    facts = walk(plan, library, Memo())
    known = [op for op in facts.setups[0].operations if isinstance(op, Ready)]
    assert len(known) == 10

    def all_of_them() -> None:
        memo = Memo()
        for op in known:
            look(op, facts, memo)

    benchmark.pedantic(all_of_them, rounds=5)


def test_evaluate_turned_warm(benchmark):
    """The second of seven turned operations leaves more, so that all after it meet
    another stock.
    """
    memo, turn = Memo(), count(1)
    evaluate(lathe.plan(*lathe.GOOD), lathe.LIBRARY, memo)

    def fresh() -> tuple[tuple[object], dict[str, object]]:
        left = 0.2 + 0.001 * next(turn)
        return (build.changed(lathe.plan(*lathe.GOOD), "operation:rough", leave_mm=left),), {}

    benchmark.pedantic(
        lambda changed: evaluate(changed, lathe.LIBRARY, memo), setup=fresh, rounds=30
    )


def test_serialise(benchmark, demo):
    answer = evaluate(*demo)
    benchmark(to_bytes, answer)


def test_step_to_mesh_and_features(benchmark):
    content = DEMO.read_bytes()
    benchmark.pedantic(lambda: from_examined("k", examine(content)), rounds=4)


def test_edit_round_trip(benchmark, demo, planner):
    """From the request to the answer with plan and evaluation, through the database."""
    plan, library = demo
    geometry = library.geometries["clamp"]
    Geometry.objects.create(
        key="clamp", step="", solid=blobs.put(to_json(geometry)), mesh="", file_name="TW-118-B.step"
    )
    stored, turn = put_plan(planner, plan, "B-1"), count(1)

    def once():
        body = {
            "revision": documents.head(stored).number,
            "edits": [
                {
                    "do": "change",
                    "on": "operation:a50",
                    "fields": {"width_mm": 0.15 + 0.001 * next(turn)},
                }
            ],
        }
        return (json.dumps(body),), {}

    def send(body: str):
        answer = planner.client.post(
            f"/api/plans/{stored.pk}/edits", body, content_type="application/json"
        )
        assert answer.status_code == 200
        return answer

    for _ in range(3):
        send(once()[0][0])
    benchmark.pedantic(send, setup=once, rounds=25)


def test_first_load_of_the_workspace(benchmark, browser, base_url):
    """Cold browser cache, signed in, until the operations stand there; the drawing comes after."""

    def fresh():
        context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=base_url)
        page = context.new_page()
        page.goto("/api/session")
        page.goto("/s/none/1")
        context.request.get(f"{base_url}/sign-in")
        token = next(c["value"] for c in context.cookies() if c["name"] == "csrftoken")
        signed = context.request.post(
            f"{base_url}/api/session",
            data={"name": "planner", "password": PASSWORDS["planner"]},
            headers={"X-CSRFToken": token, "Referer": base_url},
        )
        assert signed.ok
        return (page,), {}

    def load(page):
        page.goto("/jobs/TW-118/setups", wait_until="commit")
        page.get_by_role("button", name="Face top").first.wait_for()

    benchmark.pedantic(load, setup=fresh, rounds=5)


# -- cutting: every calculator, the force simulation, the search, the comparisons

EXAMPLES = {name: each.example for name, each in load().items()}


@pytest.mark.parametrize("name", sorted(EXAMPLES))
def test_calculator(benchmark, name):
    benchmark(calculate, name, EXAMPLES[name])


def test_force_simulation(benchmark):
    turn = count(1)
    benchmark(
        lambda: forces.over_one_turn(
            12.0, 3, 26.0, 1.2 + 1e-6 * next(turn), 0.12, 700.0, 0.25, 0.4, 0.25
        )
    )


def test_search_of_roughing_cuts(benchmark):
    facts = walk(build.good(), build.LIBRARY, Memo())
    rough = next(op for op in facts.operations() if op.operation.id == "rough")
    benchmark.pedantic(lambda: rough_choices(rough, facts), rounds=8)


def test_ways_to_a_hole(benchmark):
    benchmark.pedantic(
        lambda: hole_ways(
            Hole(20, 26, 3),
            build.LIBRARY.materials["c45"],
            build.rig("heron"),
            build.LIBRARY,
        ),
        rounds=8,
    )


def test_ways_to_a_slope(benchmark):
    benchmark.pedantic(
        lambda: slope_ways(
            Slope(3.0, 25.0, 300.0),
            build.LIBRARY.materials["c45"],
            build.rig("petrel"),
            build.LIBRARY,
            180,
            15,
        ),
        rounds=8,
    )


def test_evaluate_sixty_operations_warm(benchmark):
    plan, memo, turn = long_plan(), Memo(), count(1)
    assert sum(len(each.operations) for each in plan.setups) == 60
    evaluate(plan, build.LIBRARY, memo)

    def change():
        return (
            apply(
                plan, [Change(on="operation:walls3", fields={"width_mm": 0.2 + 0.001 * next(turn)})]
            ),
        ), {}

    benchmark.pedantic(
        lambda changed: evaluate(changed, build.LIBRARY, memo), setup=change, rounds=20
    )


def test_evaluate_sixty_operations_cold(benchmark):
    plan = long_plan()
    benchmark.pedantic(lambda: evaluate(plan, build.LIBRARY, Memo()), rounds=3)


# -- many: jobs in the list, and plans that keep a process busy


def tombstone_of_thirty():
    """24 positions of a tombstone with thirty operations, a third of them from the sides."""
    plan = manifold.draft()
    setup = plan.setups[0]
    work = [
        op.model_copy(update={"id": f"{op.id}n{k}"}) for k in range(4) for op in setup.operations
    ][:30]
    return plan.model_copy(
        update={"setups": (setup.model_copy(update={"operations": tuple(work)}),)}
    )


def test_evaluate_a_tombstone_cold(benchmark):
    plan = tombstone_of_thirty()
    benchmark.pedantic(lambda: evaluate(plan, build.LIBRARY, Memo()), rounds=3)


@pytest.mark.parametrize("what", ["an operation", "where it stands"])
def test_evaluate_a_tombstone_warm(benchmark, what):
    plan, memo, turn = tombstone_of_thirty(), Memo(), count(1)
    evaluate(plan, build.LIBRARY, memo)

    def changed():
        k = next(turn)
        edit = Change(on="operation:c30n1", fields={"peck_mm": 5.0 + 0.01 * k})
        if what != "an operation":
            edit = Change(on="station:st1", fields={"at.at_mm": [44.0, 30.0 + 0.01 * k]})
        return (apply(plan, [edit]),), {}

    benchmark.pedantic(
        lambda changed: evaluate(changed, build.LIBRARY, memo), setup=changed, rounds=15
    )


def test_list_of_a_thousand_jobs(benchmark, planner):
    for k in range(1000):
        create(planner.user, f"L-{k}", f"Part {k}", "A", material="en-aw-6082", quantity=5)
    benchmark.pedantic(lambda: planner.get("/jobs"), rounds=20)


@pytest.mark.parametrize("name", sorted(POISONED))
def test_another_plan_beside_a_poisoned_one(benchmark, planner, plan, monkeypatch, name):
    """An edit of a plan that is open, answered while the worst plans that validate are
    worked on.
    """
    made = Reckoners(longest_s=3600.0)
    monkeypatch.setattr(evaluation, "reckoners", made)
    bad = put_plan(planner, build.good(), "J-bad")
    documents_of_it = subject_of(bad)
    planner.get(f"/plans/{plan.pk}")
    poisoned = Subject(
        POISONED[name], "0" * 64, POISONED[name].model_dump_json(), documents_of_it.plan
    )
    made.ask(poisoned.asked("answer", {}))
    turn = count(1)

    def once():
        body = {
            "revision": documents.head(plan).number,
            "edits": [
                {
                    "do": "change",
                    "on": "operation:rough",
                    "fields": {"step_down_mm": 6.0 - 0.01 * next(turn)},
                }
            ],
        }
        return (body,), {}

    try:
        benchmark.pedantic(
            lambda body: planner.post(f"/plans/{plan.pk}/edits", body), setup=once, rounds=8
        )
    finally:
        made.close()
