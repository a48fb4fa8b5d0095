"""Hold: will the part stay put?"""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from machining.facts.context import OperationFacts, PlanFacts, SetupFacts
from machining.holding.grip import torque_for_factor
from machining.plan.document import Holding
from machining.plan.edit import Change, RemoveSetup
from machining.plan.operation import Outside

from .finding import Finding, Fix, Severity, Shown, about_operation, about_setup, length, of_operation

MIN_TIPPING_SHARE = 0.5


@about_setup
def none_chosen(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    if setup.setup.holding is not None or not setup.operations:
        return
    fixes: list[Fix] = []
    for vise in facts.library.vises.values():
        for letter in "yx":
            width = float(setup.lie.stock_high["xy".index(letter)] - setup.lie.stock_low["xy".index(letter)])
            if width <= vise.max_opening_mm:
                least = facts.library.settings.grip_least_mm
                holding = Holding(vise=vise.key, fixed=f"+{letter}", grip_depth_mm=least + 1.0, torque_nm=round(0.6 * vise.max_torque_nm))  # type: ignore[arg-type]
                edit = Change(on=f"setup:{setup.setup.id}", fields={"holding": holding.model_dump()})
                fixes.append(Fix("Hold it in the {vise} across {axis}", (edit,), {"vise": Shown(vise.name), "axis": Shown(letter.upper())}))
    words, numbered = "Nothing says how the part is held in setup {setup}.", {"setup": Shown(str(setup.number))}
    if not fixes:
        words = "Nothing says how the part is held in setup {setup}, and no vise of the library opens far enough."
        fixes = [Fix("Take setup {setup} out", (RemoveSetup(setup=setup.setup.id),), numbered)]
    yield Finding("hold.none-chosen", "look", setup.setup.id, "", words, numbered, "", tuple(fixes[:3]))


@about_setup
def grip_shallow(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    holding, needed = setup.setup.holding, setup.figures.get("grip_needed")
    if holding is None or needed is None or holding.grip_depth_mm >= needed.value - 1e-9:
        return
    deeper = ceil(needed.value * 2.0) / 2.0
    severity: Severity = "stop" if holding.grip_depth_mm < MIN_TIPPING_SHARE * needed.value else "look"
    yield Finding(
        "hold.grip-shallow", severity, setup.setup.id, "", "The jaws grip {grip}; a part this tall asks for {needed}.",
        {"grip": length(holding.grip_depth_mm), "needed": length(needed.value)}, needed.id,
        (Fix("Grip {deeper} deep", (Change(on=f"setup:{setup.setup.id}", fields={"holding.grip_depth_mm": deeper}),), {"deeper": length(deeper)}),),
    )


@about_operation
def slips(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    factor, holding, vise = op.figures.get("holding"), op.setup.setup.holding, op.setup.vise
    asked = facts.library.settings.holding_factor
    if factor is None or holding is None or vise is None or factor.value >= asked:
        return
    fixes = []
    torque = ceil(torque_for_factor(op.figures["worn_force"].value, asked, vise.friction, vise.force_per_torque))
    if torque <= vise.max_torque_nm:
        edit = Change(on=f"setup:{op.setup.setup.id}", fields={"holding.torque_nm": float(torque)})
        fixes.append(Fix("Tighten to {torque}", (edit,), {"torque": Shown(float(torque), "torque")}))
    step = getattr(op.operation, "step_down_mm", None)
    if step is not None:
        lower = max(0.1, int(10 * step * factor.value / asked) / 10)
        fixes.append(Fix("Step down {step}", (Change(on=f"operation:{op.operation.id}", fields={"step_down_mm": lower}),), {"step": length(lower)}))
    yield of_operation(
        op, "hold.slips", "stop", "The jaws stand {factor} the cutting force of a worn edge; {asked} is asked for.",
        {"factor": Shown(factor.value, "factor"), "asked": Shown(asked, "factor")}, "holding", tuple(fixes),
    )


@about_operation
def cut_reaches_jaw(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """hold.jaw-in-cut"""
    deep, holding = op.notes.get("jaw_deep_mm"), op.setup.setup.holding
    if not isinstance(deep, float) or holding is None:
        return
    fixes = []
    on = op.operation.on
    if isinstance(on, Outside) and on.depth_mm > deep:
        shallower = int((on.depth_mm - deep) * 10) / 10
        fixes.append(Fix("Cut {depth} deep", (Change(on=f"operation:{op.operation.id}", fields={"on.depth_mm": shallower}),), {"depth": length(shallower)}))
    lower = int((holding.grip_depth_mm - deep) * 10) / 10
    if lower >= facts.library.settings.grip_least_mm:
        fixes.append(Fix("Grip {grip} deep", (Change(on=f"setup:{op.setup.setup.id}", fields={"holding.grip_depth_mm": lower}),), {"grip": length(lower)}))
    yield of_operation(
        op, "hold.jaw-in-cut", "stop", "The cutter comes {deep} too low for the jaws; it must stay {margin} above them.",
        {"deep": length(deep), "margin": length(facts.library.settings.jaw_margin_mm)}, "", tuple(fixes),
    )
