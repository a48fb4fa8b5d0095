"""Proposals as they are told: figures, reasons, what is missing, and the edits setup by setup."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

from machining.evaluation import plain_said
from machining.facts.context import StationFacts
from machining.facts.covered import Place
from machining.facts.index import could_turn, looks_up
from machining.facts.lacking import lacking
from machining.plan.apply import apply
from machining.plan.document import LoadedTool, Plan, Setup
from machining.plan.edit import (
    AddSetup,
    Edit,
    LoadTool,
    RemoveSetup,
    SetPart,
    SetStock,
    UnloadTool,
)
from machining.quantities.said import Said, Shown, length
from machining.ways.no_tool import no_tool
from machining.world.feature import Slanted
from machining.world.stock.base import SIDE_WORDS

from .. import buying
from .characters import Found
from .route import Bench, Missed, Route, Step
from .sides import unfinished

INSTEAD = "Hold it in the {item}: in it so many go beside each other."
NOT_REACHED = Said("No tool of the shop cuts it from a side that was tried.")
NOT_TURNED = Said("In none of its setups does it come to look to a tool.")
STANDS = "It is cut, and {stands} still stand in it: no tool of the shop that goes in takes more."


def tidy(plan: Plan, before: Plan) -> Plan:
    """Without tools that nothing uses; where the machine had none before, numbered in the order
    they are used.
    """
    used = [op.tool for setup in plan.setups for op in setup.operations]
    had = {each.id for each in before.tools}
    fresh = [each for each in plan.tools if each.id not in had]
    loaded_before = {each.machine for each in before.tools}
    edits: list[Edit] = [UnloadTool(tool=each.id) for each in fresh if each.id not in used]
    plan = apply(plan, edits)
    numbers = dict[str, int]()
    again = list[LoadedTool]()
    for tool in sorted((e for e in fresh if e.id in used), key=lambda each: used.index(each.id)):
        if tool.machine not in loaded_before:
            n = numbers[tool.machine] = numbers.get(tool.machine, 0) + 1
            again.append(tool.model_copy(update={"number": n, "pocket": n, "h": n, "d": n}))
    new = {each.id: each for each in again}
    kept = [each for each in plan.tools if each.id not in new]
    return plan.model_copy(update={"tools": (*kept, *again)})


def told(picked: Sequence[Found], of: tuple[Plan, Plan], bench: Bench) -> list[dict[str, Any]]:
    """They are ``of`` a plan, and as it was when they were begun."""
    return [{**plain_of(each, *of, bench), "for_what": list(each.for_what)} for each in picked]


def plain_of(found: Found, plan: Plan, before: Plan, bench: Bench) -> dict[str, Any]:
    """What is told of one, worked out where it was not."""
    if found.plain is None:
        found.plain = _told(found, plan, before, bench)
    return found.plain


def _told(found: Found, plan: Plan, before: Plan, bench: Bench) -> dict[str, Any]:
    route, answer = found.route, found.told
    return {
        "machine": found.machine,
        "whole": found.whole,
        "first": [each.model_dump(mode="json") for each in _first(route.plan, plan, before)],
        "setups": list(_setups(found, before, bench)),
        "one_part_s": answer.one_part_s,
        "batch_s": answer.batch_s,
        "build_s": answer.build_s,
        "cost": found.costs.known,
        "cost_whole": found.costs.whole,
        "tools": len({op.tool for setup in route.plan.setups for op in setup.operations} - {""}),
        "stops": [
            plain_said(Said(f.message, f.values)) for f in answer.open if f.severity == "stop"
        ],
        "looks": [
            plain_said(Said(f.message, f.values)) for f in answer.open if f.severity == "look"
        ],
        "buys": buying.plain(lacking(bench.walk(route.plan))),
        "unknown": answer.unknown,
        "left_mm3": answer.left_mm3,
        "missed": [_plain(each) for each in _missed(found, bench)],
    }


def _setups(found: Found, before: Plan, bench: Bench) -> Iterator[dict[str, Any]]:
    """Those that are new, each with the edits that bring it after those before it."""
    known, had = {each.id for each in before.setups}, {each.id for each in before.tools}
    results = {each.id: each for each in found.told.setups}
    for setup in found.route.plan.setups:
        if setup.id in known:
            continue
        tools = [
            each
            for each in found.route.plan.tools
            if each.id not in had and any(op.tool == each.id for op in setup.operations)
        ]
        had |= {each.id for each in tools}
        edits = (*(LoadTool(tool=each) for each in tools), AddSetup(setup=setup))
        machine = bench.library.machines.get(setup.machine)
        steps = [each for each in found.route.steps if each.setup in _of(setup, found.route)]
        yield {
            "id": setup.id,
            "machine": machine.name if machine is not None else setup.machine,
            "sides": [SIDE_WORDS[each.orientation.up] for each in setup.stations],
            "operations": len(setup.operations),
            "tools": len({op.tool for op in setup.operations if op.tool}),
            "parts": results[setup.id].parts,
            "cycle_s": results[setup.id].cycle_s,
            "because": [plain_said(e) for step in steps for e in _because(step, setup, bench)],
            "instead": [_plain(each) for step in steps for each in step.instead],
            "edits": [each.model_dump(mode="json") for each in edits],
        }


def _because(step: Step, setup: Setup, bench: Bench) -> tuple[Said, ...]:
    """As it was decided; what holds the part now, where that was changed for a larger load."""
    items = [getattr(each.holding, "item", "") for each in setup.stations]
    if step.item in items:
        return step.because
    item = bench.library.holdings.get(items[0])
    name = item.name if item is not None else items[0]
    return (*step.because[:-1], Said(INSTEAD, {"item": Shown(name)}))


def _of(setup: Setup, route: Route) -> set[str]:
    """The steps that a setup came of: that of each of its stations."""
    own = {f"s{each.id.removeprefix('st')}" for each in setup.stations}
    return own & {each.setup for each in route.steps}


def _first(new: Plan, plan: Plan, before: Plan) -> Iterator[Edit]:
    """What goes of a plan, and what changes of part and blank; setups that stay do not change."""
    stay, tools = {each.id for each in before.setups}, {each.id for each in before.tools}
    yield from (RemoveSetup(setup=e.id) for e in reversed(plan.setups) if e.id not in stay)
    yield from (UnloadTool(tool=each.id) for each in plan.tools if each.id not in tools)
    if new.part != plan.part:
        yield SetPart(part=new.part)
    if new.stock != plan.stock:
        yield SetStock(stock=new.stock)


def _plain(each: Missed) -> dict[str, Any]:
    return {"what": plain_said(each.what), "why": plain_said(each.why)}


def _missed(found: Found, bench: Bench) -> Iterator[Missed]:
    """What still stands after the last setup, with the last that was tried of it."""
    if not found.told.left:
        return
    for place in unfinished(bench.walk(found.route.plan), bench.memo):
        yield Missed(place.where, _why(place, found.route, bench), (place.feature,))


def _why(place: Place, route: Route, bench: Bench) -> Said:
    tried = [each for each in route.missed if place.feature and place.feature in each.features]
    if tried:
        return tried[-1].why
    if place.finish:
        return Said(STANDS, {"stands": length(place.stands)})
    facts = bench.walk(route.plan)
    feature = facts.geometry.feature(place.feature) if place.feature else None
    if isinstance(feature, Slanted) and not any(_turns(each, feature) for each in facts.stations):
        return NOT_TURNED
    return (no_tool(feature, bench.library) if feature is not None else None) or NOT_REACHED


def _turns(station: StationFacts, feature: Slanted) -> bool:
    """Does it look to the tool there, or can it be turned to it?"""
    aims = (aim for aim, _ in could_turn(station))
    return looks_up(station, feature.id) or feature.id in aims
