"""size.tram: the spindle leans over the table, and a face shows it in steps."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from machining.cutting.lean import ridge
from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds.sides import face_passes, face_runs, face_step
from machining.plan.edit import Change
from machining.plan.operation import Face
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.trued import Tram

from ..finding import Finding, of_operation


def tram(op: Ready[Any], facts: PlanFacts) -> Iterator[Finding]:
    """Where the face is left as it is, between one pass and the next."""
    lean, face = op.machine.leans, op.operation
    if lean is None or not isinstance(face, Face) or face.leave_mm > 0:
        return
    if op.work.is_thin or op.work.region.is_empty:
        return
    now, best = _between(lean, face_runs(op), op), _between(lean, lean.towards, op)
    if now <= facts.library.settings.face_step_mm:
        return
    towards = f"{lean.towards[0].upper()}{lean.towards[1]}".replace("-", "−")
    values = {
        "machine": Shown(op.machine.name),
        "high": Shown(lean.high_mm, "size"),
        "over": Shown(lean.over_mm, "length"),
        "towards": Shown(towards),
        "step": Shown(now, "size"),
        "best": Shown(best, "size"),
    }
    turned = Proposal(
        "Run its passes towards {towards}",
        (Change(on=op.on, fields={"towards": lean.towards}),),
    )
    narrower = round(face_step(face, op.tool.diameter_mm) / 2.0, 1)
    less = Proposal(
        "Step over {narrower}",
        (Change(on=op.on, fields={"step_over_mm": narrower}),),
        {"narrower": Shown(narrower, "length")},
    )
    yield of_operation(
        op,
        "size.tram",
        "look",
        "The spindle of {machine} leans {high} in {over}, lower at {towards}: "
        + (
            "passes of this face leave {step} between them"
            if face_passes(op, face_runs(op))[0] > 1
            else "the one pass of this face leaves it {step} out of true"
        )
        + (", run towards {towards} {best}." if best < now else "."),
        values,
        "",
        (turned, less) if best < now else (less,),
    )


def _between(lean: Tram, runs: str, op: Ready[Face]) -> float:
    """What stands between two passes that run so; of one that takes it all, how far it is out of
    true.
    """
    count, wide = face_passes(op, runs)
    return ridge(lean.slope, op.tool.diameter_mm, wide / count, runs[0] == lean.towards[0])
