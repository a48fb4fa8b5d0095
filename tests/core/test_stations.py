"""Several stations of a setup and several positions of a station, by hand."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path

import pytest
from pydantic import ValidationError

from machining.cli import main
from machining.evaluate import evaluate
from machining.exchange import plan_json
from machining.facts.route import walk
from machining.facts.times import cycles, parts
from machining.memo import Memo
from machining.plan.apply import EditRefused, apply
from machining.plan.at import Grid, One, Row, Spots
from machining.plan.document import Orientation, Plan, Setup, Station
from machining.plan.edit import (
    AddSetup,
    Change,
    FlipStation,
    Keep,
    MoveSetup,
    PutStation,
    RemoveSetup,
    RemoveStation,
)
from machining.plan.trade import AddStation, Load
from machining.plan.upgrades import up_to_date
from machining.plan.zero import in_the_middle
from machining.ways.offers import offers
from machining.ways.trade import structural
from shop.demo import latch

from .build import (
    DRILL,
    FACE,
    GOOD,
    LIBRARY,
    MEMO,
    OUTSIDE,
    ROUGH,
    VISE,
    after_fix,
    answer,
    finding,
    good,
    ids,
    on_machine,
    plan,
    rig,
    turned_over,
)
from .build import setup as one_station

FORMATS = Path(__file__).parent.parent / "formats"


def at(op, station, **fields):
    return op.model_copy(update={"station": station, **fields})


def both_sides(**fields) -> Plan:
    """First and second side in one load: st2 takes what st1 leaves."""
    first = Station(id="st1", holding=VISE, at=fields.pop("first_at", None))
    second = Station(
        id="st2",
        takes="st1",
        orientation=Orientation(up="-z"),
        holding=VISE,
        zero=in_the_middle("part"),
        work_offset="G55",
        at=fields.pop("second_at", None),
    )
    operations = (
        at(FACE, "st1"),
        at(FACE, "st2", id="face2", step_down_mm=8.0, step_over_mm=20.0),
        at(ROUGH, "st1"),
        at(OUTSIDE, "st1"),
        at(DRILL, "st1"),
    )
    made = Setup(
        id="s1", machine="heron", stations=(first, second), operations=operations, **fields
    )
    return plan(setups=(made,))


def after(of: Plan, *edits) -> Plan:
    return apply(of, structural(of, LIBRARY, MEMO, edits))


# -- what goes through them


def test_the_second_station_gets_what_the_first_leaves_whatever_stands_between():
    facts = walk(both_sides(), LIBRARY, Memo())
    first, second = facts.stations
    assert second.arrives.volume() == pytest.approx(first.leaves.volume(), rel=1e-9)
    assert second.arrives.volume() < first.arrives.volume()
    assert [op.id for op in facts.setups[0].operations] == [
        "face",
        "face2",
        "rough",
        "outside",
        "drill",
    ]
    assert [op.id for op in second.operations] == ["face2"]
    # eight are gripped below, faced off from the other side
    assert second.lie.stock_high[2] == pytest.approx(8.0)


def test_one_setup_answers_what_two_of_one_station_each_answer():
    """But for what stands beside it, and the tools' order."""
    apart = plan(
        setups=(
            one_station(FACE, ROUGH, OUTSIDE, DRILL),
            turned_over(
                FACE.model_copy(update={"id": "face2", "step_down_mm": 8.0, "step_over_mm": 20.0})
            ),
        )
    )
    together, alone = answer(both_sides()), answer(apart)
    here = {op.id: op for s in together.setups for op in s.operations}
    for setup in alone.setups:
        for op in setup.operations:
            assert here[op.id].time_s == pytest.approx(op.time_s)
            assert here[op.id].removed_mm3 == pytest.approx(op.removed_mm3, rel=1e-6)
            assert here[op.id].answers["cut"].state == op.answers["cut"].state
    assert together.cutting_s == pytest.approx(alone.cutting_s)
    assert (alone.handling_s, together.handling_s) == (2 * 55.0, 2 * 55.0 - 15.0)  # one door


def test_two_that_nobody_placed_stand_in_one_another():
    found = finding(both_sides(), "travel.neighbour")
    assert (found.severity, found.station) == ("stop", "st2")
    fixed = after_fix(both_sides(), found)
    assert "travel.neighbour" not in ids(fixed)
    assert fixed.station("st2").at != both_sides().station("st2").at


