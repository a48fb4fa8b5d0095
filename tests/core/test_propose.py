"""Whole plans proposed for a part: nothing stops them, the part comes out, and what could not be
planned is said.
"""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from pathlib import Path

import pytest

from machining.ask import routes
from machining.ask.costs import costs_of
from machining.ask.routes import planner
from machining.ask.routes.characters import Found
from machining.ask.routes.elsewhere import NOTHING, elsewhere
from machining.ask.routes.route import Route
from machining.ask.trying import EDITS
from machining.evaluate import evaluate
from machining.evaluation import plain_said
from machining.facts.covered import covered
from machining.facts.route import walk
from machining.findings.finding import Finding
from machining.geometry.kernel import examine
from machining.geometry.laid import laid
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.edit import Keep, RemoveSetup, UnloadTool
from machining.quantities.said import Shown, fill
from machining.world.geometry import from_examined
from machining.world.library import Library
from machining.world.part import Part
from shop.demo import (
    bushing,
    clamp_block,
    float_cap,
    gland,
    hub,
    latch,
    light_frame,
    manifold,
    ring,
    vane_foot,
)
from tools.demo_parts import box, cut, drum

from .build import LIBRARY
from .shapes_in_step import fused, plate, read, rounded
from .test_shapes_found import recess

FOLDER = Path(__file__).parent.parent.parent / "shop" / "demo"
# of the demo's parts: how each is planned there, its solid, and machines it is proposed on here
DEMO = {
    "clamp block": (clamp_block.draft, "TW-118-B", ["petrel"]),
    "float cap": (float_cap.draft, "TW-241-A", ["heron"]),
    "bushing": (bushing.draft, "TW-276-A", ["plover"]),
    "hub": (hub.draft, "TW-402-A", ["gannet"]),
    "gland": (gland.draft, "TW-520-A", ["gannet"]),
    "latch": (latch.draft, "", ["curlew"]),
    "vane foot": (vane_foot.draft, "", ["heron"]),
    "light frame": (light_frame.draft, "", ["curlew"]),
    "manifold": (manifold.draft, "", ["curlew", "heron"]),
    "ring": (ring.draft, "", ["petrel"]),
}
# parts that nothing here was made for
STEPS = "steps with holes"
SHAPES = {
    "pockets from two sides": (
        lambda: cut(plate(), recess(), box(-30, -20, -5, 24, 20, 12, 4)),
        ["heron"],
    ),
    STEPS: (
        lambda: cut(
            fused(box(-50, -30, 0, 100, 60, 12), box(-50, -30, 0, 50, 60, 26)),
            drum(25, 0, -1, 6.8, 40),
            drum(-25, 12, -1, 8.5, 40),
            drum(-25, -12, -1, 8.5, 40),
        ),
        ["heron"],
    ),
    "a boss and a slot": (
        lambda: cut(
            fused(box(-40, -30, 0, 80, 60, 15), drum(0, 0, 15, 30, 10)),
            box(-45, -7, 8, 20, 14, 10, 6),
        ),
        ["heron", "curlew"],
    ),
    "a window and two bores": (
        lambda: cut(
            box(-50, -30, 0, 100, 60, 20),
            box(-15, -10, -5, 30, 20, 40, 5),
            drum(35, 0, -1, 10, 40),
            drum(-35, 0, -1, 10, 40),
        ),
        ["petrel"],
    ),
    "a stepped shaft": (
        lambda: cut(fused(drum(0, 0, 0, 40, 15), drum(0, 0, 15, 24, 30)), drum(0, 0, -1, 12, 60)),
        ["plover"],
    ),
}


def bare(plan: Plan) -> Plan:
    """Without its setups and tools."""
    return apply(
        plan,
        [
            *(RemoveSetup(setup=each.id) for each in reversed(plan.setups)),
            *(UnloadTool(tool=each.id) for each in plan.tools),
        ],
    )


def demo(name: str) -> tuple[Plan, Library]:
    draft, solid, _ = DEMO[name]
    if not solid:
        return draft(), LIBRARY
    geometry = from_examined(name, examine((FOLDER / f"{solid}.step").read_bytes()))
    return draft(geometry, name), replace(LIBRARY, geometries={name: geometry})


