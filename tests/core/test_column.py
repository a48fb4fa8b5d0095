"""What stands beside the spindle: a column, a door; by hand, by brute force, and the way out."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from machining.facts.beside_spindle import carried_into
from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.findings.travel.turned_holding import a_quarter, half_round
from machining.geometry.kernel import examine
from machining.geometry.laid import laid
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.at import Spots
from machining.plan.document import Orientation
from machining.plan.in_vise import Holding
from machining.plan.zero import From, Zero
from machining.world.geometry import from_examined
from machining.world.machine import Obstacle
from machining.world.part import Part
from machining.world.stock.block import sawn_block
from shop.demo import small_mill

from .build import FACE, LIBRARY, OUTSIDE, ROUGH, after_fix, answer, finding, ids, plan, setup
from .conftest import DEMO as BLOCK

ROOM = LIBRARY.settings.side_margin_mm


def with_obstacles(*obstacles, **travel):
    heron = LIBRARY.machines["heron"]
    carrier = heron.carriers[0]
    carrier = carrier.model_copy(update={"travel": carrier.travel.model_copy(update=travel)})
    found = heron.model_copy(update={"obstacles": obstacles, "carriers": (carrier,)})
    return replace(LIBRARY, machines={**LIBRARY.machines, "heron": found})


def column(from_mm, towards="y+", wide_mm=400.0, middle_mm=0.0):
    return Obstacle(
        name="column", towards=towards, from_mm=from_mm, wide_mm=wide_mm, middle_mm=middle_mm
    )


def told(of, library):
    return finding(of, "travel.column", library)


def test_a_jaw_is_carried_into_the_column_by_hand():
    """Stock 54 across Y, a jaw 16 thick behind it: 43 behind the middle. The tool goes to its
    lowest Y; as far as the jaw is behind it then the column must be away, and 3 more.
    """
    of = plan(setups=(setup(FACE, ROUGH),))
    [_, rough] = walk(of, LIBRARY, Memo()).setups[0].operations
    behind = 27.0 + 16.0 - float(rough.path.bounds()[0][1])
    for short, meets in ((0.5, True), (-0.5, False)):
        library = with_obstacles(column(behind + ROOM - short))
        assert ("travel.column" in ids(of, library)) == meets
    found = told(of, with_obstacles(column(behind + ROOM - 2.0)))
    assert found.severity == "stop" and found.values["over"].value == pytest.approx(2.0, abs=0.01)


def test_what_stays_on_the_screw_meets_a_door_before_the_base_does():
    """The base begins behind the fixed jaw, 43 behind the middle, and the handle where that ends;
    the tool goes to its highest Y, and the door is as far before it.
    """
    of = plan(setups=(setup(FACE),))
    [face] = walk(of, LIBRARY, Memo()).setups[0].operations
    vise = LIBRARY.holdings["vise-125"]
    ends = vise.base_length_mm - 43.0 + float(face.path.bounds()[1][1]) + ROOM
    door = column(ends + 60.0, towards="y-")
    for handle, meets in ((0.0, False), (59.5, False), (60.5, True)):
        library = with_obstacles(door)
        has = vise.model_copy(update={"handle_mm": handle})
        library = replace(library, holdings={**library.holdings, "vise-125": has})
        assert ("travel.column" in ids(of, library)) == meets
    assert "handle of the vise" in in_words(told(of, library))


@pytest.mark.parametrize("seed", range(8))
def test_how_far_against_brute_force(seed):
    """The tip's way in 200 points a move, every corner of what stands, a door or a column."""
    rng = np.random.default_rng(seed)
    towards = ("y+", "y-", "x+", "x-")[seed % 4]
    obstacle = column(float(rng.uniform(20, 90)), towards, 40.0, float(rng.uniform(-60, 60)))
    at = Spots(at_mm=((0.0, 0.0), (float(rng.uniform(150, 200)), float(rng.uniform(-60, 60)))))
    of = plan(setups=(setup(FACE, ROUGH, at=at),))
    library = with_obstacles(obstacle)
    for op in walk(of, library, Memo()).setups[0].operations:
        found = carried_into(op, Memo(), 0.0)
        assert (0.0 if found is None else found.over_mm) == pytest.approx(
            by_points(op, obstacle), abs=0.3
        )