def test_what_nobody_holds_is_not_answered_beside_another():
    loose = apply(both_sides(), [Change(on="station:st2", fields={"holding": None})])
    seen = answer(loose)
    words = "Nothing says yet how the part of station 2 is held, which stands beside it."
    assert seen.setups[0].stations[0].unknown["reach"] == words
    assert not seen.ready


# -- how often


def test_a_part_leaves_each_cycle_and_the_first_one_needs_two():
    setup = both_sides().setups[0]
    assert (parts(setup), cycles(setup, 10)) == (1, 11)
    four = both_sides(
        first_at=Row(count=4, pitch_mm=120), second_at=Row(count=4, pitch_mm=120, at_mm=(0, 150))
    ).setups[0]
    assert (parts(four), cycles(four, 10)) == (4, 4)  # three for ten parts, and one to fill
    assert cycles(one_station(FACE), 10) == 10
    uneven = both_sides(second_at=Row(count=4, pitch_mm=120)).setups[0]
    assert parts(uneven) == 1  # one comes in a cycle, so one goes out
    seen = answer(both_sides())
    running = 11 * seen.setups[0].cycle_s
    edges = seen.figures["plan.edges"].value
    assert seen.batch_s == pytest.approx(running + 10 * seen.handling_s + seen.build_s + edges)


def row(count: int, order: str) -> Plan:
    """Two operations by two tools at each position."""
    made = one_station(FACE, ROUGH, order=order, at=Row(count=count, pitch_mm=120.0))
    return plan(setups=(made,))


@pytest.mark.parametrize(("order", "changes"), [("by tool", 2), ("by part", 6)])
def test_by_part_every_part_waits_for_every_tool(order, changes):
    alone, three = answer(row(1, order)).setups[0], answer(row(3, order)).setups[0]
    chip_to_chip = rig("heron").carrier.chip_to_chip_s
    assert three.changes_s == pytest.approx(changes * chip_to_chip)
    moves = sum(each.seconds for each in three.events if each.kind == "move")
    assert (moves > 0) == (order == "by tool")  # by part every place begins with a tool change
    assert three.cycle_s == pytest.approx(
        changes * chip_to_chip + 3 * (alone.cycle_s - alone.changes_s) + moves
    )
    assert (three.parts, alone.parts) == (3, 1)
    assert [op.times for op in three.operations] == [3, 3]
    assert answer(row(3, order)).one_part_s < answer(row(1, "by tool")).one_part_s + 1e-9


def test_the_farthest_position_decides_about_travel():
    """A row of 3 at 120: its ends stand 120 from the middle, as one there would."""
    alone, far = (
        plan(setups=(one_station(FACE),)),
        plan(setups=(one_station(FACE, at=One(at_mm=(120, 0))),)),
    )
    spare = [answer(each).figures["face.travel_x"].value for each in (alone, far)]
    assert spare[0] - spare[1] == pytest.approx(120.0)
    ends = answer(plan(setups=(one_station(FACE, at=Row(count=3, pitch_mm=120.0)),)))
    assert ends.figures["face.travel_x"].value == pytest.approx(spare[1])


def test_places_of_positions():
    assert Row(count=3, pitch_mm=100, along="y").spots == ((0, -100), (0, 0), (0, 100))
    grid = Grid(columns=2, rows=2, column_pitch_mm=100, row_pitch_mm=80, at_mm=(5, 5))
    assert grid.spots == ((-45, -35), (55, -35), (-45, 45), (55, 45))
    assert Spots(at_mm=((1, 2), (3, 4))).spots == ((1, 2), (3, 4))
    assert Station(id="a").positions == 1


# -- what is refused


def taking(**takes) -> Plan:
    stations = tuple(Station(id=id, takes=of) for id, of in takes.items())
    return Plan(setups=(Setup(id="s", machine="heron", stations=stations),))


@pytest.mark.parametrize(
    ("takes", "words"),
    [
        ({"a": "b", "b": "a"}, "a from b from a is a ring: none comes first"),
        ({"a": "a"}, "a from a is a ring"),
        ({"a": "blank", "b": "gone"}, "takes is 'gone'; there is no such station"),
        ({"a": "blank", "b": "a", "c": "a"}, "takes is 'a'; b takes it already: a part goes one"),
        ({"blank": "blank"}, "it must be another name for a station"),
    ],
)
def test_what_can_not_be_taken_is_a_sentence(takes, words):
    with pytest.raises(ValidationError, match=words):
        taking(**takes)