def own(name: str, quantity: int = 20) -> tuple[Plan, Library]:
    geometry = from_examined(name, laid(read(SHAPES[name][0]())))
    plan = Plan(material="en-aw-6082", quantity=quantity, part=Part(geometry=name))
    return plan, replace(LIBRARY, geometries={name: geometry})


@cache
def known(name: str) -> Memo:
    """What was worked out of a part; a plan that is judged is worked out anew."""
    return Memo()


def taken(plan: Plan, proposal: dict, setups: int | None = None) -> Plan:
    """The plan with a proposal, or with its first setups."""
    edits = [*proposal["first"]]
    for each in proposal["setups"][:setups]:
        edits += each["edits"]
    return apply(plan, EDITS.validate_python(edits))


def words(said: dict) -> str:
    values = {k: Shown(v["value"], v["quantity"]) for k, v in said["values"].items()}
    return fill(said["text"], values)


def anew(plan: Plan, library: Library) -> tuple[bool, float]:
    """Evaluated from a fresh start: does nothing stop it, is nothing unknown and all of the part
    there, and what one part takes (s).
    """
    memo = Memo()
    told = evaluate(plan, library, memo)
    stages = {place.stage for place in covered(walk(plan, library, memo), memo)}
    return told.ready and "not yet" not in stages, told.one_part_s


def is_spared(look: Finding, plan: Plan, library: Library) -> bool:
    """Is it gone with what is offered first, and nothing that is to be looked at new?"""
    if isinstance(look.fixes[0].edits[0], Keep):
        return False
    known, then = evaluate(plan, library), evaluate(apply(plan, look.fixes[0].edits), library)
    return look.key not in {f.key for f in then.open} and len(then.open) < len(known.open)


def is_whole(plan: Plan, library: Library) -> bool:
    whole, _ = anew(plan, library)
    return whole


@pytest.mark.parametrize("name", DEMO)
def test_a_part_of_the_demo_comes_out_in_no_more_time_than_it_was_planned_for(name):
    planned, library = demo(name)
    plan = bare(planned)
    told = routes.propose(plan, library, Memo(), machines=DEMO[name][2])
    assert told["proposals"]
    seconds = []
    for each in told["proposals"]:
        assert each["whole"] and each["stops"] == [] and each["missed"] == []
        after = taken(plan, each)
        assert anew(after, library) == (True, pytest.approx(each["one_part_s"]))
        assert len(each["setups"]) == len(after.setups)
        looks = evaluate(after, library).open
        assert "reach.wrong-floor" not in {f.id for f in looks}
        assert not any(is_spared(f, after, library) for f in looks if f.id == "size.datum-sawn")
        seconds.append(each["one_part_s"])
        for setup in each["setups"]:
            holding = after.setup(setup["id"]).stations[0].holding
            name = library.holdings[holding.item].name
            said = [words(each) for each in setup["because"]]
            assert any(name in each for each in said)
            # that it is for a larger load is said of one
            assert setup["parts"] > 1 or not any("beside each other" in each for each in said)
    was = evaluate(planned, library)
    batch = min(each["batch_s"] for each in told["proposals"])
    # of a load that takes long to set up fewer places may be the quicker batch
    assert min(seconds) <= 1.25 * was.one_part_s or batch <= was.batch_s


@pytest.mark.parametrize("name", SHAPES)
def test_a_part_it_was_not_made_for_comes_out_too(name):
    plan, library = own(name)
    proposals = routes.propose(plan, library, known(name), machines=SHAPES[name][1])["proposals"]
    assert proposals
    for each in proposals:
        assert each["whole"] and each["stops"] == [] and each["missed"] == []
        assert is_whole(taken(plan, each), library)


@cache
def steps():
    plan, library = own(STEPS)
    return plan, library, routes.propose(plan, library, known(STEPS), machines=["heron", "dunlin"])


def test_they_are_of_different_character_and_say_for_what():
    _, _, told = steps()
    names = [name for each in told["proposals"] for name in each["for_what"]]
    assert len(told["proposals"]) == 2 and {"setups", "time", "money", "small"} <= {*names}
    small = next(each for each in told["proposals"] if "small" in each["for_what"])
    quick = next(each for each in told["proposals"] if "time" in each["for_what"])
    assert {each["machine"] for each in small["setups"]} == {"Dunlin"}
    assert quick["batch_s"] == min(each["batch_s"] for each in told["proposals"])


