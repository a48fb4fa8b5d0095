"""The schools of placing a part, each worked out as a plan of its own: where its zero is, its sides
together in one load or apart.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from itertools import count
from typing import Any

from machining.evaluate import evaluate
from machining.evaluation import Evaluation, plain_said
from machining.facts.route import walk
from machining.facts.stack_up import Chain, chains
from machining.facts.zero import picked_said
from machining.findings.finding import Finding
from machining.memo import Memo
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan, Setup
from machining.plan.trade import AnyEdit, Apart, Together
from machining.quantities.said import Said, Shown
from machining.ways.one_load import sides_of
from machining.ways.trade import structural
from machining.ways.zero_ways import zero_ways
from machining.world.library import Library

from .asked import station_of


def place_ways(plan: Plan, library: Library, memo: Memo, station: str) -> list[dict[str, Any]]:
    """As it is, and each other way with what comes of it. Raises Missing."""
    facts = walk(plan, library, memo)
    seen = station_of(facts, station)
    trial = _Trial(plan, library, memo, station)
    found = [trial.zero("As it is", {}, ())]
    for each in zero_ways(seen, facts):
        found += trial.tried(each.label, each.values, each.edits)
    found += [*_loads(plan, trial, seen.setup.planned)]
    return found


def _loads(plan: Plan, trial: _Trial, setup: Setup) -> Iterator[dict[str, Any]]:
    """With the setup after it or before it in one load; or a side that it holds too on its own."""
    others = [*sides_of(plan)]
    for first, then in others:
        if setup in (first, then):
            number = plan.setups.index(then) + 1
            edit = Together(setup=first.id, other=then.id)
            numbers = {"first": Shown(str(number - 1)), "then": Shown(str(number))}
            yield from trial.load("Setups {first} and {then} in one load", numbers, edit)
    known = {each.id for each in setup.stations}
    for k, each in enumerate(setup.stations):
        if each.takes in known:
            used = {e.id for e in plan.setups}
            new = next(id for id in (f"s{n}" for n in count(1)) if id not in used)
            alone = Apart(station=each.id, id=new)
            values = {"station": Shown(str(k + 1))}
            yield from trial.load("Station {station} in a setup of its own", values, alone)


class _Trial:
    """A plan with one thing different, against what it is."""

    def __init__(self, plan: Plan, library: Library, memo: Memo, station: str) -> None:
        self.plan, self.library, self.memo, self.station = plan, library, memo, station
        self.now = evaluate(plan, library, memo)
        self.known = {each.key for each in self.now.findings}

    def tried(
        self, label: str, values: dict[str, Shown], edits: tuple[AnyEdit, ...]
    ) -> list[dict[str, Any]]:
        try:
            as_it_is = self._changed(edits) == self.plan
            return [] if as_it_is else [self.zero(label, values, edits)]
        except EditRefused:
            return []

    def zero(
        self, label: str, values: dict[str, Shown], edits: tuple[AnyEdit, ...]
    ) -> dict[str, Any]:
        """How the zero is picked up then, and what hangs on it."""
        plan, told = self._with(edits)
        facts = walk(plan, self.library, self.memo)
        seen = facts.station(self.station)
        picked = picked_said(seen.planned.zero, seen.turns, self.library.settings)
        says = [*picked, *_adds_up(chains(facts))]
        return self._row("zero", label, values, edits, says, told)

    def load(self, label: str, values: dict[str, Shown], edit: AnyEdit) -> Iterator[dict[str, Any]]:
        try:
            plan, told = self._with((edit,))
        except EditRefused:
            return
        says = [_takes(self.plan, self.now, "now"), _takes(plan, told, "then")]
        yield self._row("load", label, values, (edit,), says, told)

    def _with(self, edits: tuple[AnyEdit, ...]) -> tuple[Plan, Evaluation]:
        if not edits:
            return self.plan, self.now
        plan = self._changed(edits)
        return plan, evaluate(plan, self.library, self.memo)

    def _changed(self, edits: tuple[AnyEdit, ...]) -> Plan:
        return apply(self.plan, structural(self.plan, self.library, self.memo, edits))

    def _row(
        self,
        of: str,
        label: str,
        values: dict[str, Shown],
        edits: tuple[AnyEdit, ...],
        says: list[Said],
        told: Evaluation,
    ) -> dict[str, Any]:
        new = [each for each in told.findings if each.key not in self.known]
        stops = [each for each in new if each.severity == "stop"]
        return {
            "of": of,
            "label": plain_said(Said(label, values)),
            "says": [plain_said(each) for each in says],
            "stops": [plain_said(Said(each.message, each.values)) for each in _first(stops)],
            "edits": [each.model_dump(mode="json") for each in edits],
        }


def _first(stops: Iterable[Finding]) -> list[Finding]:
    """One of each kind."""
    return [*{each.id: each for each in reversed([*stops])}.values()]


def _adds_up(found: list[Chain]) -> Iterator[Said]:
    """The size that has the least room, and how many have none."""
    known = [each for each in found if each.unknown is None and each.allowed_mm > 0.0]
    if not known:
        yield Said("no size hangs on it")
        return
    tight = max(known, key=lambda each: each.mostly_mm / each.allowed_mm)
    said = {
        "what": Shown(tight.asked.what or "a size"),
        "mostly": Shown(tight.mostly_mm, "size"),
        "allowed": Shown(tight.allowed_mm, "size"),
    }
    yield Said("{what} adds up to ±{mostly} of ±{allowed}", said)
    over = sum(each.mostly_mm > each.allowed_mm for each in known)
    if over:
        yield Said(
            "{over} of {all} sizes more than allowed",
            {"over": Shown(str(over)), "all": Shown(str(len(known)))},
        )


def _takes(plan: Plan, told: Evaluation, when: str) -> Said:
    """What a part takes, and how often somebody builds a setup and lays a part in."""
    many = len(plan.setups)
    values = {
        "part": Shown(told.one_part_s, "time"),
        "batch": Shown(told.batch_s / max(plan.quantity, 1), "time"),
        "setups": Shown(f"{many} setup" + ("s" if many > 1 else "")),
    }
    return Said(
        f"{when}: {{part}} a part, {{batch}} with building and proving; {{setups}} to build",
        values,
    )
