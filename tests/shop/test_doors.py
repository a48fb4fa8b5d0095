"""What comes in and goes out: names, files, headers, permissions, sign-ins, who did what, two
people at one field.
"""

from __future__ import annotations

import csv
import io
import json
import stat
import subprocess
import sys
from pathlib import Path
from threading import Barrier, Thread

import pytest
from django.conf import settings as configured
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client

from machining.exchange import plan_json
from shop.accounts import api as accounts
from shop.accounts.models import User
from shop.base import blobs
from shop.base.models import Entry
from shop.jobs import documents
from shop.jobs.models import Job
from shop.library.models import Item
from shop.releases.models import Release
from shop.releases.printing import own_files
from tests.core import build

from .conftest import Caller, person, put_plan

ROOT = Path(__file__).resolve().parent.parent.parent


def test_an_address_that_is_none_says_so_in_the_interface_s_own_shape(planner):
    for method in ("GET", "POST", "DELETE"):
        answer = getattr(planner.client, method.lower())("/api/nothing/here")
        assert (answer.status_code, answer["Content-Type"]) == (404, "application/json")
        assert answer.json()["sentence"] == "There is nothing at this address."


# -- names


@pytest.mark.parametrize(
    "number",
    [
        "a/b",
        "../x",
        "..",
        ".",
        "a?b",
        "a#b",
        "a\\b",
        "",
        "  ",
        "x" * 41,
        "a\nb",
        "a\u0000b",
        "-a",
        "a%2fb",
        "x\u202ey",
    ],
)
def test_a_number_no_link_could_carry_is_refused(number, planner):
    refused = planner.post("/jobs", {"number": number, "title": "T"}, 422)
    assert refused["problems"][0]["field"] == "number"
    assert not Job.objects.exists()


@pytest.mark.parametrize("number", ["TW 118.2", "Nº 7", "Größe-12", "A+B_3", "7"])
def test_a_number_that_is_taken_leads_everywhere(number, planner):
    made = planner.post("/jobs", {"number": f" {number} ", "title": "T"}, 201)
    assert planner.get(f"/jobs/{number}")["plan"] == made["plan"]
    assert planner.client.get(f"/jobs/{number}/setups").status_code == 200
    sent = planner.client.get(f"/api/plans/{made['plan']}/export.json")
    name = sent["Content-Disposition"].partition('filename="')[2].rstrip('"')
    assert name.isascii() and name.endswith(".json") and not set(name) & set('/\\"; ')


def test_downloads_and_imports_keep_what_they_carry(planner):
    """A plan exported, imported into another job and exported again is the same text."""
    plan = put_plan(planner, build.good(), "J-1")
    sent = planner.client.get(f"/api/plans/{plan.pk}/export.json")
    other = planner.post("/jobs", {"number": "J-2", "title": "T"}, 201)["plan"]
    answer = planner.client.post(
        f"/api/plans/{other}/import?revision=1",
        {"file": SimpleUploadedFile("../../etc/plan.json", sent.content)},
    )
    assert answer.status_code == 200
    again = planner.client.get(f"/api/plans/{other}/export.json")
    assert plan_json.read(again.content)[0] == plan_json.read(sent.content)[0] == build.good()
    bad = planner.client.post(
        f"/api/plans/{other}/import?revision=2",
        {"file": SimpleUploadedFile("plan.json", sent.content[:-40])},
    )
    assert (bad.status_code, documents.head(plan).number) == (422, 2)


def test_a_cell_that_a_spreadsheet_would_run_is_text_and_comes_back(planner):
    tool = Item.objects.get(kind="tools", key="drill-6-8")
    planner.put(
        "/library/tools/drill-6-8",
        {"data": {**tool.data, "name": '=HYPERLINK("http://x";"y")'}, "revision": tool.revision},
    )
    table = planner.client.get("/api/library/tools.csv").content
    row = next(
        row
        for row in csv.DictReader(io.StringIO(table.decode("utf-8-sig")))
        if row["key"] == "drill-6-8"
    )
    assert [cell for cell in row.values() if cell.startswith("=")] == []
    seen = planner.client.post(
        "/api/library/tools.csv/preview", {"file": SimpleUploadedFile("tools.csv", table)}
    ).json()
    assert {each["does"] for each in seen} == {"same"}, seen


