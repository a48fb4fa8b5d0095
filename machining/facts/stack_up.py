"""What adds up over a distance whose ends are made at different stations, aims or with different
tools: every finding of a zero, every coming back against a jaw, every tool.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

import numpy as np

from machining.geometry.frames import named
from machining.placing.stack_up import Link, joined, root_sum_square, worst_case
from machining.plan.zero import PICKED, From
from machining.quantities.said import Said, Shown, within
from machining.world.feature import Boss, Hole, Slanted, is_face
from machining.world.part import Requirement
from machining.world.stock.base import SIDE_WORDS

from .context import PlanFacts, StationFacts
from .index import aim_words
from .located import Links, end_of, located, setup_said, uneven
from .made import AXES, Made, NotKnown, boss_made, ends_of, face_made, hole_made
from .once import once
from .square import out_of_square
from .turned_axis import gripped_axis
from .zero import LETTERS, picked_by, within_mm

SETTING = {
    "edge": "edge_finder_mm",
    "probe": "probe_mm",
    "indicator": "indicator_mm",
    "touch": "touch_off_mm",
    "known": "known_mm",
}
FoundBy = tuple[Made, ...]  # a place of the part, or two in whose middle it is


@dataclass(frozen=True, slots=True)
class Chain:
    """What a distance of the drawing may be off by, each way (mm), and of what that is made, the
    largest first. ``allowed_mm`` is half its band. ``unknown`` says why nothing adds up, and then
    ``about`` what is missing; ``station`` is where that is, else where the later end is made.
    ``made`` are its ends where they are made.
    """

    asked: Requirement
    ends: tuple[Said, Said] | None
    links: Links
    worst_mm: float
    mostly_mm: float
    allowed_mm: float
    station: str = ""
    unknown: Said | None = None
    about: str = ""
    made: tuple[Made, Made] | None = None


def chains(facts: PlanFacts) -> list[Chain]:
    """Of every distance of the drawing that has a band and joins what is not made at once."""
    found = (_chain(asked, facts) for asked in facts.plan.part.requirements if asked.band_mm > 0)
    return [each for each in found if each is not None]


def _chain(asked: Requirement, facts: PlanFacts) -> Chain | None:
    allowed, links, said, at = asked.band_mm / 2.0, list[Link](), None, ""
    made: tuple[Made, Made] | None = None
    try:
        for (first, second), k, share in ends_of(asked, facts):
            later = max(first, second, key=lambda each: _order(each, facts))
            askew = [*out_of_square(asked, (first, second), later, k, facts)]
            if (at_once := _at_once(first, second)) and not askew:
                continue
            said, made = said or (first.said, second.said), made or (first, second)
            at = later.station.id if later.station is not None else ""
            found = () if at_once else relation(first, second, k, facts)
            links += [each.times(share) for each in (*found, *askew)]
    except NotKnown as why:
        if why.about == "nobody":
            return None  # that it is made at all is asked elsewhere
        return Chain(asked, said, (), 0.0, 0.0, allowed, why.station, why.said, why.about)
    if said is None:
        return None
    whole = joined(links)
    worst, mostly = worst_case(whole), root_sum_square(whole)
    return Chain(asked, said, whole, worst, mostly, allowed, at, made=made)


def _at_once(first: Made, second: Made) -> bool:
    """Are both made with one tool in one holding from one direction?"""
    a, b = first.op, second.op
    if a is None or b is None or first.station is not second.station:
        return False
    return a.operation.tool == b.operation.tool and a.operation.aim == b.operation.aim


def relation(first: Made, second: Made, k: int, facts: PlanFacts, on_first: bool = False) -> Links:
    """What two places may be off by along an axis of the part: of any part of the batch, or
    ``on_first``, on which zeros are picked up. Raises NotKnown.
    """
    if first.key == second.key:
        return ()
    if first.station is second.station:
        if first.station is None:
            return (*_of_blank(first, facts), *_of_blank(second, facts))
        return tuple(_in_one_holding(first, second, first.station, k, facts))
    if _order(first, facts) < _order(second, facts):
        first, second = second, first
    station = first.station
    assert station is not None  # the later of two is made somewhere
    links, places = _frame(station, k, facts, on_first)
    rest = _to(places, second, k, facts, on_first)
    return (*_cut(first, station, k, facts), *links, *rest)


def _order(place: Made, facts: PlanFacts) -> int:
    return -1 if place.station is None else facts.stations.index(place.station)


def _to(places: FoundBy, other: Made, k: int, facts: PlanFacts, on_first: bool) -> Links:
    """From what a zero is found by to another place; the middle of two faces is one of them and
    half of what lies between.
    """
    if len(places) == 1:
        return relation(places[0], other, k, facts, on_first)
    low, high = places
    half = tuple(each.times(0.5) for each in relation(low, high, k, facts, on_first))
    ways = [(*relation(each, other, k, facts, on_first), *half) for each in (low, high)]
    return min(ways, key=lambda links: root_sum_square(joined(links)))


# -- in one holding


def _in_one_holding(
    first: Made, second: Made, station: StationFacts, k: int, facts: PlanFacts
) -> Iterator[Link]:
    mine, other = _cut(first, station, k, facts), _cut(second, station, k, facts)
    shared = {each.key for each in mine} & {each.key for each in other}
    yield from (each for each in (*mine, *other) if each.key not in shared)
    for each in mine:
        if each.key in shared and first.side != second.side and each.key.startswith("radius"):
            yield each.times(2.0)  # one tool on opposite sides: a band or a slot


def _cut(place: Made, station: StationFacts, k: int, facts: PlanFacts) -> Links:
    """Where a place lies in the frame of the station that makes it."""
    return tuple(_cut_links(place, station, k, facts))


def _cut_links(place: Made, station: StationFacts, k: int, facts: PlanFacts) -> Iterator[Link]:
    machine, op, settings = station.machine, place.op, facts.library.settings
    if machine is None:
        raise NotKnown(Said("no machine is known that cuts it"), "machine", station.id)
    if station.turns and place.side is None:
        return  # what turns lies on the spindle's own axis
    where = within(place.said, "at_")
    yield Link(
        f"goes:{station.id}:{place.key}",
        Said(f"axes of {machine.name}, at {where.text}", where.values),
        machine.positioning_mm,
        f"machine:{machine.name}",
    )
    if op is None:
        return
    if op.operation.aim is not None:
        yield Link(
            f"index:{station.id}:{op.operation.aim}",
            Said(f"{machine.name} turns to its {aim_words(station, op.operation.aim)}"),
            settings.index_mm,
            "shop.index_mm",
        )
    if place.side is None or op.loaded is None:
        return
    tool, along = f"T{op.loaded.number}", abs(float(op.lie.pose.rotation[2][k]))
    kind, words = ("length", "length") if along > 0.5 else ("radius", "radius")
    field = f"tool_{kind}_mm"
    yield Link(
        f"{kind}:{op.loaded.id}",
        Said(f"{words} of {tool}"),
        float(getattr(settings, field)),
        f"shop.{field}",
    )


# -- where a station's frame is


def _frame(
    station: StationFacts, k: int, facts: PlanFacts, on_first: bool
) -> tuple[Links, FoundBy]:
    """How closely the frame of a station is known to stand to a place of the part: on the first
    part where its zero is picked up, on those after it by what they are pushed against.
    """
    on = _axis_of(station, k)
    if station.turns and on < 2:
        links, whose = gripped_axis(station, facts)
        return links, (whose,)
    links, places = _picked(station, on, k, facts)
    if on_first or facts.plan.quantity == 1 or station.planned.zero.each_part:
        return links, places
    again, against = located(station, on, facts)
    if station.planned.positions > 1 and not station.planned.offset_each and on < 2:
        again = (*again, _by_the_pitch(station, facts))
    if len(places) == 1 and places[0].key == against.key:
        return (*links, *again), places
    first = [_of_first(each) for each in _to(places, against, k, facts, True)]
    return (*links, *again, *first), (against,)


def _by_the_pitch(station: StationFacts, facts: PlanFacts) -> Link:
    """Positions that share an offset: where the others stand is known, not found."""
    return Link(
        f"pitch:{station.id}",
        Said("other positions of setup {setup}, by the pitch", setup_said(station)),
        facts.library.settings.known_mm,
        "shop.known_mm",
    )


def _of_first(link: Link) -> Link:
    return Link(
        f"first:{link.key}",
        Said(f"{link.said.text}, on the first part", link.said.values),
        link.mm,
        link.source,
    )


def _axis_of(station: StationFacts, k: int) -> int:
    """The axis of a station along which an axis of the part lies."""
    unit = np.zeros(3)
    unit[k] = 1.0
    way = named(station.lie.pose.rotation @ unit)
    if way is None:
        raise NotKnown(Said("the part lies at an angle"), "angle", station.id)
    return AXES.index(way[1])


def _picked(station: StationFacts, on: int, k: int, facts: PlanFacts) -> tuple[Links, FoundBy]:
    """An axis of a zero as it is picked up, and by what."""
    taken = station.planned.zero.taken[on]
    by = picked_by(on, taken)
    picked = Link(
        f"zero:{station.id}:{on}",
        Said(
            f"{LETTERS[on]} zero of setup {{setup}}, {dict(PICKED)[by]}",
            {"setup": Shown(str(station.number))},
        ),
        within_mm(on, taken, facts.library.settings),
        f"shop.{SETTING[by]}",
    )
    places = found_by(station, on, facts)
    share = 1.0 / len(places)
    raw = [link.times(share) for link in (uneven(p, station, facts) for p in places) if link]
    rests = _rests(taken, station, on, facts)
    return (picked, *raw, *rests), places


def found_by(station: StationFacts, on: int, facts: PlanFacts) -> FoundBy:
    """The place of the part an axis of a station's zero is found by, or two in whose middle it is.
    Raises NotKnown.
    """
    taken, key = station.planned.zero.taken[on], ("found by", station.id, on)
    return once(facts, key, lambda: tuple(_found_by(taken, station, on, facts)), station)


def _found_by(taken: From, station: StationFacts, on: int, facts: PlanFacts) -> Iterator[Made]:
    part = facts.geometry
    feature = part.feature(taken.feature) if taken.feature else None
    if isinstance(feature, Hole):
        yield hole_made(feature, facts)
    elif isinstance(feature, Boss):
        yield boss_made(feature, facts)
    elif is_face(feature):
        yield face_made(feature, facts)
    elif isinstance(feature, Slanted):
        raise NotKnown(Said("its zero is on what is slanted"), "angle", station.id)
    elif taken.of in ("stock", "part"):
        ends = (0, 1) if taken.at == "middle" else (int(taken.at == "high"),)
        for end in ends:
            yield end_of(station, on, end == 1, facts)
    elif taken.of in ("jaw", "stop") or on == 2:
        yield located(station, on, facts)[1]
    else:
        raise NotKnown(Said("nothing on the table says where the part is"), "table", station.id)


def _rests(taken: From, station: StationFacts, on: int, facts: PlanFacts) -> Links:
    """A zero on what the part lies on or against, not on the part: how closely that touches."""
    rests = taken.of in ("seat", "table", "jaw", "stop")
    return located(station, on, facts)[0] if rests else ()


def _of_blank(place: Made, facts: PlanFacts) -> Iterable[Link]:
    """How far a side of the blank may be from where it was ordered: half of what it can be over,
    each way.
    """
    if place.side is None:
        return ()  # its axis, of which all the rest is told
    return (
        Link(
            f"blank:{place.side}",
            Said(f"blank’s {SIDE_WORDS[place.side]}"),
            facts.plan.stock.tolerance_at(place.side) / 2.0,
            "blank",
        ),
    )
