"""Values of a machine found again from times of a watch, and the program that is timed."""

from __future__ import annotations

import re
from dataclasses import replace

import numpy as np
import pytest
from scipy.optimize import least_squares

from machining.exchange.timing_program import program
from machining.motion.measured import NAMES, Timed, Values, fit, names_of, runs_for
from machining.motion.timing import Drive, path_time, rapid_time
from machining.quantities.errors import Missing, OutOfRange
from machining.world.capability import usual_rig
from machining.world.machine import Machine

from .build import LIBRARY

RIG = usual_rig(LIBRARY.machines["heron"])
RUNS, LIKE, BEFORE = runs_for(RIG), Drive.of(RIG), Values.of(RIG)
HIDDEN = replace(
    BEFORE,
    rapid_x=24000.0,
    rapid_y=22000.0,
    rapid_z=15000.0,
    acceleration_x=2500.0,
    acceleration_y=2100.0,
    acceleration_z=1500.0,
    jerk_s=0.09,
    corner_mm=0.02,
    block_s=0.004,
    start_s=3.1,
    change_s=6.2,
    code_s=0.45,
)


def by_watch(values=HIDDEN, runs=RUNS, noise=0.2, seed=5):
    off = np.random.default_rng(seed).normal(0.0, noise, len(runs))
    return [
        Timed(each.id, round(each.seconds(values, LIKE) + by, 1))
        for each, by in zip(runs, off, strict=True)
    ]


@pytest.mark.parametrize("seed", [1, 2, 3])
def test_hidden_values_are_found_within_their_spread(seed):
    found = fit(BEFORE, by_watch(seed=seed), RUNS, LIKE)
    assert found.told == frozenset(names_of(RIG))
    for name in names_of(RIG):
        value = getattr(found.values, name)
        off = abs(np.log(value / getattr(HIDDEN, name)))
        assert off < 3.5 * found.spread[name], name
    assert max(abs(each) for each in found.off.values()) < 1.0


@pytest.mark.parametrize("feed", [3000.0, 12000.0])
def test_a_path_that_was_not_timed_is_told_within_five_per_cent(feed):
    """To and fro, and rapids aslant."""
    found = fit(BEFORE, by_watch(seed=7), RUNS, LIKE)
    across = np.arange(60.0)
    points = np.stack([across, 4.0 * (across % 2.0), 0.0 * across], axis=1)
    true, told = HIDDEN.drive(LIKE), found.values.drive(LIKE)
    assert path_time(points, feed, told) == pytest.approx(path_time(points, feed, true), rel=0.05)
    ways = [(np.zeros(3), np.array(end)) for end in ((70.0, 40.0, 30.0), (5.0, 3.0, 0.0))]
    rapid, asked = (sum(rapid_time(a, b, drive) for a, b in ways) for drive in (told, true))
    assert rapid == pytest.approx(asked, rel=0.05)
    before = BEFORE.drive(LIKE)
    assert path_time(points, feed, before) < 0.95 * path_time(points, feed, true)


def test_the_fit_is_the_least_of_its_squares():
    timed = by_watch(seed=11)
    found = fit(BEFORE, timed, RUNS, LIKE)
    seconds = np.array([each.seconds for each in timed])
    watch = np.hypot(0.3, 0.003 * seconds)
    start = np.log([value for _, value in BEFORE.items()])

    def off(at):
        values = Values(*np.exp(start + at))
        told = np.array([each.seconds(values, LIKE) for each in RUNS])
        return np.concatenate([(told - seconds) / watch, at / 0.7])

    other = least_squares(off, np.zeros(len(NAMES)))
    mine = off(np.log([value for _, value in found.values.items()]) - start)
    assert mine @ mine <= 2.0 * other.cost * (1.0 + 1e-4)


def test_what_no_run_tells_of_stays_and_says_so():
    """Rapids along X alone: nothing of Y, Z, corners, spindle and changes."""
    few = [each for each in RUNS if each.id in ("x-long", "x-middle", "x-short", "change")]
    found = fit(BEFORE, by_watch(runs=few), RUNS, LIKE)
    assert found.told <= {"rapid_x", "acceleration_x", "jerk_s", "change_s"}
    assert found.values.rapid_y == pytest.approx(BEFORE.rapid_y, rel=1e-3)
    assert found.spread["corner_mm"] == pytest.approx(0.7, rel=0.01)


