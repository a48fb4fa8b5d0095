"""Edits, undo, conflicts, previews and files of plans, through the database."""

from __future__ import annotations

import json
from concurrent.futures import ThreadPoolExecutor

import pytest
from django.db import connection

from machining.evaluate import evaluate
from machining.evaluation import ENGINE, to_plain
from machining.plan.edit import Change
from shop.base.problems import Refused
from shop.jobs import documents, evaluation
from shop.jobs.actions import revise
from shop.jobs.actions.warm import warm
from shop.jobs.models import Answer, PlanDocument, PlanRevision, PlanUse
from tests.core import build

from .conftest import Caller, alike, person, put_plan, subject_of


def change(on: str = "operation:rough", **fields):
    return {"do": "change", "on": on, "fields": fields}


def edit(caller: Caller, plan, revision: int, *edits, status: int = 200):
    return caller.post(
        f"/plans/{plan.pk}/edits", {"revision": revision, "edits": list(edits)}, status
    )


def wait(caller: Caller, plan):
    evaluation.answer(subject_of(plan))
    return caller.get(f"/plans/{plan.pk}")


def test_an_edit_answers_with_plan_and_evaluation(planner, plan):
    wait(planner, plan)
    answer = edit(planner, plan, 2, change(step_down_mm=6.0))
    assert answer["revision"] == 3
    rough = answer["plan"]["setups"][0]["operations"][1]
    assert rough["step_down_mm"] == 6.0
    told = answer["evaluation"] or wait(planner, plan)["evaluation"]
    assert alike(told, to_plain_of(plan)) == []


def test_an_early_operation_is_answered_before_those_after_it(planner, plan):
    evaluation.reckoners.forget()  # an answer kept from elsewhere says not who knows the plan
    before = wait(planner, plan)["evaluation"]
    told = edit(planner, plan, 2, change("operation:face", leave_mm=0.3))["evaluation"]
    first, last = (told["setups"][0]["operations"][k] for k in (0, -1))
    assert told["working"] and not told["ready"]
    assert "working" not in {each["state"] for each in first["answers"].values()}
    assert {each["state"] for each in last["answers"].values()} == {"working"}
    assert last["time_s"] == before["setups"][0]["operations"][-1]["time_s"]
    assert not Answer.objects.filter(document=documents.head(plan).document).exists()
    whole = planner.get(f"/plans/{plan.pk}")["evaluation"]
    assert alike(whole, to_plain_of(plan)) == []
    assert Answer.objects.filter(document=documents.head(plan).document).exists()


def to_plain_of(plan):
    document = documents.read(documents.head(plan).document)
    return json.loads(json.dumps(to_plain(evaluate(document, documents.library_for(document)))))


def test_undo_goes_back_through_any_number_and_forward_again(planner, plan):
    for k, value in enumerate((8.0, 7.0, 6.0)):
        edit(planner, plan, 2 + k, change(step_down_mm=value))

    def step_down():
        return documents.read(documents.head(plan).document).setups[0].operations[1].step_down_mm

    seen = []
    for revision in (5, 6, 7):
        planner.post(f"/plans/{plan.pk}/undo", {"revision": revision})
        seen.append(step_down())
    assert seen == [7.0, 8.0, 9.0]
    answer = planner.post(f"/plans/{plan.pk}/redo", {"revision": 8})
    assert (step_down(), answer["can_redo"]) == (8.0, True)
    planner.post(f"/plans/{plan.pk}/redo", {"revision": 9})
    planner.post(f"/plans/{plan.pk}/redo", {"revision": 10})
    assert step_down() == 6.0
    assert (
        planner.post(f"/plans/{plan.pk}/redo", {"revision": 11}, 422)["sentence"]
        == "There is nothing to do again."
    )


