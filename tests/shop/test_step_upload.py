"""STEP files: taken in, read by the worker in a process of its own, refused in a sentence."""

from __future__ import annotations

import os
import sys
from datetime import timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone

from machining.world.stock.shaped import Shaped
from shop.base import blobs
from shop.base.problems import Refused
from shop.jobs import documents, tasks
from shop.jobs.actions.upload import safe_name
from shop.jobs.models import Geometry
from shop.tasks.actions.work import KINDS, Cancelled, claim, requeue_dead, run_one, task_kind
from shop.tasks.models import Task
from tests.core import build

from .conftest import PARTS, put_plan

HINGE = (PARTS / "hinge-plate.step").read_bytes()
ASKEW = (PARTS / "askew-bracket.step").read_bytes()


def send(caller, plan, content: bytes, name: str = "part.step"):
    return caller.client.post(
        f"/api/plans/{plan.pk}/step", {"file": SimpleUploadedFile(name, content)}
    )


@pytest.fixture
def empty(planner):
    return put_plan(planner, build.plan(), "J-9")


def test_a_file_becomes_the_part(planner, empty):
    task = send(planner, empty, HINGE, "hinge plate.step").json()
    assert (task["kind"], task["state"]) == ("read-step", "waiting")
    assert run_one()
    done = planner.get(f"/tasks/{task['id']}")
    assert (
        done["state"],
        done["progress"],
        done["result"]["size"],
        done["result"]["features"],
    ) == ("done", 1.0, [80, 50, 20], 11)
    part = documents.read(documents.head(empty).document).part
    assert part.file_name == "hinge plate.step"
    assert Geometry.objects.get(key=part.geometry).file_name == "hinge plate.step"
    answer = planner.get(f"/plans/{empty.pk}")
    assert {f["kind"] for f in answer["features"]} == {"flat", "pocket", "hole", "edge"}
    assert planner.call("get", f"/geometries/{part.geometry}.glb").content[:4] == b"glTF"
    assert not run_one()


@pytest.mark.usefixtures("read_here")
def test_a_file_becomes_the_blank(planner, empty):
    """The block it was given as its part comes out of the plate's box, lying as it does there."""
    sent = planner.client.post(
        f"/api/plans/{empty.pk}/step?use=blank", {"file": SimpleUploadedFile("cast.step", HINGE)}
    )
    assert sent.status_code == 202 and run_one()
    document = documents.read(documents.head(empty).document)
    assert document.part == build.plan().part
    stock = document.stock
    assert isinstance(stock, Shaped) and stock.file_name == "cast.step"
    seen = planner.get(f"/plans/{empty.pk}")["evaluation"]
    assert [round(each) for each in seen["stock_size"]] == [80, 50, 20]
    assert seen["stock_lacks"]["text"].startswith("The part stands")  # it has a pocket elsewhere
    # a copy of the plan holds both solids, under names of their own
    text = planner.call("get", f"/plans/{empty.pk}/export.json").content
    other = put_plan(planner, build.plan(), "J-10")
    answer = planner.client.post(
        f"/api/plans/{other.pk}/import?revision=2", {"file": SimpleUploadedFile("p.json", text)}
    )
    assert answer.status_code == 200
    brought = documents.read(documents.head(other).document).stock
    assert brought.geometry != stock.geometry and brought.file_name == stock.file_name
    assert planner.get(f"/plans/{other.pk}")["evaluation"]["stock_size"] == seen["stock_size"]