def test_an_operation_says_at_which_of_several_stations():
    stations = (Station(id="a"), Station(id="b", takes="a"))
    for station, words in (("", "station is empty at face"), ("c", "station is 'c'")):
        with pytest.raises(ValidationError, match=f"{words}.*it must be one of its setup: a, b"):
            Setup(id="s", machine="heron", stations=stations, operations=(at(FACE, station),))
    refused = json.loads(plan_json.write(both_sides(), LIBRARY))
    refused["plan"]["setups"][0]["stations"][0]["takes"] = "st2"
    with pytest.raises(plan_json.NotAPlan, match="is a ring"):
        plan_json.read(json.dumps(refused).encode())


# -- edits


def test_a_setup_keeps_its_way_when_others_come_and_go():
    two = apply(good(), [AddSetup(setup=turned_over(FACE.model_copy(update={"id": "f2"})))])
    assert [s.takes for s in two.stations] == ["blank", "st1"]
    turned = apply(two, [MoveSetup(setup="s2", index=0)])
    assert [(s.id, s.takes) for s in turned.stations] == [("st2", "blank"), ("st1", "st2")]
    assert [s.takes for s in apply(two, [RemoveSetup(setup="s1")]).stations] == ["blank"]


def test_a_station_between_two_others_is_on_the_way_of_the_part():
    two = apply(good(), [AddSetup(setup=turned_over(FACE.model_copy(update={"id": "f2"})))])
    between = after(two, AddStation(setup="s1", id="b"))
    assert {s.id: s.takes for s in between.stations} == {"st1": "blank", "b": "st1", "st2": "b"}
    third = one_station(id="s3", takes="b")
    assert apply(between, [AddSetup(setup=third, index=1)]).station("st2").takes == "st3"
    back = apply(between, [RemoveStation(station="b")])
    assert back.station("st2").takes == "st1"


def test_a_second_station_makes_operations_name_theirs():
    second = Station(id="b", takes="st1")
    two = apply(good(), [PutStation(setup="s1", station=second)])
    assert {op.station for op in two.setups[0].operations} == {"st1"}
    one = apply(two, [RemoveStation(station="st1")])
    assert (one.setups[0].operations, one.stations[0].takes) == ((), "blank")
    with pytest.raises(EditRefused, match="take the setup out instead"):
        apply(one, [RemoveStation(station="b")])
    flipped = apply(two, [FlipStation(station="b", about="x")])
    assert flipped.station("b").orientation.up == "-z"
    assert flipped.station("st1") == two.station("st1")
    with pytest.raises(EditRefused, match="Station 'x' doesn't exist"):
        apply(two, [FlipStation(station="x", about="x")])


def test_a_planner_adds_the_other_side_beside_it_and_loads_four():
    """Vises 125 wide, 15 between them: two beside each other, then one and four in one row."""
    beside = after(good(), AddStation(setup="s1", id="b"))
    new, first = beside.station("b"), beside.station("st1")
    assert (new.takes, new.orientation.up, new.work_offset) == ("st1", "-z", "G55")
    assert new.holding == good().stations[0].holding and new.zero == in_the_middle("part")
    assert "travel.neighbour" not in ids(beside)
    assert new.at.spots[0][0] - first.at.spots[0][0] == 140.0
    more = after(beside, Load(station="b", parts=4))
    loaded, alone = more.station("b").at, more.station("st1").at
    assert (loaded.count, loaded.pitch_mm, loaded.along) == (4, 140.0, "x")
    assert loaded.spots[0][0] - alone.spots[0][0] == 140.0
    assert (alone.spots[0][0], loaded.spots[-1][0]) == (-280.0, 280.0)
    assert "travel.neighbour" not in ids(more)
    again = after(more, Load(station="b", parts=1))
    assert again.station("b").positions == 1


