"""The library and the jobs: made, changed, protected."""

from __future__ import annotations

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from machining.data import seed
from shop.library.snapshot import snapshot


def item(caller, kind, key):
    return next(i for i in caller.get("/library")["items"] if (i["kind"], i["key"]) == (kind, key))


def test_everything_seeded_is_listed(planner):
    items = planner.get("/library")["items"]
    kinds = {i["kind"] for i in items}
    assert kinds == {
        "materials",
        "tools",
        "holders",
        "assemblies",
        "machines",
        "holdings",
        "clamps",
        "settings",
    }
    assert snapshot().key == seed().key


def test_an_item_is_added_changed_and_removed(planner):
    like = item(planner, "tools", "end-mill-8-z3")["data"]
    made = planner.put(
        "/library/tools/end-mill-9-z3",
        {"data": {**like, "name": "end mill 9 z3", "diameter_mm": 9.0}, "revision": 0},
    )
    assert (made["revision"], made["data"]["key"]) == (1, "end-mill-9-z3")
    changed = planner.put(
        "/library/tools/end-mill-9-z3", {"data": {**made["data"], "flutes": 4}, "revision": 1}
    )
    assert changed["revision"] == 2
    assert snapshot().tools["end-mill-9-z3"].flutes == 4
    planner.delete("/library/tools/end-mill-9-z3")
    assert "end-mill-9-z3" not in snapshot().tools


@pytest.mark.parametrize(
    ("change", "field", "words"),
    [
        ({"flute_length_mm": 100.0}, "flute_length_mm", "up to the overall length"),
        ({"diameter_mm": -1}, "diameter_mm", "at least 0.05"),
        ({"diameter_mm": "wide"}, "diameter_mm", "number"),
        ({"flavour": "mint"}, "flavour", "no such field"),
        ({"name": ""}, "name", "at least 1 character"),
        ({"kind": "tap"}, "pitch_mm", "needs its pitch"),
    ],
)
def test_an_impossible_tool_is_refused_with_its_field(planner, change, field, words):
    like = item(planner, "tools", "end-mill-8-z3")
    answer = planner.put(
        "/library/tools/end-mill-8-z3",
        {"data": {**like["data"], **change}, "revision": like["revision"]},
        422,
    )
    assert answer["problems"][0]["field"] == field
    assert words in answer["sentence"]


def test_two_people_at_one_item(planner, approver):
    like = item(planner, "holdings", "vise-125")
    planner.put(
        "/library/holdings/vise-125", {"data": {**like["data"], "friction": 0.2}, "revision": 1}
    )
    answer = approver.put(
        "/library/holdings/vise-125",
        {"data": {**like["data"], "friction": 0.1}, "revision": 1},
        409,
    )
    assert answer["sentence"] == "planner changed vise-125 meanwhile. Look at it again."
    assert (
        approver.put("/library/holdings/vise-125", {"data": like["data"], "revision": 0}, 409)[
            "sentence"
        ]
        == "The key vise-125 is taken."
    )
    assert (
        approver.put("/library/holdings/gone", {"data": like["data"], "revision": 4}, 409)[
            "sentence"
        ]
        == "gone was removed by somebody else."
    )


def test_what_is_in_use_stays(planner, plan):
    assert (
        planner.delete("/library/machines/heron", 409)["sentence"]
        == "Heron is used by J-1; it can't be removed."
    )
    assert (
        "part of the assembly reamer-6"
        in planner.delete("/library/tools/reamer-6", 409)["sentence"]
    )
    assert (
        planner.delete("/library/tools/nothing", 404)["sentence"]
        == "nothing is not in the library."
    )
    assert planner.delete("/library/settings/shop", 409)["sentence"] == "The shop's settings stay."
    planner.delete("/library/assemblies/reamer-6")
    planner.delete("/library/tools/reamer-6")


def test_an_assembly_stands_on_what_there_is(planner):
    like = item(planner, "assemblies", "reamer-6")["data"]
    answer = planner.put(
        "/library/assemblies/reamer-6", {"data": {**like, "tool": "reamer-99"}, "revision": 1}, 422
    )
    assert answer["sentence"] == "The library has no tool 'reamer-99'."
    assert (
        planner.put("/library/rockets/a", {"data": {}, "revision": 0}, 404)["sentence"]
        == "The library has no 'rockets'."
    )


def test_shop_settings_change_the_answers(planner, plan):
    shop = item(planner, "settings", "shop")
    planner.put(
        "/library/settings/shop",
        {"data": {**shop["data"], "holding_factor": 15.0}, "revision": shop["revision"]},
    )
    assert snapshot().settings.holding_factor == 15.0
    bad = planner.put(
        "/library/settings/shop",
        {"data": {**shop["data"], "wear_factor": 0.5}, "revision": shop["revision"] + 1},
        422,
    )
    assert bad["problems"][0]["field"] == "wear_factor"


