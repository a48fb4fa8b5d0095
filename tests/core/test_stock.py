"""Forms of stock by hand: sizes, skins, what a part lacks in them and what they already have."""

from __future__ import annotations

import json
from dataclasses import replace
from math import hypot, pi, sqrt
from pathlib import Path

import numpy as np
import pytest

from machining.evaluate import evaluate
from machining.facts.blank import blank_of
from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.geometry.solids import pieces, volume
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.edit import Change
from machining.plan.holding import InChuck, InCollet
from machining.plan.trade import UseStock
from machining.plan.upgrades import up_to_date
from machining.quantities.errors import MachiningError
from machining.quantities.said import fill
from machining.ways.trade import structural
from machining.world.geometry import of_block
from machining.world.part import Part
from machining.world.settings import Settings
from machining.world.stock import Block, Round
from machining.world.stock.base import Side
from machining.world.stock.block import sawn_block
from machining.world.stock.plate import Plate
from machining.world.stock.shaped import Shaped
from machining.world.stock.square import Square
from machining.world.stock.tube import Tube

from . import build, lathe
from .build import FACE, GOOD, LIBRARY, PART, ROUGH, after_fix, answer, changed, good, plan, result

GEOMETRY = of_block(PART)  # 80 x 50 x 20
FORMATS = Path(__file__).parent.parent / "formats"
ENDS = {"low": Side(over_mm=3.0), "high": Side(over_mm=1.0)}


def size(stock) -> list[float]:
    low, high = stock.corners(GEOMETRY.bounds, {})
    return [round(float(each), 6) for each in high - low]


def blank(stock, geometry=GEOMETRY, library=LIBRARY):
    return blank_of(Plan(stock=stock), geometry, library, Memo())


# -- their sizes


def test_a_square_bar_turned_on_its_corner_is_wider():
    bar = Square(across_mm=60.0, axis="x", **ENDS)
    assert size(bar) == [84.0, 60.0, 60.0]
    assert size(bar.model_copy(update={"turn_deg": 45.0})) == [
        84.0,
        *[pytest.approx(60.0 * sqrt(2.0), abs=1e-5)] * 2,
    ]
    assert bar.volume_mm3(GEOMETRY.bounds, {}) == pytest.approx(60.0**2 * 84.0)
    assert volume(bar.solid(GEOMETRY.bounds, {})) == pytest.approx(60.0**2 * 84.0)


def test_a_tube_is_a_bar_without_its_middle():
    tube = Tube(diameter_mm=110.0, bore_mm=100.0, **ENDS)
    exact = pi / 4.0 * (110.0**2 - 100.0**2) * 24.0
    assert size(tube) == [110.0, 110.0, 24.0]
    assert tube.volume_mm3(GEOMETRY.bounds, {}) == pytest.approx(exact)
    assert volume(tube.solid(GEOMETRY.bounds, {})) == pytest.approx(exact, rel=2e-3)


@pytest.mark.parametrize("axis", ["x", "y", "z"])
@pytest.mark.parametrize(
    "bar",
    [
        Square(across_mm=70.0, turn_deg=20.0, **ENDS),
        Round(diameter_mm=90.0, **ENDS),
        Tube(diameter_mm=90.0, bore_mm=20.0, **ENDS),
    ],
    ids=lambda bar: bar.form,
)
def test_every_bar_fills_the_box_it_says_whatever_its_axis(bar, axis):
    bar = bar.model_copy(update={"axis": axis})
    low, high = bar.corners(GEOMETRY.bounds, {})
    found = blank(bar).state.bounds()
    assert found[0] == pytest.approx(low, abs=0.06)
    assert found[1] == pytest.approx(high, abs=0.06)


def test_stock_is_said_as_it_is_ordered():
    def said(stock):
        words = stock.words((80.0, 50.0, 20.0), {})
        return fill(words.text, words.values).replace(".000 mm", "")

    assert said(sawn_block(x=(2, 2), y=(1, 1), z=(3, 1))) == "84 × 52 × 24"
    assert said(Round(diameter_mm=60.0, axis="x", **ENDS)) == "Ø60 × 84"
    assert said(Tube(diameter_mm=60.0, bore_mm=20.0, axis="y")) == "tube Ø60 / Ø20 × 50"
    assert said(Square(across_mm=60.0)) == "square 60 × 20"


