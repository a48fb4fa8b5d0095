"""A plan travels as a file."""

from __future__ import annotations

import json

from django.core.files.uploadedfile import SimpleUploadedFile

from machining.exchange import plan_json
from shop.jobs import documents
from tests.core import build

from .conftest import put_plan


def test_a_plan_travels_as_a_file(planner, plan):
    text = planner.call("get", f"/plans/{plan.pk}/export.json").content
    document, _ = plan_json.read(text)
    other = put_plan(planner, build.plan(), "J-2")
    answer = planner.client.post(
        f"/api/plans/{other.pk}/import?revision=2", {"file": SimpleUploadedFile("p.json", text)}
    )
    assert answer.status_code == 200
    assert documents.read(documents.head(other).document) == document
    assert documents.head(other).kind == "import"
    assert (
        planner.post(f"/plans/{other.pk}/undo", {"revision": 3})["plan"]["setups"][0]["operations"]
        == []
    )


def test_an_import_that_needs_what_is_not_here_changes_nothing(planner, plan):
    raw = json.loads(planner.call("get", f"/plans/{plan.pk}/export.json").content)
    raw["plan"]["setups"][0]["stations"][0]["holding"]["vise"] = "their-vise"
    answer = planner.client.post(
        f"/api/plans/{plan.pk}/import?revision=2",
        {"file": SimpleUploadedFile("p.json", json.dumps(raw).encode())},
    )
    assert answer.status_code == 422
    assert (
        answer.json()["sentence"]
        == "This library lacks what the plan uses: vise their-vise. Add it first."
    )
    raw["plan"]["setups"][0]["stations"][0]["holding"]["vise"] = "vise-125"
    for place, words in (
        ({"pocket": 41}, "T1 stands in pocket 41; Heron has 24."),
        ({"carrier": "tower"}, "T1 stands in the carrier 'tower'; Heron has magazine."),
        ({"station": "gone"}, "station is 'gone'"),
        ({"takes": "st1"}, "st1 from st1 is a ring: none comes first"),
        ({"format": 9}, "Format is 9"),
    ):
        wrong = json.loads(json.dumps(raw))
        if "pocket" in place or "carrier" in place:
            wrong["plan"]["tools"][0] |= place
        elif "station" in place:
            wrong["plan"]["setups"][0]["operations"][0] |= place
        elif "takes" in place:
            wrong["plan"]["setups"][0]["stations"][0] |= place
        else:
            wrong["plan"] |= place
        told = planner.client.post(
            f"/api/plans/{plan.pk}/import?revision=2",
            {"file": SimpleUploadedFile("p.json", json.dumps(wrong).encode())},
        )
        assert told.status_code == 422
        assert words.lower() in told.json()["sentence"].lower()
    bad = planner.client.post(
        f"/api/plans/{plan.pk}/import?revision=2", {"file": SimpleUploadedFile("p.json", b"{}")}
    )
    assert "no plan" in bad.json()["sentence"]
    stale = planner.client.post(
        f"/api/plans/{plan.pk}/import?revision=1",
        {
            "file": SimpleUploadedFile(
                "p.json", planner.call("get", f"/plans/{plan.pk}/export.json").content
            )
        },
    )
    assert stale.status_code == 409
    assert documents.head(plan).number == 2


def test_the_tool_list_is_a_file(planner, plan):
    answer = planner.call("get", f"/plans/{plan.pk}/tools.csv")
    assert answer.headers["Content-Disposition"] == 'attachment; filename="J-1.tools.csv"'
    assert answer.content.decode().splitlines()[0].startswith("machine,pocket,T,H,D,tool")