@pytest.mark.usefixtures("read_here")
def test_a_part_that_lies_askew_is_laid_straight_and_otherwise_where_it_is_asked(planner, empty):
    def lay(way, status=202):
        answer = planner.post(f"/plans/{empty.pk}/lay", {"lay": way}, status)
        if status == 202:
            assert run_one()
            answer = planner.get(f"/tasks/{answer['id']}")
        return answer

    def part():
        return documents.read(documents.head(empty).document).part

    nothing = lay("file", 422)
    assert nothing["sentence"].startswith("The file of this solid isn't kept here")
    send(planner, empty, ASKEW, "askew.step")
    assert run_one()
    assert part().turned_deg == 17
    seen = planner.get(f"/plans/{empty.pk}")
    assert seen["evaluation"]["part_size"] == [96, 60, 24]
    (slope,) = (f for f in seen["features"] if f["kind"] == "slanted")
    straight = part().geometry
    laid = lay(slope["surfaces"][0])
    assert laid["state"] == "done" and part().geometry == laid["result"]["geometry"] != straight
    assert part().file_name == "askew.step"
    assert any(f["kind"] == "slanted" for f in planner.get(f"/plans/{empty.pk}")["features"])
    assert lay(10_000)["message"].startswith("face is 10000; it must be the number of a flat face")
    assert part().geometry == laid["result"]["geometry"]


@pytest.mark.usefixtures("read_here")
def test_an_edit_made_while_it_is_read_is_kept(planner, empty):
    send(planner, empty, HINGE)
    planner.post(
        f"/plans/{empty.pk}/edits",
        {"revision": 2, "edits": [{"do": "change", "on": "plan", "fields": {"quantity": 77}}]},
    )
    run_one()
    document = documents.read(documents.head(empty).document)
    assert (document.quantity, bool(document.part.geometry)) == (77, True)


@pytest.mark.usefixtures("read_here")
def test_of_several_solids_one_is_picked(planner, empty):
    task = send(planner, empty, (PARTS / "two-blocks.step").read_bytes()).json()
    run_one()
    failed = planner.get(f"/tasks/{task['id']}")
    assert failed["state"] == "failed"
    assert failed["message"] == "The file holds 2 solids; choose the one to be machined."
    assert failed["result"]["sizes"] == [[40, 30, 10], [20, 30, 10]]
    assert documents.head(empty).number == 2
    assert planner.post(f"/tasks/{task['id']}/solid", {"solid": 2}, 422)["sentence"].startswith(
        "solid is 3"
    )
    planner.post(f"/tasks/{task['id']}/solid", {"solid": 1}, 202)
    run_one()
    assert planner.get(f"/plans/{empty.pk}")["plan"]["part"]["geometry"]


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"", "empty"),
        (b"solid nothing", "not a STEP file"),
        (HINGE[:-600], "cut off"),
        (b"\x89PNG\r\n", "not a STEP file"),
    ],
    ids=["empty", "other", "truncated", "picture"],
)
def test_what_is_no_step_file_is_refused_at_once(planner, empty, content, words):
    answer = send(planner, empty, content)
    assert answer.status_code == 422
    assert words in answer.json()["sentence"]
    assert documents.head(empty).number == 2
    assert not Task.objects.exists()


def test_a_damaged_file_fails_in_a_sentence_and_leaves_the_part(planner, empty):
    middle = HINGE.index(b"DATA;") + 40
    task = send(
        planner, empty, HINGE[:middle] + b"#9 = NONSENSE(;;;" + HINGE[middle + 9000 :]
    ).json()
    run_one()
    failed = planner.get(f"/tasks/{task['id']}")
    assert failed["state"] == "failed"
    assert failed["message"].endswith(".") or failed["message"].endswith("again.")
    assert documents.head(empty).number == 2


def test_a_file_over_the_limit_is_refused(planner, empty, settings):
    settings.LARGEST_STEP_BYTES = 1000
    answer = send(planner, empty, HINGE)
    assert answer.status_code == 422
    assert "up to 0 MB can be read" in answer.json()["sentence"]


@pytest.mark.parametrize(
    ("given", "kept"),
    [
        ("../../etc/passwd", "passwd"),
        ("C:\\parts\\plate.step", "plate.step"),
        ("a/b/../c.stp", "c.stp"),
        ("..", "part.step"),
        ("", "part.step"),
        ("pl\x00ate.step", "plate.step"),
        ("<b>.step", "_b_.step"),
        ("x" * 300 + ".step", "x" * 120),
    ],
)
def test_names_lose_their_tricks(given, kept):
    assert safe_name(given) == kept


