"""What a setter is told of a part that is clamped down."""

from __future__ import annotations

from collections.abc import Iterator

from machining.plan.clamped import Clamped
from machining.quantities.said import Said, Shown, length
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
    return HeldWords(
        gear.name,
        force_of(held, gear),
        "at its clamps",
        seat,
        (
            *_first(held, gear),
            Said(f"Wipe {on} and part." + (" Parallels {high} high." if high else ""), high),
            Said(f"{told.handling}. {told.up}.{_pushed(held)}{told.note}"),
            *_tightening(held, gear, told.reason),
            Said("Check every clamp again after the first part."),
        ),
        Said(
            "Straps lie level or fall to the part, studs close to it. No tool comes near before"
            " every clamp is tight."
        ),
        "Clamps.",
        "Torque again after the first part.",
    )


def _first(held: Clamped, gear: Gear) -> Iterator[Said]:
    if held.vise is not None and gear.vise is not None:
        torque = Shown(held.vise.torque_nm, "torque")
        text = f"Put {gear.base.name} into {gear.vise.name}, tap it down, tighten to {{torque}}."
        yield Said(text, {"torque": torque})
    elif gear.base.loose:
        yield Said(f"Bolt {gear.base.name} to the table and indicate its edge.")


def _pushed(held: Clamped) -> str:
    if not held.dowels:
        return ""
    return (
        f" Push it against its {len(held.dowels)} dowels."
        if len(held.dowels) > 1
        else (" Push it against its dowel.")
    )


def _tightening(held: Clamped, gear: Gear, reason: str) -> Iterator[Said]:
    for k, clamp in enumerate(held.clamps, 1):
        item = gear.clamps[clamp.clamp]
        yield Said(
            f"Clamp {k}, {item.name}: tighten to {{torque}} with the torque wrench, {{wrench}}"
            " across its flats." + (reason if k == len(held.clamps) else ""),
            {
                "torque": Shown(clamp.torque_nm, "torque"),
                "wrench": length(item.wrench_mm),
            },
        )
