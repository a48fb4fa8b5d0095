"""Which side first: of a part without setups the ways to begin, each tried with its first cuts."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from itertools import count
from typing import Any

import numpy as np

from machining.evaluate import evaluate
from machining.facts import requirement
from machining.facts.context import PlanFacts, StationFacts
from machining.facts.holdings import KINDS
from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.geometry.frames import DIRECTIONS, Direction, opposite
from machining.geometry.hidden_line import Eye, draw
from machining.memo import Memo
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan
from machining.plan.edit import AddOperation, Edit
from machining.quantities.errors import MachiningError
from machining.ways.first_setup import first_setup
from machining.ways.offers import offers
from machining.ways.offers.by_hand import BY_HAND
from machining.world.feature import Hole, Pocket, ways_in
from machining.world.library import Library
from machining.world.stock.base import SIDE_WORDS

FIRST_CUTS = 3
SETUP, STATION = "s1", "st1"
OVER_MM = 0.01
OUT = np.array([-0.45, -0.75, 0.48]) / np.linalg.norm([-0.45, -0.75, 0.48])
RIGHT = np.array([-OUT[1], OUT[0], 0.0]) / np.hypot(OUT[0], OUT[1])
EYE = Eye(RIGHT, np.cross(OUT, RIGHT), OUT)
Cut = Hole | Pocket


@dataclass(frozen=True)
class Beginning:
    """A side ``up`` first: what of the part is ``reached`` from there and how much of that the
    drawing asks for, how high its sides can be cut for the next to grip, the further sides that
    have to come up, the first cuts with the least factor and what is ``asked`` of it, and what will
    not work of them. ``lines`` are the part as it lies, seen from over its left front corner
    (mm).
    """

    up: Direction
    lines: list[list[float]]
    held: str
    reached: int
    asked_for: int
    sides_mm: float
    high_mm: float
    grips: bool
    further: tuple[Direction, ...]
    cuts: tuple[str, ...]
    factor: float | None
    asked: float
    stops: tuple[str, ...]
    edits: tuple[Edit, ...]

    @property
    def rank(self) -> tuple[float, ...]:
        """The fewer setups, the sounder, the more it reaches and leaves, the sooner it is told."""
        return (
            not self.held,
            len(self.stops) > 0,
            len(self.further),
            not self.grips,
            -self.asked_for,
            -self.reached,
            -self.sides_mm,
        )


def beginnings(plan: Plan, library: Library, memo: Memo) -> dict[str, Any] | None:
    """Sides that can be up and something opens to, the best first; None once there are setups, or
    where the part is turned from the bar: that begins at an end.
    """
    if plan.setups or plan.stock.TURNED:
        return None
    facts = walk(plan, library, memo)
    ups = [up for up in DIRECTIONS if _opening(facts, (up,))] or ["+z", "-z"]
    found = [_begun(up, facts, plan, library, memo) for up in ups]
    known = sorted((each for each in found if each is not None), key=lambda each: each.rank)
    drawn = _to_cut(facts)
    return {
        "features": len(drawn),
        "asked_for": len(drawn & _asked(plan)),
        "ways": [_told(each) for each in known],
    }


def _begun(
    up: Direction, facts: PlanFacts, plan: Plan, library: Library, memo: Memo
) -> Beginning | None:
    edits = first_setup(facts, SETUP, STATION, up)
    try:
        begun = apply(plan, edits)
        if begun.setups and begun.setups[0].stations[0].holding is None:
            edits = (*edits, *_clamped(walk(begun, library, memo)))
            begun = apply(plan, edits)
    except EditRefused:
        return None
    if not begun.setups:
        return None
    after, cuts = _first_cuts(begun, library, memo)
    seen = walk(after, library, memo)
    station, said = seen.stations[0], evaluate(after, library, memo)
    reached = _opening(facts, (up,))
    sides, high = _sides(station)
    factors = [op.value("holding") for op in seen.operations()]
    held = [each for each in factors if each is not None]
    stops = [in_words(each) for each in said.open if each.severity == "stop" and each.operation]
    problem = station.unknown.get("hold", "")
    return Beginning(
        up=up,
        lines=_drawn(station, facts),
        held=station.item.name if station.item is not None and not problem else "",
        reached=len(reached),
        asked_for=len(reached & _asked(plan)),
        sides_mm=sides,
        high_mm=high,
        grips=sides >= library.settings.grip_least_mm,
        further=_further(up, facts, station),
        cuts=cuts,
        factor=min(held, default=None),
        asked=max(
            (requirement.asked(op, seen) for op in seen.ready()),
            default=library.settings.holding_factor,
        ),
        stops=tuple([problem] if problem else dict.fromkeys(stops)),
        edits=edits,
    )


def _clamped(facts: PlanFacts) -> tuple[Edit, ...]:
    """Clamped down, where no vise takes it; nothing where that does not go either."""
    offered = KINDS["clamped"].offers(facts.stations[0], facts)
    return next((each.edits for each in offered), ())


def _first_cuts(begun: Plan, library: Library, memo: Memo) -> tuple[Plan, tuple[str, ...]]:
    """With what is offered first there, one place after the other, as far as there are tools."""
    cuts, numbers = dict[str, str](), count()
    for _ in range(FIRST_CUTS):
        facts = walk(begun, library, memo)
        ready = (
            each
            for each in offers(facts.stations[0], facts, lambda: f"begun{next(numbers)}")
            if each.group not in (BY_HAND, *cuts) and each.tool and _adds_one(each.edits)
        )
        offer = next(ready, None)
        if offer is None:
            break
        try:
            begun = apply(begun, offer.edits)
        except (EditRefused, MachiningError):
            break
        cuts[offer.group] = f"{offer.group}: {offer.label}"
    return begun, tuple(cuts.values())


def _adds_one(edits: Iterable[Edit]) -> bool:
    return sum(isinstance(each, AddOperation) for each in edits) == 1


def _to_cut(facts: PlanFacts) -> set[str]:
    """What of the part opens somewhere and is not in the blank already."""
    there = facts.blank.has_already
    return {
        each.id
        for each in facts.geometry.features
        if isinstance(each, Cut) and each.id not in there and ways_in(each)
    }


def _opening(facts: PlanFacts, ups: Iterable[Direction]) -> set[str]:
    sides, to_cut = set(ups), _to_cut(facts)
    return {
        each.id
        for each in facts.geometry.features
        if each.id in to_cut and isinstance(each, Cut) and sides & set(ways_in(each))
    }


def _asked(plan: Plan) -> set[str]:
    return {each.feature for each in plan.part.requirements}


def _drawn(station: StationFacts, facts: PlanFacts) -> list[list[float]]:
    (lines,) = draw([facts.geometry.mesh.posed(station.lie.pose)], EYE)
    return [each.ravel().round(1).tolist() for each in lines.seen]


def _sides(station: StationFacts) -> tuple[float, float]:
    """How high (mm) the part's sides can be cut all round, and how high it is."""
    low, high = float(station.lie.part_low[2]), float(station.lie.part_high[2])
    top = station.stand.top
    return max(0.0, high - max(low, top if top is not None else low)), high - low


