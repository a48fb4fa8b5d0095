"""How else an operation could be cut: each school's best cut inside every limit, as ready edits."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from math import ceil, inf, pi, radians, sin

from machining.cutting import search, speeds, tool_life
from machining.cutting.data import constant
from machining.cutting.hole_methods import PILOT_DEEP, Hole, Method, Step
from machining.cutting.search import FULL_DEPTH, SHALLOW, Cut, Cutter, Job, School
from machining.facts.at_hand import at_hand
from machining.facts.context import OperationFacts, PlanFacts
from machining.facts.cut import PROCESS, sawn_over
from machining.facts.kinds import HANDLERS
from machining.motion.paths.areas import thickness_round
from machining.plan.base import FEED_TYPED, SPEED_TYPED
from machining.plan.document import LoadedTool
from machining.plan.edit import AddOperation, Change, Edit, LoadTool, RemoveOperation
from machining.plan.loading import loaded as load
from machining.plan.operation import (
    ROUGHS,
    Bore,
    Drill,
    Face,
    FinishWalls,
    MillHole,
    OnFeatures,
    Operation,
    Points,
    RoughOutside,
    RoughPocket,
    Slope,
)
from machining.quantities.errors import MachiningError
from machining.reaching.deflection import tool_push_off
from machining.world.machine import Machine
from machining.world.material import CuttingData
from machining.world.tool import Holder, Tool

from .hole_ways import hole_ways

HIGH_FEED = School("high feed, very shallow", least_width=0.4, most_width=0.7)
STEP_MM = 0.01
SAME_SPEED = 0.02
LEAST_LEFT_MM = 0.001  # of a wall, worth another round


@dataclass(frozen=True, slots=True)
class Choice:
    """``edits`` are empty where nothing of this kind fits; ``because`` says why, a sentence with
    the ``{names}`` of ``values``.

    ``cut`` is what the search of a roughing cut found, ``holding`` its factor, ``life_min`` minutes
    in cut; ``limits`` name what holds a way back, ``pockets`` are those of the magazine it needs
    and the plan has not filled. ``last`` is the operation it adds whose size and finish count,
    empty where it adds none.
    """

    name: str
    tool: str
    edits: tuple[Edit, ...] = ()
    cut: Cut | None = None
    holding: float | None = None
    life_min: float | None = None
    because: str = ""
    values: dict[str, tuple[float, str]] = field(default_factory=dict)
    limits: tuple[str, ...] = ()
    pockets: int | None = None
    last: str = ""


@dataclass(frozen=True, slots=True)
class _Kit:
    """A tool as it would be used here."""

    tool: Tool
    holder: Holder
    stick_out: float
    name: str
    loading: tuple[Edit, ...]
    carries: str


def rough_choices(op: OperationFacts, facts: PlanFacts) -> list[Choice]:
    """Both schools with the tool in use, and a high-feed cutter where the library has one. Empty
    for what is no roughing cut.
    """
    if (
        not isinstance(op.operation, Face | RoughOutside | RoughPocket)
        or op.work is None
        or facts.material is None
        or op.setup.machine is None
    ):
        return []
    kit = _own(op)
    if kit is None:
        return []
    schools = (
        [(SHALLOW, kit)] if isinstance(op.operation, Face) else [(FULL_DEPTH, kit), (SHALLOW, kit)]
    )
    if not isinstance(op.operation, Face) and (other := _high_feed(op, facts)) is not None:
        schools.append((HIGH_FEED, other))
    found = []
    for school, with_kit in schools:
        try:
            found.append(_choice(school, with_kit, op, facts, op.setup.machine))
        except MachiningError as problem:
            found.append(Choice(school.name, with_kit.name, because=str(problem)))
    return found


def finish_choices(op: OperationFacts, facts: PlanFacts) -> list[Choice]:
    """Other ways to the last size of a wall: width, speed, chip, a spring pass, measuring on the
    way, a tool of its own.
    """
    kind, tool, data = op.operation, op.tool, op.data
    if (
        not isinstance(kind, FinishWalls)
        or op.work is None
        or op.loaded is None
        or tool is None
        or data is None
        or "feed" not in op.figures
    ):
        return []
    on, name = f"operation:{kind.id}", f"T{op.loaded.number} {tool.name}"
    rpm, feed, machine = op.figures["rpm"].value, op.figures["feed"].value, op.setup.machine
    assert machine is not None

    def choice(words: str, **fields: object) -> Choice:
        return Choice(words, name, (Change(on=on, fields=fields),))

    found = [
        choice("a narrower last cut", width_mm=_down(0.5 * kind.width_mm, STEP_MM)),
        choice("once more at the same size", passes=kind.passes + 1),
    ]
    for words, speed in (("faster", data.speed_high), ("slower", data.speed_low)):
        most = min(
            machine.max_rpm, tool.max_rpm or inf, (op.holder.max_rpm if op.holder else None) or inf
        )
        turns = speeds.speed_in_steps(
            min(speeds.spindle_speed(speed, tool.diameter_mm), most),
            facts.library.settings.speed_step_rpm,
        )
        if abs(turns - rpm) > SAME_SPEED * rpm:
            found.append(
                choice(
                    words,
                    rpm=turns,
                    feed_mm_min=_feed(min(feed * turns / rpm, machine.max_feed_mm_min), facts),
                )
            )
    thinner = 0.6 * op.figures["chip"].value
    if thinner > tool.edge_radius_mm:
        found.append(choice("a thinner chip", feed_mm_min=_feed(0.6 * feed, facts)))
    if kind.chain == 1:
        found.append(choice("measured before the last cut", chain=2))
    return [
        *found,
        *(
            each
            for each in (_smaller_spring(op, facts), _own_finisher(op, facts))
            if each is not None
        ),
    ]


def _smaller_spring(op: OperationFacts, facts: PlanFacts) -> Choice | None:
    """A spring pass by an end mill a size smaller: it takes what push-off left, and touches less of
    the wall at once.
    """
    kind, tool, left = op.operation, op.tool, op.value("size_error") or op.value("push_off")
    if (
        not isinstance(kind, FinishWalls)
        or tool is None
        or op.loaded is None
        or op.work is None
        or left is None
        or left < LEAST_LEFT_MM
    ):
        return None
    deep = op.work.wall_height

    def suits(other: Tool) -> bool:
        return (
            other.kind == "end_mill"
            and other.diameter_mm < tool.diameter_mm
            and other.corner_radius_mm <= tool.corner_radius_mm
            and other.usable_length_mm >= deep
        )

    found = at_hand(facts, op.loaded.machine, suits, lambda other: other.diameter_mm)
    if found is None:
        return None
    loaded, smaller = found.loaded, found.tool
    spring = kind.model_copy(
        update={
            "id": f"{kind.id[:38]}spring",
            "tool": loaded.id,
            "width_mm": _down(left, LEAST_LEFT_MM),
            "step_down_mm": min(kind.step_down_mm, smaller.flute_length_mm),
            "passes": 1,
            "chain": 1,
            **dict.fromkeys((*SPEED_TYPED, *FEED_TYPED)),
            "kept": (),
            "proven_in": "",
            "pinned": False,
            "stop_after": "",
            "reason": "spring pass by a smaller tool",
        }
    )
    at = [each.id for each in op.setup.planned.operations].index(kind.id) + 1
    return Choice(
        "a spring pass by a size smaller",
        f"T{loaded.number} {smaller.name} after it",
        (*found.loads, AddOperation(setup=op.setup.planned.id, operation=spring, index=at)),
        last=spring.id,
    )


def hole_choices(op: OperationFacts, facts: PlanFacts) -> list[Choice]:
    """Every way to the hole of a drill, a boring head or a helix on the setup's machine, the
    quickest first; each as the operations it takes.
    """
    kind, work, machine = op.operation, op.work, op.setup.machine
    if (
        not isinstance(kind, Drill | MillHole | Bore)
        or not isinstance(kind.on, OnFeatures | Points)
        or work is None
        or facts.material is None
        or machine is None
        or machine.kind == "lathe"
    ):
        return []
    here = {t.assembly: t for t in facts.plan.tools if t.machine == machine.key}
    hole = Hole(work.hole_diameter, work.hole_depth, len(work.holes), work.passes_bottom)
    try:
        ranking = hole_ways(hole, facts.material, machine, facts.library, tuple(here))
    except MachiningError:
        return []  # no such hole: the operation's own answers say so
    return [
        _hole_choice(method, op, facts, here)
        for method in ranking.methods
        if not _as_planned(method, op)
    ]


def _as_planned(method: Method, op: OperationFacts) -> bool:
    """Is it what the plan does already, with the data's speed and feed?"""
    kind = op.operation
    typed = kind.speed_typed or kind.feed_typed
    return (
        isinstance(kind, Drill)
        and len(method.steps) == 1
        and op.loaded is not None
        and method.steps[0].bit.key == op.loaded.assembly
        and not typed
    )


