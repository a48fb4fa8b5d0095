"""How a part is mostly clamped down: with the clamps the shop has."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from machining.geometry.frames import Sideways
from machining.plan.clamped import Clamp, Clamped, Dowel
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.clamping import Base, Strap

from ..context import PlanFacts, StationFacts

USUAL_OVER_MM = 2.0  # of a strap's nose, over its pad
USUAL_SHARE = 0.8  # of the most a clamp takes
FROM_ENDS = 0.3  # of a side, where two dowels stand on it


def usual(station: StationFacts, base: Base, before: Clamped | None, facts: PlanFacts) -> Clamped:
    """Two straps over the ends and three dowels at its back and left, of clamps the shop has."""
    if before is not None:
        return _moved(before, base)
    low, high = station.lie.stock_low, station.lie.stock_high
    size = [float(each) for each in high - low]
    dowels = tuple(
        Dowel(id=f"d{k}", side=side, at_mm=round(at, 1), high_mm=round(min(8.0, size[2] / 2.0), 1))
        for k, (side, at) in enumerate(pins(size), 1)
    )
    strap = _strap_for(base, size, facts)
    if strap is None:
        return Clamped(base=base.key, dowels=dowels)
    torque = round(USUAL_SHARE * strap.max_torque_nm, 1)
    ends: tuple[Sideways, Sideways] = ("-x", "+x") if size[0] >= size[1] else ("-y", "+y")
    over = strap.pad_mm + USUAL_OVER_MM
    clamps = tuple(
        Clamp(id=f"c{k}", clamp=strap.key, side=side, over_mm=over, torque_nm=torque)
        for k, side in enumerate(ends, 1)
    )
    free = tuple(each for each in dowels if each.side not in ends or abs(each.at_mm) > 1.0)
    return Clamped(base=base.key, dowels=free, clamps=clamps)


def _moved(before: Clamped, base: Base) -> Clamped:
    """The same on another base; only what stands by itself goes into a vise."""
    if base.loose:
        return before.model_copy(update={"base": base.key})
    clamps = tuple(each.model_copy(update={"fixed_in": "base"}) for each in before.clamps)
    return before.model_copy(update={"base": base.key, "vise": None, "clamps": clamps})


def pins(size: Sequence[float], mirrored: bool = False) -> Iterator[tuple[Sideways, float]]:
    """Sides and places along them: two on the longer side, then one at an end of it."""
    sign = -1.0 if mirrored else 1.0
    if size[0] >= size[1]:
        side: Sideways = "-y" if mirrored else "+y"
        yield from ((side, -FROM_ENDS * size[0]), (side, FROM_ENDS * size[0]))
        yield "-x", sign * FROM_ENDS * size[1]
    else:
        side = "+x" if mirrored else "-x"
        yield from ((side, -FROM_ENDS * size[1]), (side, FROM_ENDS * size[1]))
        yield "+y", -sign * FROM_ENDS * size[0]


def _strap_for(base: Base, size: list[float], facts: PlanFacts) -> Strap | None:
    """The largest that stands on the base beside the part and is no wider than half of it."""
    room = (base.x_mm if size[0] >= size[1] else base.y_mm) if base.loose else None
    longer, shorter = max(size[:2]), min(size[:2])
    fitting = []
    for each in facts.library.clamps.values():
        if not isinstance(each, Strap) or each.width_mm > shorter / 2.0:
            continue
        beside = each.nose_to_stud_mm + each.stud_to_heel_mm + each.pad_mm
        if room is None or (longer + 2.0 * (beside - each.pad_mm)) <= room:
            fitting.append(each)
    return max(fitting, key=lambda each: (each.thread_mm, each.key), default=None)


def offers(station: StationFacts, facts: PlanFacts) -> Iterator[Proposal]:
    """On the machine's own table."""
    for base in facts.library.holdings.values():
        if isinstance(base, Base) and not base.loose:
            held = usual(station, base, None, facts)
            if held.clamps:
                yield Proposal(
                    "Hold it {base}, under two straps",
                    (Change(on=station.on, fields={"holding": held.model_dump(mode="json")}),),
                    {"base": Shown(base.name[0].lower() + base.name[1:])},
                )