def by_points(op, obstacle):
    axis, sign = "xy".index(obstacle.towards[0]), 1.0 if obstacle.towards[1] == "+" else -1.0
    station, worst = op.station, 0.0
    spots = [station.on_place(np.zeros(3), k)[:2] for k in (0, 1)]
    bodies = [body.region.bounds for body in station.stand.bodies if body.role != "parallel"]
    bodies.append((*station.lie.stock_low[:2], *station.lie.stock_high[:2]))
    for here in spots:
        for leg in op.path.legs:
            for a, b in zip(leg.points, leg.points[1:], strict=False):
                tip = np.linspace(a[:2], b[:2], 200) + here
                for there in spots:
                    for west, south, east, north in bodies:
                        low, high = np.array([west, south]) + there, np.array([east, north]) + there
                        across = 1 - axis
                        beside = (
                            low[across] - tip[:, across]
                            <= obstacle.middle_mm + obstacle.wide_mm / 2.0
                        ) & (
                            high[across] - tip[:, across]
                            >= obstacle.middle_mm - obstacle.wide_mm / 2.0
                        )
                        far = high[axis] if sign > 0 else low[axis]
                        over = sign * (far - tip[beside, axis]) - obstacle.from_mm
                        worst = max(worst, float(over.max(initial=0.0)))
    return worst


LONG = Part(size_mm=(152.0, 60.0, 30.0))


def small_mill_plan():
    geometry = from_examined("block", laid(examine(BLOCK.read_bytes())))
    return small_mill.draft(geometry, "block"), replace(LIBRARY, geometries={"block": geometry})


def test_the_demo_s_second_holding_meets_the_column_one_way_and_not_the_other():
    of, library = small_mill_plan()
    stops = [f for f in answer(of, library).findings if f.severity == "stop"]
    assert {f.id for f in stops} == {"travel.column"}
    half = next(fix for fix in stops[0].fixes if "half round" in fix.label)
    turned = apply(of, list(half.edits))
    assert not [f for f in answer(turned, library).findings if f.severity == "stop"]
    before, now = (each.setups[1].stations[0] for each in (of, turned))
    assert (before.holding.stop, now.holding.stop) == ("low", "high")  # the same end of the part


@pytest.mark.parametrize("fixed", ["+y", "-y", "+x", "-x"])
def test_turned_with_its_vise_a_part_is_held_and_cut_as_before(fixed):
    """Zero and stop stay where they are on the part, whichever way both are turned."""
    holding = Holding(vise="vise-125", fixed=fixed, grip_depth_mm=6.0, torque_nm=40.0, stop="low")
    stop, jaw = From(of="stop", off_mm=7.0), From(of="jaw", off_mm=-3.0)
    x, y = (stop, jaw) if fixed[1] == "y" else (jaw, stop)
    of = plan(setups=(setup(FACE, holding=holding, zero=Zero(x=x, y=y)),))
    op = walk(of, LIBRARY, Memo()).operations()[0]
    ways = [*half_round(op), *a_quarter(op)]
    assert len(ways) == 3
    for way in ways:
        after = walk(apply(of, list(way.edits)), LIBRARY, Memo()).operations()[0]
        there, here = (each.lie.pose.inverse().apply(np.zeros(3)) for each in (after, op))
        assert there == pytest.approx(here, abs=1e-9)
        stops = [
            each.lie.pose.inverse().apply(np.array([*_middle(each), 0.0]))[:2]
            for each in (op, after)
        ]
        assert stops[1] == pytest.approx(stops[0], abs=1e-6)


def _middle(op):
    (body,) = op.station.stand.of("stop")
    west, south, east, north = body.region.bounds
    return (west + east) / 2.0, (south + north) / 2.0


@pytest.mark.parametrize(
    ("travel", "from_mm", "id"), [(190.0, 400.0, "travel.axis"), (260.0, 150.0, "travel.column")]
)
def test_a_vise_across_the_short_way_is_turned(travel, from_mm, id):
    """A part 152 long along Y: out of 190 of travel, or in the column; a quarter turned it
    fits.
    """
    library = with_obstacles(column(from_mm), y=travel)
    across = plan(
        setups=(
            setup(
                FACE,
                ROUGH,
                OUTSIDE,
                orientation=Orientation(up="+z", turn=90),
                holding=Holding(vise="vise-125", fixed="-x", grip_depth_mm=6.0, torque_nm=40.0),
            ),
        ),
        part=LONG,
        stock=sawn_block(x=(2, 2), y=(2, 2), z=(8, 1)),
    )
    found = finding(across, id, library)
    turns = [k for k, fix in enumerate(found.fixes) if fix.label.startswith("Turn vise")]
    ways = [after_fix(across, found, k) for k in turns]
    wrong = {"travel.axis", "travel.column"}
    turned = next(each for each in ways if not wrong & ids(each, library))
    station = turned.setups[0].stations[0]
    assert station.orientation.turn in (0, 180) and station.holding.fixed[1] == "y"
