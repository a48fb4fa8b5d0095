"""Hold: will the part stay put?"""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from machining.facts import chucked, parallels
from machining.facts.context import OperationFacts, PlanFacts, SetupFacts
from machining.holding.grip import torque_for_factor
from machining.plan.document import Holding, InChuck
from machining.plan.edit import Change, Keep, RemoveSetup
from machining.plan.operation import Outside

from .finding import (
    Finding,
    Fix,
    Severity,
    Shown,
    about_operation,
    about_setup,
    length,
    of_operation,
)
from .tools import lighter

MIN_TIPPING_SHARE = 0.5
# what an offered chuck closes with: of its jaws, of the stock, of its most
GRIP_SHARE, GRIP_OF_LENGTH, FORCE_SHARE = 0.8, 0.4, 0.6
SPEED_TAKES = 0.25  # of the force at rest, from which the speed is named as the reason


@about_setup
def none_chosen(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    if setup.setup.holding is not None or not setup.operations:
        return
    if setup.machine is not None and setup.machine.kind == "lathe":
        yield _no_chuck(setup, facts)
        return
    fixes: list[Fix] = []
    for vise in facts.library.vises.values():
        for letter in "yx":
            width = float(
                setup.lie.stock_high["xy".index(letter)] - setup.lie.stock_low["xy".index(letter)]
            )
            if width <= vise.max_opening_mm:
                least = facts.library.settings.grip_least_mm
                holding = parallels.usual_hold(vise, letter, least)
                edit = Change(
                    on=f"setup:{setup.setup.id}", fields={"holding": holding.model_dump()}
                )
                fixes.append(
                    Fix(
                        "Hold it in the {vise} across {axis}",
                        (edit,),
                        {"vise": Shown(vise.name), "axis": Shown(letter.upper())},
                    )
                )
    words, numbered = (
        "Nothing says how the part is held in setup {setup}.",
        {"setup": Shown(str(setup.number))},
    )
    if not fixes:
        words = (
            "Nothing says how the part is held in setup {setup}, and no vise of the library opens"
            " far enough."
        )
        fixes = [Fix("Take setup {setup} out", (RemoveSetup(setup=setup.setup.id),), numbered)]
    yield Finding(
        "hold.none-chosen", "look", setup.setup.id, "", words, numbered, "", tuple(fixes[:3])
    )


def _no_chuck(setup: SetupFacts, facts: PlanFacts) -> Finding:
    """A lathe's setup with nothing to hold the part: the chucks that close on it."""
    across = float(setup.lie.stock_high[0] - setup.lie.stock_low[0])
    room = float(setup.lie.stock_high[2] - setup.lie.stock_low[2])
    fixes: list[Fix] = []
    for chuck in facts.library.chucks.values():
        if chuck.min_grip_mm <= across <= chuck.max_grip_mm:
            held = InChuck(
                chuck=chuck.key,
                grip_mm=round(min(GRIP_SHARE * chuck.jaw_length_mm, GRIP_OF_LENGTH * room), 1),
                force_per_jaw_n=round(FORCE_SHARE * chuck.force_per_jaw_n, -2),
            )
            fixes.append(
                Fix(
                    "Hold it in the {chuck}",
                    (Change(on=f"setup:{setup.setup.id}", fields={"holding": held.model_dump()}),),
                    {"chuck": Shown(chuck.name)},
                )
            )
    words, numbered = (
        "Nothing says how the part is held in setup {setup}.",
        {"setup": Shown(str(setup.number))},
    )
    if not fixes:
        words = (
            "Nothing says how the part is held in setup {setup}, and no chuck of the library closes"
            " on it."
        )
        fixes = [Fix("Take setup {setup} out", (RemoveSetup(setup=setup.setup.id),), numbered)]
    return Finding(
        "hold.none-chosen", "look", setup.setup.id, "", words, numbered, "", tuple(fixes[:3])
    )


@about_setup
def grip_shallow(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    holding, needed = setup.setup.holding, setup.figures.get("grip_needed")
    if holding is None or needed is None:
        return
    has, field = (
        (holding.grip_depth_mm, "grip_depth_mm")
        if isinstance(holding, Holding)
        else (holding.grip_mm, "grip_mm")
    )
    if has >= needed.value - 1e-9:
        return
    deeper = ceil(needed.value * 2.0) / 2.0
    if setup.vise is not None:
        deeper = parallels.grip_at_least(setup.vise, deeper)
    severity: Severity = "stop" if has < MIN_TIPPING_SHARE * needed.value else "look"
    yield Finding(
        "hold.grip-shallow",
        severity,
        setup.setup.id,
        "",
        "The jaws grip {grip}; a part this tall asks for {needed}.",
        {"grip": length(has), "needed": length(needed.value)},
        needed.id,
        (
            Fix(
                "Grip {deeper} deep",
                (Change(on=f"setup:{setup.setup.id}", fields={f"holding.{field}": deeper}),),
                {"deeper": length(deeper)},
            ),
        ),
    )


@about_setup
def no_such_parallels(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    """hold.parallels: a grip that asks for parallels the vise does not have."""
    height, vise = parallels.needed(setup), setup.vise
    if height is None or vise is None or parallels.owned(vise, height):
        return
    grip, on = vise.jaw_height_mm - height, f"setup:{setup.setup.id}"
    there = parallels.grips(vise)
    near = [*[g for g in there if g < grip][-1:], *[g for g in there if g > grip][:1]]
    fixes = [
        Fix(
            (
                "Grip {grip}, on parallels {height} high"
                if vise.jaw_height_mm - each > parallels.SAME_MM
                else "Grip {grip}, on the bed"
            ),
            (Change(on=on, fields={"holding.grip_depth_mm": each}),),
            {"grip": length(each), "height": length(vise.jaw_height_mm - each)},
        )
        for each in near
        if each >= facts.library.settings.grip_least_mm
    ]
    make = Keep(on=on, finding="hold.parallels", words="parallels of that height are made for it")
    fixes.append(Fix("Keep it: {words}", (make,), {"words": Shown(make.words)}))
    nearest = {
        name: length(each)
        for name, each in zip(("lower", "higher"), parallels.nearest(vise, height), strict=True)
        if each is not None
    }
    has = {
        0: "the vise has none",
        1: "the nearest the vise has are {" + next(iter(nearest), "") + "} high",
        2: "the nearest the vise has are {lower} and {higher} high",
    }[len(nearest)]
    yield Finding(
        "hold.parallels",
        "look",
        setup.setup.id,
        "",
        "It would stand on parallels {height} high; " + has + ".",
        {"height": length(height), **nearest},
        "",
        tuple(fixes),
    )


@about_operation
def slips(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    factor, holding, vise = op.figures.get("holding"), op.setup.setup.in_vise, op.setup.vise
    asked = facts.library.settings.holding_factor
    if factor is None or holding is None or vise is None or factor.value >= asked:
        return
    fixes = []
    torque = ceil(
        torque_for_factor(
            op.figures["worn_force"].value, asked, vise.friction, vise.force_per_torque
        )
    )
    if torque <= vise.max_torque_nm:
        edit = Change(on=f"setup:{op.setup.setup.id}", fields={"holding.torque_nm": float(torque)})
        fixes.append(
            Fix("Tighten to {torque}", (edit,), {"torque": Shown(float(torque), "torque")})
        )
    step = getattr(op.operation, "step_down_mm", None)
    if step is not None:
        lower = max(0.1, int(10 * step * factor.value / asked) / 10)
        fixes.append(
            Fix(
                "Step down {step}",
                (Change(on=f"operation:{op.operation.id}", fields={"step_down_mm": lower}),),
                {"step": length(lower)},
            )
        )
    yield of_operation(
        op,
        "hold.slips",
        "stop",
        "The jaws stand {factor} the cutting force of a worn edge; {asked} is asked for.",
        {"factor": Shown(factor.value, "factor"), "asked": Shown(asked, "factor")},
        "holding",
        tuple(fixes),
    )


@about_operation
def slips_in_chuck(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """hold.slips, hold.chuck-speed: what the jaws keep of their force at speed against the cut of a
    worn edge.
    """
    chuck, holding, factor = op.setup.chuck, op.setup.setup.in_chuck, op.value("holding")
    asked, rpm = facts.library.settings.holding_factor, op.value("top_rpm") or op.value("rpm")
    if (
        chuck is None
        or holding is None
        or rpm is None
        or (factor is None and "let_go" not in op.notes)
        or (factor is not None and factor >= asked)
    ):
        return
    on, fixes = f"setup:{op.setup.setup.id}", []
    force = chucked.needs(op, asked)
    if force is not None and force <= chuck.force_per_jaw_n:
        tighter = ceil(force / 100.0) * 100.0
        fixes.append(
            Fix(
                "Close the jaws with {force} each",
                (Change(on=on, fields={"holding.force_per_jaw_n": tighter}),),
                {"force": Shown(tighter, "force")},
            )
        )
    slower = chucked.slowest_that_holds(op, asked)
    if slower is not None:
        limit = float(int(slower / 50.0) * 50) or slower
        fixes.append(
            Fix(
                "Let it turn {limit} at most",
                (Change(on=on, fields={"holding.limit_rpm": limit}),),
                {"limit": Shown(limit, "spindle_speed")},
            )
        )
    fixes += lighter(op, facts, 0.98 * (factor or 0.0) / asked) if factor else ()
    thrown, at_rest = op.value("centrifugal") or 0.0, holding.force_per_jaw_n
    values = {
        "factor": Shown(factor or 0.0, "factor"),
        "asked": Shown(asked, "factor"),
        "rpm": Shown(rpm, "spindle_speed"),
        "left": Shown(op.value("jaw_at_speed") or 0.0, "force"),
        "rest": Shown(at_rest, "force"),
    }
    by_speed = thrown > SPEED_TAKES * at_rest
    yield of_operation(
        op,
        "hold.chuck-speed" if by_speed else "hold.slips",
        "stop",
        (
            "At {rpm} each jaw keeps {left} of {rest}: {factor} the cutting force of a worn edge;"
            " {asked} is asked for."
            if by_speed
            else "The jaws stand {factor} the cutting force of a worn edge; {asked} is asked for."
        ),
        values,
        "holding" if factor is not None else "jaw_at_speed",
        tuple(fixes),
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
        fixes.append(
            Fix(
                "Cut {depth} deep",
                (Change(on=f"operation:{op.operation.id}", fields={"on.depth_mm": shallower}),),
                {"depth": length(shallower)},
            )
        )
    has, field = (
        (holding.grip_depth_mm, "grip_depth_mm")
        if isinstance(holding, Holding)
        else (holding.grip_mm, "grip_mm")
    )
    lower = int((has - deep) * 10) / 10
    if op.setup.vise is not None and op.setup.vise.jaws != "soft":
        lower = max(
            (grip for grip in parallels.grips(op.setup.vise) if grip <= lower), default=lower
        )
    if lower >= facts.library.settings.grip_least_mm:
        fixes.append(
            Fix(
                "Grip {grip} deep",
                (Change(on=f"setup:{op.setup.setup.id}", fields={f"holding.{field}": lower}),),
                {"grip": length(lower)},
            )
        )
    yield of_operation(
        op,
        "hold.jaw-in-cut",
        "stop",
        "The cutter comes {deep} too low for the jaws; it must stay {margin} above them.",
        {"deep": length(deep), "margin": length(facts.library.settings.jaw_margin_mm)},
        "",
        tuple(fixes),
    )