def test_a_new_edit_ends_redo(planner, plan):
    edit(planner, plan, 2, change(step_down_mm=8.0))
    planner.post(f"/plans/{plan.pk}/undo", {"revision": 3})
    answer = edit(planner, plan, 4, change(step_over_mm=1.5))
    assert answer["can_redo"] is False
    assert answer["can_undo"] is True


def test_undo_ends_at_the_beginning(planner, plan):
    planner.post(f"/plans/{plan.pk}/undo", {"revision": 2})
    answer = planner.get(f"/plans/{plan.pk}")
    assert answer["can_undo"] is False
    assert (
        planner.post(f"/plans/{plan.pk}/undo", {"revision": 3}, 422)["sentence"]
        == "There is nothing to undo."
    )


def test_nothing_is_ever_rewritten_and_equal_documents_are_stored_once(planner, plan):
    before = PlanDocument.objects.count()
    edit(planner, plan, 2, change(step_down_mm=8.0))
    edit(planner, plan, 3, change(step_down_mm=9.0))
    planner.post(f"/plans/{plan.pk}/undo", {"revision": 4})
    assert PlanDocument.objects.count() == before + 1
    assert list(PlanRevision.objects.filter(plan=plan).values_list("number", "kind")) == [
        (1, "import"),
        (2, "edit"),
        (3, "edit"),
        (4, "edit"),
        (5, "undo"),
    ]


def test_a_refused_edit_names_field_value_and_reason(planner, plan):
    answer = edit(planner, plan, 2, change(rpm=8000), change(step_down_mm=-2), status=422)
    assert answer["index"] == 1
    assert answer["problems"] == [
        {"field": "step_down_mm", "value": "-2", "sentence": answer["sentence"]}
    ]
    assert "Step down is -2: it must be at least 0.01" in answer["sentence"]
    assert documents.head(plan).number == 2


@pytest.mark.parametrize(
    "edits",
    [
        [{"do": "explode"}],
        [{"do": "change", "on": "the moon", "fields": {"a": 1}}],
        [{"do": "change", "on": "plan", "fields": {}}],
        "all",
        [7],
    ],
)
def test_what_is_no_edit_is_refused_in_the_same_shape(planner, plan, edits):
    answer = planner.post(f"/plans/{plan.pk}/edits", {"revision": 2, "edits": edits}, 422)
    assert set(answer) >= {"sentence", "problems"}
    assert answer["problems"][0]["field"].startswith("edits")


def test_two_people_lose_nothing(planner, plan):
    second = person("planner2", "planner")
    edit(planner, plan, 2, change(step_down_mm=8.0))
    answer = edit(second, plan, 2, change(step_over_mm=1.5), status=409)
    assert answer["head"] == 3
    assert answer["by"] == ["planner"]
    assert answer["applies"] is True
    assert answer["meets"] == []
    assert answer["since"][0]["fields"] == {"step_down_mm": 8.0}
    edit(second, plan, answer["head"], change(step_over_mm=1.5))
    rough = documents.read(documents.head(plan).document).setups[0].operations[1]
    assert (rough.step_down_mm, rough.step_over_mm) == (8.0, 1.5)


def test_a_conflict_says_where_they_meet_and_whether_it_still_fits(planner, plan):
    second = person("planner2", "planner")
    edit(planner, plan, 2, change(step_down_mm=8.0))
    assert edit(second, plan, 2, change(step_down_mm=5.0), status=409)["meets"] == [
        "operation:rough.step_down_mm"
    ]
    edit(planner, plan, 3, {"do": "remove_operation", "operation": "rough"})
    gone = edit(second, plan, 3, change(step_down_mm=5.0), status=409)
    assert gone["applies"] is False
    assert "'rough' doesn't exist" in gone["why"]


def test_undo_of_somebody_else_s_newer_work_is_a_conflict(planner, plan):
    second = person("planner2", "planner")
    edit(planner, plan, 2, change(step_down_mm=8.0))
    assert second.post(f"/plans/{plan.pk}/undo", {"revision": 2}, 409)["head"] == 3


