"""Forces, power and torque of one cut: with the side of a mill, on the tool's own axis, opening a
ring.
"""

from __future__ import annotations

from dataclasses import replace

from machining.cutting import drilling, engagement, forces, specific_force, speeds, tapping
from machining.cutting.data import constant
from machining.quantities.computed import Computed, Given, Value
from machining.removal.found import NEAR

from .context import PlanFacts, Ready

FOUND = "its path through the stock"
STEEP_DEG = 25.0
MUCH, SOME_MM2 = 2.0, 0.2  # columns tell small sections no better


def milled(
    op: Ready,
    facts: PlanFacts,
    depth: Value,
    width: Value,
    prefix: str = "",
    diameter: Value | None = None,
) -> None:
    """Figures mean_chip, peak_chip, specific_force, cutting_power, power, torque and side_force of
    a cut with the side of a mill; ``worst_`` before them for the largest blank.
    """
    d, w = depth, width
    diameter = diameter or op.of_tool("diameter_mm")
    chip, feed, rpm = op.figures["chip"], op.figures["feed"], op.figures["rpm"]
    angle = op.of_tool("edge_angle_deg")
    of_chip: dict[str, Value] = {
        "feed_per_tooth": chip,
        "width": w,
        "diameter": diameter,
        "edge_angle": angle,
    }
    mean = op.work_out(engagement.mean_chip, f"{prefix}mean_chip", **of_chip)
    kc = _specific_force(op, facts, mean, prefix)
    if not prefix:
        op.work_out(engagement.peak_chip, "peak_chip", **of_chip)
        op.work_out(specific_force.milling_removal, "removal", depth=d, width=w, feed=feed)
    at_edge = op.work_out(
        specific_force.milling_power, f"{prefix}cutting_power", depth=d, width=w, feed=feed, kc=kc
    )
    reaches = op.of_machine(op.rig.spindle.reaches_edge)
    power = op.work_out(
        specific_force.motor_power, f"{prefix}power", power=at_edge, efficiency=reaches
    )
    op.work_out(specific_force.torque, f"{prefix}torque", power=power, rpm=rpm)
    of_turn: dict[str, Value] = {
        "diameter": diameter,
        "edges": op.of_tool("flutes"),
        "depth": d,
        "width": w,
        "feed_per_tooth": chip,
        "kc11": facts.of_material("kc11_n_mm2"),
        "mc": facts.of_material("mc"),
        "radial_ratio": Given(constant("force_ratio", "radial"), "data:force_ratio.radial"),
        "axial_ratio": Given(constant("force_ratio", "axial"), "data:force_ratio.axial"),
        "edge_angle": angle,
        "helix": op.of_tool("helix_deg"),
    }
    op.work_out(forces.peak_side_force, f"{prefix}side_force", **of_turn)
    op.work_out(forces.peak_axial_force, f"{prefix}axial_force", **of_turn)


def side_cut(
    op: Ready,
    facts: PlanFacts,
    depth: float,
    width: float,
    more_depth: float = 0.0,
    more_width: float = 0.0,
) -> None:
    """The same where its path meets most, which is as planned where that is no more than a tenth
    off; and where the blank is larger by ``more`` (mm).
    """
    if depth <= 0:
        return
    op.seen = replace(op.seen, depth_mm=depth, width_mm=width)
    meets_depth, meets_width = _met(op, depth, width)
    milled(op, facts, meets_depth, meets_width)
    if more_depth <= 0 and more_width <= 0:
        return
    worst_depth = float(meets_depth) + more_depth
    worst_width = min(float(meets_width) + more_width, op.tool.diameter_mm)
    op.seen = replace(op.seen, worst_depth_mm=worst_depth, worst_width_mm=worst_width)
    milled(
        op,
        facts,
        Given(worst_depth, "blank at its largest"),
        Given(worst_width, "blank at its largest"),
        "worst_",
    )