def test_several_who_plan_propose_the_same():
    plan, library, told = steps()
    machines, heard = ["heron", "dunlin"], []
    again = routes.propose(
        plan,
        library,
        Memo(),
        machines=machines,
        hands=2,
        tell=lambda share, doing, so_far: heard.append(share),
    )
    assert again == told and heard == sorted(heard) and len(heard) == 3


def test_each_setup_says_why():
    _, _, told = steps()
    for setup in (each for proposal in told["proposals"] for each in proposal["setups"]):
        said = [words(each) for each in setup["because"]]
        assert any("up" in each for each in said) and any("Hold it" in each for each in said)


def test_taken_setup_by_setup_the_rest_is_proposed_after_it():
    plan, library, told = steps()
    proposal = max(told["proposals"], key=lambda each: len(each["setups"]))
    assert len(proposal["setups"]) > 1
    begun = taken(plan, proposal, 1)
    assert len(begun.setups) == 1 and not evaluate(begun, library).ready
    rest = routes.propose(begun, library, known(STEPS), machines=["dunlin"])["proposals"]
    after = taken(begun, rest[0])
    assert after.setups[0] == begun.setups[0] and is_whole(after, library)


def test_of_a_plan_that_is_whole_nothing_is_left_to_propose_and_all_of_it_afresh():
    plan, library, told = steps()
    whole = taken(plan, told["proposals"][0])
    memo = known(STEPS)
    again = routes.propose(whole, library, memo, machines=["heron"])
    assert again == {"proposals": [], "elsewhere": [], "nothing_left": True}
    again = routes.propose(whole, library, memo, machines=["heron"], afresh=True)
    after = taken(whole, again["proposals"][0])
    assert is_whole(after, library)
    assert {each["do"] for each in again["proposals"][0]["first"]} == {
        "remove_setup",
        "unload_tool",
    }


def test_what_it_has_so_far_is_told_meanwhile():
    plan, library = own(STEPS)
    heard = []
    told = routes.propose(
        plan,
        library,
        known(STEPS),
        machines=["heron", "plover"],
        tell=lambda share, doing, so_far: heard.append((share, len(so_far["proposals"]))),
    )
    shares = [share for share, _ in heard]
    assert shares == sorted(shares) and shares[0] >= 0.0 and shares[-1] < 1.0
    assert heard[0][1] == 0 and heard[1][1] == 1
    assert {each["machine"] for each in told["elsewhere"]} <= {"Plover"}


def test_a_part_that_no_machine_takes_has_no_proposal_and_names_them():
    plan = Plan(material="en-aw-6082", quantity=1, part=Part(size_mm=(4000.0, 3000.0, 900.0)))
    told = routes.propose(plan, LIBRARY, Memo())
    assert told["proposals"] == []
    assert {each["machine"] for each in told["elsewhere"]} == {
        each.name for each in LIBRARY.machines.values()
    }
    assert {words(each["why"]) for each in told["elsewhere"]} == {words(plain_said(NOTHING))}


def test_a_machine_that_was_not_planned_on_is_named_with_why():
    """A block that is decided on goes to no lathe where it is milled whole."""
    plan, library, told = steps()
    stock = taken(plan, told["proposals"][0]).stock
    plan = plan.model_copy(update={"stock": stock})
    again = routes.propose(plan, library, known(STEPS), machines=["heron", "plover"])
    assert [each["machine"] for each in again["proposals"]] == ["heron"]
    ((name, why),) = ((each["machine"], words(each["why"])) for each in again["elsewhere"])
    assert name == "Plover" and why.startswith("Not planned on: milled from a block")


