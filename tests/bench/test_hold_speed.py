"""How fast a holding is judged, wrong ways are found, walls are mapped, and times are fitted and
saved. Run with ``make bench``; quote ratios, machines differ.
"""

from __future__ import annotations

import pytest

from machining.ask.quantities import quantities
from machining.ask.savings import savings
from machining.evaluate import evaluate
from machining.facts.lasts import lasts
from machining.facts.route import walk
from machining.facts.thin_seen import thin_seen
from machining.facts.wrong_way import every_way
from machining.holding.cut import Cut, pushes
from machining.holding.held import counted, factor
from machining.memo import Memo
from machining.motion.measured import Timed, Values, fit, runs_for
from machining.motion.timing import Drive
from machining.world.capability import usual_rig
from tests.core import build
from tests.core.test_holding_model import UP, vise

OPERATIONS = 20


def cuts():
    """Of twenty operations, each in the plane and along its axis both ways."""
    return [
        Cut((2.0 * k - 20.0, k, 20.0), UP, 800.0 + 20.0 * k, 150.0, 3.0) for k in range(OPERATIONS)
    ]


def judged(held, asked):
    reckoned = counted(held)
    return [factor(reckoned, pushes(each, held.length_mm)) for each in asked]


def test_twelve_contacts_and_twenty_operations(benchmark):
    asked = cuts()
    benchmark.pedantic(lambda held: judged(held, asked), setup=lambda: ((vise(),), {}), rounds=10)


def test_twelve_contacts_and_one_changed_operation(benchmark):
    held, asked = vise(), cuts()[:1]
    judged(held, asked)
    benchmark(lambda: judged(held, asked))


def walked(demo):
    plan, library = demo
    memo = Memo()
    evaluate(plan, library, memo)
    facts = walk(plan, library, memo)
    for station in facts.stations:
        station.leaves.mesh()
    return facts


@pytest.mark.parametrize("place", [0, 1])
def test_every_wrong_way_of_a_station(benchmark, demo, place):
    """Its stock is known, its ways are not."""

    def fresh():
        facts = walked(demo)
        return (facts.stations[place], facts), {}

    benchmark.pedantic(every_way, setup=fresh, rounds=3)


def test_walls_of_every_operation(benchmark, demo):
    def fresh():
        return (walked(demo),), {}

    def mapped(facts):
        return [thin_seen(op, facts) for op in facts.ready()]

    benchmark.pedantic(mapped, setup=fresh, rounds=3)


def test_what_breaks_first(benchmark, demo):
    facts = walked(demo)
    benchmark(lambda: lasts(facts.stations[0], facts))


def test_values_that_fit_a_watch(benchmark):
    rig = usual_rig(build.LIBRARY.machines["heron"])
    runs, like, values = runs_for(rig), Drive.of(rig), Values.of(rig)
    timed = [Timed(run.id, round(1.1 * run.seconds(values, like), 1)) for run in runs]
    benchmark.pedantic(lambda: fit(values, timed, runs, like), rounds=5)


def test_the_first_ten_that_may_save(benchmark, demo):
    plan, library = demo

    def warm():
        memo = Memo()
        evaluate(plan, library, memo)
        return (memo,), {}

    benchmark.pedantic(lambda memo: savings(plan, library, memo, most=10), setup=warm, rounds=3)


def test_costs_at_other_quantities(benchmark, demo):
    plan, library = demo

    def warm():
        memo = Memo()
        evaluate(plan, library, memo)
        return (memo,), {}

    benchmark.pedantic(lambda memo: quantities(plan, library, memo), setup=warm, rounds=3)
