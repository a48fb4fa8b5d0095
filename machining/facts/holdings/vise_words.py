"""How the sheet tells what a vise is set to and how a part goes into it."""

from __future__ import annotations

from machining.plan.in_vise import STOPS, Holding
from machining.quantities.said import Said, Shown, length
from machining.world.workholding import Vise

from .base import HeldWords, Lying

BESIDE_WHAT_COMES_OUT = "{away} in from the jaws: the tool comes out beside them"


def force_of(holding: Holding, vise: Vise) -> Shown:
    return Shown(holding.torque_nm, "torque")


def _away(holding: Holding) -> dict[str, Shown]:
    return {} if holding.parallels_in_mm is None else {"away": length(holding.parallels_in_mm)}


def _set_parallels(holding: Holding) -> str:
    if holding.parallels_in_mm is None:
        return "push the parallels out to the jaws"
    return f"set the parallels {BESIDE_WHAT_COMES_OUT}"


def _pushed(holding: Holding) -> str:
    where = {name: words for name, words in STOPS if name}
    return f" Push it against the stop {where[holding.stop]}." if holding.stop else ""


def _mounted(holding: Holding) -> tuple[Said, ...]:
    which = {
        "outside": "Both jaws on the outer faces of the vise",
        "back": "The moving jaw on the back of what carries it, the fixed one inside",
    }.get(holding.jaws_on)
    return () if which is None else (Said(which + ", their screws tight, faces wiped."),)


def _in_line(holding: Holding) -> tuple[Said, ...]:
    if holding.second_mm is None:
        return ()
    return (
        Said(
            "Two vises, middles {apart} apart: indicate both fixed jaws as one line, and their beds"
            " as one level.",
            {"apart": length(holding.second_mm)},
        ),
    )


def _in_soft(holding: Holding) -> tuple[Said, Said]:
    """What it sits on, and how the jaws are made for that."""
    grip = {"grip": length(holding.grip_depth_mm)}
    if not holding.profile_mm:
        step = "Wipe the soft jaws; their step is cut {grip} deep."
        return Said("on the step of the soft jaws"), Said(step, grip)
    return Said("on the floor of the soft jaws"), Said(
        "Wipe the soft jaws. The part’s outline is cut into them where they stand, closed on a"
        " spacer as tight as for the part: {profile} into each jaw, {grip} deep, inner corners"
        " relieved.",
        {"profile": length(holding.profile_mm), **grip},
    )


def words(holding: Holding, vise: Vise, lying: Lying) -> HeldWords:
    torque = force_of(holding, vise)
    high = {"high": length(lying.parallels_mm)} if lying.parallels_mm else {}
    if lying.angled is not None:
        seat, wipe = lying.angled
    elif vise.jaws == "soft":
        seat, wipe = _in_soft(holding)
    elif not high:
        seat, wipe = Said("on the seat"), Said("Wipe jaws and seat.")
    elif lying.parallels_to_make:
        seat = Said("on parallels to be made, {high} high", high)
        had = {f"had{k}": length(each) for k, each in enumerate(sorted(vise.parallels_mm))}
        wipe = Said(
            "Make two parallels {high} high: the vise has "
            + (", ".join(f"{{{name}}}" for name in had) or "none")
            + f". Wipe jaws, {_set_parallels(holding)}.",
            {**high, **had, **_away(holding)},
        )
    else:
        seat = Said("on parallels {high} high", high)
        where = "pushed out to the jaws" if not _away(holding) else BESIDE_WHAT_COMES_OUT
        wipe = Said(f"Wipe jaws. Parallels {{high}} high, {where}.", {**high, **_away(holding)})
    both = "both vises, in turn, " if holding.second_mm is not None else ""
    down = "Parallels must not move by hand." if high else "The part must sit on the seat."
    return HeldWords(
        vise.name if "jaws" in vise.name else f"{vise.name}, {vise.jaws} jaws",
        torque,
        "at the screw",
        seat,
        (
            *([lying.before] if lying.before is not None else []),
            *_mounted(holding),
            *_in_line(holding),
            wipe,
            Said(f"{lying.handling}. {lying.up}.{_pushed(holding)}{lying.note}"),
            Said(
                f"Tighten {both}to {{torque}} with the torque wrench." + lying.reason,
                {"torque": torque},
            ),
            Said("Tap down. " + down),
        ),
        Said(
            "Handle off the screw and chips out of the jaws before the spindle turns; never over"
            " {most} at the screw, nor over what its maker allows.",
            {"most": Shown(vise.max_torque_nm, "torque")},
        ),
        "Vise.",
        "Torque wrench: no hammer on the handle, no tube over it.",
    )