def test_reading_can_be_stopped(planner, empty):
    task = send(planner, empty, HINGE).json()
    stopped = planner.post(f"/tasks/{task['id']}/cancel")
    assert stopped["state"] == "cancelled"
    assert not run_one()
    assert documents.head(empty).number == 2


def test_a_task_stopped_in_the_middle_ends(planner, empty):
    task = Task.objects.create(kind="slow", made_by=planner.user)

    def slow(task, report):
        Task.objects.filter(pk=task.pk).update(cancel=True)
        report(0.5, "half way")
        raise AssertionError("it went on")

    task_kind("slow")(slow)
    run_one()
    KINDS.pop("slow")
    task.refresh_from_db()
    assert (task.state, task.message) == ("cancelled", "Stopped on request.")


def test_the_reader_s_process_ends_with_its_task(tmp_path):
    """Stopped while it works, the child is gone, not left running with the file in its memory."""
    pid = tmp_path / "pid"
    said = []

    def report(share, words):
        said.append((share, words))
        raise Cancelled("Stopped on request.")

    program = (
        f"import json, os, pathlib, time; pathlib.Path({str(pid)!r}).write_text(str(os.getpid()));"
        " print(json.dumps({'doing': 'faces', 'share': 0.4}), flush=True); time.sleep(60)"
    )
    with pytest.raises(Cancelled):
        tasks._followed([sys.executable, "-c", program], report)
    assert said == [(0.4, "faces")]
    with pytest.raises(ProcessLookupError):
        os.kill(int(pid.read_text()), 0)


def test_the_reader_has_limits_of_time_and_memory(tmp_path):
    program = (
        "import json, resource; print(json.dumps({'doing': 'done', 'memory':"
        " resource.getrlimit(resource.RLIMIT_AS)[0], 'cpu':"
        " resource.getrlimit(resource.RLIMIT_CPU)[0]}), flush=True)"
    )
    last = tasks._followed([sys.executable, "-c", program], lambda share, words: None)
    assert (last["memory"], last["cpu"]) == (tasks.MOST_BYTES, int(tasks.LONGEST_S))


def test_a_reader_that_hangs_is_stopped_with_a_sentence(monkeypatch):
    monkeypatch.setattr(tasks, "LONGEST_S", 0.5)
    monkeypatch.setattr(tasks, "limited", lambda: None)
    with pytest.raises(Refused, match="took longer than"):
        tasks._followed(
            [sys.executable, "-c", "import time; time.sleep(60)"], lambda share, words: None
        )


def test_a_dead_worker_s_task_goes_back_once_then_fails(planner):
    task = Task.objects.create(kind="read-step", made_by=planner.user)
    for expected in ("waiting", "failed"):
        claimed = claim()
        assert claimed is not None
        assert claim() is None
        Task.objects.filter(pk=task.pk).update(heartbeat=timezone.now() - timedelta(minutes=2))
        assert requeue_dead() == 1
        task.refresh_from_db()
        assert task.state == expected


def test_a_task_that_breaks_says_so_without_its_inside(planner):
    task = Task.objects.create(kind="broken", made_by=planner.user)
    task_kind("broken")(lambda task, report: 1 / 0)
    run_one()
    KINDS.pop("broken")
    task.refresh_from_db()
    assert task.state == "failed"
    assert "division" not in task.message


def test_blobs_are_stored_by_content():
    name = blobs.put(b"some bytes")
    assert blobs.put(b"some bytes") == name
    assert blobs.get(name) == b"some bytes"
    assert blobs.path_of(name).parent.name == name[:2]
    with pytest.raises(FileNotFoundError):
        blobs.get("0" * 64)
