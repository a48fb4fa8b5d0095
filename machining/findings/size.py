"""Size: will it measure right?"""

from __future__ import annotations

from collections.abc import Iterator

from machining.cutting.finish import scallop_step
from machining.facts.context import OperationFacts, PlanFacts
from machining.facts.size import floor_lift, push_off_at, tolerance_each_way
from machining.plan.edit import AddOperation, Change, LoadTool
from machining.plan.loading import loaded as load
from machining.plan.operation import (
    FINISHES,
    ROTATES_IN_PLACE,
    FinishFloor,
    FinishWalls,
    OnFeatures,
    Outside,
    RoughPocket,
)
from machining.plan.turned import TurnFinish

from .finding import Finding, Fix, Severity, Shown, about_operation, keep, length, of_operation
from .tools import move_after

SPRING_SHARE = 0.6  # of the share of a tolerance that push-off may take
FLOOR_LEFT_MM = 0.2


def _places(op: OperationFacts) -> frozenset[str]:
    on = op.operation.on
    if isinstance(on, OnFeatures):
        return frozenset(on.ids)
    return (
        frozenset({f"outside in setup {op.setup.setup.id}"})
        if isinstance(on, Outside)
        else frozenset()
    )


ROUGHS_A_WALL = frozenset({"rough_outside", "rough_pocket", "turn_rough", "turn_face"})