def test_two_values_that_only_move_together_are_named():
    """Short ways alone reach no rapid: acceleration and the time to it go together."""
    few = [each for each in RUNS if each.id in ("x-short", "y-short", "z-short", "change")]
    found = fit(BEFORE, by_watch(runs=few, noise=0.0), RUNS, LIKE)
    assert {"acceleration_x", "acceleration_y", "acceleration_z"} & {
        n for p in found.alike for n in p
    }


@pytest.mark.parametrize(
    ("timed", "kind", "said"),
    [
        (lambda: [Timed("x-long", 20.0), Timed("change", 20.0)], OutOfRange, "at least 4"),
        (lambda: [Timed("x-long", 20.0)] * 5, OutOfRange, "each once"),
        (lambda: [Timed("nothing", 20.0)] * 4, Missing, "nothing"),
        (lambda: [Timed("x-long", 0.0)], OutOfRange, "time of x-long"),
        (lambda: [Timed("x-long", 3_600_000.0)], OutOfRange, "time of x-long"),
    ],
)
def test_what_can_not_be_fitted_is_refused(timed, kind, said):
    with pytest.raises(kind, match=said):
        fit(BEFORE, timed(), RUNS, LIKE)


def test_its_record_takes_what_was_told_and_keeps_the_rest():
    machine = HIDDEN.on(RIG, frozenset({"rapid_x", "jerk_s", "start_s"}), "timed, 14 runs")
    again = Machine.model_validate(machine.model_dump())
    carrier = again.carriers[0]
    assert (carrier.rapid.x, carrier.rapid.y) == (24000.0, BEFORE.rapid_y)
    assert (carrier.jerk_s.x, again.spindles[0].start_s) == (0.09, 3.1)
    assert again.corner_tolerance_mm == RIG.machine.corner_tolerance_mm
    assert again.source == "timed, 14 runs"
    plain = HIDDEN.on(RIG, frozenset({"rapid_x"}), "timed")
    assert plain.carriers[0].jerk_s is None


# -- its program


def test_the_program_runs_what_is_timed():
    """The way of its words, run by run, is that of the runs."""
    text = program(RIG, RUNS)
    parts = text.split("M0 (START THE WATCH WITH THE CYCLE)")[1:]
    assert len(parts) == len(RUNS)
    for part, run in zip(parts, RUNS, strict=True):
        lines = part.split("M0 (STOP")[0].splitlines()
        moves = [line for line in lines if re.search(r"[XYZ]", line)]
        if run.kind in ("rapid", "feed"):
            steps = np.array([_step(line) for line in moves])
            assert len(steps) == run.repeats * (len(run.points) - 1)
            way = np.linalg.norm(steps, axis=1).sum()
            once = np.linalg.norm(np.diff(run.points, axis=0), axis=1).sum()
            assert way == pytest.approx(run.repeats * once, rel=1e-3)
            assert np.abs(steps.sum(axis=0)).max() < 0.05  # it comes back to where it began
    assert text.count("M6") == next(run.repeats for run in RUNS if run.id == "change")
    assert "NOTHING ON THE TABLE" in text and max(map(len, text.splitlines())) < 100


def _step(line, names="XYZ"):
    found = dict(re.findall(r"([XYZUVW])(-?[\d.]+)", line))
    return [float(found.get(axis, 0.0)) for axis in names]


def test_it_stays_inside_its_travel():
    travel = (RIG.carrier.travel.x, RIG.carrier.travel.y, RIG.carrier.travel.z)
    for run in RUNS:
        size = run.points.max(axis=0) - run.points.min(axis=0)
        assert all(a <= 0.6 * b for a, b in zip(size, travel, strict=True))
        assert 10.0 < run.seconds(BEFORE, LIKE) < 60.0


@pytest.mark.parametrize(("ways", "names"), [("g91", "XYZ"), ("uvw", "UVW")])
@pytest.mark.parametrize("key", ["plover", "gannet"])
def test_of_a_lathe_x_counts_diameters_and_it_stays_where_it_may_be(key, ways, names):
    lathe = usual_rig(LIBRARY.machines[key])
    runs = runs_for(lathe)
    text = program(lathe, runs, ways)
    said = text.split("G21")[0]
    room = [float(each) for each in re.findall(r"(\d+) MM (?:OF RADIUS )?IN [XYZ]", said)]
    inwards = float(re.search(r"(\d+) MM ON ALL SIDES", said)[1])
    at, moves = np.zeros(3), re.findall(r"^G?[01]? ?([XYZUVW]-?[\d.]+.*)$", text, re.MULTILINE)
    assert len(moves) == sum(each.repeats * max(len(each.points) - 1, 0) for each in runs)
    for line in moves:
        assert not set(line) & (set("XYZUVW") - set(names))
        at = at + np.array(_step(line, names)) * (0.5, 1.0, 1.0)
        assert (at > -inwards).all() and (at < room).all()
    assert np.abs(at).max() < 0.1
    assert f"OUT IN X BY {runs[0].points.max():g} MM OF RADIUS" in said
    assert "start_s" not in names_of(lathe)
    assert not re.search(r"^(S|T|M3$)", text, re.MULTILINE)  # nothing turns that nobody asked for
    feeds = {"g91": "G91 G94", "uvw": "G98"}[ways]
    assert text.count(f"\n{feeds}\n") == sum(each.kind == "feed" for each in runs)
    assert ("G91" in text) == ("G90" in text) == (ways == "g91")


