"""What closes or opens all round with the force of a drawbar: collets and mandrels."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from math import inf

from machining.plan.holding import InCollet, OnMandrel
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.workholding import Collet, Mandrel

from ..context import Ready
from ..held import End

Held = InCollet | OnMandrel
Item = Collet | Mandrel


def widest(op: Ready, held: object, item: object) -> Sequence[End]:
    """The largest diameter asks most; a closed ring is thrown out by no speed."""
    turned = op.work.turned
    out = float(op.lie.stock_high[0]) if turned.is_empty else float(turned.bounds[2])
    return (End(diameter=2.0 * out),)


def nothing_to_set(op: Ready, held: Held, item: Item, factor: float) -> Iterator[Proposal]:
    """It closes with what its drawbar gives."""
    yield from ()


def length_of(item: Item) -> float:
    return item.length_mm


def goes_in(held: Held) -> float:
    return held.grip_mm


def force_of(held: Held, item: Item) -> Shown:
    return Shown(item.force_n, "force")


def as_asked(item: Item, asked: float) -> float:
    return asked


def on_no_table(held: Held, item: Item) -> float:
    return 0.0


def most_rpm(held: Held, item: Item) -> float:
    return min(item.max_rpm, held.limit_rpm or inf)