# -- what a saw, a mill and a foundry leave


def test_a_rolled_face_is_not_sawn():
    """Facing meets the rolled top, roughing round the sawn edges: each at its own worst."""
    sides = {name: getattr(build.STOCK, name) for name, _ in Plate.SIDES}
    plate = Plate(**sides, saw_tolerance_mm=1.1, rolled_tolerance_mm=0.2)
    facts = walk(plan(*GOOD, stock=plate), LIBRARY, Memo())
    face, rough = (next(op for op in facts.operations() if op.id == id) for id in ("face", "rough"))
    assert (face.seen.blank_side, face.seen.blank_over_mm) == ("+z", 0.2)
    assert rough.seen.blank_over_mm == 1.1 and rough.seen.blank_side[1] in "xy"
    assert face.seen.worst_depth_mm == pytest.approx(face.seen.depth_mm + 0.2)
    upright = facts.plan.stock.model_copy(update={"axis": "x"})
    facts = walk(plan(*GOOD, stock=upright), LIBRARY, Memo())
    assert facts.operations()[0].seen.blank_over_mm == 1.1  # its top is an edge now


def heavy(stock) -> Plan:
    """Roughed so wide and deep that the spindle can just do it on the blank as drawn."""
    return changed(plan(*GOOD, stock=stock), "operation:rough", step_down_mm=18.0, step_over_mm=3.2)


def test_the_worst_side_counts_and_the_fix_names_its_field():
    """What is typed for a side alone is mended for that side."""
    sawn = build.THICK.model_copy(update={"saw_tolerance_mm": 1.1})
    alone = build.THICK.model_copy(update={"x_high": Side(over_mm=6.0, tolerance_mm=1.1)})
    for stock, field in ((sawn, "saw_tolerance_mm"), (alone, "x_high.tolerance_mm")):
        seen = answer(heavy(stock))
        found = next(f for f in seen.findings if f.id == "cut.power-at-worst-stock")
        assert found.values["extra"].value == 1.1
        fix = next(each for each in found.fixes if each.label.startswith("Order it sawn"))
        assert list(fix.edits[0].fields) == [f"stock.{field}"]
    assert "sawn" in in_words(found)


def test_nobody_casts_closer_for_one_order():
    library = replace(LIBRARY, geometries={"cast": cast()})
    made = Shaped(geometry="cast", tolerance_mm=1.1)
    seen = evaluate(heavy(made), library)
    found = next(f for f in seen.findings if f.id == "cut.power-at-worst-stock")
    assert in_words(found).startswith("With the blank cast 1.1 mm over")
    assert not any("Order" in fix.label for fix in found.fixes)


@pytest.mark.parametrize(
    ("stock", "times"),
    [
        (Block(), (81.5 / 80.0) * (51.5 / 50.0) * (21.5 / 20.0)),
        (Plate(axis="z"), (81.5 / 80.0) * (51.5 / 50.0)),
        (Round(diameter_mm=60.0, axis="x"), 81.5 / 80.0),
        (Square(across_mm=60.0, axis="z"), 21.5 / 20.0),
        (Shaped(geometry="cast"), 1.0),
    ],
    ids=["block", "plate", "bar", "square", "cast"],
)
def test_a_saw_takes_its_cut_where_it_saws(stock, times):
    """Of a part 80 x 50 x 20, a cut of 1.5 along each way that ends sawn."""
    assert stock.with_saw_cuts(np.array([80.0, 50.0, 20.0]), 1.5) == pytest.approx(times)


# -- what of the part is missing


def test_a_bar_too_thin_says_by_how_much_and_what_is_thick_enough():
    """A section 50 x 20 stands hypot(25, 10) from its middle."""
    thin = Round(diameter_mm=50.0, axis="x")
    lacking = blank(thin).lacking
    assert lacking.by_mm == pytest.approx(hypot(25.0, 10.0) - 25.0, abs=0.02)
    assert lacking.side in ("+y", "-y")
    assert blank(thin.model_copy(update={"diameter_mm": 54.0})).lacking is None
    seen = answer(plan(FACE, stock=thin))
    found = next(f for f in seen.findings if f.id == "size.blank-short")
    assert found.severity == "stop" and not seen.ready
    assert seen.stock_lacks is not None
    labels = [fill(fix.label, fix.values) for fix in found.fixes]
    assert labels[0].startswith("Cut it from round bar Ø56.000 mm")
    for place in range(len(found.fixes)):
        mended = answer(after_fix(plan(FACE, stock=thin), found, place))
        assert "size.blank-short" not in {f.id for f in mended.findings}


