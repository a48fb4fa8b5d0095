"""How a part is mostly clamped down: with the clamps the shop has."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from machining.geometry.frames import Sideways
from machining.plan.clamped import Clamp, Clamped, Dowel
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.clamping import AnyClamp, Base, SideClamp, Strap
from machining.world.fixture import Fixture

from ..context import PlanFacts, StationFacts
from .fixture_usual import usual_in

USUAL_OVER_MM = 2.0  # of a strap's nose, over its pad
USUAL_SHARE = 0.8  # of the most a clamp takes
FROM_ENDS = 0.3  # of a side, where two dowels stand on it


def usual(
    station: StationFacts, base: Base | Fixture, before: Clamped | None, facts: PlanFacts
) -> Clamped:
    """Three dowels at its back and left, and two straps over its ends; where none goes there, two
    clamps beside it that push it against the dowels. In a fixture of the shop as that is made.
    """
    if isinstance(base, Fixture):
        return usual_in(base, before, station.lie, station.arrives, facts.library)
    if before is not None and not isinstance(facts.library.holdings.get(before.base), Fixture):
        return _moved(before, base)
    size = [float(each) for each in station.lie.stock_high - station.lie.stock_low]
    dowels = tuple(
        Dowel(id=f"d{k}", side=side, at_mm=round(at, 1), high_mm=round(min(8.0, size[2] / 2.0), 1))
        for k, (side, at) in enumerate(pins(size), 1)
    )
    ends: tuple[Sideways, Sideways] = ("-x", "+x") if size[0] >= size[1] else ("-y", "+y")
    found = _strap_for(base, size, facts) or _beside_it(base, size, facts)
    if found is None:
        return Clamped(base=base.key, dowels=dowels)
    strap = isinstance(found, Strap)
    clamps = tuple(
        like_it(Clamp(id=f"c{k}", clamp=found.key, side=side, torque_nm=1.0), found)
        for k, side in enumerate(ends if strap else _opposite(dowels), 1)
    )
    return Clamped(base=base.key, dowels=dowels, clamps=clamps)


def like_it(clamp: Clamp, item: AnyClamp) -> Clamp:
    """The same with another item of the shop, as far over and as tight as that mostly is."""
    over = item.pad_mm + USUAL_OVER_MM if isinstance(item, Strap) else clamp.over_mm
    torque = round(USUAL_SHARE * item.max_torque_nm, 1)
    return clamp.model_copy(update={"clamp": item.key, "over_mm": over, "torque_nm": torque})


def _opposite(dowels: Sequence[Dowel]) -> list[Sideways]:
    other: dict[str, Sideways] = {"+x": "-x", "-x": "+x", "+y": "-y", "-y": "+y"}
    return [other[side] for side in dict.fromkeys(each.side for each in dowels)]


def _beside_it(base: Base, size: list[float], facts: PlanFacts) -> SideClamp | None:
    """The strongest that is lower than half of the part and stands on the base beside it."""
    fitting = [
        each
        for each in facts.library.clamps.values()
        if isinstance(each, SideClamp)
        and each.high_mm <= size[2] / 2.0
        and (not base.loose or all(_room(base, k, size) >= each.long_mm for k in range(2)))
    ]
    force = [each.force_per_torque * each.max_torque_nm for each in fitting]
    return fitting[force.index(max(force))] if fitting else None


def _room(base: Base, k: int, size: list[float]) -> float:
    """How much of it lies beside the part on each side (mm)."""
    return ((base.x_mm, base.y_mm)[k] - size[k]) / 2.0


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
