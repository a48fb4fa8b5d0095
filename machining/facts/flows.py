"""A plan's setups as steps that run on several machines at the same time."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from machining.motion.flow import Step

from .batch import Share
from .context import PlanFacts
from .times import cycles, parts


def steps_of(facts: PlanFacts, taken: Mapping[str, Share]) -> list[Step]:
    """Those that have work, in their order; what is done elsewhere after a station is done to all
    parts at once.
    """
    working = [each for each in facts.setups if each.operations]
    place = {station.id: k for k, s in enumerate(working) for station in s.planned.stations}
    away = {step.after for step in facts.plan.outside}
    found = list[Step]()
    for k, setup in enumerate(working):
        share, quantity = taken[setup.id], facts.plan.quantity
        runs, each = cycles(setup.planned, quantity), parts(setup.planned)
        from_others = {
            station.takes: place[station.takes]
            for station in setup.planned.stations
            if place.get(station.takes, k) < k
        }
        each_s = (share.cycles_s + share.edges + share.by_hand - share.meanwhile) / runs
        hand_s = (share.by_hand - share.meanwhile + share.attended + share.edges) / runs
        found.append(
            Step(
                setup.planned.machine,
                share.build,
                share.prove_out + share.first,
                each_s,
                each,
                runs - -(-quantity // each),
                tuple(sorted({at for id, at in from_others.items() if id not in away})),
                tuple(sorted({at for id, at in from_others.items() if id in away})),
                min(hand_s, each_s),
                (share.meanwhile + share.gauging) / runs,
            )
        )
    return found


def bottleneck(steps: Sequence[Step], quantity: int) -> str:
    """The machine that is taken up longest."""
    busy = dict[str, float]()
    for step in steps:
        runs = -(-quantity // step.parts) + step.late
        taken = step.build_s + step.prove_s + step.each_s * runs
        busy[step.machine] = busy.get(step.machine, 0.0) + taken
    return max(busy, key=lambda each: busy[each], default="")
