"""What may be asked of a plan: each question takes plan, library and memo, and answers with bytes
ready to be sent.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import asdict
from functools import partial
from time import process_time
from typing import Any
from uuid import uuid4

from pydantic import TypeAdapter

from machining.evaluate import evaluate
from machining.evaluation import plain_said, to_bytes, to_plain
from machining.exchange import glb
from machining.facts.along import along
from machining.facts.context import Ready
from machining.facts.covered import covered
from machining.facts.pace import pace_since
from machining.facts.route import geometry_of, walk
from machining.facts.state import State
from machining.facts.what_if import sensitivity, what_if
from machining.memo import Memo
from machining.placing.zero import Lie
from machining.plan.document import Plan
from machining.plan.trade import AnyEdit
from machining.quantities.errors import MachiningError, Missing
from machining.sheet import sheets
from machining.ways import trade
from machining.ways.no_tool import for_offer
from machining.ways.offers import offers
from machining.ways.tool_list import tools_for
from machining.world.library import Library

from .asked import operation_of
from .beginnings import beginnings
from .carry_over import carry_over
from .chains import stack_ups
from .compare import compare
from .finishing import finishing
from .holds import hold, thin, what_lasts, wrong_way
from .how_many import how_many
from .loads import load, offsets
from .magazine import magazine
from .measured import measured
from .order import order, order_further
from .other_ways import other_ways
from .place_ways import place_ways
from .points import read
from .quantities import quantities
from .routes import propose
from .savings import first_saving, savings
from .trying import preview, tried_fixes, tried_soon
from .ways import ways
from .zeros import zero

Question = Callable[..., bytes]
ANY_EDITS: TypeAdapter[list[AnyEdit]] = TypeAdapter(list[AnyEdit])


def _plain(value: Any) -> bytes:
    return json.dumps(value, separators=(",", ":"), ensure_ascii=False, allow_nan=False).encode()


def answered(plan: Plan, library: Library, memo: Memo, since: str = "") -> bytes:
    """The evaluation of a plan and the features of its part; before them in short, what a list
    tells of it. After an edit it is answered in a moment, and what could not be worked out by then
    is *working*; ``since`` names the plan before.
    """
    try:
        found = [
            f.model_dump(mode="json", exclude={"loops"})
            for f in geometry_of(plan, library, memo).features
        ]
    except MachiningError:
        found = []
    told = evaluate(plan, library, memo, pace_since(since, library, memo))
    short = {
        "stops": told.count("stop"),
        "looks": told.count("look"),
        "open": told.unknown,
        "problem": told.problem,
        "ready": told.ready,
        "working": told.working,
    }
    parts = {"short": _plain(short), "features": _plain(found), "evaluation": to_bytes(told)}
    return (
        b"{" + b",".join(b'"%s":%s' % (name.encode(), text) for name, text in parts.items()) + b"}"
    )


def asked_what_if(
    plan: Plan, library: Library, memo: Memo, figure: str, changed: list[tuple[str, str, float]]
) -> bytes:
    """A figure with other inputs, and how it answers to ten per cent more of each."""
    figures = evaluate(plan, library, memo).figures
    values = what_if(figures, figure, {(name, origin): value for name, origin, value in changed})
    answers = [
        {"name": name, "origin": origin, "value": factor}
        for (name, origin), factor in sensitivity(figures, figure).items()
    ]
    return _plain({"values": values, "sensitivity": answers})


def offered(plan: Plan, library: Library, memo: Memo, setup: str, station: str = "") -> bytes:
    """What could be cut next in a setup, at its first station where none is named, as edits to
    send. Raises Missing.
    """
    facts = walk(plan, library, memo)
    seen = next((each for each in facts.setups if each.planned.id == setup), None)
    if seen is None:
        raise Missing("Setup", setup)
    at = next((each for each in seen.stations if station in ("", each.id)), None)
    if at is None:
        raise Missing("Station", station)
    found = offers(at, facts, lambda: "o" + uuid4().hex[:10])
    return _plain(
        [
            {
                "group": o.group,
                "label": o.label,
                "tool": o.tool,
                "edits": [e.model_dump(mode="json") for e in o.edits],
                "rare": o.rare,
                "lacks": plain_said(lacks) if (lacks := for_offer(o, facts)) else None,
            }
            for o in found
        ]
    )


def tools(plan: Plan, library: Library, memo: Memo, operation: str) -> bytes:
    """The tools an operation can be given, those that suit first. Raises Missing."""
    facts = walk(plan, library, memo)
    op = operation_of(facts, operation)
    return _plain(
        [
            {
                "assembly": each.assembly,
                "name": each.name,
                "number": each.number,
                "why_not": each.why[0] if each.why else "",
                "values": (
                    {
                        name: {"value": value, "quantity": "size"}
                        for name, value in each.why[1].items()
                    }
                    if each.why
                    else {}
                ),
                "edits": [e.model_dump(mode="json") for e in each.edits],
            }
            for each in tools_for(op, facts)
        ]
    )


def loads_along(plan: Plan, library: Library, memo: Memo, operation: str) -> bytes:
    """What an operation asks of the spindle along its way, null where that is not known. Raises
    Missing.
    """
    facts = walk(plan, library, memo)
    op = operation_of(facts, operation)
    found = along(op, facts) if isinstance(op, Ready) else None
    return _plain(None if found is None else asdict(found))


def fixes(
    plan: Plan, library: Library, memo: Memo, finding: str, longest_s: float | None = None
) -> bytes:
    """Those that a load of this size lets try soon, or as many as so much of the processor's time
    (s) allows, and at least one where one settles it.
    """
    if longest_s is None:
        return _plain(tried_fixes(plan, library, memo, finding, tried_soon(plan)))
    until = process_time() + longest_s
    return _plain(tried_fixes(plan, library, memo, finding, lambda _: process_time() > until))


def coverage(plan: Plan, library: Library, memo: Memo) -> bytes:
    """How far each place of the part is, and what cuts it."""
    return _plain([asdict(each) for each in covered(walk(plan, library, memo), memo)])


def meant(plan: Plan, library: Library, memo: Memo, edits: list[Any]) -> bytes:
    """A planner's edits as structural ones. Raises EditRefused."""
    found = trade.structural(plan, library, memo, ANY_EDITS.validate_python(edits))
    return _plain([each.model_dump(mode="json") for each in found])


