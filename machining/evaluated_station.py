"""What is answered of a station: how it lies, what holds it, what stands on the stage."""

from __future__ import annotations

from dataclasses import asdict
from functools import lru_cache
from typing import Any

import numpy as np

from machining.evaluation import StationResult
from machining.facts import at_angle, holdings, index, parallels
from machining.facts.context import PlanFacts, StationFacts
from machining.facts.flip import corner_words, flip_of
from machining.facts.holdings import vise
from machining.facts.stand import Body, Outline
from machining.facts.stands import carrier, stands
from machining.facts.zero import picked_said, zero_said
from machining.geometry.frames import (
    LEFT_LYING,
    Direction,
    Vector,
    flip_between,
    flip_in_words,
)
from machining.plan.document import BLANK, Orientation
from machining.world.library import Library

_SIDES = {
    "+x": "Right side up",
    "-x": "Left side up",
    "+y": "Back up",
    "-y": "Front up",
    "+z": "Top up",
    "-z": "Bottom up",
}
# of a chuck
_ENDS = {
    "+x": "Right end out",
    "-x": "Left end out",
    "+y": "Back out",
    "-y": "Front out",
    "+z": "Top out",
    "-z": "Bottom out",
}


def station_result(seen: StationFacts, facts: PlanFacts) -> StationResult:
    """A station as it is answered."""
    planned, lie = seen.planned, seen.lie
    turns = seen.turns
    height, held = vise.parallels_under(seen), vise.held_in(seen)
    pose = np.column_stack([lie.pose.rotation, lie.pose.origin])
    return StationResult(
        id=planned.id,
        up=_up(planned.orientation, turns),
        handling=_handling(seen, facts, turns),
        zero=zero_said(planned.zero, turns, facts.geometry),
        picked=picked_said(planned.zero, turns, facts.library.settings),
        positions=planned.positions,
        pose=[float(v) for v in pose.ravel()],
        stock_low=lie.stock_low.tolist(),
        stock_high=lie.stock_high.tolist(),
        part_low=lie.part_low.tolist(),
        part_high=lie.part_high.tolist(),
        bodies=_bodies(seen),
        held=_held(seen),
        takes=_takes(seen, facts.library),
        turns_to=_turns_to(seen),
        turns_on=index.turns_on_about(seen),
        flip=_flip(seen, facts),
        parallels_mm=height,
        parallels_to_make=height is not None
        and held is not None
        and not parallels.owned(held[1], height),
        stock_key=seen.arrives.key,
        unknown=seen.unknown,
        stands=[matrix.ravel().tolist() for matrix in _stands(seen)],
        on=None if (on := carrier(seen)) is None else asdict(on),
    )


def _up(orientation: Orientation, turns: bool) -> str:
    side = (_ENDS if turns else _SIDES)[orientation.up]
    return f"{side}, {at_angle.words(orientation)}" if orientation.raised_deg else side


def _stands(seen: StationFacts) -> list[Vector]:
    """Of one part alone there is nothing to tell."""
    several = sum(each.planned.positions for each in seen.setup.stations) > 1
    return stands(seen) if several else []


def _handling(seen: StationFacts, facts: PlanFacts, turns: bool) -> str:
    """How the part comes into it."""
    if seen.planned.takes == BLANK:
        return "Load the blank"
    before, now = facts.plan.station(seen.planned.takes).orientation, seen.planned.orientation
    flat = _turned_over((before.up, before.turn), (now.up, now.turn), turns)
    if before.raised_deg and not now.raised_deg and flat == LEFT_LYING:
        return "Lay it flat"
    return flat


@lru_cache(maxsize=256)
def _turned_over(before: tuple[Direction, int], now: tuple[Direction, int], turns: bool) -> str:
    return flip_in_words(flip_between(before, now), turns)


def _held(seen: StationFacts) -> dict[str, Any] | None:
    held, item = seen.planned.holding, seen.item
    if held is None or item is None:
        return None
    kind = holdings.kind_of(held)
    force = kind.force(held, item)
    return {
        "item": item.key,
        "name": item.name,
        "force": force.value,
        "quantity": force.quantity,
        "each": kind.each,
        "gripped_mm": kind.gripped_mm(held),
        "unasked": sorted(kind.unasked(item)),
    }


def _takes(seen: StationFacts, library: Library) -> list[dict[str, str]]:
    """What of the library's holdings goes on the setup's machine."""
    machine, place = seen.machine, seen.place
    return [
        {"key": key, "name": item.name}
        for key, item in sorted(library.holdings.items())
        if machine is not None
        and place is not None
        and holdings.FROM_LIBRARY[item.kind].fits(machine, place) is None
        and holdings.FROM_LIBRARY[item.kind].goes(item, place)
    ]


def _flip(seen: StationFacts, facts: PlanFacts) -> dict[str, Any] | None:
    """Row by row the rotation from how it lay, with its size then, mm."""
    flip = flip_of(seen, facts)
    if flip is None:
        return None
    turn = [float(v) for v in flip.turn.ravel()]
    return {"size": list(flip.size), "turn": turn, "lies": corner_words(flip.lies)}


def _turns_to(seen: StationFacts) -> list[dict[str, str]]:
    return [
        {
            "side": side,
            "words": index.aim_words(seen, side),
            "index": index.words(index.angles_of(seen, 0, turned) or {}),
            "other": index.other_way(seen, side),
        }
        for side, turned in index.could_turn(seen)
    ]


def _bodies(seen: StationFacts) -> list[dict[str, Any]]:
    turn = None if seen.stand.turn is None else [float(v) for v in seen.stand.turn.ravel()]
    stand, wedge = seen.stand, seen.stand.wedge
    upright = [_body(*each, turn) for each in zip(stand.near, stand.outlines, strict=True)]
    if wedge is None:
        return upright
    lies_on = {
        "role": "angle",
        "name": "",
        "of": "",
        "corners": [list(each) for each in wedge.corners],
        "bottom": wedge.low,
        "top": wedge.high,
        "axis": wedge.axis,
        "turn": None,
    }
    return [*upright, lies_on]


def _body(body: Body, corners: Outline, turn: list[float] | None) -> dict[str, Any]:
    return {
        "role": body.role,
        "name": body.name,
        "of": body.name or body.of,
        "corners": corners,
        "bottom": body.bottom,
        "top": body.top,
        "axis": "z",
        "turn": turn,
    }