def test_words_carry_digits_units_formulas_and_schemas(planner):
    words = planner.get("/words")
    assert words["display"]["length"]["inch"]["digits"] == 3
    assert words["units"]["length"]["units"]["thou"] == pytest.approx(0.0254)
    assert words["drills"]["#21"] == 0.159
    assert (
        words["formulas"]["cutting.specific_force.specific_force"]["symbols"]
        == "kc = kc1.1·h^(−mc)"
    )
    assert "diameter_mm" in words["schemas"]["tools"]["properties"]


def test_a_job_is_made_with_an_empty_plan(planner):
    made = planner.post(
        "/jobs",
        {
            "number": " TW-900 ",
            "title": "Cleat",
            "revision": "A",
            "material": "c45",
            "quantity": 12,
            "due": "2027-01-31",
        },
        201,
    )
    assert (
        made["number"],
        made["material"],
        made["quantity"],
        made["due"],
        made["draft"],
        made["has_part"],
    ) == ("TW-900", "c45", 12, "2027-01-31", 1, False)
    assert planner.get("/jobs/TW-900")["title"] == "Cleat"
    plan = planner.get(f"/plans/{made['plan']}")
    assert plan["plan"]["material"] == "c45"


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"number": " ", "title": "x"}, "number"),
        ({"number": "A", "title": " "}, "title"),
        ({"number": "A", "title": "x", "material": "moon-cheese"}, "material"),
        ({"number": "A", "title": "x", "quantity": 0}, "quantity"),
        ({"number": "A", "title": "x", "due": "soon"}, "due"),
        ({"title": "x"}, "number"),
        ({"number": "A", "title": "x", "quantity": 1e9}, "quantity"),
    ],
)
def test_a_job_that_cannot_be_is_refused_with_its_field(planner, body, field):
    assert field in planner.post("/jobs", body, 422)["problems"][0]["field"]


def test_a_number_is_taken_once(planner, plan):
    assert (
        planner.post("/jobs", {"number": "J-1", "title": "again"}, 409)["sentence"]
        == "number: there is a job J-1 already."
    )


def test_a_job_s_own_data_change_without_touching_the_plan(planner, plan):
    changed = planner.patch(
        "/jobs/J-1", {"title": "New title", "due": "2027-03-01", "remark": "hot"}
    )
    assert (changed["title"], changed["due"], changed["draft"]) == ("New title", "2027-03-01", 2)
    assert planner.patch("/jobs/J-1", {"due": None})["due"] is None
    assert planner.patch("/jobs/J-1", {"title": "  "}, 422)["problems"][0]["field"] == "title"
    assert planner.get("/jobs/nope", 404)["sentence"] == "There is no job nope."
    assert planner.get("/plans/999", 404)["sentence"] == "This plan doesn't exist."


def table(caller, path: str, text: str):
    return caller.client.post(
        f"/api/library/tools.csv{path}", {"file": SimpleUploadedFile("tools.csv", text.encode())}
    )


def test_tools_go_out_and_come_back_as_a_table(planner):
    text = planner.call("get", "/library/tools.csv").content.decode()
    assert {line["does"] for line in table(planner, "/preview", text).json()} == {"same"}
    changed = text.replace("end mill 12 z3", "end mill 12 z3 (ground)")
    line = next(
        line for line in table(planner, "/preview", changed).json() if line["does"] == "changed"
    )
    assert (line["key"], line["changes"]) == (
        "end-mill-12-z3",
        [{"field": "name", "before": "end mill 12 z3", "after": "end mill 12 z3 (ground)"}],
    )
    assert snapshot().tools["end-mill-12-z3"].name == "end mill 12 z3"
    assert table(planner, "", changed).status_code == 200
    assert snapshot().tools["end-mill-12-z3"].name == "end mill 12 z3 (ground)"
    assert item(planner, "tools", "end-mill-12-z3")["revision"] == 2
    assert item(planner, "tools", "end-mill-8-z3")["revision"] == 1


def test_one_wrong_line_and_nothing_is_taken(planner):
    text = "key,DC\nend-mill-12-z3,11.9\nend-mill-8-z3,-8\n"
    assert [line["does"] for line in table(planner, "/preview", text).json()] == [
        "changed",
        "wrong",
    ]
    answer = table(planner, "", text)
    assert answer.status_code == 422
    assert answer.json()["sentence"].startswith("Line 3: ")
    assert answer.json()["sentence"].endswith("it must be at least 0.05. Nothing was taken.")
    assert snapshot().tools["end-mill-12-z3"].diameter_mm == 12.0


def test_a_table_that_is_none_is_told_and_an_operator_takes_nothing(planner, operator):
    assert "no column 'key'" in table(planner, "/preview", "a,b\n1,2\n").json()["sentence"]
    assert table(operator, "", "key,DC\nend-mill-12-z3,11\n").status_code == 403
    assert (
        table(planner, "", "key," + "x" * 2_100_000)
        .json()["sentence"]
        .startswith("It has 2.1 MB; up to 2 MB can be taken here.")
    )