def test_a_tube_whose_bore_is_wider_than_the_parts_lacks_its_inside():
    ring = lathe.GLAND  # bored 22 through
    right, wide = (Tube(diameter_mm=60.0, bore_mm=bore) for bore in (20.0, 30.0))
    assert blank(right, ring).lacking is None
    assert blank(wide, ring).lacking.by_mm == pytest.approx(4.0, abs=0.1)


def test_a_part_that_fills_its_bar_lacks_nothing():
    """Both are meshed with facets; the part's own do not stand out."""
    gland = lathe.GLAND
    across = gland.size[0]
    assert blank(Round(diameter_mm=across), gland).lacking is None
    assert blank(Round(diameter_mm=across - 0.4), gland).lacking.by_mm == pytest.approx(
        0.2, abs=0.1
    )


# -- what it already has


def cast(**fields):
    """A casting with the through hole of the part, and metal everywhere else."""
    size_mm = (88.0, 58.0, 26.0)
    hole = next(each for each in PART.typed if each.kind == "hole" and each.through)
    deep = hole.model_copy(update={"length_mm": 26.0})
    return of_block(Part(size_mm=size_mm, typed=(deep,), **fields))


def test_what_a_casting_already_has_is_known():
    library = replace(LIBRARY, geometries={"cast": cast()})
    stock = Shaped(geometry="cast", at_mm=(0.0, 0.0, -3.0))
    found = blank(stock, library=library)
    through = next(each for each in PART.typed if each.kind == "hole" and each.through)
    assert found.has_already == {through.id}
    assert found.lacking is None
    assert evaluate(plan(FACE, stock=stock), library).in_blank == [through.id]
    assert blank(sawn_block(z=(3, 1))).has_already == frozenset()
    turned = blank(stock.model_copy(update={"turn": 90}), library=library)
    assert turned.lacking is not None  # 58 wide where the part is 80 long


def test_a_shape_that_is_not_there_is_one_sentence():
    seen = answer(plan(FACE, stock=Shaped(geometry="gone")))
    assert seen.problem == "Solid of the blank 'gone' doesn't exist."


# -- how it is held


def test_three_jaws_do_not_close_on_a_square_and_say_so():
    held = InChuck(chuck="chuck-200", grip_mm=20.0, force_per_jaw_n=9000.0)
    setup = lathe.setup(lathe.FACE, holding=held)
    long = {"low": Side(over_mm=50.0), "high": Side(over_mm=1.0)}
    square = lathe.answer(lathe.plan(stock=Square(across_mm=50.0, **long), setups=(setup,)))
    assert "same for all" in square.setups[0].stations[0].unknown["hold"]
    assert not square.ready


def test_a_collet_takes_stock_of_its_own_profile():
    collet = LIBRARY.holdings["collet-32"]
    library = replace(
        lathe.LIBRARY,
        holdings={
            **lathe.LIBRARY.holdings,
            "square": collet.model_copy(update={"key": "square", "profile": "square"}),
            "round": collet.model_copy(update={"key": "round"}),
        },
    )
    long = {"low": Side(over_mm=50.0), "high": Side(over_mm=1.0)}

    def unknown(stock, key):
        setup = lathe.setup(lathe.FACE, holding=InCollet(collet=key, grip_mm=30.0))
        return (
            evaluate(lathe.plan(stock=stock, setups=(setup,)), library)
            .setups[0]
            .stations[0]
            .unknown
        )

    for turn in (0.0, 17.0):
        bar = Square(across_mm=32.0, turn_deg=turn, **long)
        assert unknown(bar, "square") == {}
        assert "not round" in unknown(bar, "round")["hold"]
    assert unknown(Round(diameter_mm=32.0, **long), "round") == {}
    assert "round" in unknown(Round(diameter_mm=32.0, **long), "square")["hold"]