def test_a_machine_that_does_as_well_but_no_better_says_so():
    plan, library, told = steps()
    whole = taken(plan, told["proposals"][0])
    answer = evaluate(whole, library, known(STEPS))
    costs = costs_of(walk(whole, library, known(STEPS)))
    found = Found("petrel", Route(whole), answer, costs, plain={"missed": []})
    machines = [library.machines[key] for key in ("heron", "petrel")]
    (told,) = elsewhere(machines, {1: found}, [])
    assert told["machine"] == "Petrel" and "no better" in words(told["why"])
    assert "before its loads" in words(told["why"])
    (made,) = elsewhere(machines, {1: found}, [], better=[found])
    assert "no better" in words(made["why"]) and "before" not in words(made["why"])
    assert [*elsewhere(machines, {1: found}, [found])] == []
    # and one that is stopped says by what
    by = replace(evaluate(*demo("latch")).open[0], severity="stop")
    stopped = replace(found, told=replace(answer, findings=[by]))
    assert [each["why"]["text"] for each in elsewhere(machines, {1: stopped}, [])] == [by.message]


def test_what_no_tool_reaches_is_said_and_not_left_out_in_silence():
    """A hole that is narrower than any drill of the shop, and far too deep."""
    geometry = from_examined("deep", laid(read(cut(plate(25), drum(0, 0, -1, 0.4, 60)))))
    plan = Plan(material="en-aw-6082", quantity=5, part=Part(geometry="deep"))
    library = replace(LIBRARY, geometries={"deep": geometry})
    told = routes.propose(plan, library, Memo(), machines=["heron", "dunlin", "curlew"])
    (other,) = told["elsewhere"]
    assert words(other["why"]).startswith("Begun on it the part does not come out")
    for found in (*told["proposals"], other):
        (why,) = {words(each["why"]) for each in found["missed"] if "hole" in words(each["what"])}
        assert why.startswith("The shop has no drill of Ø 0.4 mm: the nearest are Ø")
    for found in told["proposals"]:
        assert not found["whole"] and found["for_what"] == ["part"]


def test_what_looks_to_no_tool_in_any_setup_is_said_so():
    planned, library = demo("hub")
    (found, *_) = routes.propose(bare(planned), library, Memo(), machines=["plover"])["proposals"]
    said = {words(each["what"]): words(each["why"]) for each in found["missed"]}
    slanted = {why for what, why in said.items() if what.startswith("slanted hole")}
    assert slanted == {"In none of its setups does it come to look to a tool."}


def test_a_tool_that_the_shop_has_too_few_of_is_told_with_what_it_costs():
    plan, library = own(STEPS)
    drill = library.tools["drill-8-5"].model_copy(update={"on_hand": 0, "cost": 52.0})
    library = replace(library, tools={**library.tools, drill.key: drill})
    (found, *_) = routes.propose(plan, library, Memo(), machines=["heron"])["proposals"]
    asked = {"tool": drill.name, "more": 1, "missing": 1, "cost": 52.0, "days": drill.order_days}
    assert found["whole"] and found["buys"] == [asked]


def test_fillets_no_mill_leaves_are_told_as_missing():
    shape = cut(plate(), rounded(recess(), 2, lambda edge: True))
    geometry = from_examined("fillets", laid(read(shape)))
    plan = Plan(material="en-aw-6082", quantity=5, part=Part(geometry="fillets"))
    library = replace(LIBRARY, geometries={"fillets": geometry})
    (found, *_) = routes.propose(plan, library, Memo(), machines=["heron"])["proposals"]
    assert found["whole"] == (found["left_mm3"] == 0.0)
    assert found["whole"] or found["missed"]


def test_a_route_that_runs_out_of_tries_keeps_what_it_has(monkeypatch):
    monkeypatch.setattr(planner, "MOST_TRIED", 0)
    plan, library = own(STEPS)
    told = routes.propose(plan, library, known(STEPS), machines=["heron"])
    assert told["elsewhere"] == []
    ((found,), (setup,)) = told["proposals"], told["proposals"][0]["setups"]
    assert not found["whole"] and found["missed"] and setup["operations"] > 0


def test_a_whole_route_is_carried_over_and_says_so():
    plan, library = own(name := "a window and two bores")
    told = routes.propose(plan, library, known(name), machines=["heron", "petrel"])
    on = {each["machine"]: each for each in told["proposals"]}
    said = [words(each) for setup in on["petrel"]["setups"] for each in setup["because"]]
    assert "Planned on Heron and carried over." in said
    for each in told["proposals"]:
        assert each["whole"] and is_whole(taken(plan, each), library)
    first = [words(each) for setup in on["heron"]["setups"] for each in setup["because"]]
    assert not any("carried over" in each for each in first)