@pytest.mark.django_db(transaction=True)
def test_of_edits_at_the_same_moment_one_wins_and_none_is_lost(library):
    caller = person("planner", "planner")
    plan = put_plan(caller, build.good())

    def once(k: int) -> str:
        try:
            revise.edit(
                caller.user,
                plan,
                2,
                [Change(on="operation:rough", fields={"step_down_mm": 3.0 + k})],
            )
            return "stored"
        except Refused as problem:
            assert problem.status == 409
            return "told"
        finally:
            connection.close()

    with ThreadPoolExecutor(4) as pool:
        ends = list(pool.map(once, range(4)))
    assert sorted(ends) == ["stored", "told", "told", "told"]
    assert documents.head(plan).number == 3


def test_a_preview_tells_the_difference_and_stores_nothing(planner, plan):
    wait(planner, plan)
    slack = change("station:st1", **{"holding.torque_nm": 2.0})
    told = planner.post(
        f"/plans/{plan.pk}/preview",
        {"revision": 2, "edits": [slack], "figures": ["s1.clamping", "nothing"]},
    )
    assert {f["id"] for f in told["come"]} == {"hold.slips"}
    assert told["gone"] == []
    assert told["figures"] == {"s1.clamping": [17600.0, 880.0], "nothing": [None, None]}
    assert documents.head(plan).number == 2
    faster = planner.post(
        f"/plans/{plan.pk}/preview", {"revision": 2, "edits": [change(step_over_mm=4.0)]}
    )
    assert faster["one_part_s"][1] < faster["one_part_s"][0]


def test_uses_follow_the_head(planner, plan):
    used = set(PlanUse.objects.filter(plan=plan).values_list("kind", "key"))
    assert {
        ("machines", "heron"),
        ("holdings", "vise-125"),
        ("materials", "en-aw-6082"),
        ("tools", "tap-m8"),
        ("assemblies", "drill-6-8"),
    } <= used
    edit(
        planner,
        plan,
        2,
        {"do": "change", "on": "station:st1", "fields": {"holding.vise": "vise-100-soft"}},
    )
    assert ("holdings", "vise-125") not in set(
        PlanUse.objects.filter(plan=plan).values_list("kind", "key")
    )


def test_offers_are_edits_that_can_be_sent(planner, plan):
    offers = planner.get(f"/plans/{plan.pk}/setups/s1/offers")
    edges = next(o for o in offers if o["label"] == "Break edges")
    answer = edit(planner, plan, 2, *edges["edits"])
    assert answer["plan"]["setups"][0]["operations"][-1]["kind"] == "chamfer"
    assert planner.get(f"/plans/{plan.pk}/setups/nope/offers", 404)["sentence"].startswith(
        "Setup 'nope' doesn't exist"
    )


def test_what_still_stands_comes_with_what_would_cut_it(planner, plan):
    """In the order of the evaluation; what is offered can be sent."""
    left = wait(planner, plan)["evaluation"]["left"]
    standing = planner.get(f"/plans/{plan.pk}/standing")
    assert [each["where"] for each in standing] == [each["where"] for each in left]
    (over,) = standing[0]["offers"]
    told = edit(planner, plan, 2, *over["edits"])
    assert len(told["plan"]["setups"]) == 2


def test_the_stock_after_each_operation_is_a_mesh(planner, plan):
    seen = wait(planner, plan)["evaluation"]["setups"][0]
    for key in (seen["stations"][0]["stock_key"], seen["operations"][-1]["stock_key"]):
        answer = planner.call("get", f"/plans/{plan.pk}/stock/{key}.glb")
        assert answer.content[:4] == b"glTF"
        assert answer.headers["Content-Type"] == "model/gltf-binary"
    assert (
        planner.get(f"/plans/{plan.pk}/stock/{'0' * 24}.glb", 404)["sentence"]
        == "The plan has changed; this stock is gone."
    )