def _hole_choice(
    method: Method, op: OperationFacts, facts: PlanFacts, here: dict[str, LoadedTool]
) -> Choice:
    if not method.steps:
        return Choice(method.name, "", because=method.because.text, values=method.because.values)
    kind, plan = op.operation, facts.plan
    loads: list[Edit] = []
    made: list[Operation] = []
    for place, step in enumerate(method.steps):
        loaded = here.get(step.bit.key)
        if loaded is None:
            assert op.setup.machine is not None
            loaded = load(plan, op.setup.machine.key, facts.library.assemblies[step.bit.key])
            loads.append(LoadTool(tool=loaded))
            plan = plan.model_copy(update={"tools": (*plan.tools, loaded)})
        last = place == len(method.steps) - 1
        made.append(
            _step_as_operation(
                step, method, op, facts, kind.id if last else f"{kind.id[:38]}first", loaded.id
            )
        )
    at = [each.id for each in op.setup.planned.operations].index(kind.id)
    edits = (
        *loads,
        RemoveOperation(operation=kind.id),
        *(
            AddOperation(setup=op.setup.planned.id, operation=each, index=at + k)
            for k, each in enumerate(made)
        ),
    )
    return Choice(
        method.name,
        ", then ".join(step.bit.name for step in method.steps),
        edits,
        limits=tuple(step.limit for step in method.steps),
        pockets=method.pockets,
    )


