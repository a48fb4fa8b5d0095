"""A fixture's STEP file: read by the worker, picked from, kept as a record that holds a part."""

from __future__ import annotations

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from shop.jobs import fixtures
from shop.library.models import Item
from shop.tasks.actions.work import KINDS, run_one
from shop.tasks.models import Task
from tests.core.fixtures import body
from tools.demo_parts import write


@pytest.fixture(scope="module")
def step(tmp_path_factory):
    path = tmp_path_factory.mktemp("fixture") / "rails.step"
    write(body(), path)
    return path.read_bytes()


def send(caller, content: bytes, name: str = "rails.step"):
    return caller.client.post("/api/fixtures/step", {"file": SimpleUploadedFile(name, content)})


def read(caller, content: bytes):
    task = send(caller, content).json()
    assert (task["kind"], task["state"]) == (fixtures.KIND, "waiting")
    assert fixtures.KIND in KINDS
    assert run_one()
    return caller.get(f"/tasks/{task['id']}")


def picked(result):
    """A record with both rails, and the stops over them."""
    rails = [e for e in result["seats"] if e["high_mm"] == 26.0]
    over = [e for e in result["locators"] if e["low_mm"] == 26.0]
    kept = [
        e for e in over if (e["side"], *e["at_mm"]) in (("+y", -44.0, 33.0), ("+y", 20.0, 33.0))
    ]
    kept += [e for e in over if e["side"] == "-x" and e["at_mm"][0] == -44.0]
    return {
        "key": "rails",
        "kind": "fixture",
        "name": "Rail fixture",
        "friction": 0.15,
        "mass_kg": 3.5,
        "source": "made here",
        "file": result["file"],
        "blocks": result["blocks"],
        "seats": rails,
        "locators": kept,
        "threads": result["threads"],
    }


def test_it_is_read_picked_from_and_holds_a_part(planner, plan, step, read_here):
    done = read(planner, step)
    assert done["state"] == "done", done["message"]
    result = done["result"]
    assert (result["size"], result["file"]) == ([180.0, 120.0, 34.0], "rails.step")
    planner.put("/library/holdings/rails", {"data": picked(result), "revision": 0})
    assert Item.objects.get(kind="holdings", key="rails").data["kind"] == "fixture"
    station = planner.get(f"/plans/{plan.pk}")["plan"]["setups"][0]["stations"][0]["id"]
    takes = planner.get(f"/plans/{plan.pk}")["evaluation"]["setups"][0]["stations"][0]["takes"]
    assert {"key": "rails", "name": "Rail fixture"} in takes
    hold = {"do": "hold", "station": station, "item": "rails"}
    edits = {"revision": 2, "edits": [hold]}
    after = planner.post(f"/plans/{plan.pk}/edits", edits)
    held = after["plan"]["setups"][0]["stations"][0]["holding"]
    assert (held["kind"], held["base"], held["y_mm"]) == ("clamped", "rails", 6.0)
    bodies = after["evaluation"]["setups"][0]["stations"][0]["bodies"]
    unknown = after["evaluation"]["setups"][0]["stations"][0]["unknown"]
    assert "fixture" in {each["role"] for each in bodies}, unknown


def test_a_file_without_a_level_face_or_that_is_no_step_is_refused(planner, read_here, tmp_path):
    from tests.core.shapes_in_step import lying_drum

    path = tmp_path / "drum.step"
    write(lying_drum((-20.0, 0.0, 0.0), (1, 0, 0), 20.0, 40.0), path)
    failed = read(planner, path.read_bytes())
    assert failed["state"] == "failed"
    assert "faces that look up" in failed["message"]
    assert send(planner, b"no file of ours").status_code == 422
    assert not Item.objects.filter(kind="holdings", key="rails").exists()


def test_who_may_not_change_the_library_sends_none(operator, step):
    assert send(operator, step).status_code == 403
    assert not Task.objects.exists()


def test_a_record_that_was_damaged_says_what_and_holds_nothing(planner, step, read_here):
    result = read(planner, step)["result"]
    bad = {**picked(result), "seats": []}
    told = planner.call("put", "/library/holdings/rails", {"data": bad, "revision": 0})
    assert told.status_code == 422
    assert told.json()["problems"][0]["field"].endswith("seats")
