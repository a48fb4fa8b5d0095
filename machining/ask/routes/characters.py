"""Which of the routes that were planned are proposed, and for what."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Any

from machining.evaluation import Evaluation
from machining.world.capability import turns_work, usual_rig
from machining.world.library import Library
from machining.world.machine import Machine

from ..costs import Costs
from .route import Route

MOST = 4  # that are proposed


@dataclass
class Found:
    """A route as far as it goes, begun on ``machine``; ``for_what`` are the characters it is the
    best of. ``plain`` is what is told of it, once that was worked out.
    """

    machine: str
    route: Route
    told: Evaluation
    costs: Costs
    for_what: list[str] = field(default_factory=list)
    plain: dict[str, Any] | None = None

    @property
    def machines(self) -> set[str]:
        return {each.machine for each in self.route.plan.setups}

    def is_all(self, turned: bool, library: Library) -> bool:
        """Is it whole, and all on lathes, or all on mills?"""
        return self.whole and all(
            turns_work(library.machines[key]) == turned for key in self.machines
        )

    @property
    def whole(self) -> bool:
        """Does the part come out of it, and nothing new is stopped or unknown?"""
        stops = {each.key for each in self.told.open if each.severity == "stop"}
        return (
            not self.told.left
            and stops <= self.route.stopped
            and self.told.unknown <= self.route.unknown
        )


Measure = Callable[[Found], tuple[float, ...]]
SETUPS: Measure = lambda each: (len(each.route.plan.setups), each.told.batch_s)  # noqa: E731
TIME: Measure = lambda each: (each.told.batch_s,)  # noqa: E731
MONEY: Measure = lambda each: (each.costs.known,)  # noqa: E731


def characters(found: Sequence[Found], library: Library) -> list[Found]:
    """The best of the whole routes for each: fewest setups, least time, least money where every
    machine has a price, and all of it on the smallest machine that does it; where one is the best
    for all, another. Without a whole one those that go furthest, for ``part``.
    """
    for each in found:
        each.for_what = []
    whole = [each for each in found if each.whole]
    if not whole:
        furthest = sorted(found, key=lambda each: (each.told.left_mm3, each.told.batch_s))
        for each in furthest[:2]:
            each.for_what.append("part")
        return furthest[:2]
    wanted: list[tuple[str, Found | None]] = [
        ("setups", min(whole, key=SETUPS)),
        ("time", min(whole, key=TIME)),
        ("money", min(whole, key=MONEY) if _priced(whole, library) else None),
        ("small", _on_the_smallest(whole, library)),
    ]
    picked = list[Found]()
    for name, best in wanted:
        if best is None:
            continue
        if best not in picked:
            picked.append(best)
        best.for_what.append(name)
    rest = [each for each in whole if each not in picked]
    if len(picked) < 2 and rest:
        picked.append(min(rest, key=TIME))
        picked[-1].for_what.append("other")
    return picked[:MOST]


def _priced(found: Sequence[Found], library: Library) -> bool:
    keys = {key for each in found for key in each.machines}
    return all(library.machines[key].hourly_cost > 0 for key in keys)


def _on_the_smallest(whole: Sequence[Found], library: Library) -> Found | None:
    """Where it is not the only machine that does it."""
    alone = [each for each in whole if len(each.machines) == 1]
    if len({each.machine for each in whole}) < 2:
        return None
    return min(alone, key=lambda each: size(library.machines[each.machine]), default=None)


def size(machine: Machine) -> float:
    """Of a machine by its travels, mm³; of a lathe by what it swings."""
    travel = usual_rig(machine).carrier.travel
    return float(max(travel.x, 1.0) * max(travel.y, 1.0) * max(travel.z, 1.0))