def test_a_long_answer_never_blocks_an_edit(planner, plan, monkeypatch):
    """Where the answer is not there in a moment, plan and revision come at once and the evaluation
    later.
    """
    with monkeypatch.context() as hurried:
        hurried.setattr(evaluation, "PATIENCE_S", 0.0)
        answer = edit(planner, plan, 2, change(step_over_mm=1.234))
        assert answer["revision"] == 3
        assert answer["evaluation"] is None
    assert wait(planner, plan)["revision"] == 3
    assert planner.get(f"/plans/{plan.pk}")["evaluation"]["setups"]


def test_a_changed_tool_is_answered_anew(planner, plan):
    before = wait(planner, plan)["evaluation"]
    item = next(
        i
        for i in planner.get("/library")["items"]
        if i["kind"] == "tools" and i["key"] == "end-mill-12-z3"
    )
    assert item["used_by"] == ["J-1"]
    planner.put(
        "/library/tools/end-mill-12-z3",
        {"data": {**item["data"], "flutes": 2}, "revision": item["revision"]},
    )
    assert planner.get("/jobs/J-1")["affected"] == ["end mill 12 z3"]
    after = wait(planner, plan)["evaluation"]
    assert after["figures"]["rough.feed"][0] < before["figures"]["rough.feed"][0]


def test_a_starting_server_works_out_the_plans_changed_last(plan, planner, monkeypatch):
    newest = put_plan(planner, build.good().model_copy(update={"quantity": 9}), "J-2")
    asked: list[str] = []
    monkeypatch.setattr(evaluation, "answer", lambda subject: asked.append(subject.sha))
    assert warm(plans=1) == 1
    assert asked == [documents.head(newest).document_id]
    assert warm(plans=5) == 2
    assert asked[1:] == [documents.head(newest).document_id, documents.head(plan).document_id]
    Answer.objects.create(
        document_id=documents.head(newest).document_id, engine=ENGINE, too_large=True
    )
    assert warm(plans=5) == 1


# -- edits as a planner says them


def test_a_machine_and_a_holding_are_put_into_structural_edits_and_undone_as_one(planner, plan):
    wait(planner, plan)
    answer = edit(
        planner,
        plan,
        2,
        {"do": "use_machine", "setup": "s1", "machine": "plover"},
        {"do": "hold", "station": "st1", "item": "chuck-200"},
    )
    setup = answer["plan"]["setups"][0]
    assert setup["machine"] == "plover" and setup["stations"][0]["holding"]["kind"] == "chuck"
    assert {op["tool"] for op in setup["operations"]} == {""}
    stored = PlanRevision.objects.get(plan=plan, number=3)
    assert {each["do"] for each in stored.edits} == {"change"}
    back = planner.post(f"/plans/{plan.pk}/undo", {"revision": 3})
    assert back["plan"]["setups"][0]["machine"] == "heron"


def test_a_holding_that_the_shop_does_not_have_is_refused_and_nothing_is_stored(planner, plan):
    wait(planner, plan)
    told = edit(planner, plan, 2, {"do": "hold", "station": "st1", "item": "clamp-9"}, status=422)
    assert "clamp-9" in told["sentence"]
    assert documents.head(plan).number == 2


def test_a_planner_s_edit_on_an_older_revision_is_a_conflict_like_any_other(planner, plan):
    wait(planner, plan)
    edit(planner, plan, 2, change(step_down_mm=6.0))
    hold = {"do": "hold", "station": "st1", "item": "vise-100-soft"}
    told = edit(planner, plan, 2, hold, status=409)
    assert told["head"] == 3 and told["applies"]


def test_what_another_holding_would_change_is_shown_before_it_is_taken(planner, plan):
    wait(planner, plan)
    hold = {"do": "hold", "station": "st1", "item": ""}
    told = planner.post(f"/plans/{plan.pk}/preview", {"revision": 2, "edits": [hold]})
    assert "hold.none-chosen" in {each["id"] for each in told["come"]}
    assert documents.head(plan).number == 2
