"""hold.at-angle: a part held at an angle that the jaws meet along an edge, or on too little."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts import at_angle as held_at
from machining.facts.context import PlanFacts, StationFacts
from machining.facts.holdings.vise import held_in
from machining.memo import Memo
from machining.plan.edit import Change, Keep
from machining.plan.in_vise import Holding
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.world.workholding import Vise

from ..finding import Finding, Severity

LEAST_SHARE = 1.0 / 3.0  # of a part's length along the jaws: what is shorter counts as a line
STEP_MM = 1.0


def at_angle(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    orientation, held = station.planned.orientation, held_in(station)
    if held is None or not held_at.is_raised(station):
        return
    holding, vise = held
    if orientation.raised_by == "jaws":
        if vise.jaws != "soft":
            yield _found(station, "stop", HARD, {}, tuple(_soft(station, holding, facts)))
        return
    if not held_at.across_jaws(orientation, holding):
        fixes = (
            _vise_turned(station, holding),
            _on_a_plate(station),
            *_soft(station, holding, facts),
        )
        yield _found(station, "stop", EDGES, {}, fixes)
        return
    along = 1 - "xy".index(holding.fixed[1])
    whole = float(station.lie.stock_high[along] - station.lie.stock_low[along])
    touches = _touches(station, holding)
    if touches >= LEAST_SHARE * whole - 1e-6:
        return
    said = {"touches": length(round(touches, 2)), "whole": length(round(whole, 2))}
    yield _found(
        station,
        "look" if touches > 0.0 else "stop",
        SHORT if touches > 0.0 else EDGES,
        said if touches > 0.0 else {},
        (
            *_deeper(station, holding, vise, LEAST_SHARE * whole),
            _on_a_plate(station),
            *_kept(station),
        ),
    )


HARD = (
    "Soft jaws cut at the angle are planned, and the jaws of this vise are hard: nothing sets it."
)
EDGES = "Raised along the jaws, it meets flat jaws along its edges alone: it rolls out of them."
SHORT = "At an angle the jaws touch {touches} of its {whole} along them: it can turn between them."


def _found(
    station: StationFacts,
    severity: Severity,
    text: str,
    said: dict[str, Shown],
    fixes: tuple[Proposal, ...],
) -> Finding:
    where = station.setup.id
    return Finding("hold.at-angle", severity, where, "", text, said, "", fixes, station=station.id)


def _touches(station: StationFacts, holding: Holding) -> float:
    memo: Memo = station.arrives.memo
    key = ("touched", station.arrives.key, holding.fixed[1], holding.grip_depth_mm)
    return held_at.least_long(
        memo.get(key, lambda: held_at.touched(holding, station.arrives.solid))
    )


def _deeper(
    station: StationFacts, holding: Holding, vise: Vise, least: float
) -> Iterator[Proposal]:
    """The shallowest whole millimetre that touches enough."""
    grip = holding.grip_depth_mm
    while grip + STEP_MM <= vise.jaw_height_mm:
        grip = float(int(grip + STEP_MM))
        if _touches(station, holding.model_copy(update={"grip_depth_mm": grip})) >= least:
            change = Change(on=station.on, fields={"holding.grip_depth_mm": grip})
            yield Proposal("Grip {grip} deep", (change,), {"grip": length(grip)})
            return


def _vise_turned(station: StationFacts, holding: Holding) -> Proposal:
    fixed = f"+{'x' if holding.fixed[1] == 'y' else 'y'}"
    return Proposal(
        "Turn the vise: its jaws across {axis}",
        (Change(on=station.on, fields={"holding.fixed": fixed}),),
        {"axis": Shown(fixed[1].upper())},
    )


def _on_a_plate(station: StationFacts) -> Proposal:
    return Proposal(
        "Stand the vise at the angle, on a sine plate",
        (Change(on=station.on, fields={"orientation.raised_by": "vise"}),),
    )


def _soft(station: StationFacts, holding: Holding, facts: PlanFacts) -> Iterator[Proposal]:
    """Soft jaws cut at the angle, in each vise that has them."""
    for vise in facts.library.vises.values():
        if vise.jaws == "soft":
            fields = {
                "orientation.raised_by": "jaws",
                "holding.vise": vise.key,
                "holding.torque_nm": min(holding.torque_nm, vise.max_torque_nm),
            }
            yield Proposal(
                "Hold it in soft jaws cut at the angle: {vise}",
                (Change(on=station.on, fields=fields),),
                {"vise": Shown(vise.name)},
            )


def _kept(station: StationFacts) -> Iterator[Proposal]:
    words = "pressed against a stop that keeps it from turning"
    keep = Keep(on=station.on, finding="hold.at-angle", words=words)
    yield Proposal("Keep it: {words}", (keep,), {"words": Shown(words)})