def test_a_control_shows_every_program():
    for machine in LIBRARY.machines.values():
        rig = usual_rig(machine)
        text = program(rig, runs_for(rig))
        assert text.isascii() and max(map(len, text.splitlines())) < 100


@pytest.mark.parametrize("id", ["squares", "rounds", "blocks"])
def test_many_rounds_are_as_one_long_path(id):
    run = next(each for each in RUNS if each.id == id)
    whole = path_time(run.path(run.repeats), run.feed, HIDDEN.drive(LIKE))
    assert run.seconds(HIDDEN, LIKE) == pytest.approx(whole, rel=1e-6)


@pytest.mark.parametrize(("key", "name"), [("heron", "probe_s"), ("gannet", "bar_s")])
def test_a_probe_and_a_bar_feed_are_timed_where_there_are_any(key, name):
    """Half as long again as the record says, by a watch that is off by some tenths."""
    rig = usual_rig(LIBRARY.machines[key])
    runs, like, before = runs_for(rig), Drive.of(rig), Values.of(rig)
    hidden = replace(before, **{name: 1.5 * getattr(before, name)})
    timed = [Timed(each.id, round(each.seconds(hidden, like) + 0.1, 1)) for each in runs]
    found = fit(before, timed, runs, like)
    assert name in found.told
    machine = found.values.on(rig, frozenset({name}), "timed")
    again = Values.of(usual_rig(Machine.model_validate(machine.model_dump())))
    assert getattr(again, name) == pytest.approx(getattr(hidden, name), rel=0.02)
    assert before.change_s == again.change_s


@pytest.mark.parametrize("key", ["petrel", "curlew"])
def test_turns_of_the_work_and_pallets_are_found_too(key):
    """Twice as slow, with a clamp half as long, as its record says."""
    rig = usual_rig(LIBRARY.machines[key])
    runs, like, before = runs_for(rig), Drive.of(rig), Values.of(rig)
    own = set(names_of(rig)) & {"turn_deg_s", "clamp_s", "pallet_s"}
    assert own
    hidden = replace(
        before,
        turn_deg_s=before.turn_deg_s / 2.0,
        clamp_s=before.clamp_s / 2.0,
        pallet_s=before.pallet_s * 1.4,
    )
    off = np.random.default_rng(3).normal(0.0, 0.2, len(runs))
    timed = [
        Timed(each.id, round(each.seconds(hidden, like) + by, 1))
        for each, by in zip(runs, off, strict=True)
    ]
    found = fit(before, timed, runs, like)
    for name in own & found.told:
        assert getattr(found.values, name) == pytest.approx(getattr(hidden, name), rel=0.06)
    assert own - {"clamp_s"} <= found.told
    machine = found.values.on(rig, frozenset(own), "timed")
    Machine.model_validate(machine.model_dump())
    again = Values.of(usual_rig(machine))
    for name in own:
        assert getattr(again, name) == pytest.approx(getattr(found.values, name), rel=5e-3)
    text = program(rig, runs)
    assert ("G0 C180" in text or "G0 B180" in text or "G0 A" in text) == ("clamp_s" in own)
    assert ("CHANGE PALLETS" in text) == ("pallet_s" in own)


def test_a_machine_shows_only_what_it_has():
    assert {"turn_deg_s", "clamp_s", "pallet_s", "bar_s"}.isdisjoint(names_of(RIG))
    assert {each.id for each in RUNS} & {"turn-far", "pallet", "bar"} == set()
    text = program(RIG, RUNS)
    assert "HAVE IT PROBE ONE PLACE" in text and "FEED THE BAR" not in text
    assert text.count("M8\n") == next(e.repeats for e in RUNS if e.id == "codes")
