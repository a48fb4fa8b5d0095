"""sheet.units: a figure in a note that says something else than the plan."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from machining.facts.context import OperationFacts, PlanFacts, SetupFacts
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.quantities.units import INCH_MM

from ..finding import Finding, keep, of_operation

ID = "sheet.units"
NEAR = 0.02  # a note may round
OFFSET = re.compile(r"\bG5[4-9](?:\.\d+)?(?:\s?P\d+)?\b", re.IGNORECASE)
TOOL = re.compile(r"\bT(\d{1,4})\b")
SPEED = re.compile(
    r"\bS(\d{2,6})\b|\b(\d[\d ]{1,6}(?:\.\d+)?)\s?(?:rpm|rev/min|1/min)\b", re.IGNORECASE
)
FEED = re.compile(r"\bF(\d{1,5}(?:\.\d+)?)\b|\b(\d[\d ]*(?:\.\d+)?)\s?mm/min\b", re.IGNORECASE)
INCH_FEED = re.compile(r"\b(\d+(?:\.\d+)?)\s?(?:in/min|ipm)\b", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Differs:
    """What a note says, as it stands there, and what the plan has, as it would stand there."""

    said: str
    planned: Shown
    written: str


def notes(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """The first figure of an operation's words that its plan has otherwise."""
    for field in ("reason", "stop_after"):
        text = getattr(op.operation, field)
        found = next(_differs(op, text, facts), None) if text else None
        if found is None:
            continue
        instead = text.replace(found.said, found.written, 1)
        yield of_operation(
            op,
            ID,
            "look",
            "Its note says {said}; the plan has {planned}.",
            {"said": Shown(found.said), "planned": found.planned},
            "",
            (
                Proposal(
                    "Write {planned} there",
                    (Change(on=op.on, fields={field: instead}),),
                    {"planned": found.planned},
                ),
                keep(op, ID, "the note is about something else"),
            ),
        )
        return


def setup_notes(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    """The note of a setup names work offsets and tools."""
    text, used = setup.planned.note, [each.work_offset for each in setup.planned.stations]
    odd = next((each for each in _offsets(text) if each not in used), None)
    if odd is None:
        odd = next(_unknown_tools(text, setup.planned.machine, facts), None)
        have = "no such tool on this machine"
    else:
        have = " and ".join(dict.fromkeys(used))
    if odd is not None:
        yield Finding(
            ID,
            "look",
            setup.id,
            "",
            "The note of this setup says {said}; the plan has {planned}.",
            {"said": Shown(odd), "planned": Shown(have)},
        )


def _differs(op: OperationFacts, text: str, facts: PlanFacts) -> Iterator[Differs]:
    code = op.station.planned.work_offset
    for said in _offsets(text):
        if said != code:
            yield Differs(said, Shown(code), code)
    for said in _unknown_tools(text, op.setup.planned.machine, facts):
        if op.loaded is not None:
            number = f"T{op.loaded.number}"
            yield Differs(said, Shown(number), number)
    rpm, feed = op.value("rpm"), op.value("feed")
    if rpm is not None:
        turns = Shown(rpm, "spindle_speed")
        yield from _off(SPEED, text, rpm, lambda v: v, turns, "S{:.0f}", "rpm")
    if feed is not None:
        shown = Shown(feed, "feed")
        yield from _off(FEED, text, feed, lambda v: v, shown, "F{:.0f}", "mm/min")
        yield from _off(INCH_FEED, text, feed, lambda v: v * INCH_MM, shown, "", "mm/min")


def _off(
    pattern: re.Pattern[str],
    text: str,
    value: float,
    of: Callable[[float], float],
    shown: Shown,
    letter: str,
    unit: str,
) -> Iterator[Differs]:
    for match in pattern.finditer(text):
        digits = next(each for each in match.groups() if each)
        if abs(of(float(digits.replace(" ", ""))) - value) > NEAR * value:
            lettered = match[0][0] in "SFsf" and letter
            yield Differs(
                match[0], shown, letter.format(value) if lettered else f"{value:.0f} {unit}"
            )


def _offsets(text: str) -> list[str]:
    return [re.sub(r"\s?P", " P", each.upper()) for each in OFFSET.findall(text)]


def _unknown_tools(text: str, machine: str, facts: PlanFacts) -> Iterator[str]:
    loaded = {each.number for each in facts.plan.tools if each.machine == machine}
    for match in TOOL.finditer(text):
        if int(match[1]) not in loaded:
            yield match[0]
