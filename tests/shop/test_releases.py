"""Review, acceptance, release: frozen, drawn, superseded, never changed."""

from __future__ import annotations

import io
import json

import pytest
from pypdf import PdfReader

from machining.evaluate import evaluate
from machining.evaluation import to_plain
from machining.exchange import plan_json
from machining.plan.operation import MillThread, Undercut
from machining.plan.places import Lines
from machining.quantities.display import clock
from shop.base import blobs
from shop.jobs import documents
from shop.releases.models import Release
from shop.releases.tasks import draw_paper, draw_sheets
from shop.tasks.models import Task
from tests.core import build

from .conftest import alike, person, put_plan


def review(caller, plan):
    return caller.get(f"/plans/{plan.pk}/review")


def draw():
    for task in Task.objects.filter(kind__in=("draw-sheets", "draw-paper"), state="waiting"):
        {"draw-sheets": draw_sheets, "draw-paper": draw_paper}[task.kind](
            task, lambda share, words: None
        )
        Task.objects.filter(pk=task.pk).update(state="done")


def accept(caller, plan, finding: str, note: str, status: int = 200):
    """Accept what is seen of a finding now."""
    found = next(
        (
            f
            for f in caller.get(f"/plans/{plan.pk}")["evaluation"]["findings"]
            if f["key"] == finding
        ),
        {"values": {}},
    )
    seen = {name: shown["value"] for name, shown in found["values"].items()}
    return caller.post(
        f"/plans/{plan.pk}/acceptances", {"finding": finding, "note": note, "seen": seen}, status
    )


@pytest.fixture
def plan(finished):
    return finished


@pytest.fixture
def released(plan, approver):
    approver.post(f"/plans/{plan.pk}/releases", {"revision": 2, "note": "first"}, 201)
    draw()
    return Release.objects.get(plan=plan)


def pdf_text(content: bytes) -> str:
    return "\n".join(page.extract_text() for page in PdfReader(io.BytesIO(content)).pages)


def test_a_sound_plan_is_released_and_frozen(plan, approver, released):
    record = json.loads(blobs.get(released.sha256))
    document, library = plan_json.read(json.dumps(record["export"]).encode())
    assert document == documents.read(documents.head(plan).document)
    now = json.loads(json.dumps(to_plain(evaluate(document, library))))
    assert alike(record["evaluation"], now) == []
    assert record["release"]["by"] == "approver"
    listed = review(approver, plan)["releases"]
    assert [(r["number"], r["current"], r["sheets"]) for r in listed] == [(1, True, [1, 2])]
    assert listed[0]["sha256"] == released.sha256


def test_stops_block_and_cannot_be_accepted(planner, approver):
    bad = put_plan(planner, build.changed(build.whole(), "tool:t3", stick_out_mm=8.0), "J-3")
    looked = review(approver, bad)
    assert "2 findings will not work as planned." in looked["against"]
    refused = approver.post(f"/plans/{bad.pk}/releases", {"revision": 2}, 422)
    assert refused["against"] == looked["against"]
    answer = accept(approver, bad, "reach.stick-out-short@pocket", "it will do", 422)
    assert answer["sentence"] == "What will not work as planned can't be accepted; change the plan."
    assert not Release.objects.exists()


@pytest.fixture
def slow(planner):
    """A plan with one finding to look at: a speed outside the band."""
    return put_plan(planner, build.changed(build.whole(), "operation:rough", rpm=4000.0), "J-4")


def test_a_look_needs_words_and_they_go_on_the_sheet(slow, approver):
    finding = "cut.speed-band@rough"
    assert "1 finding to look at is not accepted yet." in review(approver, slow)["against"]
    assert accept(approver, slow, finding, " ", 422)["problems"][0]["field"] == "note"
    assert accept(approver, slow, "cut.rubs@rough", "fine", 409)
    accepted = accept(approver, slow, finding, "Chatters above 4000 on this vise.")
    assert accepted["against"] == []
    approver.post(f"/plans/{slow.pk}/releases", {"revision": 2}, 201)
    draw()
    body = blobs.get(Release.objects.get(plan=slow).sheets.first().body).decode()
    assert "Chatters above 4000 on this vise." in body
    assert "Operation 20." in body


def test_an_acceptance_is_void_when_its_figures_change(slow, planner, approver):
    accept(approver, slow, "cut.speed-band@rough", "as proven")
    planner.post(
        f"/plans/{slow.pk}/edits",
        {
            "revision": 2,
            "edits": [{"do": "change", "on": "operation:rough", "fields": {"rpm": 3000}}],
        },
    )
    assert review(approver, slow)["accepted"] == []
    planner.post(
        f"/plans/{slow.pk}/edits",
        {
            "revision": 3,
            "edits": [{"do": "change", "on": "operation:rough", "fields": {"rpm": 4000}}],
        },
    )
    assert len(review(approver, slow)["accepted"]) == 1