def _step_as_operation(
    step: Step, method: Method, op: OperationFacts, facts: PlanFacts, id: str, tool: str
) -> Operation:
    kind = op.operation
    assert op.work is not None
    deep = getattr(kind, "depth_mm", None)
    rpm, feed = speeds.speed_in_steps(step.rpm, facts.library.settings.speed_step_rpm), step.feed
    kept = {
        "id": id,
        "tool": tool,
        "on": kind.on,
        "rpm": rpm,
        "coolant": kind.coolant,
        "proven_in": facts.plan.material,
    }
    if step.does == "mills on a helix":
        size = op.work.hole_diameter
        edge = feed * size / (size - step.bit.diameter)  # the step's feed is the middle's
        return MillHole(
            **kept,
            feed_mm_min=_feed(edge, facts),
            diameter_mm=size,
            step_down_mm=round(step.pitch or 1.0, 2) or 0.01,
            depth_mm=deep,
        )
    if step.does == "bores":
        return Bore(
            **kept,
            feed_mm_min=_feed(feed, facts),
            width_mm=round((op.work.hole_diameter - method.steps[0].bit.diameter) / 2.0, 3),
        )
    pilot = method.name == "pilot and deep drill" and step is method.steps[0]
    return Drill(
        **kept,
        feed_mm_min=_feed(feed, facts),
        peck_mm=getattr(kind, "peck_mm", None),
        depth_mm=PILOT_DEEP * step.bit.diameter if pilot else deep,
        past_mm=getattr(kind, "past_mm", 1.0),
    )


def _feed(value: float, facts: PlanFacts) -> float:
    """A feed (mm/min) in the shop's steps; what they leave as it is, in tenths."""
    return _down(speeds.feed_in_steps(value, facts.library.settings.feed_step_mm_min), 0.1)


def _down(value: float, step: float) -> float:
    """The next lower multiple of a step, the value itself where it is under one."""
    return round(int(value / step + 1e-9) * step, 6) or value


def _own_finisher(op: OperationFacts, facts: PlanFacts) -> Choice | None:
    """A tool no roughing cut of the plan uses: one loaded here that fits, else a twin."""
    assert op.loaded is not None and op.tool is not None
    roughs = {
        other.loaded.id
        for other in facts.operations()
        if other.operation.kind in ROUGHS and other.loaded is not None
    }
    if op.loaded.id not in roughs:
        return None
    new = load(
        facts.plan,
        op.loaded.machine,
        facts.library.assemblies[op.loaded.assembly],
        op.loaded.stick_out_mm,
    )
    return Choice(
        "a tool of its own",
        f"T{new.number} {op.tool.name}, loaded for it",
        (LoadTool(tool=new), Change(on=f"operation:{op.operation.id}", fields={"tool": new.id})),
    )