# -- sign-ins


def test_wrong_passwords_are_slowed_for_that_name_from_there_only(library, monkeypatch):
    User.objects.create_user("planner", password="plan-the-part", role="planner")
    User.objects.create_user("approver", password="read-it-twice", role="approver")

    def enter(name: str, password: str, address: str = "10.0.0.1"):
        return Client(REMOTE_ADDR=address).post(
            "/api/session",
            json.dumps({"name": name, "password": password}),
            content_type="application/json",
        )

    assert [enter("planner", "wrong").status_code for _ in range(6)] == [403] * 4 + [429, 429]
    slowed = enter("planner", "plan-the-part")
    assert slowed.status_code == 429 and slowed.json()["sentence"] == accounts.SLOWED
    # the same name from elsewhere
    assert enter("planner", "plan-the-part", "10.0.0.2").status_code == 200
    assert enter("approver", "read-it-twice").status_code == 200  # somebody else from there


def test_a_rush_at_the_door_keeps_no_hands_from_the_plans(library):
    taken = [accounts._at_the_door.acquire(blocking=False) for _ in range(accounts.AT_ONCE)]
    try:
        assert all(taken)
        refused = Client().post(
            "/api/session",
            json.dumps({"name": "x", "password": "y"}),
            content_type="application/json",
        )
        assert refused.status_code == 503 and "try again" in refused.json()["sentence"]
    finally:
        for _ in taken:
            accounts._at_the_door.release()


# -- who did what


def test_the_record_says_who_did_what_to_which(finished, planner, approver, administrator):
    planner.patch("/jobs/J-1", {"title": "Clamp", "touched": 0})
    approver.post(f"/plans/{finished.pk}/releases", {"revision": 2}, 201)
    planner.get("/record", 403)
    told = approver.get("/record")
    assert [(e["by"], e["what"]) for e in told["entries"]][:2] == [
        ("approver", "plan released"),
        ("planner", "job changed"),
    ]
    released = told["entries"][0]
    assert released["on"] == f"plan:{finished.pk}"
    assert released["after"] == Release.objects.get().sha256
    assert {
        e["what"] for e in approver.get("/record?find=planner&what=job changed")["entries"]
    } == {"job changed"}
    assert administrator.get("/record?page=7")["entries"] == []


def test_what_failed_is_not_in_the_record(plan, planner):
    before = Entry.objects.count()
    planner.post(
        f"/plans/{plan.pk}/edits",
        {"revision": 2, "edits": [{"do": "change", "on": "operation:nope", "fields": {"rpm": 1}}]},
        422,
    )
    planner.put("/library/tools/drill-6-8", {"data": {}, "revision": 1}, 422)
    planner.post("/jobs", {"number": "J-1", "title": "again"}, 409)
    assert Entry.objects.count() == before


def test_what_loosens_approval_is_not_for_those_who_approve(approver, planner, administrator):
    stored = Item.objects.get(kind="settings", key="shop")
    loose = {"data": {**stored.data, "approver_may_be_editor": True}, "revision": stored.revision}
    assert approver.put("/library/settings/shop", loose, 403)["sentence"].startswith(
        "approver_may_be_editor is a rule of the shop"
    )
    planner.put("/library/settings/shop", loose, 403)
    administrator.put("/library/settings/shop", loose)
    assert Entry.objects.latest("id").what == "settings changed"
    assert administrator.put("/library/settings/second", {"data": stored.data, "revision": 0}, 404)[
        "sentence"
    ].startswith("The shop has one set of settings")


# -- two people


