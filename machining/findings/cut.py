"""Cut: can spindle, tool and material take it?"""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil, pi, radians, tan

from machining.cutting.data import constant
from machining.facts.context import OperationFacts, PlanFacts, SetupFacts
from machining.facts.cut import sawn_over
from machining.facts.kinds import HANDLERS
from machining.geometry.regions import Region
from machining.plan.base import FEED_TYPED, SPEED_TYPED
from machining.plan.edit import AddOperation, Change, Edit, Keep, LoadTool, MoveOperation
from machining.plan.loading import loaded as load
from machining.plan.operation import (
    TURNED,
    Chamfer,
    Countersink,
    Drill,
    Engrave,
    Face,
    MillThread,
    OnFeatures,
    RoughOutside,
    RoughPocket,
    Slope,
    Tap,
    Undercut,
)
from machining.plan.turned import TurnFace
from machining.world.feature import Flat, Hole

from .finding import Finding, Fix, Severity, Shown, about_operation, about_setup, keep, of_operation
from .tools import feed_change, lighter, other_tools

NEARLY = 0.95
# of the diameter: from this width on it is a slot, and this deep is enough
SLOT_WIDTH, SLOT_DEPTH = 0.8, 1.0
SIDE_WIDTH, SIDE_DEPTH = 0.25, 2.0
LIGHT_METAL = 1.75  # light metals let a drill go deeper before its chips want breaking
SLOW_EDGE = "Where it works, at Ø {at}, its edge runs {speed}; the material wants {low}."
SLOW_SHARE = 0.8  # of the low end of a material's band
DEEP_TAP = 2.0
LOOK_DOWN = "Look down every thread: no chip, no broken tooth."
CHANGE = "Change the belt."
LIMITS = (("power", "power"), ("torque", "torque"))
# what a truing pass takes of the blank as drawn, and the closest a saw is asked for
TRUE_UP_MM, LEAST_SAWN_MM = 0.2, 0.1