def _own(op: OperationFacts) -> _Kit | None:
    if op.tool is None or op.holder is None or op.loaded is None:
        return None
    return _Kit(
        op.tool,
        op.holder,
        op.loaded.stick_out_mm,
        f"T{op.loaded.number} {op.tool.name}",
        (),
        op.loaded.id,
    )


def _high_feed(op: OperationFacts, facts: PlanFacts) -> _Kit | None:
    """A high-feed cutter: loaded here, else the first of the library that fits machine
    and pocket.
    """
    machine, corner = op.setup.machine, op.work.corner_radius if op.work else None
    assert machine is not None

    def fits(tool: Tool) -> bool:
        return tool.kind == "high_feed_mill" and (corner is None or tool.diameter_mm <= 6 * corner)

    if op.tool is not None and op.tool.kind == "high_feed_mill":
        return None
    found = at_hand(facts, machine.key, fits)
    return (
        _Kit(
            found.tool,
            facts.library.holders[found.assembly.holder],
            found.loaded.stick_out_mm,
            found.name,
            found.loads,
            found.loaded.id,
        )
        if found
        else None
    )


def _choice(
    school: School, kit: _Kit, op: OperationFacts, facts: PlanFacts, machine: Machine
) -> Choice:
    assert facts.material is not None
    data = facts.material.data_for(PROCESS[op.operation.kind], kit.tool.material)
    if data is None:
        return Choice(
            school.name,
            kit.name,
            because=(
                f"There are no cutting data of {facts.material.name} for {kit.tool.material} tools."
            ),
        )
    cutter, job = _cutter(kit, data), _job(kit, data, op, facts)
    give = _give(kit, machine)
    cut = search.search(cutter, job, machine, give, school)
    if cut is None:
        return Choice(
            school.name, kit.name, because="Nothing of this kind stays inside every limit here."
        )
    cut = _in_shop_steps(cut, cutter, job, machine, give, facts) or cut
    fields: dict[str, object] = {
        "step_down_mm": cut.depth,
        "step_over_mm": cut.width,
        "rpm": cut.rpm,
        "feed_mm_min": cut.feed,
    }
    if kit.carries != (op.loaded.id if op.loaded else ""):
        fields["tool"] = kit.carries
    capacity = op.setup.figures.get("capacity")
    force = (cut.side_force or 0.0) * facts.library.settings.wear_factor
    return Choice(
        school.name,
        kit.name,
        (*kit.loading, Change(on=f"operation:{op.operation.id}", fields=fields)),
        cut,
        capacity.value / force if capacity and force > 0 else None,
        _life(kit.tool, data, cut),
    )


def _cutter(kit: _Kit, data: CuttingData) -> Cutter:
    tool = kit.tool
    limit = min(tool.max_rpm or inf, kit.holder.max_rpm or inf)
    chip = data.chip_mm(tool.diameter_mm)
    if tool.kind != "high_feed_mill":  # the data give the feed per tooth of an edge as it stands
        chip *= sin(radians(tool.edge_angle_deg))
    return Cutter(
        tool.diameter_mm,
        tool.flutes,
        tool.cutting_depth_mm,
        chip,
        tool.edge_angle_deg,
        tool.edge_radius_mm,
        tool.max_chip_mm or inf,
        limit,
    )


def _job(kit: _Kit, data: CuttingData, op: OperationFacts, facts: PlanFacts) -> Job:
    material, settings, work = facts.material, facts.library.settings, op.work
    assert material is not None and work is not None
    kind = op.operation
    width = (
        thickness_round(work.kept, work.region.union(work.kept))
        if isinstance(kind, RoughOutside) and work.kept is not None
        else None
    )
    capacity = op.setup.figures.get("capacity")
    sawn = sawn_over(op, facts)
    left = max(getattr(kind, "leave_mm", 0.0), settings.general_tolerance_mm)
    return Job(
        height=work.top - work.floor,
        width=width,
        kc11=material.kc11_n_mm2,
        mc=material.mc,
        speed=data.speed_start,
        speed_low=data.speed_low,
        radial_ratio=constant("force_ratio", "radial"),
        axial_ratio=constant("force_ratio", "axial"),
        power_share=settings.power_share,
        largest_force=(
            capacity.value / (settings.holding_factor * settings.wear_factor) if capacity else inf
        ),
        largest_push_off=settings.rough_push_off_share * left,
        helix=kit.tool.helix_deg,
        extra_depth=sawn if isinstance(kind, Face) else 0.0,
        extra_width=sawn if isinstance(kind, RoughOutside) else 0.0,
    )