@about_operation
def order(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """size.order: rough after finish, and tap, ream or bore before the hole is drilled."""
    kind, places = op.operation.kind, _places(op)
    every = facts.operations()
    mine = every.index(op)
    later = every[mine + 1 :]
    if kind in FINISHES and places:
        rough = [
            other
            for other in later
            if other.operation.kind in ("rough_outside", "rough_pocket") and _places(other) & places
        ]
        if rough:
            yield of_operation(
                op,
                "size.order",
                "stop",
                "It finishes what operation {later} roughs afterwards.",
                {"later": Shown(str(rough[-1].number))},
                "",
                (move_after(op, rough[-1]),),
            )
            return
    if kind in ("tap", "ream", "bore", "mill_thread") and places:
        makes_hole = (
            ("drill", "rough_pocket", "mill_hole", "bore")
            if kind != "bore"
            else ("drill", "rough_pocket", "mill_hole")
        )
        before = {
            name
            for other in every[:mine]
            if other.operation.kind in makes_hole
            for name in _places(other)
        }
        missing = places - before
        if missing:
            after = [
                other
                for other in later
                if other.operation.kind in makes_hole and _places(other) & missing
            ]
            words = {"tap": "tapped", "ream": "reamed", "bore": "bored", "mill_thread": "threaded"}[
                kind
            ]
            yield of_operation(
                op,
                "size.order",
                "stop",
                "{count} of {all} holes are {done} before they are drilled.",
                {
                    "count": Shown(float(len(missing)), "count"),
                    "all": Shown(float(len(places)), "count"),
                    "done": Shown(words),
                },
                "",
                (move_after(op, after[-1]),) if after else (),
            )


@about_operation
def push_off(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    pushed = op.figures.get("size_error") or op.figures.get("push_off")
    if pushed is None or not isinstance(op.operation, FinishWalls):
        return
    each_way, source = tolerance_each_way(op, facts)
    share = facts.library.settings.push_off_share
    if pushed.value <= each_way * share:
        return
    id, kind, wanted = op.operation.id, op.operation, each_way * share
    depth = float(op.notes.get("depth_mm", kind.step_down_mm))
    fixes: list[Fix] = []
    if op.data is not None or kind.feed_typed:
        narrower = next(
            (
                w
                for k in range(1, 18)
                if (w := int(100 * kind.width_mm * (1.0 - 0.05 * k)) / 100) >= 0.05
                and push_off_at(op, facts, w, depth) <= wanted
            ),
            None,
        )
        lower = next(
            (
                d
                for k in range(1, 18)
                if (d := int(10 * depth * (1.0 - 0.05 * k)) / 10) >= 1.0
                and push_off_at(op, facts, kind.width_mm, d) <= wanted
            ),
            None,
        )
        if narrower is not None:
            fixes.append(
                Fix(
                    "Leave {width} for it",
                    (Change(on=f"operation:{id}", fields={"width_mm": narrower}),),
                    {"width": Shown(narrower, "size")},
                )
            )
        if lower is not None:
            fixes.append(
                Fix(
                    "Step down {step}",
                    (Change(on=f"operation:{id}", fields={"step_down_mm": lower}),),
                    {"step": length(lower)},
                )
            )
    fixes.append(
        Fix(
            "Go round once more",
            (Change(on=f"operation:{id}", fields={"passes": kind.passes + 1}),),
            {},
        )
    )
    severity: Severity = "stop" if pushed.value > each_way else "look"
    yield of_operation(
        op,
        "size.push-off",
        severity,
        "The tool is pushed off {pushed}; the tolerance is {tolerance} each way ({source}).",
        {
            "pushed": Shown(pushed.value, "size"),
            "tolerance": Shown(each_way, "size"),
            "source": Shown(source),
        },
        "size_error" if kind.passes > 1 else "push_off",
        tuple(fixes),
    )


@about_operation
def face_not_yet_cut(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    if op.operation.kind not in ROTATES_IN_PLACE:
        return
    standing = op.notes.get("standing_mm")
    if not isinstance(standing, float):
        return
    clears = [
        other
        for other in op.setup.operations
        if other.number > op.number and other.operation.kind in ("face", "rough_pocket")
    ]
    yield of_operation(
        op,
        "size.face-not-yet-cut",
        "look",
        "{standing} still stands over the hole: the tool starts in material that is cut away later,"
        " and depths are not yet true.",
        {"standing": length(standing)},
        "",
        (move_after(op, clears[-1]),) if clears else (),
    )


def _drawn(op: OperationFacts, facts: PlanFacts) -> float | None:
    """Half the narrowest band the drawing asks of what it finishes, None where the drawing is
    silent.
    """
    each_way, source = tolerance_each_way(op, facts)
    return each_way if source.startswith("drawing") else None


@about_operation
def spring_pass(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """size.spring-pass: push-off that one more round would take out, under what push-off itself is
    a finding for.
    """
    pushed, each_way = op.figures.get("push_off"), _drawn(op, facts)
    if (
        pushed is None
        or each_way is None
        or not isinstance(op.operation, FinishWalls)
        or op.operation.passes > 1
    ):
        return
    share = facts.library.settings.push_off_share
    if not SPRING_SHARE * share * each_way < pushed.value <= share * each_way:
        return
    on = f"operation:{op.operation.id}"
    yield of_operation(
        op,
        "size.spring-pass",
        "look",
        "{pushed} of push-off is much of {tolerance} each way; a spring pass takes it out, with"
        " this tool or one a size smaller.",
        {"pushed": Shown(pushed.value, "size"), "tolerance": Shown(each_way, "size")},
        "push_off",
        (
            Fix("Go round once more", (Change(on=on, fields={"passes": 2}),), {}),
            keep(op, "size.spring-pass", "no spring pass: measured on the first part"),
        ),
    )


@about_operation
def floor_pass(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """size.floor-pass: a floor with a tolerance that a roughing cut leaves as it is."""
    kind, places = op.operation, _places(op)
    if (
        not isinstance(kind, RoughPocket)
        or not places
        or op.loaded is None
        or kind.leave_floor_mm > 0
    ):
        return
    asked = [
        r
        for r in facts.plan.part.requirements
        if r.feature in places and "depth" in r.what.casefold() and r.band_mm > 0
    ]
    every = facts.operations()
    if not asked or any(
        other.operation.kind == "finish_floor" and _places(other) & places
        for other in every[every.index(op) + 1 :]
    ):
        return
    each_way, lifted = min(r.band_mm for r in asked) / 2.0, floor_lift(op)
    if lifted is None or lifted <= facts.library.settings.push_off_share * each_way:
        return
    floor = FinishFloor(
        id=f"{kind.id[:40]}floor",
        tool=kind.tool,
        on=kind.on,
        depth_mm=FLOOR_LEFT_MM,
        step_over_mm=round(0.5 * (op.tool.diameter_mm if op.tool else 8.0), 2),
    )
    at = [each.id for each in op.setup.setup.operations].index(kind.id) + 1
    edits = (
        Change(on=f"operation:{kind.id}", fields={"leave_floor_mm": FLOOR_LEFT_MM}),
        AddOperation(setup=op.setup.setup.id, operation=floor, index=at),
    )
    yield of_operation(
        op,
        "size.floor-pass",
        "look",
        "Heavy roughing pulls tool and spindle {lifted} along the axis; {what} asks {tolerance}"
        " each way.",
        {
            "lifted": Shown(lifted, "size"),
            "what": Shown(asked[0].what),
            "tolerance": Shown(each_way, "size"),
        },
        "side_force",
        (Fix("Leave {left} and finish the floor", edits, {"left": length(FLOOR_LEFT_MM)}),),
    )


@about_operation
def worn_finisher(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """size.worn-finisher: the tool that roughs also finishes a close tolerance."""
    each_way = _drawn(op, facts)
    if (
        not isinstance(op.operation, FinishWalls | TurnFinish)
        or op.loaded is None
        or each_way is None
        or 2.0 * each_way > facts.library.settings.close_band_mm
    ):
        return
    roughs = [
        other
        for other in facts.operations()
        if other.operation.kind in ROUGHS_A_WALL
        and other.loaded is not None
        and other.loaded.id == op.loaded.id
    ]
    if not roughs:
        return
    new = load(
        facts.plan,
        op.loaded.machine,
        facts.library.assemblies[op.loaded.assembly],
        op.loaded.stick_out_mm,
    )
    edits = (LoadTool(tool=new), Change(on=f"operation:{op.operation.id}", fields={"tool": new.id}))
    yield of_operation(
        op,
        "size.worn-finisher",
        "look",
        "T{number} also roughs (operation {rough}) and finishes a band of {band} with what is left"
        " of its edge.",
        {
            "number": Shown(str(op.loaded.number)),
            "rough": Shown(str(roughs[0].number)),
            "band": Shown(2.0 * each_way, "size"),
        },
        "",
        (Fix("Load its twin as T{number}", edits, {"number": Shown(str(new.number))}),),
    )


@about_operation
def finish(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """size.finish: the cusps of a ball over the roughness the drawing asks."""
    cusp, places = op.figures.get("scallop"), _places(op)
    asked = min(
        (
            r.finish_um
            for r in facts.plan.part.requirements
            if r.finish_um is not None and (r.feature in places or not r.feature)
        ),
        default=None,
    )
    if cusp is None or asked is None or op.tool is None or cusp.value * 1000.0 <= asked:
        return
    step = float(int(100 * scallop_step(op.tool.diameter_mm / 2.0, asked / 1000.0)) / 100) or 0.01
    yield of_operation(
        op,
        "size.finish",
        "look",
        "Passes {step} apart leave cusps of {cusp}; the drawing asks {asked}.",
        {
            "step": Shown(getattr(op.operation, "step_over_mm", 0.0), "size"),
            "cusp": Shown(cusp.value * 1000.0, "roughness"),
            "asked": Shown(asked, "roughness"),
        },
        "scallop",
        (
            Fix(
                "Step over {step}",
                (Change(on=f"operation:{op.operation.id}", fields={"step_over_mm": step}),),
                {"step": Shown(step, "size")},
            ),
        ),
    )
