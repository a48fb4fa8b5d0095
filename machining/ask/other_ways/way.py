"""A way that a plan might go instead, and whether it goes."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from machining.evaluation import Evaluation
from machining.plan.document import Plan
from machining.quantities.said import Said, Shown, length

from ..routes.route import stops_of

SOME_MM3 = 0.5
# of several stops: what no other order or cut would mend
FIRST_SAID = ("travel.axis", "hold.", "reach.", "travel.", "route.tools-over")
UNKNOWN = Said("Some of it can't be answered so: a holding, a path or a tool is missing.")


@dataclass(frozen=True)
class Way:
    """``made`` brings the plan that it comes to, None where there is none; ``why`` says why it is
    not tried.
    """

    said: Said
    made: Callable[[], Plan | None]
    why: Said | None = None


def why_not(then: Evaluation, before: Evaluation) -> Said | None:
    """What is in its way that is not in the plan's; None where it goes."""
    if then.problem:
        return Said("{why}", {"why": Shown(then.problem)})
    known = {each.key for each in stops_of(before)}
    new = [each for each in stops_of(then) if each.key not in known]
    if new:
        stop = min(new, key=lambda each: not each.id.startswith(FIRST_SAID))
        return Said(stop.message, stop.values)
    if then.unknown > before.unknown:
        return UNKNOWN
    if then.left_mm3 > before.left_mm3 + SOME_MM3:
        thick = max(each.thick for each in then.left)
        return Said("{thick} still stand on the part then.", {"thick": length(thick)})
    return None