def _give(kit: _Kit, machine: Machine) -> Callable[[float], float]:
    tool = kit.tool
    modulus, share = constant("modulus_gpa", tool.material), constant("modulus_gpa", "flute_share")
    compliance = kit.holder.stiffness_um_n + machine.compliance_um_n
    return lambda depth: tool_push_off(
        1.0,
        kit.stick_out,
        tool.flute_length_mm,
        tool.diameter_mm,
        tool.usable_length_mm,
        tool.behind_flutes_mm,
        tool.shank_diameter_mm,
        modulus,
        share,
        depth / 2.0,
        compliance,
    )


def _in_shop_steps(
    cut: Cut,
    cutter: Cutter,
    job: Job,
    machine: Machine,
    give: Callable[[float], float],
    facts: PlanFacts,
) -> Cut | None:
    """The same cut in round figures: sizes up to the next hundredth so that no extra pass comes of
    it, speed and feed down.
    """
    settings = facts.library.settings
    rpm = max(speeds.speed_in_steps(cut.rpm, settings.speed_step_rpm), machine.min_rpm)
    depth, width = (ceil(size / STEP_MM - 1e-6) * STEP_MM for size in (cut.depth, cut.width))
    rounded = search.candidate(
        round(min(depth, cutter.flute_length), 4),
        round(min(width, cutter.diameter), 4),
        rpm,
        cutter,
        job,
        machine,
        cut.feed_per_tooth,
    )
    if rounded is None:
        return None
    feed = _feed(rounded.feed, facts)
    asked, _ = search.with_forces(
        replace(
            rounded,
            feed=feed,
            feed_per_tooth=feed / (rpm * cutter.edges),
            removal=rounded.depth * rounded.width * feed / 1000.0,
        ),
        cutter,
        job,
        machine,
        give,
    )
    return replace(asked, limits=cut.limits) if asked is not None else None


def _life(tool: Tool, data: CuttingData, cut: Cut) -> float | None:
    if tool.edge_life_min is None:
        return None
    speed = pi * tool.diameter_mm * cut.rpm / 1000.0
    return tool_life.life_at_speed(
        speed, data.speed_start, tool.edge_life_min, constant("taylor", tool.material)
    )


def slope_choices(op: OperationFacts, facts: PlanFacts) -> list[Choice]:
    """A slope upright in steps, tilted with the axes locked, and with them live; on a table that
    tilts.
    """
    kind, machine = op.operation, op.setup.machine
    if (
        not isinstance(kind, Slope)
        or op.work is None
        or op.loaded is None
        or op.tool is None
        or machine is None
        or machine.rotary is None
    ):
        return []
    found = []
    for words, axes in (
        ("upright, in steps", "upright"),
        ("tilted, axes locked", "locked"),
        ("tilted, axes live", "live"),
    ):
        if axes == kind.axes:
            continue
        kit = _slope_kit(kind.model_copy(update={"axes": axes}), op, facts)
        if kit is None:
            found.append(Choice(words, "", because="No tool of the library does it so."))
            continue
        loads, carries, name = kit
        fields: dict[str, object] = {"axes": axes, "tool": carries}
        if carries != op.loaded.id:
            fields |= dict.fromkeys((*SPEED_TYPED, *FEED_TYPED))
        found.append(
            Choice(words, name, (*loads, Change(on=f"operation:{kind.id}", fields=fields)))
        )
    return found


def _slope_kit(
    wanted: Slope, op: OperationFacts, facts: PlanFacts
) -> tuple[tuple[Edit, ...], str, str] | None:
    """The tool in use where it suits, else the one at hand: the edits that load it, its id and its
    name.
    """
    assert op.loaded is not None and op.tool is not None and op.work is not None
    handler, work = HANDLERS["slope"], op.work

    def suits(tool: Tool) -> bool:
        return tool.kind in handler.tools and handler.unsuited(wanted, work, tool) is None

    if suits(op.tool):
        return (), op.loaded.id, f"T{op.loaded.number} {op.tool.name}"
    found = at_hand(facts, op.setup.planned.machine, suits)
    return (found.loads, found.loaded.id, found.name) if found else None
