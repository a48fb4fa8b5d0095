"""What can be done at a station with what somebody points at: that side up, the zero on it."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import numpy as np

from machining.facts import index
from machining.facts.context import PlanFacts, StationFacts
from machining.facts.read import SAME_MM, Picked, feature_of
from machining.geometry.frames import Direction, axis, named
from machining.plan.edit import Change
from machining.plan.places import OnFeatures
from machining.plan.proposal import Proposal
from machining.plan.zero import AXES, From, Of
from machining.quantities.said import Shown
from machining.world.feature import Flat, Hole, Pocket, Slanted, has_axis, is_face
from machining.world.stock.base import SIDE_WORDS

from .raising import raised

Taken = dict[int, From]


def pointed(point: Picked, station: StationFacts, facts: PlanFacts) -> Iterator[Proposal]:
    """As proposals; nothing where it lies so already."""
    planned, looks = station.planned, point.looks
    if looks is not None and looks != station.lie.up:
        yield Proposal(
            "Put its {side} out" if station.turns else "Turn its {side} up",
            (Change(on=station.on, fields=_up(looks, station)),),
            {"side": Shown(SIDE_WORDS[looks])},
        )
    yield from _turned_for(point, station, facts)
    taken = {
        k: each
        for k, each in _taken(point, station, facts).items()
        if not (station.turns and k < 2) and each != _plain(planned.zero.taken[k])
    }
    if taken:
        fields = {f"zero.{AXES[k]}": each.model_dump(mode="json") for k, each in taken.items()}
        yield Proposal(
            "Take {axes} zero from it",
            (Change(on=station.on, fields=fields),),
            {"axes": Shown(" ".join("XYZ"[k] for k in sorted(taken)))},
        )


def _up(side: Direction, station: StationFacts) -> dict[str, Any]:
    """That side up, lying square again where it was raised at an angle."""
    square = {"orientation.raised_deg": 0.0} if station.planned.orientation.raised_deg else {}
    return {"orientation.up": side, **square}


def along_both(first: Picked, second: Picked, station: StationFacts) -> Iterator[Proposal]:
    """The part turned by a line from one place to another, an edge by its ends: stood upright on
    it, or laid along X. Nothing where the line runs askew, or lies so.
    """
    line = second.at - first.at
    length = float(np.linalg.norm(line))
    up = named(line / length) if length > SAME_MM else None
    if up is None:
        return
    orientation = station.planned.orientation
    if up != station.lie.up:
        yield Proposal(
            "Put the second further out: its {side} out"
            if station.turns
            else "Stand the second over the first: its {side} up",
            (Change(on=station.on, fields=_up(up, station)),),
            {"side": Shown(SIDE_WORDS[up])},
        )
    if not station.turns and named(station.lie.pose.rotation @ axis(up)) in ("+y", "-y"):
        turn = (orientation.turn + 90) % 360
        yield Proposal(
            "Turn it so that both lie along X",
            (Change(on=station.on, fields={"orientation.turn": turn}),),
        )


def _turned_for(point: Picked, station: StationFacts, facts: PlanFacts) -> Iterator[Proposal]:
    """Its side to the tool of each operation on it, in the same holding."""
    feature = feature_of(point, facts.geometry)
    if isinstance(feature, Slanted):
        yield from raised(feature, station)
        yield from _turned_to_slanted(feature, station)
    if not isinstance(feature, Hole | Pocket):
        return
    opens = feature.opens if isinstance(feature, Hole) else (feature.opens,)
    if station.planned.orientation.up in opens:
        return
    able = [side for side, _ in index.could_turn(station) if side in opens]
    for op in station.operations:
        on = op.operation.on
        if not isinstance(on, OnFeatures) or feature.id not in on.ids:
            continue
        for side in able:
            if side != op.operation.aim:
                yield Proposal(
                    "Turn its {side} to the tool for operation {number}",
                    (Change(on=op.on, fields={"aim": side}),),
                    {"side": Shown(SIDE_WORDS[side]), "number": Shown(str(op.number))},
                )


def _turned_to_slanted(feature: Slanted, station: StationFacts) -> Iterator[Proposal]:
    """The same of what is slanted, where the machine's axes reach it."""
    if index.looks_up(station, feature.id) or index.way_to(station, feature.id) is None:
        return
    for op in station.operations:
        on = op.operation.on
        if isinstance(on, OnFeatures) and feature.id in on.ids and op.operation.aim != feature.id:
            words = Shown(index.aim_words(station, feature.id))
            yield Proposal(
                "Turn the {what} to the tool for operation {number}",
                (Change(on=op.on, fields={"aim": feature.id}),),
                {"what": words, "number": Shown(str(op.number))},
            )


def _plain(taken: From) -> From:
    return taken.model_copy(update={"by": ""})


def _taken(point: Picked, station: StationFacts, facts: PlanFacts) -> Taken:
    """What the axes of its zero would be taken from there."""
    feature, turn = feature_of(point, facts.geometry), station.lie.pose.rotation
    if has_axis(feature):
        upright = abs(float((turn @ feature.direction)[2])) > 0.999
        on = From(of="hole", feature=feature.id)
        return {0: on, 1: on} if upright else {}
    if isinstance(feature, Slanted):
        k = int(np.abs(turn @ feature.looks).argmax())
        square = abs(float((turn @ feature.looks)[k])) > 0.999
        return {k: From(of="face", feature=feature.id)} if square else {}
    if point.looks is None:
        here = station.lie.pose.apply(point.at)
        ends = {k: _end(float(here[k]), k, station, ("part",)) for k in range(3)}
        return {k: each for k, each in ends.items() if each is not None}
    way = named(turn @ axis(point.looks))
    if way is None:
        return {}
    k = AXES.index(way[1])  # type: ignore[arg-type]
    if is_face(feature) and not (isinstance(feature, Flat) and feature.outermost):
        return {k: From(of="face", feature=feature.id)}
    here = station.lie.pose.apply(np.asarray(point.at))
    end = _end(float(here[k]), k, station, ("part", "stock") if feature else ("stock",))
    return {} if end is None else {k: end}


def _end(at: float, k: int, station: StationFacts, whose: tuple[Of, ...]) -> From | None:
    """The end of the part or of the stock at a coordinate of the station."""
    lie = station.lie
    for of in whose:
        ends = (lie.part_low, lie.part_high) if of == "part" else (lie.stock_low, lie.stock_high)
        for end, name in zip(ends, ("low", "high"), strict=True):
            if abs(float(end[k]) - at) <= SAME_MM:
                return From(of=of, at=name)  # type: ignore[arg-type]
    return None
