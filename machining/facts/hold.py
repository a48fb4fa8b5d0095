"""How a setup is held: jaws as boxes, clamping force, and what it stands against each cut."""

from __future__ import annotations

from shapely import LineString, MultiLineString, MultiPoint, box

from machining.geometry.frames import Vector
from machining.geometry.regions import Region, grown
from machining.geometry.solids import below, bounds
from machining.holding import grip
from machining.memo import Memo
from machining.placing.zero import Lie
from machining.plan.document import Holding
from machining.quantities.computed import Given
from machining.quantities.errors import OutOfRange
from machining.world.workholding import Vise

from . import chucked, turning
from .context import Jaw, PlanFacts, Ready, SetupFacts
from .kinds import kind_of

MOST_TRACES = 150


def gripped_bounds(setup: SetupFacts, holding: Holding, memo: Memo) -> tuple[Vector, Vector]:
    """Corners of what lies between the jaws: the stock up to their tops, which can be narrower than
    the rest.
    """
    seat = float(setup.lie.stock_low[2])
    part = memo.get(
        ("gripped", setup.stock_key, holding.grip_depth_mm),
        lambda: bounds(below(setup.stock_start, seat + holding.grip_depth_mm)),
    )
    return (
        part
        if float(part[1][2]) > float(part[0][2])
        else (setup.lie.stock_low, setup.lie.stock_high)
    )


def jaws_of(
    holding: Holding, vise: Vise, lie: Lie, gripped: tuple[Vector, Vector]
) -> tuple[Jaw, ...]:
    """The two jaws against what they grip, in the setup frame. Raises OutOfRange where it doesn't
    fit the vise.
    """
    along = "xy".index(holding.fixed[1])
    low, high = float(gripped[0][along]), float(gripped[1][along])
    if high - low > vise.max_opening_mm:
        raise OutOfRange(
            "width between the jaws",
            round(high - low, 3),
            f"up to {vise.max_opening_mm:g}, the opening of {vise.name}",
        )
    if holding.grip_depth_mm > vise.jaw_height_mm:
        raise OutOfRange(
            "grip depth",
            holding.grip_depth_mm,
            f"up to {vise.jaw_height_mm:g}, the height of the jaws",
        )
    middle = float(lie.stock_low[1 - along] + lie.stock_high[1 - along]) / 2.0 + holding.shift_mm
    half, seat = vise.jaw_width_mm / 2.0, float(lie.stock_low[2])
    top = seat + holding.grip_depth_mm
    sides = []
    for sign, face in (("-", low), ("+", high)):
        inner, outer = (
            face,
            face + (vise.jaw_thickness_mm if sign == "+" else -vise.jaw_thickness_mm),
        )
        near, far = min(inner, outer), max(inner, outer)
        region = (
            box(near, middle - half, far, middle + half)
            if along == 0
            else box(middle - half, near, middle + half, far)
        )
        sides.append(
            Jaw(region, top, top - vise.jaw_height_mm, holding.fixed == sign + "xy"[along])
        )
    return tuple(sides)


def of_setup(setup: SetupFacts, facts: PlanFacts, memo: Memo) -> None:
    """Figures clamping, capacity, grip_needed of a setup."""
    if setup.chuck is not None:
        chucked.of_setup(setup, facts, memo)
        return
    holding, vise = setup.planned.in_vise, setup.vise
    if holding is None or vise is None:
        return
    setup.jaws = jaws_of(holding, vise, setup.lie, gripped_bounds(setup, holding, memo))
    setup.jaws_key = tuple((jaw.region.bounds, jaw.top) for jaw in setup.jaws)
    origin = f"vise:{vise.name}"
    clamping = setup.work_out(
        grip.clamping_force,
        "clamping",
        torque=Given(holding.torque_nm),
        force_per_torque=Given(vise.force_per_torque, origin),
    )
    setup.work_out(
        grip.friction_capacity, "capacity", clamping=clamping, friction=Given(vise.friction, origin)
    )
    above = float(setup.lie.stock_high[2]) - setup.jaws[0].top
    setup.work_out(
        grip.least_grip,
        "grip_needed",
        height_above_jaws=Given(max(above, 0.0), "stock and grip"),
        share=facts.shop("grip_share"),
        least=facts.shop("grip_least_mm"),
    )


def of_operation(op: Ready, facts: PlanFacts) -> None:
    """Figures worn_force and holding of an operation; needs its cutting figures."""
    setup = op.setup
    if setup.chuck is not None:
        chucked.of_operation(op, facts)
        return
    if "capacity" not in setup.figures:
        return
    force = op.figures.get("worst_side_force") or op.figures.get("side_force")
    if force is None and "cutting_torque" in op.figures and setup.planned.in_vise is not None:
        along = 1 - "xy".index(setup.planned.in_vise.fixed[1])
        contact = min(
            float(setup.lie.stock_high[along] - setup.lie.stock_low[along]),
            setup.vise.jaw_width_mm if setup.vise else 0.0,
        )
        force = op.work_out(
            grip.twist_force,
            "twist_force",
            torque=op.figures["cutting_torque"],
            contact_length=Given(contact, "stock and jaws"),
        )
    if force is None:
        return
    worn = op.work_out(grip.worn_force, "worn_force", force=force, wear=facts.shop("wear_factor"))
    op.work_out(grip.holding_factor, "holding", capacity=setup.figures["capacity"], force=worn)


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
    for jaw in op.setup.jaws:
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