@about_operation
def over_the_curve(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.power, cut.torque, cut.power-at-worst-stock"""
    for worst in ("", "worst_"):
        for name, quantity in LIMITS:
            asked, limit = op.value(f"{worst}{name}"), op.value(f"{name}_limit")
            if (
                asked is None
                or limit is None
                or limit <= 0
                or asked <= limit * facts.library.settings.power_share
            ):
                continue
            yield _over(op, facts, worst, name, quantity, asked, limit)
            return


def _over(
    op: OperationFacts,
    facts: PlanFacts,
    worst: str,
    name: str,
    quantity: str,
    asked: float,
    limit: float,
) -> Finding:
    allowed, extra = facts.library.settings.power_share, sawn_over(op, facts)
    values = {
        "asked": Shown(asked, quantity),
        "limit": Shown(limit, quantity),
        "share": Shown(asked / limit, "percent"),
    }
    milder, id = (
        lighter(op, facts, 0.98 * allowed * limit / asked),
        "cut.power-at-worst-stock" if worst else f"cut.{name}",
    )
    short = op.value(f"short_{name}_limit")
    if (
        short is not None
        and op.time is not None
        and asked <= allowed * short
        and op.time.cutting_s <= facts.library.settings.short_peak_s
    ):
        sentence = (
            "It asks {asked}, over the {limit} this spindle gives for good; for the {time} of this"
            " cut it gives {short}."
        )
        return of_operation(
            op,
            id,
            "note",
            sentence,
            {
                **values,
                "time": Shown(op.time.cutting_s, "seconds"),
                "short": Shown(short, quantity),
            },
            f"{worst}{name}",
            milder,
        )
    severity: Severity = "stop" if asked > limit else "look"
    if not worst:
        return of_operation(
            op,
            id,
            severity,
            "It asks {asked} of the spindle, which gives {limit} at this speed: {share}.",
            values,
            name,
            milder,
        )
    return of_operation(
        op,
        id,
        severity,
        "With the blank sawn {extra} over it asks {asked} of {limit}: {share}.",
        {**values, "extra": Shown(extra, "length")},
        f"worst_{name}",
        (
            *milder,
            *_true_up(op, facts, extra),
            *_through_air(op, facts),
            *_sawn_closer(op, extra, 0.98 * allowed * limit / asked),
        ),
    )


def _through_air(op: OperationFacts, facts: PlanFacts) -> tuple[Fix, ...]:
    """Passes that begin where the largest blank does: air on most blanks, and never more than a
    pass at once.
    """
    over = facts.plan.stock.saw_tolerance_mm
    if not isinstance(op.operation, Face | RoughOutside | TurnFace):
        return ()
    return (
        Fix(
            "Begin {over} outside of it, through air on most blanks",
            (Change(on=f"operation:{op.operation.id}", fields={"over_mm": over}),),
            {"over": Shown(over, "length")},
        ),
    )


def _true_up(op: OperationFacts, facts: PlanFacts, extra: float) -> tuple[Fix, ...]:
    """A light pass before it that takes the blank to its nominal size, whatever it is sawn to."""
    kind, work = op.operation, op.work
    if work is None or extra <= 0:
        return ()
    stands = (
        _stands_beside(work.kept, work.region.union(work.kept))
        if isinstance(kind, RoughOutside) and work.kept is not None
        else work.top - work.floor
    )
    leave = round(stands + getattr(kind, "leave_mm", 0.0) - TRUE_UP_MM, 3)
    if leave <= 0 or not isinstance(kind, RoughOutside | Face):
        return ()
    steps: dict[str, object] = (
        {"step_over_mm": TRUE_UP_MM}
        if isinstance(kind, RoughOutside)
        else {"step_down_mm": TRUE_UP_MM}
    )
    first = kind.model_copy(
        update={
            "id": f"{kind.id[:40]}true",
            "leave_mm": leave,
            "reason": "trues up the sawn blank",
            "stop_after": "",
            "pinned": False,
            "kept": (),
            **steps,
        }
    )
    at = [each.id for each in op.setup.setup.operations].index(kind.id)
    return (
        Fix(
            "True the blank up first",
            (AddOperation(setup=op.setup.setup.id, operation=first, index=at),),
            {},
        ),
    )


def _stands_beside(kept: Region, stock: Region) -> float:
    """How far (mm) the stock stands over what is kept on the side where it is least, of those where
    it stands.
    """
    inner, outer = kept.bounds, stock.bounds
    sides = [inner[0] - outer[0], inner[1] - outer[1], outer[2] - inner[2], outer[3] - inner[3]]
    return min((side for side in sides if side > TRUE_UP_MM), default=0.0)


def _sawn_closer(op: OperationFacts, extra: float, share: float) -> tuple[Fix, ...]:
    """The tolerance of sawing at which the cut stays inside: what is asked goes nearly with the
    width (or depth) at its worst.
    """
    worst = op.notes.get(
        "worst_width_mm" if isinstance(op.operation, RoughOutside) else "worst_depth_mm"
    )
    if not isinstance(worst, float):
        return ()
    closer = int(50 * (worst * share**1.2 - (worst - extra))) / 50
    if closer < LEAST_SAWN_MM:
        return ()
    return (
        Fix(
            "Order it sawn to {closer}",
            (Change(on="plan", fields={"stock.saw_tolerance_mm": closer}),),
            {"closer": Shown(closer, "length")},
        ),
    )


@about_operation
def speed_band(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    speed, data = op.value("cutting_speed"), op.data
    if speed is None or data is None or data.speed_low * 0.999 <= speed <= data.speed_high * 1.001:
        return
    typed = [name for name in SPEED_TYPED if getattr(op.operation, name, None) is not None]
    if not typed:  # a limit of machine or tool, not the planner's choice
        return
    edit = Change(on=f"operation:{op.operation.id}", fields=dict.fromkeys(typed))
    yield of_operation(
        op,
        "cut.speed-band",
        "look",
        "{speed} lies outside {low} to {high} for this material; say why, or follow the data.",
        {
            "speed": Shown(speed, "cutting_speed"),
            "low": Shown(data.speed_low, "cutting_speed"),
            "high": Shown(data.speed_high, "cutting_speed"),
        },
        "cutting_speed",
        (Fix("Follow the material's data", (edit,), {}),),
    )


@about_operation
def chip(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.rubs, cut.chip-over"""
    per_edge, tool = op.value("chip"), op.tool
    if per_edge is None or tool is None or op.operation.kind in ("tap", "ream", "turn_thread"):
        return
    if tool.max_chip_mm is not None and per_edge > tool.max_chip_mm * (1.0 + 1e-9):
        yield of_operation(
            op,
            "cut.chip-over",
            "stop",
            "A chip of {chip} is over what this tool takes, {most}.",
            {
                "chip": Shown(per_edge, "feed_per_tooth"),
                "most": Shown(tool.max_chip_mm, "feed_per_tooth"),
            },
            "chip",
            _other_feed(op, NEARLY * tool.max_chip_mm / per_edge),
        )
    elif per_edge < tool.edge_radius_mm:
        yield of_operation(
            op,
            "cut.rubs",
            "look",
            "A chip of {chip} is thinner than the edge is sharp, {edge}: it rubs.",
            {
                "chip": Shown(per_edge, "feed_per_tooth"),
                "edge": Shown(tool.edge_radius_mm, "feed_per_tooth"),
            },
            "chip",
            _other_feed(op, tool.edge_radius_mm / NEARLY / per_edge),
        )


def _other_feed(op: OperationFacts, times: float) -> tuple[Fix, ...]:
    """Follow the data where the feed was typed; and the feed that brings the chip just inside its
    limit.
    """
    on, feed = f"operation:{op.operation.id}", op.value("feed") or 0.0
    wanted = float(f"{feed * times:.3g}")
    typed = [name for name in FEED_TYPED if getattr(op.operation, name) is not None]
    fixes = (
        [Fix("Follow the material's data", (Change(on=on, fields=dict.fromkeys(typed)),), {})]
        if typed
        else []
    )
    return (*fixes, feed_change(op, wanted))


@about_operation
def too_deep(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.slot-deep, cut.one-pass: the depth of a side cut at the width of a slot."""
    if not isinstance(op.operation, RoughOutside | RoughPocket) or op.tool is None:
        return
    depth, width, diameter = op.notes.get("depth_mm"), op.notes.get("width_mm"), op.tool.diameter_mm
    if not isinstance(depth, float) or not isinstance(width, float):
        return
    values = {
        "depth": Shown(depth, "length"),
        "width": Shown(width, "length"),
        "times": Shown(depth / diameter, "factor"),
    }
    if width >= SLOT_WIDTH * diameter and depth > SLOT_DEPTH * diameter:
        shallower, sentence, id = (
            SLOT_DEPTH * diameter,
            "It cuts {width} wide, nearly its whole diameter, at {depth}: the depth of a side cut.",
            "cut.slot-deep",
        )
    elif width >= SIDE_WIDTH * diameter and depth > SIDE_DEPTH * diameter:
        shallower, sentence, id = (
            depth / 2.0,
            "{depth} at {width} wide is {times} its diameter in one pass; the depth wants several.",
            "cut.one-pass",
        )
    else:
        return
    lower = float(int(shallower * 10)) / 10 or shallower
    on = f"operation:{op.operation.id}"
    narrower = round(0.1 * diameter, 2)
    yield of_operation(
        op,
        id,
        "look",
        sentence,
        values,
        "",
        (
            Fix(
                "Step down {step}",
                (Change(on=on, fields={"step_down_mm": lower}),),
                {"step": Shown(lower, "length")},
            ),
            Fix(
                "Step over {step}",
                (Change(on=on, fields={"step_over_mm": narrower}),),
                {"step": Shown(narrower, "length")},
            ),
        ),
    )


@about_operation
def peck(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.peck: material and depth want the chip broken."""
    if (
        not isinstance(op.operation, Drill)
        or op.operation.peck_mm is not None
        or op.tool is None
        or op.work is None
        or facts.material is None
    ):
        return
    times = op.work.hole_depth / op.tool.diameter_mm
    limit = facts.library.settings.peck_from * (
        LIGHT_METAL if facts.material.iso_group == "N" else 1.0
    )
    if times <= limit:
        return
    step = round(op.tool.diameter_mm, 1)
    yield of_operation(
        op,
        "cut.peck",
        "look",
        "{times} deep in {material} without a peck: chips pack in the flutes.",
        {"times": Shown(times, "factor"), "material": Shown(facts.material.name)},
        "",
        (
            Fix(
                "Peck every {step}",
                (Change(on=f"operation:{op.operation.id}", fields={"peck_mm": step}),),
                {"step": Shown(step, "length")},
            ),
        ),
    )


@about_operation
def slow_edge(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.effective-speed, cut.drill-slow: an edge slower than its material's band, by its place on
    the tool or by the spindle.
    """
    speed, data, tool = op.value("cutting_speed"), op.data, op.tool
    if (
        speed is None
        or data is None
        or tool is None
        or op.operation.speed_typed
        or op.operation.kind in TURNED
        or speed >= SLOW_SHARE * data.speed_low
    ):
        return
    values = {
        "speed": Shown(speed, "cutting_speed"),
        "low": Shown(data.speed_low, "cutting_speed"),
        "rpm": Shown(op.value("rpm") or 0.0, "spindle_speed"),
    }
    on = f"operation:{op.operation.id}"
    if isinstance(op.operation, Chamfer):
        stay = keep(op, "cut.effective-speed", "the spindle ends here")
        at = op.value("cutting_diameter") or 0.0
        below = _lower(op, data.speed_low)
        lowered = Fix(
            "Lower the tip by {below}",
            (Change(on=on, fields={"below_mm": below}),),
            {"below": Shown(below or 0.0, "length")},
        )
        yield of_operation(
            op,
            "cut.effective-speed",
            "look",
            SLOW_EDGE,
            {**values, "at": Shown(at, "length")},
            "cutting_speed",
            (stay,) if below is None else (lowered, stay),
        )
    elif isinstance(op.operation, Engrave | Countersink | Slope):
        at = 1000.0 * speed / (pi * (op.value("rpm") or 1.0))
        yield of_operation(
            op,
            "cut.effective-speed",
            "look",
            SLOW_EDGE,
            {**values, "at": Shown(at, "length")},
            "cutting_speed",
            (keep(op, "cut.effective-speed", "the spindle ends here"),),
        )
    elif op.operation.kind == "drill":
        slower = other_tools(op, facts, lambda other: other.material != tool.material, None)
        yield of_operation(
            op,
            "cut.drill-slow",
            "look",
            "At {rpm} this drill cuts {speed}; the material wants {low} or more. Another way to"
            " make the hole may be quicker.",
            values,
            "cutting_speed",
            (*slower, keep(op, "cut.drill-slow", "the spindle ends here")),
        )


def _lower(op: OperationFacts, wanted: float) -> float | None:
    """How far below the chamfer (mm) the tip must go for the edge to be as fast as wanted, None
    where the tool is too small.
    """
    tool, rpm = op.tool, op.value("rpm")
    assert tool is not None and isinstance(op.operation, Chamfer)
    if rpm is None or not tool.included_angle_deg:
        return None
    diameter = 1000.0 * wanted / (pi * rpm)
    if diameter > tool.diameter_mm:
        return None
    return (
        ceil(
            (
                (diameter - tool.tip_diameter_mm)
                / 2.0
                / tan(radians(tool.included_angle_deg) / 2.0)
                - op.operation.size_mm
            )
            * 10
        )
        / 10
    )


@about_operation
def tap_risk(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.tap-risk: a blind hole, deep or in what tears."""
    if op.operation.kind != "tap" or op.tool is None or op.work is None or facts.material is None:
        return
    places = op.operation.on.ids if isinstance(op.operation.on, OnFeatures) else ()
    blind = any(
        isinstance(hole, Hole) and not hole.through
        for hole in (facts.geometry.feature(id) for id in places)
    )
    times, tears = (
        op.work.hole_depth / op.tool.diameter_mm,
        facts.material.iso_group in ("M", "S", "H"),
    )
    if not (blind and (times > DEEP_TAP or tears)) and not (tears and times > DEEP_TAP):
        return
    on = f"operation:{op.operation.id}"
    yield of_operation(
        op,
        "cut.tap-risk",
        "look",
        "{where} thread, {times} deep in {material}: a broken tap costs the part.",
        {
            "where": Shown("A blind" if blind else "A through"),
            "times": Shown(times, "factor"),
            "material": Shown(facts.material.name),
        },
        "cutting_torque",
        (
            Fix(
                "Stop after it to look at the threads",
                (
                    Change(on=on, fields={"stop_after": LOOK_DOWN}),
                    Keep(on=on, finding="cut.tap-risk", words=LOOK_DOWN),
                ),
                {},
            ),
        ),
    )


@about_operation
def life(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.life, cut.only-one: the edges on hand do not last the batch. Told at the first operation
    of the tool.
    """
    minutes, tool, loaded = op.value("edge_life"), op.tool, op.loaded
    if minutes is None or tool is None or loaded is None or tool.on_hand is None:
        return
    sharing = [
        each
        for each in facts.operations()
        if each.loaded is not None and each.loaded.id == loaded.id and each.time is not None
    ]
    if not sharing or sharing[0].operation.id != op.operation.id:
        return
    worn = sum(
        each.time.cutting_s / 60.0 / (each.value("edge_life") or minutes)
        for each in sharing
        if each.time is not None
    )
    needed = ceil(worn * facts.plan.quantity - 1e-9)
    if needed <= tool.on_hand:
        return
    values = {
        "tool": Shown(f"T{loaded.number}"),
        "needed": Shown(float(needed), "count"),
        "quantity": Shown(float(facts.plan.quantity), "count"),
        "life": Shown(minutes, "minutes"),
        "hand": Shown(float(tool.on_hand), "count"),
    }
    fixes: list[Fix] = []
    if tool.on_hand >= 1 and len(sharing) == 1:
        fixes += _speed_to_last(op, worn * facts.plan.quantity / tool.on_hand)
    more = LoadTool(
        tool=load(
            facts.plan,
            loaded.machine,
            facts.library.assemblies[loaded.assembly],
            loaded.stick_out_mm,
        )
    )
    fixes.append(
        Fix(
            "Set a second one ready as T{number}", (more,), {"number": Shown(str(more.tool.number))}
        )
    )
    id = "cut.only-one" if tool.on_hand == 1 else "cut.life"
    yield of_operation(
        op,
        id,
        "look",
        "{tool} lasts {life} in cut: {quantity} parts wear out {needed}, and {hand} are on hand.",
        values,
        "edge_life",
        tuple(fixes),
    )


def _speed_to_last(op: OperationFacts, times: float) -> list[Fix]:
    """The speed at which an edge lasts so many times longer, none under the material's band. A
    slower cut takes longer too.
    """
    rpm, speed, tool = op.value("rpm"), op.value("cutting_speed"), op.tool
    if rpm is None or speed is None or tool is None or op.data is None or times <= 1:
        return []
    exponent = constant("taylor", tool.material)
    share = times ** -(exponent / (1.0 - exponent))
    on = f"operation:{op.operation.id}"
    if op.operation.kind in TURNED and op.operation.rpm is None:
        slower = float(int(speed * share))
        edit: Edit = Change(on=on, fields={"cutting_speed_m_min": slower})
        return (
            [
                Fix(
                    "Turn at {speed}: the edges last",
                    (edit,),
                    {"speed": Shown(slower, "cutting_speed")},
                )
            ]
            if slower >= op.data.speed_low
            else []
        )
    turns = float(int(rpm * share / 10) * 10)
    if rpm * share < 1000.0 * op.data.speed_low / (pi * tool.diameter_mm):
        return []
    return [
        Fix(
            "Turn at {rpm}: the edge lasts",
            (Change(on=on, fields={"rpm": turns}),),
            {"rpm": Shown(turns, "spindle_speed")},
        )
    ]


@about_operation
def values_source(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    if (
        op.data is None
        or op.data.kept_by != "supplier"
        or (op.operation.speed_typed and op.operation.feed_typed)
    ):
        return
    rpm, feed = op.value("rpm"), op.value("feed")
    own = Fix(
        "Make {rpm} and {feed} the shop's own",
        (Change(on=f"operation:{op.operation.id}", fields={"rpm": rpm, "feed_mm_min": feed}),),
        {"rpm": Shown(rpm or 0.0, "spindle_speed"), "feed": Shown(feed or 0.0, "feed")},
    )
    yield of_operation(
        op,
        "cut.values-source",
        "note",
        "Speed and chip are a supplier's ({source}), not proven here.",
        {"source": Shown(op.data.source)},
        "",
        (own,) if rpm and feed and op.operation.kind not in TURNED else (),
    )


@about_operation
def angled_load_grows(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.angled-load-grows: a slanted edge in equal steps takes more with each of them."""
    kind = op.operation
    if not isinstance(kind, Undercut) or kind.equal != "step" or kind.passes == 1:
        return
    yield of_operation(
        op,
        "cut.angled-load-grows",
        "look",
        "In {passes} equal steps the last takes {times} what the first does, with {flank} of edge"
        " in the cut.",
        {
            "passes": Shown(float(kind.passes), "count"),
            "times": Shown(2.0 * kind.passes - 1.0, "factor"),
            "flank": Shown(op.value("flank_in_cut") or 0.0, "length"),
        },
        "engaged_height",
        (
            Fix(
                "Take the same load in each",
                (Change(on=f"operation:{kind.id}", fields={"equal": "load"}),),
                {},
            ),
        ),
    )


@about_operation
def thread(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.thread: no room under a thread in a blind hole, or a thread milled against its feed."""
    kind, room, below = op.operation, op.value("room"), op.notes.get("below_thread_mm")
    on = f"operation:{kind.id}"
    if (
        isinstance(kind, Tap | MillThread)
        and room is not None
        and isinstance(below, float)
        and below < room - 1e-6
    ):
        shorter = float(int(10 * (kind.depth_mm - room + below))) / 10
        fixes = (
            (
                Fix(
                    "Thread {depth} deep",
                    (Change(on=on, fields={"depth_mm": shorter}),),
                    {"depth": Shown(shorter, "length")},
                ),
            )
            if shorter > 0
            else ()
        )
        yield of_operation(
            op,
            "cut.thread",
            "stop",
            "Under the thread the hole goes on for {below}; the tool needs {room}: it meets the"
            " bottom.",
            {"below": Shown(max(below, 0.0), "length"), "room": Shown(room, "length")},
            "room",
            fixes,
        )
    if isinstance(kind, MillThread) and (kind.hand == "right") != (kind.cuts == "up"):
        other = "down" if kind.cuts == "up" else "up"
        yield of_operation(
            op,
            "cut.thread",
            "look",
            "A {hand}-hand thread cut {way} is cut against the feed: the tool pulls in and the"
            " flanks tear.",
            {"hand": Shown(kind.hand), "way": Shown(kind.cuts)},
            "",
            (Fix("Cut it " + other, (Change(on=on, fields={"cuts": other}),), {}),),
        )


@about_operation
def interrupted(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.interrupted: a hole whose wall is open on a side on its way down."""
    at, feed = op.notes.get("interrupted_mm"), op.value("feed")
    if not isinstance(at, float) or feed is None or op.operation.feed_typed:
        return
    slower = float(int(feed / 20.0) * 10) or feed / 2.0
    on = f"operation:{op.operation.id}"
    fix = Fix(
        "Feed {feed}",
        (Change(on=on, fields={"feed_mm_min": slower}),),
        {"feed": Shown(slower, "feed")},
    )
    stay = keep(
        op, "cut.interrupted", "cross hole: feed by hand through the break on the first part"
    )
    yield of_operation(
        op,
        "cut.interrupted",
        "look",
        "{at} down the wall of the hole is open on one side: the edge comes out of the cut and back"
        " into it at this feed.",
        {"at": Shown(at, "length")},
        "feed",
        (stay,) if op.operation.kind == "tap" else (fix, stay),
    )


@about_operation
def material_changed(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.material-changed: speed and feed typed for another material than the plan's."""
    kind = op.operation
    typed = [name for name in (*SPEED_TYPED, *FEED_TYPED) if getattr(kind, name, None) is not None]
    if (
        not kind.proven_in
        or kind.proven_in == facts.plan.material
        or facts.material is None
        or not typed
    ):
        return
    before, on = facts.library.materials.get(kind.proven_in), f"operation:{kind.id}"
    yield of_operation(
        op,
        "cut.material-changed",
        "look",
        "Its speed and feed were set for {before}; the part is of {now}. Look at feeds, pecks and"
        " sizes again.",
        {
            "before": Shown(before.name if before else kind.proven_in),
            "now": Shown(facts.material.name),
        },
        "cutting_speed",
        (
            Fix("Follow the material's data", (Change(on=on, fields=dict.fromkeys(typed)),), {}),
            Fix(
                "Keep them here too",
                (Change(on=on, fields={"proven_in": facts.plan.material}),),
                {},
            ),
        ),
    )


@about_operation
def up_cut(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.up-cut: a face cut both ways where the drawing asks for a finish."""
    kind = op.operation
    if (
        not isinstance(kind, Face)
        or kind.ways == "one"
        or kind.leave_mm > 0
        or (op.value("passes") or 1.0) < 2
    ):
        return
    up = op.setup.setup.orientation.up
    asked = [
        r
        for r in facts.plan.part.requirements
        if r.finish_um is not None
        and isinstance(face := facts.geometry.feature(r.feature), Flat)
        and face.faces == up
    ]
    if not asked:
        return
    on = f"operation:{kind.id}"
    yield of_operation(
        op,
        "cut.up-cut",
        "look",
        "Cut both ways, every second pass goes against the feed and shows; {what} asks {finish}.",
        {"what": Shown(asked[0].what), "finish": Shown(asked[0].finish_um or 0.0, "roughness")},
        "passes",
        (
            Fix("Cut it one way", (Change(on=on, fields={"ways": "one"}),), {}),
            keep(op, "cut.up-cut", "both ways: the finish was measured and holds"),
        ),
    )


@about_operation
def special_tool(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.special-tool: a tool that has to be made first."""
    kind, tool = op.operation, op.tool
    if tool is None or tool.order_days is None or (tool.on_hand or 0) > 0:
        return
    values = {
        "tool": Shown(tool.name),
        "days": Shown(float(tool.order_days), "count"),
        "cost": Shown(tool.cost or 0.0, "count"),
    }
    handler = HANDLERS.get(kind.kind)
    others = (
        []
        if handler is None
        else other_tools(
            op,
            facts,
            lambda other: (
                other.order_days is None
                and op.work is not None
                and handler.unsuited(kind, op.work, other) is None
            ),
            None,
            handler.tools,
        )
    )
    ordered = keep(op, "cut.special-tool", "special tool ordered")
    sentence = (
        "{tool} is made to order: {days} days and {cost}."
        if tool.cost is not None
        else "{tool} is made to order: {days} days."
    )
    yield of_operation(op, "cut.special-tool", "look", sentence, values, "", (*others, ordered))


HAZARDS = {
    "dust": (
        "Its dust harms lungs and slideways: extraction on, doors shut, masks as the shop rules.",
        "Dust: extraction on, doors shut.",
    ),
    "fire": (
        (
            "Its chips and dust can burn: the shop's fire rules first, chips out, extinguisher for"
            " metal fires at hand."
        ),
        "Chips burn: metal-fire extinguisher at hand, chips out.",
    ),
    "fumes": ("It gives off fumes when hot: extraction on, sharp edges.", "Fumes: extraction on."),
}


@about_setup
def dust_mist(seen: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.dust-mist: told once, at the first setup that cuts."""
    if (
        facts.material is None
        or not seen.operations
        or any(other.operations for other in facts.setups if other.number < seen.number)
    ):
        return
    for hazard in facts.material.hazards:
        sentence, note = HAZARDS[hazard]
        if note in seen.setup.note:
            continue
        edit = Change(
            on=f"setup:{seen.setup.id}", fields={"note": f"{seen.setup.note} {note}".strip()}
        )
        yield Finding(
            "cut.dust-mist",
            "note",
            seen.setup.id,
            "",
            "{material}: " + sentence,
            {"material": Shown(facts.material.name)},
            "",
            (Fix("Put it on the sheet", (edit,), {}),),
        )


@about_setup
def range_change(seen: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.range-change: belts or gears changed by hand inside a setup, and the order that needs
    fewer.
    """
    if seen.machine is None or seen.machine.range_change_s <= 0:
        return
    used = [(op, str(op.notes["range"])) for op in seen.operations if "range" in op.notes]
    changes = sum(a[1] != b[1] for a, b in zip(used, used[1:], strict=False))
    fewest = len({name for _, name in used}) - 1
    if changes == 0:
        return
    values = {
        "changes": Shown(float(changes), "count"),
        "seconds": Shown(changes * seen.machine.range_change_s, "time"),
        "fewest": Shown(float(fewest), "count"),
    }
    moved = _together(used) if changes > fewest else None
    if moved is not None:
        edit: Edit = MoveOperation(
            operation=moved[0].operation.id, setup=seen.setup.id, index=moved[1]
        )
        fix = Fix(
            "Move operation {number} beside what turns alike",
            (edit,),
            {"number": Shown(str(moved[0].number))},
        )
    else:
        last = next(a for a, b in zip(used, used[1:], strict=False) if a[1] != b[1])[0]
        written = (
            Change(on=f"operation:{last.operation.id}", fields={"stop_after": CHANGE}),
            Keep(on=f"setup:{seen.setup.id}", finding="cut.range-change", words=CHANGE),
        )
        fix = Fix("Write the stop for the change", written, {})
    times = "{changes} times" if changes > 1 else "once"
    sentence = f"The range is changed by hand {times}, {{seconds}} of attendance" + (
        "; {fewest} would do." if changes > fewest else "."
    )
    yield Finding("cut.range-change", "look", seen.setup.id, "", sentence, values, "", (fix,))


def _together(used: list[tuple[OperationFacts, str]]) -> tuple[OperationFacts, int] | None:
    """The first operation that stands alone between two of another range, and the place beside its
    like.
    """
    for k in range(1, len(used) - 1):
        op, name = used[k]
        if used[k - 1][1] != name and used[k + 1][1] != name:
            like = next((j for j in range(k + 1, len(used)) if used[j][1] == name), None)
            if like is not None:
                return op, like - 1
            before = next((j for j in range(k - 2, -1, -1) if used[j][1] == name), None)
            return op, before + 1 if before is not None else 0
    return None
