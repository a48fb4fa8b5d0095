"""The zero of a station: in words, what else it could be taken from, and how it is picked up."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from machining.plan.clamped import Clamped
from machining.plan.zero import NAMED, PICKED, SIDEWAYS, UPRIGHT, End, From, Of, Picked, Zero
from machining.quantities.said import Said, Shown, length
from machining.world.feature import Boss, Feature, Flat, Hole, has_axis, is_face, is_plane
from machining.world.geometry import PartGeometry
from machining.world.machine import Spot, Table
from machining.world.settings import Settings

from .context import PlanFacts, StationFacts
from .covered import SQUARE, words_for

LETTERS, SAME_MM = "XYZ", 1e-6
ENDS: dict[tuple[int, End], str] = {
    (0, "low"): "left end",
    (0, "high"): "right end",
    (1, "low"): "front side",
    (1, "high"): "back side",
    (2, "low"): "bottom",
    (2, "high"): "top",
}
IN_CHUCK: dict[End, str] = {"low": "end in the chuck", "high": "free end"}
WHOSE = {"stock": "the blank", "part": "the finished part"}
TOWARDS = (("right of", "left of"), ("behind", "in front of"), ("above", "below"))
ALONG = ("towards the tail from", "towards the chuck from")
# how a shop finds a place where nobody says otherwise
USUALLY: dict[Of, Picked] = {"hole": "indicator", "table": "known", "spot": "known"}
CAN: dict[Of, tuple[Picked, ...]] = {
    "hole": ("indicator", "probe"),
    "table": ("known", "indicator", "probe"),
    "spot": ("known", "indicator", "probe"),
    "jaw": ("edge", "probe", "indicator", "known"),
    "stop": ("edge", "probe", "known"),
    "seat": ("touch", "probe", "known"),
}
ON_A_SIDE: tuple[Picked, ...] = ("edge", "probe", "touch")
ON_TOP: tuple[Picked, ...] = ("touch", "probe")


@dataclass(frozen=True, slots=True)
class Choice:
    """A place an axis of a zero could be taken from."""

    of: Of
    at: End
    feature: str
    said: Said


@dataclass(frozen=True, slots=True)
class AxisOfZero:
    """An axis of a zero: what can be taken for it, how that is picked up as the plan has it
    (``picked``, within ``within_mm``), and how it can be.
    """

    axis: str
    choices: list[Choice]
    picked: Picked
    within_mm: float
    ways: list[tuple[Picked, str]]


def zero_said(zero: Zero, turns: bool, geometry: PartGeometry) -> list[Said]:
    """Where it is, an axis each; X and Y together where both are the middle or one hole. On a lathe
    X is on the spindle's axis.
    """
    upright = axis_said(2, zero.z, turns, geometry)
    if turns:
        return [Said("X on the spindle’s axis"), upright]
    x, y = zero.x, zero.y
    if x.of == y.of == "hole" and x.feature == y.feature and not (x.off_mm or y.off_mm):
        hole = _named(0, x, geometry)
        return [Said(f"X Y on the axis of the {hole.text}", hole.values), upright]
    if x == y and x.of in WHOSE and x.at == "middle" and not x.off_mm:
        return [Said(f"X Y middle of {WHOSE[x.of]}"), upright]
    return [axis_said(0, x, False, geometry), axis_said(1, y, False, geometry), upright]


def axis_said(k: int, taken: From, turns: bool, geometry: PartGeometry) -> Said:
    """One of them: "Z 2 above the top of the blank"."""
    place = place_said(k, taken, turns, geometry)
    if not taken.off_mm:
        return Said(f"{LETTERS[k]} {place.text}", place.values)
    towards = (ALONG if turns else TOWARDS[k])[taken.off_mm < 0]
    return Said(
        f"{LETTERS[k]} {{off}} {towards} {the(place.text)}",
        {"off": Shown(abs(taken.off_mm), "size"), **place.values},
    )


def place_said(k: int, taken: From, turns: bool, geometry: PartGeometry) -> Said:
    """What an axis is taken from: "left end of the blank"."""
    if taken.of in WHOSE:
        end = IN_CHUCK if turns else {at: ENDS.get((k, at), "middle") for at in ("low", "high")}
        return Said(f"{end.get(taken.at, 'middle')} of {WHOSE[taken.of]}")
    if taken.of == "jaw":
        return Said("the fixed jaw")
    if taken.of == "stop":
        return Said("the stop")
    if taken.of == "seat":
        return Said("what the part rests on")
    if taken.of == "spot":
        return Said(f"the {taken.feature.replace('-', ' ')}")
    if taken.of == "table":
        return Said("top of the table" if k == 2 else "middle of the table")
    named = _named(k, taken, geometry)
    if taken.of == "hole":
        return Said(f"the axis of the {named.text}", named.values)
    return named


def the(place: str) -> str:
    """A place inside a sentence."""
    return place if place.startswith(("the ", "what ")) else f"the {place}"


def _named(k: int, taken: From, geometry: PartGeometry) -> Said:
    feature = geometry.feature(taken.feature)
    if feature is None:
        return Said(f"{taken.of} that is not there")
    named = words_for(feature)
    if taken.of == "face" and is_face(feature):
        looks, height = feature.plane
        at = length(height if looks[0] == "+" else 0.0 - height)
        which = "face" if isinstance(feature, Flat) else f"floor of the {named.text}"
        return Said(f"{which} at {looks[1].upper()} {{at}} of the part", {**named.values, "at": at})
    return _told_apart(feature, named, geometry) if isinstance(feature, Hole | Boss) else named


def _told_apart(hole: Hole | Boss, named: Said, geometry: PartGeometry) -> Said:
    """A hole or a boss by where it stands in the part, where others along it are as wide."""
    alike = [
        each
        for each in geometry.features
        if isinstance(each, type(hole))
        and each.axis[1] == hole.axis[1]
        and abs(each.diameter_mm - hole.diameter_mm) < SAME_MM
    ]
    if len(alike) == 1:
        return named
    letters = [letter for letter in "xyz" if letter != hole.axis[1]]
    at = " ".join(f"{letter.upper()} {{{letter}}}" for letter in letters)
    where = {letter: length(hole.point["xyz".index(letter)]) for letter in letters}
    return Said(f"{named.text} at {at} of the part", {**named.values, **where})


def axes(station: StationFacts, facts: PlanFacts) -> list[AxisOfZero]:
    """What each axis that is asked for can be taken from, and how."""
    zero, settings = station.planned.zero, facts.library.settings
    found = []
    for k in (2,) if station.turns else (0, 1, 2):
        taken = zero.taken[k]
        found.append(
            AxisOfZero(
                "xyz"[k],
                [*_choices(k, station, facts.geometry)],
                picked_by(k, taken),
                within_mm(k, taken, settings),
                [(by, dict(PICKED)[by]) for by in _able(k, taken)],
            )
        )
    return found


def _choices(k: int, station: StationFacts, geometry: PartGeometry) -> Iterator[Choice]:
    def choice(of: Of, at: End = "middle", feature: str = "") -> Choice:
        taken = From(of=of, at=at, feature=feature)
        return Choice(of, at, feature, place_said(k, taken, station.turns, geometry))

    ends: tuple[End, ...] = ("high", "low") if k == 2 else ("low", "middle", "high")
    for of in UPRIGHT if k == 2 else SIDEWAYS:
        if of in WHOSE:
            yield from (choice(of, at) for at in ends)
        elif of == "spot":
            yield from (choice(of, feature=each.key) for each in _spots(station))
        elif of in NAMED:
            yield from (
                choice(of, feature=each.id)
                for each in geometry.features
                if (has_axis(each) if of == "hole" else is_plane(each)) and _lies(k, each, station)
            )
        elif _is_there(k, of, station):
            yield choice(of)


def _spots(station: StationFacts) -> tuple[Spot, ...]:
    alone = isinstance(station.place, Table) and station.planned.positions == 1
    return station.place.known_spots if alone and isinstance(station.place, Table) else ()


def _lies(k: int, feature: Feature, station: StationFacts) -> bool:
    """Does a hole or a boss stand upright, or an inner face look along an axis?"""
    turn = station.lie.pose.rotation
    if has_axis(feature):
        return k < 2 and bool(abs((turn @ feature.direction)[2]) > SQUARE)
    if not is_plane(feature) or (isinstance(feature, Flat) and feature.outermost):
        return False
    return bool(abs((turn @ feature.looks)[k]) > SQUARE)


def _is_there(k: int, of: Of, station: StationFacts) -> bool:
    held = station.planned.in_vise
    if of == "jaw":
        return held is not None and "xy".index(held.fixed[1]) == k
    if of == "stop":
        return held is not None and bool(held.stop) and "xy".index(held.fixed[1]) != k
    if of == "seat":
        return held is not None or isinstance(station.planned.holding, Clamped)
    return not station.turns and station.planned.positions == 1


def _able(k: int, taken: From) -> tuple[Picked, ...]:
    return CAN.get(taken.of, ON_TOP if k == 2 else ON_A_SIDE)


def picked_by(k: int, taken: From) -> Picked:
    """How it is picked up: as the plan says, else as a shop usually does there."""
    return taken.by or USUALLY.get(taken.of, _able(k, taken)[0])


def ways_to_pick(k: int, taken: From) -> tuple[Picked, ...]:
    """How it is picked up, then how else it could be."""
    now = picked_by(k, taken)
    return now, *(each for each in _able(k, taken) if each != now)


def within_mm(k: int, taken: From, settings: Settings) -> float:
    """How closely that finds the place, each way (mm)."""
    found: float = {
        "edge": settings.edge_finder_mm,
        "probe": settings.probe_mm,
        "indicator": settings.indicator_mm,
        "touch": settings.touch_off_mm,
        "known": settings.known_mm,
    }[picked_by(k, taken)]
    return found


def picked_said(zero: Zero, turns: bool, settings: Settings) -> list[Said]:
    """How each axis is picked up and how closely: axes picked up alike are told together."""
    together = dict[tuple[Picked, float], str]()
    for k in (2,) if turns else (0, 1, 2):
        way = picked_by(k, zero.taken[k]), within_mm(k, zero.taken[k], settings)
        together[way] = f"{together.get(way, '')} {LETTERS[k]}".strip()
    return [
        Said(f"{letters}: {dict(PICKED)[by]}, ±{{within}}", {"within": Shown(within, "size")})
        for (by, within), letters in together.items()
    ]
