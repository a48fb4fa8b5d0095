"""Forces, power and torque of one cut: with the side of a mill, on the tool's own axis, opening a
ring.
"""

from __future__ import annotations

from machining.cutting import drilling, engagement, forces, specific_force, speeds, tapping
from machining.cutting.data import constant
from machining.plan.operation import Bore
from machining.quantities.computed import Computed, Given, Value

from .context import PlanFacts, Ready


def milled(
    op: Ready,
    facts: PlanFacts,
    depth: Value,
    width: Value,
    prefix: str = "",
    diameter: Value | None = None,
) -> None:
    """Figures mean_chip, specific_force, cutting_power, power, torque and side_force of a cut with
    the side of a mill; ``worst_`` before them for the largest blank.
    """
    machine, d, w = op.machine, depth, width
    diameter = diameter or op.of_tool("diameter_mm")
    chip, feed, rpm = op.figures["chip"], op.figures["feed"], op.figures["rpm"]
    angle = op.of_tool("edge_angle_deg")
    mean = op.work_out(
        engagement.mean_chip,
        f"{prefix}mean_chip",
        feed_per_tooth=chip,
        width=w,
        diameter=diameter,
        edge_angle=angle,
    )
    kc = op.work_out(
        specific_force.specific_force,
        f"{prefix}specific_force",
        kc11=facts.of_material("kc11_n_mm2"),
        mc=facts.of_material("mc"),
        chip=mean,
    )
    if not prefix:
        op.work_out(specific_force.milling_removal, "removal", depth=d, width=w, feed=feed)
    at_edge = op.work_out(
        specific_force.milling_power, f"{prefix}cutting_power", depth=d, width=w, feed=feed, kc=kc
    )
    power = op.work_out(
        specific_force.motor_power,
        f"{prefix}power",
        power=at_edge,
        efficiency=op.of_machine(machine.efficiency if machine.curves_at == "motor" else 1.0),
    )
    op.work_out(specific_force.torque, f"{prefix}torque", power=power, rpm=rpm)
    op.work_out(
        forces.peak_side_force,
        f"{prefix}side_force",
        diameter=diameter,
        edges=op.of_tool("flutes"),
        depth=d,
        width=w,
        feed_per_tooth=chip,
        kc11=facts.of_material("kc11_n_mm2"),
        mc=facts.of_material("mc"),
        radial_ratio=Given(constant("force_ratio", "radial"), "data:force_ratio.radial"),
        axial_ratio=Given(constant("force_ratio", "axial"), "data:force_ratio.axial"),
        edge_angle=angle,
        helix=op.of_tool("helix_deg"),
    )


def on_axis(op: Ready, facts: PlanFacts, diameter: Value | None = None) -> None:
    """Figures cutting_torque, thrust (drills), cutting_power, power and torque of a tool that works
    on its own axis.
    """
    per_turn = op.figures["chip"]
    kc11, mc, diameter = (
        facts.of_material("kc11_n_mm2"),
        facts.of_material("mc"),
        diameter or op.of_tool("diameter_mm"),
    )
    if op.operation.kind in ("drill", "spot"):
        angle = op.of_tool("point_angle_deg")
        chip = op.work_out(
            drilling.drill_chip, "mean_chip", feed_per_rev=per_turn, point_angle=angle
        )
        kc = op.work_out(
            specific_force.specific_force, "specific_force", kc11=kc11, mc=mc, chip=chip
        )
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
    elif op.operation.kind == "tap":
        chip = op.work_out(
            tapping.tap_chip,
            "mean_chip",
            pitch=op.of_tool("pitch_mm"),
            flutes=op.of_tool("flutes"),
            chamfer_threads=Given(constant("tap", "chamfer_threads"), "data:tap.chamfer_threads"),
        )
        kc = op.work_out(
            specific_force.specific_force, "specific_force", kc11=kc11, mc=mc, chip=chip
        )
        torque = op.work_out(
            tapping.tap_torque,
            "cutting_torque",
            kc=kc,
            pitch=op.of_tool("pitch_mm"),
            diameter=diameter,
            friction_factor=Given(constant("tap", "friction_factor"), "data:tap.friction_factor"),
        )
    else:
        width = (
            op.operation.width_mm if isinstance(op.operation, Bore) else constant("ream", "width")
        )
        chip_per_edge = op.work_out(
            drilling.chip_of_each_edge,
            "mean_chip",
            feed_per_rev=per_turn,
            edges=op.of_tool("flutes"),
        )
        kc = op.work_out(
            specific_force.specific_force, "specific_force", kc11=kc11, mc=mc, chip=chip_per_edge
        )
        torque = op.work_out(
            drilling.annulus_torque,
            "cutting_torque",
            kc=kc,
            width=Given(width),
            feed_per_rev=per_turn,
            diameter=diameter,
        )
    _power_on_axis(op, torque)


def opened_out(op: Ready, facts: PlanFacts, width: Value, diameter: Value) -> None:
    """Figures of a ring of a width per side, opened straight down: a counterbore, a spot face."""
    down = op.work_out(
        speeds.straight_down,
        "plunge_feed",
        feed=op.figures["feed"],
        share=Given(constant("plunge", "share"), "data:plunge.share"),
    )
    per_turn = op.work_out(
        speeds.chip_per_edge, "feed_per_turn", feed=down, rpm=op.figures["rpm"], edges=Given(1.0)
    )
    chip = op.work_out(
        drilling.chip_of_each_edge, "mean_chip", feed_per_rev=per_turn, edges=op.of_tool("flutes")
    )
    kc = op.work_out(
        specific_force.specific_force,
        "specific_force",
        kc11=facts.of_material("kc11_n_mm2"),
        mc=facts.of_material("mc"),
        chip=chip,
    )
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
    machine, rpm = op.machine, op.figures["rpm"]
    at_edge = op.work_out(drilling.power_of_torque, "cutting_power", torque=torque, rpm=rpm)
    power = op.work_out(
        specific_force.motor_power,
        "power",
        power=at_edge,
        efficiency=op.of_machine(machine.efficiency if machine.curves_at == "motor" else 1.0),
    )
    op.work_out(specific_force.torque, "torque", power=power, rpm=rpm)
