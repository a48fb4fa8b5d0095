"""Commands, settings and the page: what a shop runs once, and what a server must be from the first
day.
"""

from __future__ import annotations

import io
import json
import os
import stat
import subprocess
import sys
from pathlib import Path

import pytest
from django.conf import settings
from django.core.management import call_command
from django.db import connection

from machining.evaluation import formulas
from shop.accounts.models import User
from shop.jobs import documents
from shop.jobs.actions.upload import start
from shop.jobs.models import Job
from shop.library.models import Item
from shop.library.snapshot import snapshot
from shop.releases.models import Release
from shop.run.management.commands.load_demo import ACCOUNTS, SHOP, TYPED
from shop.tasks.models import Task
from tests.core import build

from .conftest import PARTS, Caller, put_plan

ROOT = Path(settings.BASE_DIR)


@pytest.fixture
def demo(db):
    call_command("load_demo", stdout=io.StringIO())


def test_the_demo_shop_is_as_the_page_says(demo):
    assert set(User.objects.values_list("username", "role")) == {(name, name) for name in ACCOUNTS}
    for name, password in ACCOUNTS.items():
        assert User.objects.get(username=name).check_password(password)
    assert set(Job.objects.values_list("number", flat=True)) == {
        "TW-118",
        "TW-118-2",
        "TW-241",
        "TW-276",
        "TW-402",
        "TW-520",
        *(row[0] for row in TYPED),
    }
    assert snapshot().settings == SHOP
    planner = Caller(User.objects.get(username="planner"))
    plan = Job.objects.get(number="TW-118").plans.get()
    document = documents.read(documents.head(plan).document)
    assert [len(s.operations) for s in document.setups] == [10, 8]
    release = Release.objects.get(plan=plan)
    call_command("worker", "--once")
    assert (release.number, release.by.username, release.sheets.count()) == (1, "approver", 2)
    assert release.revision.number < documents.head(plan).number
    sheet = planner.client.get(f"/s/{release.code}/2").content.decode()
    assert "Setup <span" in sheet
    assert "Soft jaws cut to the finished width" in sheet


def test_loading_the_demo_again_changes_nothing(demo):
    before = (
        Job.objects.count(),
        Item.objects.count(),
        Release.objects.count(),
        User.objects.count(),
    )
    call_command("load_demo", stdout=io.StringIO())
    assert (
        Job.objects.count(),
        Item.objects.count(),
        Release.objects.count(),
        User.objects.count(),
    ) == before


def test_the_worker_does_what_waits_and_ends_when_asked_to(planner):
    plan = put_plan(planner, build.plan())
    from shop.base import blobs

    task = start(
        planner.user, plan, blobs.put((PARTS / "hinge-plate.step").read_bytes()), "hinge.step", None
    )
    call_command("worker", "--once")
    task.refresh_from_db()
    assert (task.state, task.tries) == ("done", 1)
    assert not Task.objects.filter(state="waiting").exists()


def test_the_api_describes_itself(tmp_path):
    call_command("openapi", str(tmp_path / "api.json"))
    described = json.loads((tmp_path / "api.json").read_text())
    assert "/api/plans/{id}/edits" in described["paths"]
    assert (
        described["components"]["schemas"]["PlanOut"]["properties"]["revision"]["type"] == "integer"
    )


def test_a_deployment_check_asks_only_for_https(tmp_path):
    env = {**os.environ, "FABROTAX_HOME": str(tmp_path), "DJANGO_SETTINGS_MODULE": "shop.settings"}
    plain = subprocess.run(
        [sys.executable, "manage.py", "check", "--deploy"],
        cwd=ROOT,
        env=env,
        capture_output=True,
        text=True,
    )
    named = {
        line.split("security.")[1][:4] for line in plain.stderr.splitlines() if "security." in line
    }
    assert named <= {"W004", "W008", "W012", "W016"}
    https = subprocess.run(
        [sys.executable, "manage.py", "check", "--deploy"],
        cwd=ROOT,
        env={**env, "FABROTAX_URL": "https://plans.example"},
        capture_output=True,
        text=True,
    )
    left = {
        line.split("security.")[1][:4] for line in https.stderr.splitlines() if "security." in line
    }
    assert left <= {"W008", "W005", "W021"}  # redirecting and preloading are the front server's


def test_secrets_stay_in_the_home_and_with_their_owner(tmp_path):
    code = "import shop.settings as s; print(s.SECRET_KEY); print(s.DEBUG); print(s.ALLOWED_HOSTS)"
    env = {
        **os.environ,
        "FABROTAX_HOME": str(tmp_path / "shop"),
        "FABROTAX_URL": "http://mill.local:8000",
    }
    first, second = (
        subprocess.run(
            [sys.executable, "-c", code],
            cwd=ROOT,
            env=env,
            capture_output=True,
            text=True,
            check=True,
        ).stdout.splitlines()
        for _ in range(2)
    )
    assert first == second
    assert len(first[0]) >= 50
    assert first[1] == "False"
    assert "mill.local" in first[2]
    assert stat.S_IMODE((tmp_path / "shop" / "secret.key").stat().st_mode) == 0o600


def test_the_database_is_set_up_for_many_readers(db):
    with connection.cursor() as cursor:
        cursor.execute("PRAGMA foreign_keys")
        assert cursor.fetchone() == (1,)
        cursor.execute("PRAGMA busy_timeout")
        assert cursor.fetchone()[0] >= 5000
    options = settings.DATABASES["default"]["OPTIONS"]
    assert options["transaction_mode"] == "IMMEDIATE"
    assert "journal_mode=WAL" in options["init_command"]


def test_every_address_of_the_page_is_the_page(planner):
    for address in ("/", "/jobs", "/jobs/J-1/setups", "/library/tools", "/sign-in"):
        answer = planner.client.get(address)
        assert answer.status_code == 200
        assert b'<div id="root">' in answer.content
        assert answer.headers["Cache-Control"] == "no-store"
    assert planner.client.post("/jobs").status_code in (403, 405)
    assert planner.client.get("/api/nothing").status_code == 404


def test_a_page_that_is_not_built_says_what_to_do(planner, settings, tmp_path):
    settings.WEB_BUILD = tmp_path
    answer = planner.client.get("/jobs")
    assert answer.status_code == 503
    assert b"make build" in answer.content


def test_what_the_page_needs_ships_with_it(planner):
    """Scripts, style and both faces come from here, under names that change with their content."""
    page = planner.client.get("/").content.decode()
    linked = [part.split('"')[0] for part in page.split('="/static/')[1:]]
    assert any(name.startswith("assets/index-") and name.endswith(".js") for name in linked)
    for name in (*linked, "fonts/text.woff2", "fonts/num.woff2"):
        assert (settings.WEB_BUILD / name).is_file(), name
    assert "http://" not in page
    assert "https://" not in page


def test_formula_words_never_carry_markup():
    for known in formulas().values():
        assert "<" not in known["text"] + known["source"]
