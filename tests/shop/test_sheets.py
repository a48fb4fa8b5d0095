"""A sheet is shown only whole: drawn again when drawing died, not shown when its file is damaged,
one file however many ask.
"""

from __future__ import annotations

import io
import json
from datetime import timedelta
from threading import Barrier, Thread

import pytest
from django.core.management import CommandError, call_command
from django.db import connection
from django.test import Client
from django.utils import timezone

from machining.exchange.release_record import canonical
from machining.plan.apply import apply
from machining.plan.edit import Change
from shop.base import blobs
from shop.base.models import Entry
from shop.releases.models import Paper, Release, Sheet
from shop.tasks.actions import work
from shop.tasks.models import Task
from tests.at_length import some
from tests.core import build

from .conftest import person, put_plan
from .test_releases import draw, pdf_text


@pytest.fixture
def plan(finished):
    return finished


@pytest.fixture
def released(plan, approver) -> Release:
    """Released, its sheets asked for and not drawn."""
    approver.post(f"/plans/{plan.pk}/releases", {"revision": 2}, 201)
    return Release.objects.get(plan=plan)


def work_all() -> None:
    while work.run_one():
        pass


def spoil(name: str) -> None:
    path = blobs.path_of(name)
    content = bytearray(path.read_bytes())
    content[len(content) // 2] ^= 1
    path.write_bytes(bytes(content))


def drawing(caller, plan) -> str:
    return caller.get(f"/plans/{plan.pk}/review")["releases"][0]["drawing"]


def test_a_drawing_that_died_twice_can_be_asked_for_again(
    released, plan, approver, planner, operator
):
    sheet = f"/s/{released.code}/1"
    waits = operator.client.get(sheet)
    assert waits.status_code == 202 and b"This sheet is being drawn." in waits.content
    assert drawing(approver, plan) == "drawing"
    for _ in range(2):
        assert work.claim().kind == "draw-sheets"
        Task.objects.update(heartbeat=timezone.now() - timedelta(minutes=1))
        work.requeue_dead()
    assert (drawing(approver, plan), operator.get("/floor")[0]["drawing"]) == ("failed", "failed")
    failed = operator.client.get(sheet)
    assert failed.status_code == 404 and b"could not be drawn" in failed.content
    assert (
        planner.post(f"/releases/{released.code}/sheets", status=403)["sentence"]
        == "The role planner may not release plans."
    )
    for _ in range(3):  # however often it is pressed, it is drawn once
        approver.call("post", f"/releases/{released.code}/sheets", {})
    assert Task.objects.filter(kind="draw-sheets", state="waiting").count() == 1
    work_all()
    assert (drawing(approver, plan), operator.get("/floor")[0]["drawing"]) == ("drawn", "drawn")
    assert operator.client.get(sheet).status_code == 200


def test_nobody_stops_a_drawing(released, approver):
    task = Task.objects.get(kind="draw-sheets")
    refused = approver.post(f"/tasks/{task.pk}/cancel", status=409)
    assert (
        refused["sentence"]
        == "The sheets of a release are drawn to the end: the floor waits for them."
    )
    work_all()
    assert Sheet.objects.filter(release=released).count() == 2


def test_missing_sheets_are_found_when_the_worker_starts(released, operator):
    Task.objects.all().delete()
    call_command("worker", "--once")
    assert operator.client.get(f"/s/{released.code}/1").status_code == 200


@pytest.mark.parametrize("what", some(("record", "sheet", "paper"), each=2))
def test_one_changed_byte_is_found_and_not_served(what, released, approver, operator, capsys):
    work_all()
    assert operator.client.get(f"/s/{released.code}/1.pdf").status_code == 200
    call_command("verify")
    assert "1 releases are as they were stored." in capsys.readouterr().out
    sheet = released.sheets.first()
    spoil({"record": released.sha256, "sheet": sheet.body, "paper": sheet.papers.first().pdf}[what])
    with pytest.raises(CommandError, match="1 thing of 1 releases not as stored"):
        call_command("verify")
    assert "J-1, release 1: " in capsys.readouterr().err
    where = {
        "record": f"/api/releases/{released.code}/record.json",
        "sheet": f"/s/{released.code}/1",
        "paper": f"/s/{released.code}/1.pdf",
    }[what]
    refused = (approver if what == "record" else operator).client.get(where)
    assert refused.status_code == 500
    assert b"damaged" in refused.content or b"no longer holds" in refused.content
    assert Entry.objects.filter(what="file spoiled").count() == 1
    if what != "record":  # drawn again from the record, to the same bytes of the page
        approver.call("post", f"/releases/{released.code}/sheets", {})
        work_all()
        assert operator.client.get(where).status_code == 200
        assert released.sheets.first().body == sheet.body
        call_command("verify")


def test_the_record_is_for_approvers_and_checks_by_itself(
    released, approver, planner, tmp_path, capsys
):
    from machining.cli import main

    planner.get(f"/releases/{released.code}/record.json", 403)
    answer = approver.client.get(f"/api/releases/{released.code}/record.json")
    assert answer["Content-Disposition"] == 'attachment; filename="J-1-release-1.record.json"'
    file = tmp_path / "record.json"
    file.write_bytes(answer.content)
    assert main(["verify", str(file)]) == 0
    told = json.loads(answer.content)
    told["evaluation"]["setups"][0]["cycle_s"] += 1.0
    file.write_text(json.dumps(told))
    assert main(["verify", str(file)]) == 2
    assert "something changed it" in capsys.readouterr().err
    # written as a record is, and yet it says what is not worked out
    file.write_bytes(canonical(told))
    assert main(["verify", str(file)]) == 1


@pytest.mark.django_db(transaction=True)
def test_sixteen_who_ask_at_once_get_one_file(plan, approver):
    approver.post(f"/plans/{plan.pk}/releases", {"revision": 2}, 201)
    draw()
    release = Release.objects.get(plan=plan)
    user, gate, got = person("reader", "operator").user, Barrier(16), []

    def ask() -> None:
        client = Client()
        client.force_login(user)
        gate.wait()
        got.append(client.get(f"/s/{release.code}/1.pdf?paper=letter").status_code)
        connection.close()

    readers = [Thread(target=ask) for _ in range(16)]
    for each in readers:
        each.start()
    for each in readers:
        each.join()
    assert got == [202] * 16
    work_all()
    assert Paper.objects.filter(paper="Letter").count() == 1
    assert (
        person("last", "operator").client.get(f"/s/{release.code}/1.pdf?paper=letter")[
            "Content-Type"
        ]
        == "application/pdf"
    )


def test_a_kept_finding_stands_on_review_release_and_sheet(planner, approver, operator):
    slow = put_plan(planner, build.changed(build.whole(), "operation:rough", rpm=4000.0), "J-4")
    found = next(
        f
        for f in planner.get(f"/plans/{slow.pk}")["evaluation"]["findings"]
        if f["severity"] == "look"
    )
    id, op = found["key"].split("@")
    kept = {
        "revision": 2,
        "edits": [
            {
                "do": "keep",
                "on": f"operation:{op}",
                "finding": id,
                "words": "proven on the last lot",
            }
        ],
    }
    told = planner.post(f"/plans/{slow.pk}/edits", kept)["evaluation"]
    assert (
        next(f for f in told["findings"] if f["key"] == found["key"])["kept"]
        == "proven on the last lot"
    )
    looked = approver.get(f"/plans/{slow.pk}/review")
    assert looked["kept"] == [{"finding": found["key"], "words": "proven on the last lot"}]
    assert looked["against"] == []
    approver.post(f"/plans/{slow.pk}/releases", {"revision": 3}, 201)
    work_all()
    release = Release.objects.get(plan=slow)
    sealed = json.loads(blobs.get(release.sha256))
    assert "proven on the last lot" in json.dumps(sealed)
    assert "proven on the last lot" in operator.client.get(f"/s/{release.code}/1").content.decode()
    assert [each["stops"] + each["looks"] for each in planner.get("/jobs")["jobs"]] == [0]


def test_what_will_not_work_is_not_kept(planner, approver):
    """The words stay with the plan, the stop stays a stop."""
    bad = put_plan(
        planner, apply(build.whole(), [Change(on="tool:t3", fields={"stick_out_mm": 8.0})]), "J-5"
    )
    edit = {
        "revision": 2,
        "edits": [
            {
                "do": "keep",
                "on": "operation:pocket",
                "finding": "reach.stick-out-short",
                "words": "it will do",
            }
        ],
    }
    told = planner.post(f"/plans/{bad.pk}/edits", edit)["evaluation"]
    assert {f["kept"] for f in told["findings"] if f["severity"] == "stop"} == {""}
    assert (
        "2 findings will not work as planned." in approver.get(f"/plans/{bad.pk}/review")["against"]
    )


def test_a_sheet_in_inches_says_the_same(library, planner, approver, administrator, operator):
    """A pocket 8 mm deep reads 0.315 in; speeds read in/min; the metric words are beside what is
    measured nowhere on it.
    """
    item = next(
        each for each in administrator.get("/library")["items"] if each["kind"] == "settings"
    )
    administrator.put(
        "/library/settings/shop",
        {
            "data": {**item["data"], "units": "inch", "paper": "Letter"},
            "revision": item["revision"],
        },
    )
    plan = put_plan(planner, build.whole(), "J-6")
    approver.post(f"/plans/{plan.pk}/releases", {"revision": 2}, 201)
    work_all()
    release = Release.objects.get(plan=plan)
    page = operator.client.get(f"/s/{release.code}/1").content.decode()
    assert " in/min" in page and " mm/min" not in page
    printed = operator.client.get(f"/s/{release.code}/1.pdf?paper=letter")
    assert printed["Content-Type"] == "application/pdf"
    text = pdf_text(printed.content)
    assert "0.315" in text.replace("\n", " ")  # the pocket's 8 mm
    assert io.BytesIO(printed.content).read(5) == b"%PDF-"


def page(released, operator) -> str:
    return operator.client.get(f"/s/{released.code}/1").content.decode()


def test_a_page_is_laid_out_from_what_the_release_froze(released, operator, monkeypatch):
    """No plan is walked, whatever today's program would say of it."""

    def nobody(*about, **more):
        raise AssertionError("the plan was walked")

    monkeypatch.setattr("shop.releases.sheet.walk", nobody)
    monkeypatch.setattr("shop.releases.sheet.sheets", nobody)
    work_all()
    record = json.loads(blobs.get_checked(released.sha256))
    frozen, _ = record["sheets"]
    shown = page(released, operator)
    assert frozen["drawing"] in shown and f">{frozen['cycle']}<" in shown
    assert "made anew" not in shown


def test_a_page_that_was_lost_of_an_earlier_release_says_so(released, operator):
    """Records of before froze plan and answers, and no page."""
    record = json.loads(blobs.get_checked(released.sha256))
    del record["sheets"]
    Release.objects.filter(pk=released.pk).update(sha256=blobs.put(canonical(record)))
    work_all()
    assert "This page was lost and made anew" in page(released, operator)
