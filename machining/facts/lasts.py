"""What breaks first: how likely a batch runs without a slip in the cut that is stood least, and
what that hangs on.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import log, sqrt

from machining.cutting.data import constant
from machining.holding.contacts import Contacts
from machining.holding.held import MOST, counted, factor
from machining.holding.lasts import Spread, runs, runs_so_many, shares, slips

from .context import PlanFacts, Ready, StationFacts
from .observed import Held

MORE = 1.05  # of friction or force, to see how the factor goes with it
SURE = 0.99
EVEN = 1.0 / sqrt(12.0)  # standard deviation of what lies anywhere in a width


@dataclass(frozen=True, slots=True)
class Hangs:
    """One of the things it hangs on, its standard deviation as a share, where that is from, how
    much of all that is uncertain it makes, and whether it is the same for the batch.
    """

    name: str
    share: float
    source: str
    makes: float
    batch: bool


@dataclass(frozen=True, slots=True)
class Lasts:
    """Of the operation that is stood least: its factor as reckoned and in the middle of what it
    hangs on, how likely one part slips in it, how likely the batch runs without, how many parts run
    without at 99 in 100, and what that hangs on, the most first.
    """

    operation: str
    of: str
    factor: float
    middle: float
    slips: float
    parts: int
    runs: float
    sure_parts: int
    hangs_on: tuple[Hangs, ...]


def lasts(station: StationFacts, facts: PlanFacts) -> Lasts | None:
    """None while nothing is known to be stood, or all of it more than is told."""
    known = [
        (op.seen.held.weakest, op)
        for op in station.operations
        if isinstance(op, Ready) and op.seen.held is not None
    ]
    told = [(held.factor, k) for k, (held, _) in enumerate(known) if held.factor is not None]
    if not told:
        return None
    least, k = min(told)
    held, op = known[k]
    if not 0.0 < least < MOST:
        return None
    found = [each for each in _spreads(op, held, least, facts) if each.power]
    middle = least * _over_middle(op, facts)
    quantity = facts.plan.quantity
    made = sorted(zip(shares(found), found, strict=True), key=lambda each: -each[0])
    return Lasts(
        op.id,
        held.of,
        least,
        middle,
        slips(middle, found),
        quantity,
        runs(middle, found, quantity),
        runs_so_many(middle, found, SURE),
        tuple(Hangs(e.name, e.share, e.source, share, e.batch) for share, e in made),
    )


def _spreads(op: Ready, held: Held, least: float, facts: PlanFacts) -> Iterator[Spread]:
    data = "cutting.toml, spread"
    now = held.contacts.with_share(held.share)
    rubs = _power(held, _rubbing(now), least)
    yield Spread("friction of the batch", constant("spread", "friction_batch"), rubs, True, data)
    yield Spread("friction of a part", constant("spread", "friction_part"), rubs, False, data)
    clamp = "chuck" if op.station.turns else "clamp"
    pressed = _power(held, now.with_share(MORE), least)
    yield Spread("force of the clamps", constant("spread", clamp), pressed, False, data)
    yield Spread("cutting force", constant("spread", "cutting"), -1.0, True, data)
    worn = facts.library.settings.wear_factor
    yield Spread("wear", _evenly_upto(worn), -1.0, False, "shop.wear_factor")
    more = _at_worst(op)
    yield Spread(
        "size of the blank", _evenly_upto(more), -1.0 if more > 1.0 else 0.0, False, "stock"
    )


def _evenly_upto(most: float) -> float:
    """The standard deviation of what lies anywhere from 1 on, as a share of its middle."""
    return EVEN * (most - 1.0) / ((most + 1.0) / 2.0)


def _at_worst(op: Ready) -> float:
    """The largest blank's side force over that of the one that is drawn."""
    worst, drawn = op.value("worst_side_force"), op.value("side_force")
    return worst / drawn if worst and drawn else 1.0


def _over_middle(op: Ready, facts: PlanFacts) -> float:
    """The factor is told of a worn edge at the largest blank; in the middle both are half so."""
    worn, more = facts.library.settings.wear_factor, _at_worst(op)
    return worn / ((worn + 1.0) / 2.0) * more / ((more + 1.0) / 2.0)


def _rubbing(contacts: Contacts) -> Contacts:
    every = [replace(each, friction=MORE * each.friction) for each in contacts.every]
    return replace(contacts, every=every)


def _power(held: Held, other: Contacts, least: float) -> float:
    """With which power the factor goes with what is so much more in other contacts."""
    reckoned, found = counted(other), list[float]()
    for load in held.loads:
        pushed, _ = load.pushes(other.length_mm)
        known = factor(reckoned, pushed)
        if known is not None:
            found.append(known.factor)
    now = min(found, default=least)
    return log(now / least) / log(MORE) if now > 0.0 else 0.0
