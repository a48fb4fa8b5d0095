"""How fast a planner sees what to choose from: what would save most, an order, two plans side by
side. Run with ``make bench``; quote ratios, machines differ.
"""

from __future__ import annotations

from functools import partial
from itertools import count

import pytest

from machining.ask.abreast import hands
from machining.ask.compare import compare
from machining.ask.order import order
from machining.ask.savings import savings
from machining.evaluate import evaluate
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.edit import Change
from machining.plan.operation import Engrave
from machining.plan.places import Points, Text
from machining.plan.trade import Load, UseMachine
from machining.ways.trade import structural
from tests.core import build
from tests.core.long import long_plan

FORTY, PLACES = 40, 11


class HeardEnoughError(Exception):
    pass


def known(plan):
    memo = Memo(8192)
    evaluate(plan, build.LIBRARY, memo)
    return memo


@pytest.mark.parametrize("until", ["the first", "all with about what they save", "all tried"])
def test_what_would_save_most_of_sixty_operations(benchmark, until):
    plan = long_plan()
    last = {"the first": 1, "all with about what they save": 2}.get(until)

    def asked(memo):
        told = count(1)

        def hear(*_):
            if next(told) == last:
                raise HeardEnoughError

        try:
            savings(plan, build.LIBRARY, memo, tell=hear, hands=hands())
        except HeardEnoughError:
            return

    benchmark.pedantic(asked, setup=lambda: ((known(plan),), {}), rounds=1 if last is None else 3)


def forty_on_three():
    """Forty operations on each of three positions: drilled, tapped and engraved place by place."""
    work = [*build.GOOD]
    for k in range(PLACES):
        at = Points(at_mm=((-35.0 + 7.0 * k, 21.0),), diameter_mm=6.8, depth_mm=8.0)
        text = Text(text=f"{k}", x_mm=-35.0 + 7.0 * k, y_mm=-22.0, height_mm=3.0)
        work += [
            build.DRILL.model_copy(update={"id": f"drill{k}", "on": at, "peck_mm": None}),
            build.TAP.model_copy(update={"id": f"tap{k}", "on": at, "depth_mm": 6.0}),
            Engrave(id=f"text{k}", tool="t9", on=text),
        ]
    tools = (*build.TOOLS, build.tool(9, "engraver-6-60"))
    plan = build.plan(*work, tools=tools)
    assert len(plan.setups[0].operations) == FORTY
    return apply(plan, structural(plan, build.LIBRARY, Memo(), [Load(station="st1", parts=3)]))


def test_order_of_forty_operations_on_three_positions(benchmark):
    plan = forty_on_three()
    found = benchmark.pedantic(
        lambda memo: order(plan, build.LIBRARY, memo, "s1"),
        setup=lambda: ((known(plan),), {}),
        rounds=3,
    )
    assert found["reasons"]


def test_two_plans_side_by_side_warm(benchmark, demo):
    plan, library = demo
    machine = next(k for k in library.machines if k != plan.setups[0].machine)
    memo, turn = Memo(8192), count(1)
    only = UseMachine(setup=plan.setups[0].id, machine=machine)
    other = apply(plan, structural(plan, library, memo, [only]))
    side = partial(compare, library=library, memo=memo)
    side(plan, other=other.model_dump(mode="json"))

    def change():
        first = plan.setups[0].operations[0]
        edit = Change(on=f"operation:{first.id}", fields={"reason": f"{next(turn)}"})
        return (apply(plan, [edit]),), {"other": other.model_dump(mode="json")}

    benchmark.pedantic(side, setup=change, rounds=10)
