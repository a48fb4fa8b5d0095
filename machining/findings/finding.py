"""What a finding is, and how one is made."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import partial
from typing import Literal

from machining.facts.context import OperationFacts, PlanFacts, Ready, SetupFacts, StationFacts
from machining.facts.left import Piece
from machining.plan.document import Plan, Setup, Station
from machining.plan.edit import Keep, RemoveOperation
from machining.plan.operation import Operation
from machining.plan.proposal import Later, Proposal
from machining.quantities.display import System
from machining.quantities.said import Shown, fill

WHOLE = "plan"  # the place of what is about all of it
Severity = Literal["stop", "look", "note"]


@dataclass(frozen=True, slots=True)
class Finding:
    """``id`` is stable (``hold.slips``); ``why`` names the figure that opens it. ``kept`` are the
    planner's words for leaving it as it is, ``station`` is where it is about how a part is held,
    ``about`` tells it from others of its kind at the same place. Without a setup it is about the
    whole plan.
    """

    id: str
    severity: Severity
    setup: str
    operation: str
    message: str
    values: dict[str, Shown]
    why: str = ""
    fixes: Sequence[Proposal] = ()
    kept: str = ""
    station: str = ""
    about: str = ""

    @property
    def question(self) -> str:
        return self.id.partition(".")[0]

    @property
    def named(self) -> str:
        """What words are kept for at its place."""
        return self.id + (f"/{self.about}" if self.about else "")

    @property
    def place(self) -> str:
        """Where it is, as an edit names it."""
        if self.operation:
            return f"operation:{self.operation}"
        if self.station:
            return f"station:{self.station}"
        return f"setup:{self.setup}" if self.setup else WHOLE

    @property
    def key(self) -> str:
        """The same finding keeps its key while its figures change."""
        about = f"/{self.about}" if self.about else ""
        return f"{self.id}@{self.place.rpartition(':')[2]}{about}"


OperationRule = Callable[[Ready, PlanFacts], Iterator[Finding]]
PlannedRule = Callable[[OperationFacts, PlanFacts], Iterator[Finding]]
SetupRule = Callable[[SetupFacts, PlanFacts], Iterator[Finding]]
PlanRule = Callable[[PlanFacts, list[Piece]], Iterator[Finding]]
StationRule = Callable[[StationFacts, PlanFacts], Iterator[Finding]]


# What no other rule can mend can still be taken out of the plan.
def of_operation(
    op: OperationFacts,
    id: str,
    severity: Severity,
    message: str,
    values: dict[str, Shown],
    why: str = "",
    fixes: Sequence[Proposal] = (),
) -> Finding:
    figure = op.figures.get(why) or op.station.figures.get(why)
    mends = partial(_or_out_of_plan, fixes, op)
    fixes = Later(mends) if isinstance(fixes, Later) else mends()
    return Finding(
        id,
        severity,
        op.setup.planned.id,
        op.operation.id,
        message,
        values,
        figure.id if figure else "",
        fixes,
    )


def _or_out_of_plan(fixes: Sequence[Proposal], op: OperationFacts) -> Sequence[Proposal]:
    out = "Take the operation out"
    return fixes or (Proposal(out, (RemoveOperation(operation=op.operation.id),)),)


def keep(op: OperationFacts, id: str, words: str) -> Proposal:
    """Leave a finding to look at as it is; the words are shown before they are taken, and stand in
    the review and on the sheet.
    """
    return Proposal(
        "Keep it: {words}",
        (Keep(on=f"operation:{op.operation.id}", finding=id, words=words),),
        {"words": Shown(words)},
    )


def kept(finding: Finding, plan: Plan) -> Finding:
    """The finding with the planner's words, where it is one to look at and the plan keeps it. The
    one place where keeping counts.
    """
    if finding.severity != "look":
        return finding
    said = dict(_place(finding, plan).kept)
    return replace(finding, kept=said[finding.named]) if finding.named in said else finding


def _place(finding: Finding, plan: Plan) -> Plan | Setup | Station | Operation:
    if finding.operation:
        return plan.setup(finding.setup).operation(finding.operation)
    if finding.station:
        return plan.station(finding.station)
    return plan.setup(finding.setup) if finding.setup else plan


def in_words(finding: Finding, system: System = "metric") -> str:
    return fill(finding.message, finding.values, system)
