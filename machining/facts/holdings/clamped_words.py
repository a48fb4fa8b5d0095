"""What a setter is told of a part that is clamped down."""

from __future__ import annotations

from collections.abc import Iterator

from machining.plan.clamped import Clamped
from machining.quantities.said import Said, Shown, length
from machining.world.clamping import Strap
from machining.world.fixture import Fixture
from machining.world.gear import Gear

from .base import HeldWords
from .base import Lying as Told


def force_of(held: Clamped, gear: Gear) -> Shown:
    most = max((each.torque_nm for each in held.clamps), default=0.0)
    return Shown(most, "torque")


def words(held: Clamped, gear: Gear, told: Told) -> HeldWords:
    high = {"high": length(held.raised_mm)} if held.raised_mm else {}
    on = gear.base.name if gear.base.loose else "the table"
    seat = Said(f"on parallels {{high}} high on {on}" if high else f"on {on}", high)
    wiped = f"Wipe {on} and part." + (" Parallels {high} high." if high else "")
    if isinstance(gear.base, Fixture):
        seat = Said(f"on the seats of {on}")
        wiped = f"Wipe seats and locators of {on} and the part: no chip on any of them."
    return HeldWords(
        gear.name,
        force_of(held, gear),
        "at its clamps",
        seat,
        (
            *_first(held, gear),
            Said(wiped, high),
            Said(f"{told.handling}. {told.up}.{_pushed(held, gear)}{told.note}"),
            *_tightening(held, gear, told),
            Said("Check every clamp again after the first part."),
        ),
        Said(
            "Straps lie level or fall to the part, studs close to it. No tool comes near before"
            " every clamp is tight."
        ),
        "Clamps.",
        "Torque again after the first part. Straps and studs are springs: loosen each a little, in"
        " turn, before any comes off.",
    )


def _first(held: Clamped, gear: Gear) -> Iterator[Said]:
    if held.vise is not None and gear.vise is not None:
        torque = Shown(held.vise.torque_nm, "torque")
        text = f"Put {gear.base.name} into {gear.vise.name}, tap it down, tighten to {{torque}}."
        yield Said(text, {"torque": torque})
    elif gear.base.loose:
        yield Said(
            f"Bolt {gear.base.name} to the table and indicate its edge; its bolts are not reckoned."
        )


def _pushed(held: Clamped, gear: Gear) -> str:
    own = len(gear.base.locators) if isinstance(gear.base, Fixture) else 0
    counts = ((own, "locator"), (len(held.dowels), "dowel"))
    named = [_several(count, what) for count, what in counts if count]
    return f" Push it against its {' and '.join(named)}." if named else ""


def _several(count: int, what: str) -> str:
    return f"{count} {what}s" if count > 1 else what


def _tightening(held: Clamped, gear: Gear, told: Told) -> Iterator[Said]:
    """Those that are on from the start, in order."""
    on = [k for k, each in enumerate(held.clamps) if told.on is None or each.id in told.on]
    for k in on:
        clamp, item = held.clamps[k], gear.clamps[held.clamps[k].clamp]
        wrench = "wrench" if isinstance(item, Strap) else "hexagon key"
        yield Said(
            f"Clamp {k + 1}, {item.name}: tighten to {{torque}} with the torque wrench, {wrench}"
            f" {item.wrench_mm:g} across flats." + (told.reason if k == on[-1] else ""),
            {"torque": Shown(clamp.torque_nm, "torque")},
        )
