"""The plan document and what can be done to it."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError

from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan
from machining.plan.edit import (
    AddOperation,
    AddSetup,
    Change,
    DuplicateOperation,
    Edit,
    FlipStation,
    LoadTool,
    MoveOperation,
    MoveSetup,
    RemoveOperation,
    RemoveSetup,
    SetPart,
    SetStock,
    UnloadTool,
)
from machining.plan.loading import loaded
from machining.plan.numbering import operation_numbers, setup_numbers
from machining.plan.operation import Drill, RoughOutside
from machining.plan.places import OnFeatures, Outside
from machining.plan.touches import meet, touches
from machining.world.part import Part
from machining.world.stock.tube import Tube
from machining.world.tool import Tool

from .build import (
    DRILL,
    FACE,
    GOOD,
    LIBRARY,
    POCKET,
    STOCK,
    TAP,
    changed,
    good,
    plan,
    setup,
    tool,
    turned_over,
)

EDITS: TypeAdapter[list[Edit]] = TypeAdapter(list[Edit])


def order(of: Plan, id: str = "s1") -> list[str]:
    return [op.id for op in of.setup(id).operations]


def two_setups() -> Plan:
    return plan(setups=(setup(*GOOD), turned_over()))


def test_numbers_are_positions():
    numbers = operation_numbers(two_setups())
    assert (numbers["face"], numbers["rough"], numbers["tap"]) == (10, 20, 70)
    assert setup_numbers(two_setups()) == {"s1": 1, "s2": 2}


def test_moving_reorders_and_crosses_setups():
    moved = apply(two_setups(), [MoveOperation(operation="tap", setup="s1", index=0)])
    assert order(moved)[0] == "tap"
    crossed = apply(two_setups(), [MoveOperation(operation="drill", setup="s2", index=5)])
    assert "drill" not in order(crossed)
    assert order(crossed, "s2") == ["drill"]
    assert crossed.setup_of("drill").id == "s2"


def test_what_is_pinned_stays_and_says_why():
    pinned = changed(
        good(), "operation:drill", pinned=True, reason="the pin of the fixture goes in here."
    )
    with pytest.raises(
        EditRefused, match=r"keeps its place: the pin of the fixture goes in here\. Unpin it"
    ):
        apply(pinned, [MoveOperation(operation="drill", setup="s1", index=0)])
    # others move around it
    assert order(apply(pinned, [MoveOperation(operation="tap", setup="s1", index=0)]))[0] == "tap"
    loose = changed(pinned, "operation:drill", pinned=False)
    assert (
        order(apply(loose, [MoveOperation(operation="drill", setup="s1", index=0)]))[0] == "drill"
    )


def test_moving_to_another_machine_leaves_the_tool_behind():
    other = plan(setups=(setup(*GOOD), turned_over(machine="dunlin", holding=None)))
    assert (
        apply(other, [MoveOperation(operation="drill", setup="s2", index=0)])
        .setup("s2")
        .operations[0]
        .tool
        == ""
    )


def test_duplicating_puts_the_copy_right_after():
    copied = apply(good(), [DuplicateOperation(operation="rough", new_id="rough2")])
    assert order(copied)[:3] == ["face", "rough", "rough2"]
    assert (
        copied.setups[0].operations[2].model_copy(update={"id": "rough"})
        == copied.setups[0].operations[1]
    )


def test_setups_come_go_move_and_turn_over():
    done = apply(
        good(),
        [
            AddSetup(setup=turned_over(), index=0),
            MoveSetup(setup="s2", index=1),
            FlipStation(station="st2", about="x"),
        ],
    )
    assert [s.id for s in done.setups] == ["s1", "s2"]
    assert done.setups[1].stations[0].orientation.up == "+z"
    assert [s.id for s in apply(done, [RemoveSetup(setup="s1")]).setups] == ["s2"]


def test_change_reaches_inside_and_checks():
    deeper = Change(on="operation:rough", fields={"on.depth_mm": 12.0, "rpm": 8000})
    done = apply(
        good(),
        [
            deeper,
            Change(on="station:st1", fields={"holding.torque_nm": 30.0}),
            Change(on="tool:t2", fields={"stick_out_mm": 36.0}),
        ],
    )
    rough = done.setups[0].operations[1]
    assert isinstance(rough, RoughOutside)
    assert isinstance(rough.on, Outside)
    assert (rough.on.depth_mm, rough.rpm, done.tool("t2").stick_out_mm) == (12.0, 8000, 36.0)
    assert done.setups[0].stations[0].holding is not None
    assert done.setups[0].stations[0].holding.torque_nm == 30.0


REFUSED: list[tuple[Edit, str, str]] = [
    (
        Change(on="operation:rough", fields={"step_down_mm": -1}),
        "step_down_mm",
        "Step down is -1: it must be at least 0.01",
    ),
    (
        Change(on="operation:rough", fields={"step_down_mm": float("nan")}),
        "step_down_mm",
        "finite number",
    ),
    (Change(on="operation:rough", fields={"step_down_mm": "deep"}), "step_down_mm", "valid number"),
    (Change(on="operation:rough", fields={"wobble": 1}), "wobble", "there is no such field"),
    (Change(on="operation:rough", fields={"on": {"kind": "top"}}), "on", "must be outside"),
    (Change(on="operation:rough", fields={"id": "x"}), "id", "stays for good"),
    (Change(on="operation:rough", fields={"deep.down": 1}), "deep.down", "there is no such field"),
    (Change(on="operation:rough", fields={"on.deep.down": 1}), "Field", "doesn't exist"),
    (
        Change(on="operation:rough", fields={"kept": [["cut.peck", "because"]]}),
        "kept",
        "an edit of its own",
    ),
    (Change(on="operation:rough", fields={"kind": "face"}), "kind", "an edit of its own"),
    (Change(on="plan", fields={"setups": []}), "setups", "an edit of its own"),
    (Change(on="plan", fields={"tools": []}), "tools", "an edit of its own"),
    (Change(on="plan", fields={"part": {}}), "part", "an edit of its own"),
    (Change(on="plan", fields={"part.typed": []}), "part.typed", "an edit of its own"),
    (Change(on="setup:s1", fields={"operations": []}), "operations", "an edit of its own"),
    (
        Change(on="setup:s1", fields={"operations": [op.model_dump() for op in reversed(GOOD)]}),
        "operations",
        "an edit of its own",
    ),
    (Change(on="tool:t3", fields={"machine": "dunlin"}), "machine", "an edit of its own"),
    (Change(on="operation:nobody", fields={"rpm": 1}), "Operation", "'nobody' doesn't exist"),
    (Change(on="operation:rough", fields={"tool": "t99"}), "Tool", "'t99' doesn't exist"),
    (RemoveSetup(setup="s9"), "Setup", "'s9' doesn't exist"),
    (UnloadTool(tool="t3"), "tool", "2 operations use this tool"),
    (
        LoadTool(tool=tool(3, "end-mill-6-z3").model_copy(update={"id": "new"})),
        "number",
        "T3 on heron is taken",
    ),
    (LoadTool(tool=tool(33, "end-mill-6-z3").model_copy(update={"id": "t3"})), "id", "only once"),
    (AddOperation(setup="s1", operation=DRILL), "id", "only once"),
    (
        AddOperation(
            setup="s1", operation=Drill(id="d2", tool="t99", on=OnFeatures(ids=("hole0",)))
        ),
        "Tool",
        "doesn't exist",
    ),
]


@pytest.mark.parametrize(
    ("edit", "field", "words"), REFUSED, ids=lambda v: v if isinstance(v, str) else type(v).__name__
)
def test_an_impossible_edit_is_refused_with_field_and_sentence(edit, field, words):
    with pytest.raises(EditRefused) as refused:
        apply(good(), [Change(on="plan", fields={"quantity": 3}), edit])
    assert refused.value.index == 1
    assert words in str(refused.value)
    assert refused.value.field == field


def test_a_list_of_edits_is_all_or_none():
    before = good()
    with pytest.raises(EditRefused):
        apply(before, [RemoveOperation(operation="face"), RemoveOperation(operation="face")])
    assert order(before)[0] == "face"


def test_records_refuse_what_cannot_be():
    with pytest.raises(ValidationError, match="it must be under the tube's Ø, 20"):
        Tube(diameter_mm=20, bore_mm=20)
    with pytest.raises(ValidationError, match="over 0 and up to 5000"):
        Part(size_mm=(10, 0, 10))
    end_mill = LIBRARY.tools["end-mill-12-z3"].model_dump()
    for fields, words in (
        ({"corner_radius_mm": 7}, "up to half the diameter"),
        ({"flute_length_mm": 200, "usable_length_mm": 200}, "up to the overall length"),
        ({"usable_length_mm": 5}, "at least the flute length"),
        ({"tip_diameter_mm": 13}, "up to the diameter"),
        ({"kind": "tap"}, "needs its pitch"),
        ({"kind": "drill"}, "needs its point angle"),
        ({"kind": "chamfer_mill"}, "needs its angle"),
    ):
        with pytest.raises(ValidationError, match=words):
            Tool(**{**end_mill, **fields})


def test_edits_travel_as_json_and_back():
    edits: list[Edit] = [
        SetPart(part=Part()),
        SetStock(stock=STOCK),
        AddSetup(setup=setup(*GOOD, id="new")),
        FlipStation(station="st1", about="y"),
        MoveOperation(operation="tap", setup="s1", index=0),
        AddOperation(setup="s1", operation=POCKET),
        Change(on="plan", fields={"quantity": 4}),
        LoadTool(tool=tool(9, "reamer-6")),
        UnloadTool(tool="t9"),
    ]
    assert EDITS.validate_json(EDITS.dump_json(edits)) == edits


def test_two_peoples_edits_meet_or_pass():
    slower = Change(on="operation:rough", fields={"feed_mm_min": 2000.0})
    faster = Change(on="operation:rough", fields={"feed_mm_min": 3000.0})
    deeper = Change(on="operation:rough", fields={"step_down_mm": 5.0})
    gone = RemoveOperation(operation="rough")
    assert touches(slower) == {"operation:rough.feed_mm_min"}
    assert meet([slower], [faster])
    assert meet([slower], [gone])
    assert not meet([slower], [deeper])
    assert not meet([Change(on="operation:face", fields={"rpm": 100})], [gone])
    assert meet([SetStock(stock=STOCK)], [SetStock(stock=STOCK)])


def test_a_tool_is_loaded_under_the_first_free_number():
    new = loaded(good(), "heron", LIBRARY.assemblies["reamer-6"])
    assert (new.number, new.pocket, new.h, new.stick_out_mm) == (7, 7, 7, 50)
    again = loaded(apply(good(), [LoadTool(tool=new)]), "heron", LIBRARY.assemblies["reamer-6"], 44)
    assert (again.number, again.stick_out_mm) == (8, 44)
    assert again.id != new.id


OPERATIONS = st.sampled_from([op.id for op in GOOD])


@st.composite
def an_edit(draw) -> Edit:
    operation = draw(OPERATIONS)
    return draw(
        st.sampled_from(
            [
                MoveOperation(
                    operation=operation,
                    setup=draw(st.sampled_from(["s1", "s2"])),
                    index=draw(st.integers(0, 9)),
                ),
                FlipStation(station="st2", about=draw(st.sampled_from(["x", "y", "z"]))),
                Change(on=f"operation:{operation}", fields={"rpm": draw(st.floats(100, 12000))}),
                Change(on="tool:t3", fields={"stick_out_mm": draw(st.floats(10, 60))}),
                RemoveOperation(operation=operation),
            ]
        )
    )


@given(st.lists(an_edit(), max_size=12))
def test_property_any_edits_leave_a_sound_plan_or_are_refused(edits):
    at = two_setups()
    for each in edits:
        try:
            at = apply(at, [each])
        except EditRefused as refused:
            assert str(refused).endswith(".")
    assert Plan.model_validate_json(at.model_dump_json()) == at
    everything = [op.id for s in at.setups for op in s.operations]
    assert len(everything) == len(set(everything))


def test_the_same_order_comes_back_after_there_and_back():
    there = apply(good(), [MoveOperation(operation="face", setup="s1", index=4)])
    assert apply(there, [MoveOperation(operation="face", setup="s1", index=0)]) == good()
    assert (FACE.id, TAP.id) == (order(good())[0], order(good())[-1])
