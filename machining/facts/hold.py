"""How a setup is held, what it stands against each cut, and what of it lies in the cut."""

from __future__ import annotations

from shapely import LineString, MultiLineString, MultiPoint

from machining.geometry.regions import Region, grown
from machining.holding.contacts import Contacts
from machining.memo import Memo

from . import around, at_angle, held, holdings, leaning, requirement, tabs, turning
from .context import PlanFacts, Ready, StationFacts
from .kinds import kind_of
from .observed import InHolding
from .stand import Body

MOST_TRACES = 150
NEAR_MM = 1e-6
COVERED_MM2 = 0.1


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


def put_on(station: StationFacts, operation: str, memo: Memo) -> None:
    """Clamps that are put on before an operation stand where the part has a place for them then."""
    holding, stand = station.planned.holding, station.stand
    if holding is None or station.item is None or operation not in stand.during:
        return
    kind, now = holdings.kind_of(holding), station.leaves.seen_in(station.lie)
    station.stand = kind.put_on(station, holding, station.item, operation, now, memo)


def of_operation(op: Ready, facts: PlanFacts) -> None:
    """What the holding holds against the operation's cut."""
    holding, item = op.station.planned.holding, op.station.item
    if holding is None or item is None or not op.stand.bodies:
        return
    if op.stand.problem:
        op.unknown["hold"] = op.stand.problem
        return
    kind = holdings.kind_of(holding)
    least = held.against(
        op, layers(op.station.during(op.stand)), facts, kind.ends(op, holding, item)
    )
    kind.at_speed(op, holding, item, least)
    requirement.figure(op, facts)
    tabs.of_operation(op, facts)


def layers(station: StationFacts) -> list[held.Layer]:
    """The part by what touches it, then what it is clamped to; none while nothing holds it."""
    holding, item = station.planned.holding, station.item
    if holding is None or item is None or not station.stand.bodies:
        return []
    kind = holdings.kind_of(holding)
    below = kind.under(station, holding, item)
    part = held.Layer(lambda state: kind.touches(station, holding, item, state))
    return [part] if below is None else [part, below]


def as_it_comes(station: StationFacts, facts: PlanFacts) -> Contacts | None:
    """Where a station's part is touched before anything is cut; None while nobody knows how it is
    held.
    """
    first = station.during(station.stand.during.get("", station.stand))
    part = next(iter(layers(first)), None)
    return held.contacts_of(first, station.arrives, part, facts) if part is not None else None


def in_holding(op: Ready, facts: PlanFacts, memo: Memo) -> InHolding | None:
    """Where the tool's edge comes nearest to what holds the part, None where it keeps clear."""
    if not op.path.legs:
        return None
    margin = facts.library.settings.jaw_margin_mm
    lowest = op.path.bounds()[0][2]
    if kind_of(op.operation).turned:
        deep = turning.jaw_in_cut(op, margin)
        return None if deep is None else InHolding(deep)
    low = {body: body.top + margin - float(lowest) for body in around.holds(op, memo)}
    if not any(deep > NEAR_MM for deep in low.values()):
        return None
    covered = grown(swept_region(op, memo), margin)
    met = [body for body, deep in low.items() if deep > NEAR_MM and covered.intersects(body.region)]
    if not met:
        return None
    over = [body for body in met if _over_what_is_cut(op, body)]
    worst = max(over or met, key=lambda body: low[body])
    every = tuple(dict.fromkeys(body.name or body.of for body in met))
    return InHolding(low[worst], worst.role, worst.name or worst.of, bool(over), every)


def _over_what_is_cut(op: Ready, body: Body) -> bool:
    """Does it lie on the part where metal is taken away?"""
    if body.role != "clamp":
        return False
    work = op.work
    away = work.region
    if work.holes:
        radius = work.hole_diameter / 2.0
        away = MultiPoint([hole[:2] for hole in work.holes]).buffer(radius)
    return bool(away.intersection(body.region).area > COVERED_MM2)


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