def _met(op: Ready, depth: float, width: float) -> tuple[Value, Value]:
    """Depth and width (mm) of the hardest place of its path; figures found_depth and found_width
    where they are not as said.
    """
    found = op.found
    if found is None or found.hardest is None or not found.differs(depth, width):
        return Given(depth), Given(width)
    feed = op.figures["feed"]
    taken = Given(found.hardest.area * feed.value / 1000.0, FOUND)
    deep = op.work_out(
        engagement.found_depth, "found_depth", height=Given(found.hardest.depth, FOUND)
    )
    wide = op.work_out(
        engagement.found_width,
        "found_width",
        removal=taken,
        depth=deep,
        feed=feed,
        diameter=op.of_tool("diameter_mm"),
    )
    return deep, wide


def on_helix(op: Ready, facts: PlanFacts, pitch: float, width: Value) -> None:
    """A turn of a helix of a pitch (mm), as wide as it takes of the stock where that is most; of a
    width (mm) where that was not looked at, or the helix is so steep that it counts as a way down.
    """
    most = op.found.met.largest_section if op.found is not None else 0.0
    if most > 0 and op.figures["helix_angle"].value < STEEP_DEG:
        width = Given(min(most / pitch, op.tool.diameter_mm), FOUND)
    milled(op, facts, Given(pitch), width)


def of_section(op: Ready, facts: PlanFacts, planned: float) -> None:
    """A pass along an edge that takes a section (mm²), as a cut as wide as it is deep; where its
    path meets much more, that.
    """
    side = Given(planned**0.5, "section a pass takes")
    milled(op, facts, *(_met_over(op, much_more(planned)) or (side, side)))


def of_teeth(op: Ready, facts: PlanFacts, high: Value, infeed: Value) -> None:
    """Teeth of a height together (mm) that go in so far (mm); where their path meets more than a
    tenth more, that: they go in straight from the middle.
    """
    planned = float(high) * float(infeed)
    milled(op, facts, *(_met_over(op, (1.0 + NEAR) * planned) or (high, infeed)))


def _met_over(op: Ready, section: float) -> tuple[Value, Value] | None:
    """Depth and width (mm) of the hardest place, where it is larger than a section (mm²)."""
    worst = op.found.hardest if op.found is not None else None
    if worst is None or worst.area <= section:
        return None
    return Given(worst.depth, FOUND), Given(worst.width, FOUND)


def much_more(planned: float) -> float:
    """From which section on (mm²) more stands along an edge than its pass is made for."""
    return MUCH * planned + SOME_MM2


def drilled(op: Ready, facts: PlanFacts, diameter: Value | None = None) -> None:
    """Figures cutting_torque, thrust, cutting_power, power and torque of two lips and a chisel."""
    per_turn, diameter = op.figures["chip"], diameter or op.of_tool("diameter_mm")
    angle = op.of_tool("point_angle_deg")
    chip = op.work_out(drilling.drill_chip, "mean_chip", feed_per_rev=per_turn, point_angle=angle)
    kc = _specific_force(op, facts, chip)
    torque = op.work_out(
        drilling.drill_torque, "cutting_torque", kc=kc, feed_per_rev=per_turn, diameter=diameter
    )
    lips = op.work_out(
        drilling.drill_thrust,
        "lip_thrust",
        kc=kc,
        feed_per_rev=per_turn,
        diameter=diameter,
        point_angle=angle,
    )
    op.work_out(
        drilling.thrust_with_chisel,
        "thrust",
        lips=lips,
        chisel_factor=Given(constant("chisel", "solid"), "data:chisel.solid"),
    )
    _power_on_axis(op, torque)