def test_the_last_editor_does_not_release_unless_the_shop_allows_it(approver, administrator):
    own = put_plan(approver, build.whole(), "J-5")
    against = "You changed this plan last; somebody else has to release it."
    assert review(approver, own)["against"] == [against]
    assert approver.post(f"/plans/{own.pk}/releases", {"revision": 2}, 422)["sentence"] == against
    item = next(i for i in approver.get("/library")["items"] if i["kind"] == "settings")
    loosened = {
        "data": {**item["data"], "approver_may_be_editor": True},
        "revision": item["revision"],
    }
    assert (
        approver.put("/library/settings/shop", loosened, 403)["problems"][0]["field"]
        == "approver_may_be_editor"
    )
    assert review(approver, own)["against"] == [against]
    administrator.put("/library/settings/shop", loosened)
    assert review(approver, own)["against"] == []


def test_what_changed_after_the_look_is_a_conflict(plan, planner, approver):
    planner.post(
        f"/plans/{plan.pk}/edits",
        {"revision": 2, "edits": [{"do": "change", "on": "plan", "fields": {"quantity": 6}}]},
    )
    answer = approver.post(f"/plans/{plan.pk}/releases", {"revision": 2}, 409)
    assert answer["sentence"] == "planner changed the plan after you looked at it."


def test_the_same_draft_is_not_released_twice(plan, approver, released):
    assert review(approver, plan)["against"] == ["Nothing has changed since release 1."]


def test_an_empty_or_unknown_plan_is_not_released(planner, approver):
    empty = put_plan(planner, build.plan(), "J-6")
    assert "The plan has no operation yet." in review(approver, empty)["against"]
    open_question = put_plan(planner, build.plan(build.FACE.model_copy(update={"tool": ""})), "J-7")
    assert (
        "1 operation has a question without an answer."
        in review(approver, open_question)["against"]
    )


def test_what_leaves_metal_over_the_part_is_not_released(planner, approver):
    first = put_plan(planner, build.good(), "J-12")
    against = ["Not finished: metal still stands on its sides, in the pocket 8.0 mm deep."]
    assert review(approver, first)["against"] == against
    refused = approver.post(f"/plans/{first.pk}/releases", {"revision": 2}, 422)
    assert refused["sentence"] == against[0]


def test_a_new_release_supersedes_visibly_and_the_old_sheet_stays(
    plan, planner, approver, released, operator
):
    url = f"/s/{released.code}/1"
    before = operator.client.get(url).content.decode()
    assert "Replaced." not in before
    body, pdf = released.sheets.first().body, released.sheets.first().papers.get().pdf
    planner.post(
        f"/plans/{plan.pk}/edits",
        {
            "revision": 2,
            "edits": [{"do": "change", "on": "operation:rough", "fields": {"step_over_mm": 1.5}}],
        },
    )
    approver.post(f"/plans/{plan.pk}/releases", {"revision": 3, "note": "lighter cut"}, 201)
    draw()
    after = operator.client.get(url).content.decode()
    newer = Release.objects.get(plan=plan, number=2)
    assert "Replaced." in after
    assert f"/s/{newer.code}/1" in after
    released.refresh_from_db()
    assert (released.sheets.first().body, released.sheets.first().papers.get().pdf) == (body, pdf)
    assert blobs.get(body).decode() in after
    record = json.loads(blobs.get(newer.sha256))
    assert record["release"]["replaces"] == 1
    assert "replaces release" in blobs.get(newer.sheets.first().body).decode()
    assert [r["current"] for r in review(approver, plan)["releases"]] == [True, False]


def test_what_changed_under_a_release_is_said_on_its_sheet_and_lets_it_be_made_anew(
    plan, planner, approver, released, operator
):
    """A tool of the release becomes shorter: the draft is the same, what it stands on is not. A
    remark changes nothing, and no tool that it doesn't use.
    """
    url = f"/s/{released.code}/1"

    def change(key: str, **fields: object) -> None:
        item = next(
            each
            for each in planner.get("/library")["items"]
            if each["kind"] == "tools" and each["key"] == key
        )
        data = {**item["data"], **fields}
        planner.put(f"/library/tools/{key}", {"data": data, "revision": item["revision"]})

    change("end-mill-12-z3", note="asked again")
    change("reamer-6", flute_length_mm=20.0)
    assert review(approver, plan)["stale"] == []
    assert "Changed since." not in operator.client.get(url).content.decode()
    change("end-mill-12-z3", flute_length_mm=24.0)
    said = "tool end mill 12 z3: flute length 28 → 24 mm"
    looked = review(approver, plan)
    assert looked["stale"] == [said]
    assert not any(each.startswith("Nothing has changed") for each in looked["against"])
    assert f"Changed since.</b> What this release stands on is no longer as it was: {said}" in (
        operator.client.get(url).content.decode()
    )


