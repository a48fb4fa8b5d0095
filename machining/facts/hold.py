"""How a setup is held, what it stands against each cut, and what of it lies in the cut."""

from __future__ import annotations

from shapely import LineString, MultiLineString, MultiPoint

from machining.geometry.regions import Region, grown
from machining.holding.contacts import Contacts
from machining.memo import Memo

from . import around, at_angle, held, holdings, leaning, turning
from .context import PlanFacts, Ready, StationFacts
from .kinds import kind_of

MOST_TRACES = 150


def of_station(station: StationFacts, facts: PlanFacts, memo: Memo) -> None:
    """How the part stands, and the figures of its holding. Raises OutOfRange where it does not go
    into it.
    """
    holding = station.planned.holding
    if holding is None or station.item is None:
        return
    kind = holdings.kind_of(holding)
    lying = leaning.as_held(station) if leaning.leans(station) else station
    lying.stand = kind.stand(lying, holding, station.item, memo)
    kind.figures(lying, holding, station.item, facts)
    if lying is not station:
        leaning.leant(lying, station, facts.library.settings.sine_plate_high_mm)
    at_angle.figures(station, facts)


def of_operation(op: Ready, facts: PlanFacts) -> None:
    """What the holding holds against the operation's cut."""
    holding, item = op.station.planned.holding, op.station.item
    if holding is None or item is None or not op.station.stand.bodies:
        return
    kind = holdings.kind_of(holding)
    touches = kind.touches
    least = held.against(
        op,
        lambda state: touches(op.station, holding, item, state),
        facts,
        kind.ends(op, holding, item),
    )
    kind.at_speed(op, holding, item, least)


def as_it_comes(station: StationFacts, facts: PlanFacts) -> Contacts | None:
    """Where a station's part is touched before anything is cut; None while nobody knows how it is
    held.
    """
    holding, item = station.planned.holding, station.item
    if holding is None or item is None or not station.stand.bodies:
        return None
    touches = holdings.kind_of(holding).touches
    return held.contacts_of(
        station, station.arrives, lambda state: touches(station, holding, item, state), facts
    )


def jaw_in_cut(op: Ready, facts: PlanFacts, memo: Memo) -> float | None:
    """How far (mm) the tool's lowest level lies below where a jaw's margin begins, None where it
    keeps clear.
    """
    if not op.path.legs:
        return None
    margin, worst = facts.library.settings.jaw_margin_mm, 0.0
    lowest = op.path.bounds()[0][2]
    if kind_of(op.operation).turned:
        return turning.jaw_in_cut(op, margin)
    swept = None
    for jaw in around.holds(op, memo):
        depth = jaw.top + margin - float(lowest)
        if depth <= 1e-6:
            continue
        if swept is None:
            swept = swept_region(op, memo)
        if grown(swept, margin).intersects(jaw.region):
            worst = max(worst, depth)
    return worst or None


def swept_region(op: Ready, memo: Memo) -> Region:
    """What the cutting edges cover in plan at feed."""
    return memo.get(("swept", op.trace_key, op.tool.diameter_mm), lambda: _swept(op))


def _swept(op: Ready) -> Region:
    radius = op.tool.diameter_mm / 2.0
    if op.work.holes:
        return MultiPoint([hole[:2] for hole in op.work.holes]).buffer(radius)
    if kind_of(op.operation).covers_region:
        return op.work.region  # what the tool can reach of the pocket is what it sweeps
    traces = {
        leg.points[:, :2].tobytes(): leg.points[:, :2]
        for leg in op.path.legs
        if leg.kind == "cut" and len(leg.points) > 1
    }
    drawn = list(traces.values())
    # passes far closer than the tool is wide cover the same
    if kind_of(op.operation).side_by_side and len(drawn) > MOST_TRACES:
        drawn = [*drawn[:: -(-len(drawn) // MOST_TRACES)], drawn[-1]]
    lines = [LineString(trace).simplify(0.1) for trace in drawn]
    return MultiLineString([line for line in lines if line.length > 0]).buffer(radius, quad_segs=8)
