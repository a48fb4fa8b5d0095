"""travel.axis: a position that an axis of the machine does not reach."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil, floor, inf

from machining.facts import index
from machining.facts.context import PlanFacts, Ready
from machining.facts.reach import cutting_length_needed
from machining.plan.at import At, Spots
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.world.capability import turns_work
from machining.world.record import Place

from ..elsewhere import on_machine
from ..finding import Finding, of_operation
from .turned_holding import a_quarter

ALONG = 0.999
WORDS = {
    "travel_x": "X",
    "travel_y": "Y",
    "travel_up": "Z upwards",
    "travel_down": "Z downwards",
    "travel_z": "Z",
    "travel_swing": "The swing",
}


def axis(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    for name, words in WORDS.items():
        spare = op.figures.get(name)
        if spare is None or spare.value >= 0:
            continue
        yield of_operation(
            op,
            "travel.axis",
            "stop",
            "{axis} runs out by {over}.",
            {"axis": Shown(words), "over": length(-spare.value)},
            name,
            _fixes(op, facts, name, -spare.value),
        )
        return


def _into_reach(op: Ready, name: str) -> Iterator[Proposal]:
    """Its positions carried back to where the axis goes; those of no row each for itself."""
    at = op.station.planned.at
    if at is None or name not in ("travel_x", "travel_y"):
        return
    i = "xy".index(name[-1])
    if _reaches(op, i)[1] == inf:
        return
    ends = [_reaches(each, i) for each in op.station.operations if isinstance(each, Ready)]
    least = max((low for low, _ in ends), default=0.0)
    most = min((high for _, high in ends), default=0.0)
    if isinstance(at, Spots):
        back: At = Spots(at_mm=tuple(_within(spot, i, least, most) for spot in at.spots))
    else:
        stands = [spot[i] for spot in at.spots]
        by = max(least - min(stands), 0.0) or min(most - max(stands), 0.0)
        by = ceil(by) if by > 0 else floor(by)
        if not least <= min(stands) + by <= max(stands) + by <= most:
            return  # all of it is longer than the way of the axis
        back = at.moved(by, 0.0) if i == 0 else at.moved(0.0, by)
    fields = {"at": back.model_dump(mode="json")}
    yield Proposal(
        "Carry it to where {axis} goes",
        (Change(on=op.station.on, fields=fields),),
        {"axis": Shown("XY"[i])},
    )


def _reaches(op: Ready, i: int) -> tuple[float, float]:
    """Between which places along an axis a position may stand for an operation; everywhere where
    turning its side to the tool takes it off that axis.
    """
    along = (op.lie.pose.rotation @ op.station.lie.pose.rotation.T)[i, i]
    if not op.path.legs or along < ALONG:
        return -inf, inf
    travel = (op.rig.carrier.travel.x, op.rig.carrier.travel.y)[i] / 2.0
    low, high = (float(each[i]) for each in op.path.bounds())
    off = float(index.origins(op)[0, i]) - op.station.planned.spots[0][i]
    return -travel - low - off, travel - high - off


def _within(spot: Place, axis: int, least: float, most: float) -> Place:
    to = min(max(spot[axis], float(ceil(least))), float(floor(most)))
    return (to, spot[1]) if axis == 0 else (spot[0], to)


def _fixes(op: Ready, facts: PlanFacts, name: str, over: float) -> tuple[Proposal, ...]:
    fixes: list[Proposal] = [*_into_reach(op, name)]
    if name in ("travel_x", "travel_y"):
        fixes += a_quarter(op)
    loaded = op.loaded
    if name == "travel_up" and op.work is not None:
        shorter = float(int(loaded.stick_out_mm - over))
        least = max(op.value("stick_out_needed") or 0.0, cutting_length_needed(op))
        if shorter >= least:
            fixes.append(
                Proposal(
                    "Set stick-out to {shorter}",
                    (Change(on=f"tool:{loaded.id}", fields={"stick_out_mm": shorter}),),
                    {"shorter": length(shorter)},
                )
            )
    turns = op.station.turns
    for machine in facts.library.machines.values():
        if (
            machine is not op.machine
            and turns_work(machine) == turns
            and machine.carriers[0].travel.x >= op.rig.carrier.travel.x
        ):
            fixes.append(on_machine(op.setup, machine))
            break
    return tuple(fixes)
