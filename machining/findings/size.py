"""Size: will it measure right?"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import OperationFacts, PlanFacts
from machining.facts.size import push_off_at, tolerance_each_way
from machining.plan.edit import Change, MoveOperation
from machining.plan.operation import FINISHES, FinishWalls, OnFeatures, Outside

from .finding import Finding, Fix, Severity, Shown, about_operation, length, of_operation


def _places(op: OperationFacts) -> frozenset[str]:
    on = op.operation.on
    if isinstance(on, OnFeatures):
        return frozenset(on.ids)
    return frozenset({f"outside in setup {op.setup.setup.id}"}) if isinstance(on, Outside) else frozenset()


def _move_after(op: OperationFacts, last: OperationFacts) -> Fix:
    at = [each.id for each in last.setup.setup.operations].index(last.operation.id)
    same = op.setup is last.setup
    edit = MoveOperation(operation=op.operation.id, setup=last.setup.setup.id, index=at if same and op.number < last.number else at + 1)
    return Fix("Move it after operation {number}", (edit,), {"number": Shown(str(last.number))})


@about_operation
def order(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """size.order: rough after finish, and tap, ream or bore before the hole is drilled."""
    kind, places = op.operation.kind, _places(op)
    every = facts.operations()
    mine = every.index(op)
    later = every[mine + 1 :]
    if kind in FINISHES and places:
        rough = [other for other in later if other.operation.kind in ("rough_outside", "rough_pocket") and _places(other) & places]
        if rough:
            yield of_operation(op, "size.order", "stop", "It finishes what operation {later} roughs afterwards.", {"later": Shown(str(rough[-1].number))}, "", (_move_after(op, rough[-1]),))
            return
    if kind in ("tap", "ream", "bore") and places:
        makes_hole = ("drill", "rough_pocket", "bore") if kind != "bore" else ("drill", "rough_pocket")
        before = {name for other in every[:mine] if other.operation.kind in makes_hole for name in _places(other)}
        missing = places - before
        if missing:
            after = [other for other in later if other.operation.kind in makes_hole and _places(other) & missing]
            words = {"tap": "tapped", "ream": "reamed", "bore": "bored"}[kind]
            yield of_operation(
                op, "size.order", "stop", "{count} of {all} holes are {done} before they are drilled.",
                {"count": Shown(float(len(missing)), "count"), "all": Shown(float(len(places)), "count"), "done": Shown(words)}, "", (_move_after(op, after[-1]),) if after else (),
            )


@about_operation
def push_off(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    pushed = op.figures.get("push_off")
    if pushed is None or not isinstance(op.operation, FinishWalls):
        return
    each_way, source = tolerance_each_way(op, facts)
    share = facts.library.settings.push_off_share
    if pushed.value <= each_way * share:
        return
    id, kind, wanted = op.operation.id, op.operation, each_way * share
    depth = float(op.notes.get("depth_mm", kind.step_down_mm))
    fixes: list[Fix] = []
    if op.data is not None or kind.feed_mm_min is not None:
        narrower = next((w for k in range(1, 18) if (w := int(100 * kind.width_mm * (1.0 - 0.05 * k)) / 100) >= 0.05 and push_off_at(op, facts, w, depth) <= wanted), None)
        lower = next((d for k in range(1, 18) if (d := int(10 * depth * (1.0 - 0.05 * k)) / 10) >= 1.0 and push_off_at(op, facts, kind.width_mm, d) <= wanted), None)
        if narrower is not None:
            fixes.append(Fix("Leave {width} for it", (Change(on=f"operation:{id}", fields={"width_mm": narrower}),), {"width": Shown(narrower, "size")}))
        if lower is not None:
            fixes.append(Fix("Step down {step}", (Change(on=f"operation:{id}", fields={"step_down_mm": lower}),), {"step": length(lower)}))
    if kind.passes == 1:
        fixes.append(Fix("Go round once more", (Change(on=f"operation:{id}", fields={"passes": 2}),), {}))
    severity: Severity = "stop" if pushed.value > each_way and kind.passes == 1 else "look"
    if kind.passes > 1 and pushed.value <= each_way:
        return
    yield of_operation(
        op, "size.push-off", severity, "The tool is pushed off {pushed}; the tolerance is {tolerance} each way ({source}).",
        {"pushed": Shown(pushed.value, "size"), "tolerance": Shown(each_way, "size"), "source": Shown(source)}, "push_off", tuple(fixes),
    )


@about_operation
def face_not_yet_cut(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    if op.operation.kind not in ("drill", "ream", "tap", "bore"):
        return
    standing = op.notes.get("standing_mm")
    if not isinstance(standing, float):
        return
    clears = [other for other in op.setup.operations if other.number > op.number and other.operation.kind in ("face", "rough_pocket")]
    yield of_operation(
        op, "size.face-not-yet-cut", "look", "{standing} still stands over the hole: the tool starts in material that is cut away later, and depths are not yet true.",
        {"standing": length(standing)}, "", (_move_after(op, clears[-1]),) if clears else (),
    )
