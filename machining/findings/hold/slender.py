"""hold.slender: a cut on a wall or bar that stands far from what carries it for its thickness."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.braced import brace_of
from machining.facts.context import PlanFacts, Ready
from machining.facts.observed import Thin
from machining.facts.thin import bent_at, is_slender
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, of_operation

LEAST_STEP_MM, HARDLY_MM = 0.3, 0.0005
SHARES = tuple(0.05 * k for k in range(19, 1, -1))
SPARE = 0.95


def slender(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    worst = next((each for each in op.seen.thin if is_slender(each, facts)), None)
    if worst is None or brace_of(op, facts) is not None:
        return
    message = (
        "It cuts on a wall {thick} thick that stands {far} from what carries it, {ratio} its"
        " thickness"
    )
    if worst.bends_mm is None:
        message += "; how far that bends is not known."
    elif worst.bends_mm < HARDLY_MM:
        message += "; this cut hardly pushes it, but it may sing or tear."
    elif worst.bends_mm > worst.thick_mm:
        message += ": this cut bends it away, by more than it is thick."
    else:
        message += ": this cut bends it {bends}, and it may sing."
    why = "wall_bends" if "wall_bends" in op.figures else ""
    fixes = tuple(_less_deep(op, worst, facts))
    yield of_operation(op, "hold.slender", "look", message, said(worst), why, fixes)


def said(thin: Thin) -> dict[str, Shown]:
    values = {
        "thick": length(round(thin.thick_mm, 2)),
        "far": length(round(thin.far_mm, 1)),
        "ratio": Shown(thin.ratio, "factor"),
    }
    if thin.bends_mm is not None:
        values["bends"] = Shown(thin.bends_mm, "size")
    return values


def _less_deep(op: Ready, worst: Thin, facts: PlanFacts) -> Iterator[Proposal]:
    """The highest step that bends the wall no more than the shop allows."""
    now, most = getattr(op.operation, "step_down_mm", None), facts.library.settings.wall_bends_mm
    if not isinstance(now, float) or not worst.bends_mm or worst.bends_mm <= most:
        return
    deep = min(now, op.seen.depth_mm or now)
    for step in (int(10.0 * deep * share) / 10.0 for share in SHARES):
        bends = bent_at(op, worst, step, facts) if step >= LEAST_STEP_MM else None
        if bends is not None and bends <= SPARE * most:
            change = Change(on=op.on, fields={"step_down_mm": step})
            yield Proposal("Step down {step}", (change,), {"step": length(step)})
            return