def test_the_pdf_says_what_the_screen_says(plan, planner, released, operator):
    answer = planner.get(f"/plans/{plan.pk}")["evaluation"]["setups"][0]
    assert operator.client.get(f"/s/{released.code}/1.pdf?paper=letter").status_code == 202
    draw()
    for paper in ("", "?paper=letter"):
        got = operator.client.get(f"/s/{released.code}/1.pdf{paper}")
        assert got.headers["Content-Type"] == "application/pdf"
        text = pdf_text(got.content)
        assert "G54" in text
        assert "X Y middle of the blank" in text
        assert "Z top of the finished part" in text
        for op in answer["operations"]:
            assert f"T{op['tool_number']}" in text
            assert clock(op["time_s"]) in text
            assert op["title"] in text
        assert clock(answer["cycle_s"]) in text
        assert released.sha256 in text.replace("\n", "")
        assert "machine maker's manual" in text.replace("\n", " ")
    pages = {
        paper: (
            PdfReader(io.BytesIO(operator.client.get(f"/s/{released.code}/1.pdf{paper}").content))
            .pages[0]
            .mediabox
        )
        for paper in ("", "?paper=letter")
    }
    assert [round(float(v)) for v in (pages[""].width, pages[""].height)] == [595, 842]
    assert [
        round(float(v)) for v in (pages["?paper=letter"].width, pages["?paper=letter"].height)
    ] == [612, 792]


def test_sheets_are_read_by_the_signed_in_only(released, operator, client):
    assert client.get(f"/s/{released.code}/1").status_code == 302
    assert client.get(f"/s/{released.code}/1").headers["Location"].startswith("/sign-in?next=/s/")
    assert client.get(f"/s/{released.code}/1.pdf").status_code == 302
    assert operator.client.get(f"/s/{released.code}/7").status_code == 404
    assert operator.client.get("/s/nothing/1").status_code == 404


def test_operators_find_the_newest_release_of_each_job(plan, released, operator):
    listed = operator.get("/floor")
    assert [(r["job"], r["number"], r["sheets"]) for r in listed] == [("J-1", 1, [1, 2])]


def test_sheets_can_be_drawn_again_to_the_same_body(released):
    body = released.sheets.first().body
    task = Task.objects.filter(kind="draw-sheets").latest("id")
    draw_sheets(task, lambda share, words: None)
    assert released.sheets.first().body == body


def test_a_second_approver_may_release_what_the_first_changed(approver):
    own = put_plan(approver, build.whole(), "J-8")
    other = person("approver2", "approver")
    assert review(other, own)["against"] == []


def test_text_on_the_sheet_is_text(planner, approver):
    nasty = build.changed(
        build.whole(), "operation:rough", stop_after="<script>alert(1)</script> & measure"
    )
    plan = put_plan(planner, nasty, "J-10")
    approver.post(f"/plans/{plan.pk}/releases", {"revision": 2}, 201)
    draw()
    body = blobs.get(Release.objects.get(plan=plan).sheets.first().body).decode()
    assert "<script>" not in body
    assert "&lt;script&gt;" in body


WITH_PASSES = build.plan(
    build.FACE,
    build.ROUGH,
    build.POCKET,
    build.WALLS.model_copy(update={"chain": 3, "width_mm": 0.3}),
    build.DRILL,
    MillThread(
        id="thread",
        tool="t8",
        on=build.DRILL.on,
        major_mm=8,
        pitch_mm=1.25,
        depth_mm=16,
        passes=2,
        reason="a tap would break here",
    ),
    Undercut(
        id="under",
        tool="t9",
        on=Lines(at_mm=(((-42, 0), (42, 0)),)),
        depth_mm=5,
        width_mm=2,
        passes=3,
    ),
    tools=(
        *build.TOOLS,
        build.tool(8, "thread-mill-m8-one"),
        build.tool(9, "undercut-mill-20-60"),
    ),
)


def test_every_reason_and_every_pass_stands_on_the_sheet(planner, approver, unfinished_too):
    """Why it is held so, why zero is there, why an operation is as it is; widths, infeeds and cuts
    pass by pass.
    """
    made = build.changed(
        WITH_PASSES,
        "station:st1",
        holding__reason="the sawn ends are not square",
        zero__reason="the middle is shared by both setups",
    )
    plan = put_plan(planner, made, "J-9")
    for finding in planner.get(f"/plans/{plan.pk}")["evaluation"]["findings"]:
        if finding["severity"] == "look":
            accept(approver, plan, finding["key"], "seen")
    approver.post(f"/plans/{plan.pk}/releases", {"revision": 2, "note": "first"}, 201)
    draw()
    sheet = " ".join(
        pdf_text(blobs.get(Release.objects.get(plan=plan).sheets.first().papers.get().pdf)).split()
    )
    for words in (
        "the sawn ends are not square",
        "the middle is shared by both setups",
        "a tap would break here",
        "Stands on each wall, pass by pass: 0.200, 0.100, 0.000.",
        "correct the wear value by half",
        "Wide, pass by pass: 1.155, 1.633, 2.000.",
        "In, pass by pass: 0.424, 0.600.",
        "Where the control guides the tool's middle: feed",
    ):
        assert words in sheet, words
