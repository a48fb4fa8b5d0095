"""A roughing cut by each school, its best cut inside every limit."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import ceil, inf, pi, radians, sin

from machining.cutting import search, speeds, tool_life
from machining.cutting.data import constant
from machining.cutting.search import FULL_DEPTH, SHALLOW, Cut, Cutter, Job, School
from machining.facts import held, requirement
from machining.facts.at_hand import at_hand
from machining.facts.context import PlanFacts, Ready
from machining.facts.feeds import blank_over
from machining.facts.kinds import kind_of
from machining.motion.paths.areas import thickness_round
from machining.motion.paths.clearing import WIDER
from machining.plan.edit import Change, Edit
from machining.plan.operation import (
    Face,
    RoughOutside,
    RoughPocket,
)
from machining.quantities.errors import MachiningError
from machining.quantities.said import Said
from machining.reaching.deflection import tool_push_off
from machining.removal.found import NEAR
from machining.world.capability import Rig
from machining.world.material import CuttingData
from machining.world.tool import Holder, Tool

from .choice import Choice, Question, shop_feed

FAST = School("lighter width, faster than the data start", most_width=0.1, full_depth=True)
FASTER = 1.05  # times the speed it starts at, from which it is another way
HIGH_FEED = School("high feed, very shallow", least_width=0.4, most_width=0.7)
STEP_MM = 0.01
THINNEST_MM = 1e-6  # that stands there, as the size of a blank has it
QUESTIONS = dict.fromkeys(
    ("face", "rough_outside", "rough_pocket"),
    Question(
        "full depth with a light width, as the data start and faster, shallow and wide, high feed:"
        " each at its best inside every limit",
        "cuts",
    ),
)


@dataclass(frozen=True, slots=True)
class _Kit:
    """A tool as it would be used here."""

    tool: Tool
    holder: Holder
    stick_out: float
    name: str
    loading: tuple[Edit, ...]
    carries: str


def rough_choices(op: Ready, facts: PlanFacts) -> list[Choice]:
    """Both schools with the tool in use, and a high-feed cutter where the library has one. Empty
    for what is no roughing cut.
    """
    if not isinstance(op.operation, Face | RoughOutside | RoughPocket) or facts.material is None:
        return []
    kit = _own(op)
    schools = (
        [(SHALLOW, kit)] if isinstance(op.operation, Face) else [(FULL_DEPTH, kit), (SHALLOW, kit)]
    )
    if not isinstance(op.operation, Face) and _goes_faster(op):
        schools.insert(1, (FAST, kit))
    if not isinstance(op.operation, Face) and (other := _high_feed(op, facts)) is not None:
        schools.append((HIGH_FEED, other))
    found = []
    for school, with_kit in schools:
        try:
            found.append(_choice(school, with_kit, op, facts, op.rig))
        except MachiningError as problem:
            found.append(Choice(school.name, tool=with_kit.name, because=Said(str(problem))))
    return [each for each in found if each.label != FAST.name or _removes_most(each, found)]


def _removes_most(fast: Choice, found: list[Choice]) -> bool:
    """Only more metal a minute is worth an edge that wears sooner."""
    others = [each.cut.removal for each in found if each is not fast and each.cut is not None]
    return fast.cut is not None and fast.cut.removal > max(others, default=0.0)


def _own(op: Ready) -> _Kit:
    return _Kit(
        op.tool,
        op.holder,
        op.loaded.stick_out_mm,
        f"T{op.loaded.number} {op.tool.name}",
        (),
        op.loaded.id,
    )


def _goes_faster(op: Ready) -> bool:
    """Do material, spindle and tool turn it faster than its data start at? A light width lets them:
    its edge is out of the cut for most of a turn.
    """
    if op.data is None:
        return False
    started, at_most = (
        speeds.spindle_speed(each, op.tool.diameter_mm)
        for each in (op.data.speed_start, op.data.speed_high)
    )
    turns = min(op.rig.spindle.max_rpm, op.tool.max_rpm or inf, op.holder.max_rpm or inf)
    return min(at_most, turns) > FASTER * started


def _high_feed(op: Ready, facts: PlanFacts) -> _Kit | None:
    """A high-feed cutter: loaded here, else the first of the library that fits machine
    and pocket.
    """
    rig, corner = op.rig, op.work.corner_radius

    def fits(tool: Tool) -> bool:
        return tool.kind == "high_feed_mill" and (corner is None or tool.diameter_mm <= 6 * corner)

    if op.tool.kind == "high_feed_mill":
        return None
    found = at_hand(facts, rig.machine.key, fits)
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


def _choice(school: School, kit: _Kit, op: Ready, facts: PlanFacts, rig: Rig) -> Choice:
    assert facts.material is not None
    data = facts.material.data_for(kind_of(op.operation).process, kit.tool.material)
    if data is None:
        why = f"There are no cutting data of {facts.material.name} for {kit.tool.material} tools."
        return Choice(school.name, tool=kit.name, because=Said(why))
    cutter, job = _cutter(kit, data), _job(kit, data, op, facts)
    if job.height < THINNEST_MM or (job.width is not None and job.width < THINNEST_MM):
        why = "By the size of the blank nothing stands here to be taken off."
        return Choice(school.name, tool=kit.name, because=Said(why))
    if school is FAST:
        job = replace(job, speed=data.speed_high)
    give = _give(kit, rig)
    cut = search.search(cutter, job, rig, give, school)
    if cut is None:
        why = "Nothing of this kind stays inside every limit here."
        return Choice(school.name, tool=kit.name, because=Said(why))
    cut = _in_shop_steps(cut, cutter, job, rig, give, facts) or cut
    fields: dict[str, object] = {
        "step_down_mm": cut.depth,
        "step_over_mm": cut.width,
        "rpm": cut.rpm,
        "feed_mm_min": cut.feed,
    }
    if kit.carries != op.loaded.id:
        fields["tool"] = kit.carries
    stands = held.stands_n(op)
    force = (cut.side_force or 0.0) * facts.library.settings.wear_factor
    return Choice(
        school.name,
        (*kit.loading, Change(on=f"operation:{op.operation.id}", fields=fields)),
        tool=kit.name,
        cut=cut,
        holding=stands / force if stands and force > 0 else None,
        life_min=_life(kit.tool, data, cut),
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


def _job(kit: _Kit, data: CuttingData, op: Ready, facts: PlanFacts) -> Job:
    material, settings, work = facts.material, facts.library.settings, op.work
    assert material is not None and work is not None
    kind = op.operation
    width = (
        thickness_round(work.kept, work.region.union(work.kept))
        if isinstance(kind, RoughOutside) and not work.kept.is_empty
        else None
    )
    stands = held.stands_n(op)
    sawn = blank_over(op)
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
        power_share=settings.power_share / _peak(kind),
        largest_force=(
            stands / (requirement.asked(op, facts) * settings.wear_factor) if stands else inf
        ),
        largest_push_off=settings.rough_push_off_share * left,
        helix=kit.tool.helix_deg,
        extra_depth=sawn if isinstance(kind, Face) else 0.0,
        extra_width=sawn if isinstance(kind, RoughOutside) else 0.0,
    )


def _peak(operation: object) -> float:
    """What its widest passes meet of the width they are made for: fronts that are round outwards
    more, straight ones what may go by unsaid.
    """
    if getattr(operation, "clears", "") != "open":
        return 1.0
    return WIDER * (1.0 + NEAR) if isinstance(operation, RoughPocket) else 1.0 + 1.5 * NEAR


def _give(kit: _Kit, rig: Rig) -> Callable[[float], float]:
    tool = kit.tool
    modulus, share = constant("modulus_gpa", tool.material), constant("modulus_gpa", "flute_share")
    compliance = kit.holder.stiffness_um_n + rig.machine.compliance_um_n
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
    rig: Rig,
    give: Callable[[float], float],
    facts: PlanFacts,
) -> Cut | None:
    """The same cut in round figures: sizes up to the next hundredth so that no extra pass comes of
    it, speed and feed down.
    """
    settings = facts.library.settings
    rpm = max(speeds.speed_in_steps(cut.rpm, settings.speed_step_rpm), rig.spindle.min_rpm)
    depth, width = (ceil(size / STEP_MM - 1e-6) * STEP_MM for size in (cut.depth, cut.width))
    rounded = search.candidate(
        round(min(depth, cutter.flute_length), 4),
        round(min(width, cutter.diameter), 4),
        rpm,
        cutter,
        job,
        rig,
        cut.feed_per_tooth,
    )
    if rounded is None:
        return None
    feed = shop_feed(rounded.feed, facts)
    asked, _ = search.with_forces(
        replace(
            rounded,
            feed=feed,
            feed_per_tooth=feed / (rpm * cutter.edges),
            removal=rounded.depth * rounded.width * feed / 1000.0,
        ),
        cutter,
        job,
        rig,
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
