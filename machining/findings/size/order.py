"""size.order: rough after finish, and tap, ream or bore before the hole is drilled."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import OperationFacts, PlanFacts
from machining.plan.operation import FINISHES
from machining.quantities.said import Shown

from ..finding import Finding, of_operation
from ..sizes import places_of
from ..tools import move_after


def order(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    kind, places = op.operation.kind, places_of(op)
    every = facts.operations()
    mine = every.index(op)
    later = every[mine + 1 :]
    if kind in FINISHES and places:
        rough = [
            other
            for other in later
            if other.operation.kind in ("rough_outside", "rough_pocket")
            and places_of(other) & places
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
            for name in places_of(other)
        }
        missing = places - before
        if missing:
            after = [
                other
                for other in later
                if other.operation.kind in makes_hole and places_of(other) & missing
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