@pytest.mark.parametrize(("parts", "kind"), [(5, "row"), (7, "spots"), (8, "grid"), (1, "one")])
def test_a_load_fills_the_table_row_by_row(parts, kind):
    """Five vises stand along 800 mm of travel; one 150 long stands three times along 500."""
    small = LIBRARY.holdings["vise-125"].model_copy(update={"base_length_mm": 150.0})
    library = replace(LIBRARY, holdings={**LIBRARY.holdings, "vise-125": small})
    [*edits] = structural(good(), library, Memo(), [Load(station="st1", parts=parts)])
    made = apply(good(), edits)
    at = made.stations[0].at
    assert (at.kind if at else None) == kind and made.stations[0].positions == parts
    told = {f.id for f in evaluate(made, library, Memo()).findings}
    assert not told & {"travel.neighbour", "travel.axis", "travel.table-size"}


def test_a_load_in_long_vises_stays_where_the_axes_bring_the_tools():
    """Dunlin goes 100 mm each way along Y, its tools 35 from the middle of the part: the vises, on
    the middle of the table by 147, stand 65 off.
    """
    of = on_machine(good(), "dunlin")
    two = after(of, Load(station="st1", parts=2))
    assert two.stations[0].at.at_mm == (0.0, 65.0)
    assert "travel.axis" not in ids(of) | ids(two)


def test_what_is_offered_at_a_station_works_there():
    facts = walk(both_sides(), LIBRARY, Memo())
    found = offers(facts.station("st2"), facts, lambda: "new")
    assert found
    for offer in found:
        grown = apply(both_sides(), offer.edits)
        assert grown.setups[0].operation("new").station == "st2"


def test_what_is_kept_of_how_a_part_is_held_stays_with_its_station():
    """5.5 deep it would stand on parallels that the shop has not."""
    odd = apply(both_sides(), [Change(on="station:st2", fields={"holding.grip_depth_mm": 5.5})])
    found = next(f for f in answer(odd).findings if f.id == "hold.parallels")
    assert (found.setup, found.station, found.key) == ("s1", "st2", "hold.parallels@st2")
    kept = apply(odd, [Keep(on="station:st2", finding="hold.parallels", words="shimmed up")])
    again = [f for f in answer(kept).findings if f.id == "hold.parallels"]
    assert [(f.station, f.kept) for f in again] == [("st2", "shimmed up")]
    for fix in found.fixes:
        assert {edit.on for edit in fix.edits} == {"station:st2"}
    other = apply(odd, [Keep(on="station:st1", finding="hold.parallels", words="not this one")])
    assert [f.kept for f in answer(other).findings if f.id == "hold.parallels"] == [""]


# -- plans of format 3


def test_a_setup_of_format_3_becomes_one_with_one_station():
    raw = json.loads((FORMATS / "plan-3.json").read_text())
    read = Plan.model_validate(up_to_date(raw))
    assert [(s.id, s.takes) for s in read.stations] == [("st1", "blank"), ("st2", "st1")]
    assert dict(read.setups[0].kept) == {"cut.range-change": "stops are written"}
    assert dict(read.stations[0].kept) == {"hold.grip-shallow": "held before like this"}
    then = {"outside": {"width_mm": 0.2}}  # when it was stored
    good = tuple(each.model_copy(update=then.get(each.id, {})) for each in GOOD)
    assert read.setups[0].operations == good
    taken = {**raw, "setups": [{**raw["setups"][0], "id": "st1"}]}
    assert Plan.model_validate(up_to_date(taken)).stations[0].id == "st2"


# -- a job of the shop from the command line


def test_a_load_of_two_stations_is_answered_from_the_command_line(tmp_path, capsys):
    file = tmp_path / "tw-204.json"
    file.write_bytes(plan_json.write(latch.draft(), LIBRARY))
    assert main(["evaluate", str(file)]) == 0
    told = capsys.readouterr().out
    assert "Setup 1  Top up, then Bottom up" in told and "4 parts" in told
    assert "× 4" in told
    assert "cut.life" in told and "stop" not in told
    assert main(["evaluate", str(file), "--json"]) == 0
    raw = json.loads(capsys.readouterr().out)
    seen = evaluate(latch.draft(), LIBRARY)
    assert raw["batch_s"] == pytest.approx(seen.batch_s)
    assert cycles(latch.draft().setups[0], 120) == 31
    assert [station["positions"] for station in raw["setups"][0]["stations"]] == [4, 4]