def part_mesh(plan: Plan, library: Library, memo: Memo) -> bytes:
    return glb.write(geometry_of(plan, library, memo).mesh)


def stock_mesh(plan: Plan, library: Library, memo: Memo, key: str) -> bytes:
    """The stock a setup starts from or an operation leaves, in the setup frame; the blank's own
    skin is face 0, cut skin face 1. Raises Missing.
    """
    facts = walk(plan, library, memo)
    for setup in facts.setups:
        arrived = [(each.arrives, each) for each in setup.stations]
        for state, station in [*arrived, *((op.after, op.station) for op in setup.operations)]:
            if state.key == key:
                return memo.get(("glb", key), partial(_drawn, state, station.lie))
    raise Missing("Stock", key)


def sheets_of(plan: Plan, library: Library, memo: Memo, notes: dict[str, tuple[str, str]]) -> bytes:
    """What stands on the sheet of every setup."""
    said = to_plain(evaluate(plan, library, memo))
    return _plain(sheets(walk(plan, library, memo), said, notes))


def _drawn(state: State, lie: Lie) -> bytes:
    return glb.write(state.seen_in(lie).skins())


# what says how far it is, and what it has found so far
TOLD_MEANWHILE = {"order-further", "other-ways", "propose", "savings"}
QUESTIONS: dict[str, Question] = {
    "answer": answered,
    "preview": lambda plan, library, memo, **about: _plain(preview(plan, library, memo, **about)),
    "fixes": fixes,
    "what-if": asked_what_if,
    "offers": offered,
    "load": lambda plan, library, memo, **about: _plain(load(plan, library, memo, **about)),
    "offsets": offsets,
    "measured": lambda plan, library, memo, **about: _plain(measured(plan, library, memo, **about)),
    "how-many": lambda plan, library, memo, **about: _plain(how_many(plan, library, memo, **about)),
    "place-ways": lambda plan, library, memo, **about: _plain(
        place_ways(plan, library, memo, **about)
    ),
    "chains": lambda plan, library, memo: _plain(stack_ups(plan, library, memo)),
    "read": lambda plan, library, memo, **about: _plain(read(plan, library, memo, **about)),
    "hold": lambda plan, library, memo, **about: _plain(hold(plan, library, memo, **about)),
    "thin": lambda plan, library, memo, **about: _plain(thin(plan, library, memo, **about)),
    "lasts": lambda plan, library, memo, **about: _plain(what_lasts(plan, library, memo, **about)),
    "wrong-way": lambda plan, library, memo, **about: _plain(
        wrong_way(plan, library, memo, **about)
    ),
    "zero": lambda plan, library, memo, **about: _plain(zero(plan, library, memo, **about)),
    "beginnings": lambda plan, library, memo: _plain(beginnings(plan, library, memo)),
    "meant": meant,
    "tools": tools,
    "along": loads_along,
    "coverage": coverage,
    "carry-over": lambda plan, library, memo, **about: _plain(
        carry_over(plan, library, memo, **about)
    ),
    "compare": lambda plan, library, memo, **about: _plain(compare(plan, library, memo, **about)),
    "magazine": lambda plan, library, memo, **about: _plain(magazine(plan, library, memo, **about)),
    "order": lambda plan, library, memo, **about: _plain(order(plan, library, memo, **about)),
    "order-further": lambda plan, library, memo, **about: _plain(
        order_further(plan, library, memo, **about)
    ),
    "other-ways": lambda plan, library, memo, **about: _plain(
        other_ways(plan, library, memo, **about)
    ),
    "propose": lambda plan, library, memo, **about: _plain(propose(plan, library, memo, **about)),
    "quantities": lambda plan, library, memo: _plain(quantities(plan, library, memo)),
    "savings": lambda plan, library, memo, **about: _plain(savings(plan, library, memo, **about)),
    "savings-first": lambda plan, library, memo: _plain(first_saving(plan, library, memo)),
    "standing": lambda plan, library, memo: _plain(finishing(plan, library, memo)),
    "ways": lambda plan, library, memo, **about: _plain(ways(plan, library, memo, **about)),
    "part": part_mesh,
    "stock": stock_mesh,
    "sheets": sheets_of,
}