def _further(up: Direction, facts: PlanFacts, station: StationFacts) -> tuple[Direction, ...]:
    """Sides that have to come up after it, as few as there need be: the other one where the blank
    stands over there, and those that what is left opens to.
    """
    below = opposite(up)
    stands = float(station.lie.part_low[2] - station.lie.stock_low[2]) > OVER_MM
    further: list[Direction] = [below] if stands else []
    left = _to_cut(facts) - _opening(facts, (up, *further))
    while left:
        best = max(
            DIRECTIONS, key=lambda side: (len(left & _opening(facts, (side,))), side == below)
        )
        reached = left & _opening(facts, (best,))
        if not reached:
            break
        further.append(best)
        left -= reached
    return tuple(further)


def _told(way: Beginning) -> dict[str, Any]:
    return {
        "up": way.up,
        "side": SIDE_WORDS[way.up],
        "lines": way.lines,
        "held": way.held,
        "reached": way.reached,
        "asked_for": way.asked_for,
        "sides_mm": way.sides_mm,
        "high_mm": way.high_mm,
        "grips": way.grips,
        "further": [SIDE_WORDS[each] for each in way.further],
        "cuts": list(way.cuts),
        "factor": way.factor,
        "asked": way.asked,
        "stops": list(way.stops),
        "edits": [each.model_dump(mode="json") for each in way.edits],
    }
