"""One tool for the work of several: which of a machine's could do what others are loaded for."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from machining.facts.context import OperationFacts, PlanFacts
from machining.facts.kinds import kind_of
from machining.facts.suits import why_not
from machining.plan.document import LoadedTool
from machining.plan.edit import Change, Edit, UnloadTool
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

MOST = 8  # that are offered


@dataclass(frozen=True, slots=True)
class Merge:
    """``tool`` does what those are loaded for that can be ``gone`` then: their operations, beside
    its ``own``.
    """

    tool: LoadedTool
    gone: tuple[LoadedTool, ...]
    operations: tuple[OperationFacts, ...]
    own: tuple[OperationFacts, ...] = ()

    @property
    def dulls_a_finisher(self) -> bool:
        """Would what only finishes be done with what roughs as well?"""
        fine = [kind_of(op.operation).finishes for op in (*self.operations, *self.own)]
        return any(fine) and not all(fine)

    def only(self, gone: Sequence[LoadedTool]) -> Merge:
        """The same for some of those that it does the work of."""
        ids = {each.id for each in gone}
        operations = tuple(op for op in self.operations if op.operation.tool in ids)
        return replace(self, gone=tuple(gone), operations=operations)

    @property
    def instead(self) -> dict[str, str]:
        """The tool for each of those that go."""
        return {each.id: self.tool.id for each in self.gone}

    @property
    def edits(self) -> tuple[Edit, ...]:
        given = {"tool": self.tool.id}
        return (
            *(Change(on=f"operation:{op.id}", fields=given) for op in self.operations),
            *(UnloadTool(tool=each.id) for each in self.gone),
        )

    @property
    def said(self) -> Proposal:
        numbers = ", ".join(f"T{each.number}" for each in self.gone)
        does = "do" if len(self.gone) > 1 else "does"
        values = {"tool": Shown(f"T{self.tool.number}"), "gone": Shown(numbers)}
        return Proposal(f"Use {{tool}} for what {{gone}} {does} too", self.edits, values)


def merges(loaded: Sequence[LoadedTool], facts: PlanFacts, least: int = 1) -> Iterator[Merge]:
    """Each one of those that are loaded for another's work; those that free most pockets first, and
    none that frees fewer than ``least``.
    """
    work = {each.id: _work(each, facts) for each in loaded}
    found = list[Merge]()
    for each in loaded:
        can = [
            other
            for other in loaded
            if other is not each
            and other.carrier == each.carrier
            and work[other.id]
            and all(_does(each, op, facts) for op in work[other.id])
        ]
        if len(can) > 1:
            found.append(_merge(each, can, work))
        found += [_merge(each, [other], work) for other in can]
    found = [each for each in found if len(each.gone) >= least]
    yield from sorted(found, key=lambda each: -len(each.gone))[:MOST]


def _merge(
    tool: LoadedTool, gone: Sequence[LoadedTool], work: dict[str, list[OperationFacts]]
) -> Merge:
    return Merge(
        tool, tuple(gone), tuple(op for each in gone for op in work[each.id]), tuple(work[tool.id])
    )


def _work(tool: LoadedTool, facts: PlanFacts) -> list[OperationFacts]:
    return [op for op in facts.operations() if op.operation.tool == tool.id]


def _does(tool: LoadedTool, op: OperationFacts, facts: PlanFacts) -> bool:
    assembly = facts.library.assemblies.get(tool.assembly)
    known = facts.library.tools.get(assembly.tool) if assembly is not None else None
    return known is not None and why_not(op, facts, known) is None