def test_different_fields_of_a_job_are_both_kept_and_the_same_field_is_told(
    plan, planner, approver
):
    person("second", "planner")
    other = Caller(User.objects.get(username="second"))
    seen = planner.get("/jobs/J-1")["touched"]
    planner.patch("/jobs/J-1", {"title": "Clamp", "touched": seen})
    other.patch("/jobs/J-1", {"remark": "hot", "touched": seen})
    job = Job.objects.get()
    assert (job.title, job.remark) == ("Clamp", "hot")
    refused = other.patch("/jobs/J-1", {"title": "Block", "touched": seen}, 409)
    assert refused["sentence"] == "planner changed title meanwhile; it is now 'Clamp'."
    assert Job.objects.get().title == "Clamp"


@pytest.mark.django_db(transaction=True)
def test_eight_who_release_at_once_make_one_release(finished, library):
    users = [person(f"approver{k}", "approver").user for k in range(8)]
    gate, got = Barrier(8), []

    def press(user: User) -> None:
        caller = Caller(user)
        gate.wait()
        answer = caller.call("post", f"/plans/{finished.pk}/releases", {"revision": 2})
        got.append((answer.status_code, json.loads(answer.content).get("sentence", "")))
        connection.close()

    pressing = [Thread(target=press, args=(user,)) for user in users]
    for each in pressing:
        each.start()
    for each in pressing:
        each.join()
    assert sorted(status for status, _ in got)[:1] == [201]
    assert {status for status, _ in got} <= {201, 409, 422}
    assert all(
        "same moment" in words or "Nothing has changed since release 1." in words
        for status, words in got
        if status != 201
    ), got
    assert Release.objects.count() == 1
    assert Entry.objects.filter(what="plan released").count() == 1


# -- what browsers keep, what the disk shows, what the printer fetches


def test_only_what_carries_its_hash_is_kept_by_a_browser(planner):
    page = planner.client.get("/jobs")
    assert page["Cache-Control"] == "no-store"
    index = (configured.WEB_BUILD / "index.html").read_text()
    script = index.partition('src="')[2].partition('"')[0]
    assert "immutable" in planner.client.get(script)["Cache-Control"]
    for path, _ in (
        (each, 0)
        for each in configured.WEB_BUILD.rglob("*")
        if each.is_file() and "assets" not in each.parts
    ):
        answer = planner.client.get(f"/static/{path.relative_to(configured.WEB_BUILD)}")
        assert "immutable" not in answer.get("Cache-Control", ""), path


def test_what_is_stored_is_readable_by_its_owner_only(tmp_path):
    env = {"FABROTAX_HOME": str(tmp_path / "home"), "PATH": "/usr/bin:/bin"}
    subprocess.run([sys.executable, "manage.py", "migrate", "-v0"], cwd=ROOT, env=env, check=True)
    made = [tmp_path / "home", *(tmp_path / "home").rglob("*")]
    assert any(each.suffix == ".sqlite3" for each in made)
    assert {stat.S_IMODE(each.stat().st_mode) & 0o077 for each in made} == {0}
    path = blobs.path_of(blobs.put(b"a sheet"))
    assert stat.S_IMODE(path.stat().st_mode) & 0o077 == 0


@pytest.mark.parametrize(
    "url",
    [
        "http://10.0.0.1/x.css",
        "https://example.test/x",
        "file:///etc/passwd",
        "ftp://x/y",
        "file://{own}/../../manage.py",
    ],
)
def test_the_printer_fetches_the_applications_own_only(url):
    with pytest.raises(ValueError, match="not"):
        own_files().fetch(url.replace("{own}", str(configured.WEB_BUILD)))


def test_numbers_of_hundreds_of_digits_are_refused_with_a_short_sentence(planner, plan):
    huge = int("9" * 400)
    told = planner.post("/calc/milling-load", {"diameter_mm": huge}, 422)
    assert len(told["sentence"]) < 300
    told = planner.post(
        f"/plans/{plan.pk}/edits",
        {
            "revision": 2,
            "edits": [{"do": "change", "on": "operation:rough", "fields": {"rpm": huge}}],
        },
        422,
    )
    assert len(told["sentence"]) < 300