# -- another form, as a planner asks for it


def another(plan_: Plan, form: str, library=LIBRARY) -> Plan:
    return apply(plan_, structural(plan_, library, Memo(), [UseStock(form=form)]))


def test_another_form_is_as_large_as_the_part_needs():
    """Round the longest side, X, with 2 to turn: hypot(50, 20) = 53.85."""
    bar = another(Plan(part=PART), "round").stock
    assert (bar.axis, bar.diameter_mm) == ("x", 56.0)
    assert bar.low.over_mm == Settings().usual_side_mm
    plate = another(Plan(part=PART), "plate").stock
    assert (plate.axis, plate.rolled_tolerance_mm) == ("z", Settings().usual_rolled_mm)
    square = another(Plan(part=PART), "square").stock
    assert (square.across_mm, square.turn_deg) == (50.0, 0.0)


def test_what_was_decided_stays_where_both_forms_have_it():
    start = good()
    plate = another(start, "plate").stock
    assert plate.z_low == start.stock.z_low and plate.x_low == start.stock.x_low
    assert another(apply(start, []), "block").stock == start.stock


@pytest.mark.parametrize(
    ("form", "words"),
    [
        ("cloud", "form is cloud; it must be one of block, plate"),
        ("tube", "the part is not open along X"),
        ("shaped", "read from a file of the blank"),
    ],
)
def test_a_form_that_can_not_be_is_refused(form, words):
    with pytest.raises(MachiningError, match=words):
        another(Plan(part=PART), form)


def test_a_tube_round_a_part_keeps_metal_to_bore():
    made = another(lathe.plan(stock=Block()), "tube", lathe.LIBRARY).stock
    assert made.axis == "z" and made.bore_mm == 20.0  # 22 less what is left to turn


# -- skins


def test_the_skin_of_a_bar_is_known_from_what_is_turned():
    facts = walk(lathe.plan(lathe.FACE, lathe.ROUGH), lathe.LIBRARY, Memo())
    before, after = (op.after.skins() for op in facts.operations())
    assert set(before.faces) == {0, 1}

    def skin(mesh):
        a, b, c = (mesh.vertices[mesh.triangles[:, k]] for k in range(3))
        area = np.linalg.norm(np.cross(b - a, c - a), axis=1) / 2.0
        return float(area[mesh.faces == 0].sum())

    assert skin(after) < skin(before)
    assert set(facts.setups[0].stations[0].arrives.skins().faces) == {0}


def test_turning_leaves_no_films_in_the_air():
    """Where the facets of a bar met those of what is turned off it, films as high as the bar stood
    on.
    """
    facts = walk(lathe.plan(*lathe.GOOD), lathe.LIBRARY, Memo())
    for op in facts.operations():
        assert len(pieces(op.after.solid)) == 1, op.id
    faced = facts.operations()[0]
    assert (faced.before.bounds()[1][2], faced.after.bounds()[1][2]) == (
        pytest.approx(1.0),
        pytest.approx(0.0),
    )


# -- plans of format 2


def test_a_tolerance_of_format_2_still_holds_for_every_side():
    def stock(name):
        raw = json.loads((FORMATS / name).read_text())
        return Plan.model_validate(up_to_date(raw)).stock

    plate = stock("plan-2.json")
    assert isinstance(plate, Plate) and plate.z_low == Side(over_mm=8.0)
    assert {plate.tolerance_at(side) for side in ("+x", "-y", "+z", "-z")} == {1.0}
    bar = stock("plan-2-turned.json")
    assert isinstance(bar, Round) and (bar.diameter_mm, bar.low.over_mm) == (50.0, 50.0)
    assert {bar.tolerance_at(side) for side in ("+x", "-y", "+z", "-z")} == {0.8}


def test_a_tolerance_is_changed_for_one_side_by_its_own_name():
    sided = apply(good(), [Change(on="plan", fields={"stock.z_high.tolerance_mm": 0.4})])
    assert sided.stock.tolerance_at("+z") == 0.4 and sided.stock.tolerance_at("-z") == 0.0
    assert sided.stock.tolerance_field("+z") == "stock.z_high.tolerance_mm"
    assert result(answer(sided), "face").id == "face" and ROUGH.id == "rough"
