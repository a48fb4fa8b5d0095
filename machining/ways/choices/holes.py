"""Other ways to a hole, each as the operations it takes."""

from __future__ import annotations

from math import floor

from machining.cutting import speeds
from machining.cutting.hole_methods import PILOT_DEEP, Method
from machining.cutting.hole_steps import Hole, Step
from machining.facts.context import PlanFacts, Ready
from machining.plan.document import LoadedTool
from machining.plan.edit import AddOperation, Edit, LoadTool, RemoveOperation
from machining.plan.loading import loaded as load
from machining.plan.operation import Bore, Drill, MillHole, Operation
from machining.plan.places import OnFeatures, TypedHoles
from machining.quantities.errors import MachiningError
from machining.ways.hole_ways import hole_ways

from .choice import Choice, Question, shop_feed

# of an operation whatever cuts it instead: where it is cut, and what comes once it is done
STAYS = ("station", "aim", "pinned")
AFTER = ("clamps_after", "stop_after", "stop_s")
QUESTIONS = dict.fromkeys(
    ("drill", "mill_hole", "bore"),
    Question(
        "drill, insert drill, pilot and deep drill, helix, boring, plunging: what each costs here,"
        " in time and in pockets",
        "holes",
    ),
)


def hole_choices(op: Ready, facts: PlanFacts) -> list[Choice]:
    """Every way to the hole of a drill, a boring head or a helix on the setup's machine, the
    quickest first; each as the operations it takes.
    """
    kind, work = op.operation, op.work
    if (
        not isinstance(kind, Drill | MillHole | Bore)
        or not isinstance(kind.on, OnFeatures | TypedHoles)
        or facts.material is None
        or op.rig.turns_work
    ):
        return []
    here = {t.assembly: t for t in facts.plan.tools if t.machine == op.machine.key}
    hole = Hole(work.hole_diameter, work.hole_depth, len(work.holes), work.passes_bottom)
    try:
        ranking = hole_ways(hole, facts.material, op.rig, facts.library, tuple(here))
    except MachiningError:
        return []  # no such hole: the operation's own answers say so
    return [
        _hole_choice(method, op, facts, here)
        for method in ranking.methods
        if not _as_planned(method, op)
    ]


def _as_planned(method: Method, op: Ready) -> bool:
    """Is it what the plan does already, with the data's speed and feed?"""
    kind = op.operation
    typed = kind.speed_typed or kind.feed_typed
    return (
        isinstance(kind, Drill)
        and len(method.steps) == 1
        and method.steps[0].bit.key == op.loaded.assembly
        and not typed
    )


def _hole_choice(
    method: Method, op: Ready, facts: PlanFacts, here: dict[str, LoadedTool]
) -> Choice:
    if not method.steps:
        return Choice(method.name, because=method.because)
    kind, plan = op.operation, facts.plan
    loads: list[Edit] = []
    made: list[Operation] = []
    for place, step in enumerate(method.steps):
        loaded = here.get(step.bit.key)
        if loaded is None:
            assembly, there = facts.library.assemblies[step.bit.key], op.machine.standing
            loaded = load(plan, op.machine.key, assembly, standing=there)
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
        edits,
        tool=", then ".join(step.bit.name for step in method.steps),
        limits=tuple(step.limit for step in method.steps),
        pockets=method.pockets,
    )


def _step_as_operation(
    step: Step, method: Method, op: Ready, facts: PlanFacts, id: str, tool: str
) -> Operation:
    kind = op.operation
    deep = getattr(kind, "depth_mm", None)
    rpm, feed = speeds.speed_in_steps(step.rpm, facts.library.settings.speed_step_rpm), step.feed
    stays = STAYS + (AFTER if step is method.steps[-1] else ())
    kept = {
        **{name: getattr(kind, name) for name in stays},
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
            feed_mm_min=shop_feed(edge, facts),
            diameter_mm=size,
            step_down_mm=max(floor(100.0 * (step.pitch or 1.0)) / 100.0, 0.01),
            depth_mm=deep,
        )
    if step.does == "bores":
        return Bore(
            **kept,
            feed_mm_min=shop_feed(feed, facts),
            width_mm=round((op.work.hole_diameter - method.steps[0].bit.diameter) / 2.0, 3),
        )
    pilot = method.name == "pilot and deep drill" and step is method.steps[0]
    return Drill(
        **kept,
        feed_mm_min=shop_feed(feed, facts),
        peck_mm=getattr(kind, "peck_mm", None),
        depth_mm=PILOT_DEEP * step.bit.diameter if pilot else deep,
        past_mm=getattr(kind, "past_mm", 1.0),
    )
