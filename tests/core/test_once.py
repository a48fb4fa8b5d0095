"""What is asked again and again is found once, and what was known of another shop changes no
answer.
"""

from __future__ import annotations

from dataclasses import replace

from machining.evaluate import evaluate
from machining.evaluation import to_plain
from machining.facts.once import once
from machining.facts.route import walk
from machining.memo import Memo
from machining.world.library import Library

from .build import LIBRARY, changed, whole
from .record import differences

PLAN = whole()
FACE = PLAN.setups[0].operations[0]


def _shop(**of_tool) -> Library:
    """The shop with other values of the tool that faces."""
    loaded = next(each for each in PLAN.tools if each.id == FACE.tool)
    key = LIBRARY.assemblies[loaded.assembly].tool
    tool = LIBRARY.tools[key].model_copy(update=of_tool)
    return replace(LIBRARY, tools={**LIBRARY.tools, key: tool})


def test_once_is_made_once_and_of_another_object_anew():
    facts, made = walk(PLAN, LIBRARY, Memo()), list[str]()

    def ask(of: object, what: str) -> str:
        return once(facts, "name", lambda: made.append(what) or what, of)

    station = facts.stations[0]
    assert (ask(station, "first"), ask(station, "again")) == ("first", "first")
    assert ask(replace(station), "as it might be") == "as it might be"
    assert ask(station, "back") == "back"
    assert made == ["first", "as it might be", "back"]


def test_while_facts_are_gathered_nothing_is_taken_for_all_there_is():
    facts = replace(walk(PLAN, LIBRARY, Memo()), setups=[], every=[])
    count = iter(range(9))
    assert [once(facts, "how many", lambda: next(count)) for _ in range(2)] == [0, 1]


def test_what_was_known_of_another_shop_changes_no_answer():
    known, of = Memo(), changed(PLAN, "plan", quantity=5000)
    for shop in (LIBRARY, _shop(on_hand=1), _shop(edge_life_min=1.0), LIBRARY):
        warm, cold = (to_plain(evaluate(of, shop, memo)) for memo in (known, Memo()))
        assert [*differences(cold, warm)] == []