def plunged(op: Ready, facts: PlanFacts) -> None:
    """The same of a mill that goes straight down into full material: level edges that share the
    feed of a turn, and a middle that is crushed.
    """
    per_turn, diameter = op.figures["chip"], op.of_tool("diameter_mm")
    chip = op.work_out(
        drilling.chip_of_each_edge,
        "mean_chip",
        feed_per_rev=per_turn,
        edges=op.of_tool("flutes"),
    )
    kc = _specific_force(op, facts, chip)
    of_cut: dict[str, Value] = {"kc": kc, "feed_per_rev": per_turn, "diameter": diameter}
    torque = op.work_out(drilling.drill_torque, "cutting_torque", **of_cut)
    level = Given(180.0, "level edges")
    edges = op.work_out(drilling.drill_thrust, "lip_thrust", **of_cut, point_angle=level)
    crushed = Given(constant("chisel", "mill"), "data:chisel.mill")
    op.work_out(drilling.thrust_with_chisel, "thrust", lips=edges, chisel_factor=crushed)
    _power_on_axis(op, torque)


def tapped(op: Ready, facts: PlanFacts) -> None:
    """Figures cutting_torque, cutting_power, power and torque of a tap."""
    chip = op.work_out(
        tapping.tap_chip,
        "mean_chip",
        pitch=op.of_tool("pitch_mm"),
        flutes=op.of_tool("flutes"),
        chamfer_threads=Given(constant("tap", "chamfer_threads"), "data:tap.chamfer_threads"),
    )
    torque = op.work_out(
        tapping.tap_torque,
        "cutting_torque",
        kc=_specific_force(op, facts, chip),
        pitch=op.of_tool("pitch_mm"),
        diameter=op.of_tool("diameter_mm"),
        friction_factor=Given(constant("tap", "friction_factor"), "data:tap.friction_factor"),
    )
    _power_on_axis(op, torque)


def widened(op: Ready, facts: PlanFacts, width: float) -> None:
    """Figures cutting_torque, cutting_power, power and torque of a ring of a width per side, cut by
    a tool of its diameter.
    """
    chip = op.work_out(
        drilling.chip_of_each_edge,
        "mean_chip",
        feed_per_rev=op.figures["chip"],
        edges=op.of_tool("flutes"),
    )
    torque = op.work_out(
        drilling.annulus_torque,
        "cutting_torque",
        kc=_specific_force(op, facts, chip),
        width=Given(width),
        feed_per_rev=op.figures["chip"],
        diameter=op.of_tool("diameter_mm"),
    )
    _power_on_axis(op, torque)


def opened_out(op: Ready, facts: PlanFacts, width: Value, diameter: Value) -> None:
    """Figures of a ring of a width per side, opened straight down: a counterbore, a spot face."""
    down = op.work_out(
        speeds.straight_down,
        "plunge_feed",
        feed=op.figures["feed"],
        share=facts.shop("plunge_share"),
    )
    per_turn = op.work_out(
        speeds.chip_per_edge, "feed_per_turn", feed=down, rpm=op.figures["rpm"], edges=Given(1.0)
    )
    chip = op.work_out(
        drilling.chip_of_each_edge, "mean_chip", feed_per_rev=per_turn, edges=op.of_tool("flutes")
    )
    kc = _specific_force(op, facts, chip)
    _power_on_axis(
        op,
        op.work_out(
            drilling.annulus_torque,
            "cutting_torque",
            kc=kc,
            width=width,
            feed_per_rev=per_turn,
            diameter=diameter,
        ),
    )


def _power_on_axis(op: Ready, torque: Computed) -> None:
    rig, rpm = op.rig, op.figures["rpm"]
    at_edge = op.work_out(drilling.power_of_torque, "cutting_power", torque=torque, rpm=rpm)
    power = op.work_out(
        specific_force.motor_power,
        "power",
        power=at_edge,
        efficiency=op.of_machine(rig.spindle.reaches_edge),
    )
    op.work_out(specific_force.torque, "torque", power=power, rpm=rpm)


def _specific_force(op: Ready, facts: PlanFacts, chip: Value, prefix: str = "") -> Computed:
    return op.work_out(
        specific_force.specific_force,
        f"{prefix}specific_force",
        kc11=facts.of_material("kc11_n_mm2"),
        mc=facts.of_material("mc"),
        chip=chip,
    )
