"""Lines drawn elsewhere: read, joined, placed and engraved."""

from __future__ import annotations

import io
from math import cos, hypot, pi, sin

import ezdxf
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError
from shapely import LineString, Point, Polygon

from machining.exchange.lines import MEET_MM, read
from machining.exchange.lines.joined import joined
from machining.facts.kinds import bevels
from machining.geometry.solids import prism, volume
from machining.plan.operation import Engrave, RoundEdge
from machining.plan.places import MOST_DRAWN_CORNERS, Drawn, Lines
from machining.quantities.errors import MachiningError

from .build import FACE, POCKET, TOOLS, after_fix, answer, finding, ids, plan, result, tool

ENGRAVER = (*TOOLS, tool(9, "engraver-6-60"))
ROUNDER = (*TOOLS, tool(9, "corner-rounder-10-r2"))
SQUARE = ((-8.0, -8.0), (8.0, -8.0), (8.0, 8.0), (-8.0, 8.0), (-8.0, -8.0))
SVG = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="50mm" viewBox="0 0 100 50">'
    "{}</svg>"
)


def dxf(draw, units: int = 4) -> bytes:
    document = ezdxf.new(units=units)
    draw(document)
    text = io.StringIO()
    document.write(text)
    return text.getvalue().encode()


def engraved(**on):
    drawn = Drawn(**{"lines": (SQUARE,), "x_mm": 30.0, "y_mm": 12.0, **on})
    return plan(FACE, Engrave(id="e", tool="t9", on=drawn, depth_mm=0.3), tools=ENGRAVER)


# -- DXF


def test_every_kind_of_line_of_a_dxf_lies_where_it_is_drawn():
    def draw(document):
        model = document.modelspace()
        model.add_line((0, 0), (10, 0))
        model.add_circle((20, 0), 5)
        model.add_arc((40, 0), 5, 0, 90)
        model.add_ellipse((60, 0), (6, 0), 0.5)
        model.add_lwpolyline([(0, 20), (10, 20, 0, 0, 1.0), (10, 30)])  # with half a circle
        model.add_spline([(0, 40), (5, 45), (10, 40)])
        model.add_text("not a line")

    found = read("a.dxf", dxf(draw))
    line, circle, arc, ellipse, bulge, spline = found.lines
    assert found.left_out == {"text": 1} and (found.unit, found.unit_said) == ("mm", True)
    assert line == ((0.0, 0.0), (10.0, 0.0))
    for whole, at, radius in ((circle, 20.0, 5.0), (arc, 40.0, 5.0)):
        assert all(abs(hypot(x - at, y) - radius) < 1e-3 for x, y in whole)
        # and no chord lies farther off than is said
        middles = (np.array(whole[1:]) + np.array(whole[:-1])) / 2.0 - (at, 0.0)
        assert radius - np.linalg.norm(middles, axis=1).min() < 0.0101
    assert circle[0] == circle[-1] and found.closed == 2
    assert max(x for x, _ in ellipse) == pytest.approx(66.0) and max(
        y for _, y in ellipse
    ) == pytest.approx(3.0, abs=0.01)
    assert max(x for x, _ in bulge) == pytest.approx(15.0, abs=0.01)
    assert spline[0] == (0.0, 40.0) and spline[-1] == (10.0, 40.0)


@pytest.mark.parametrize(
    ("units", "word", "factor"), [(1, "in", 25.4), (5, "cm", 10.0), (0, "mm", 1.0)]
)
def test_units_of_a_dxf_are_taken_and_said(units, word, factor):
    found = read("a.DXF", dxf(lambda d: d.modelspace().add_line((0, 0), (2, 1)), units))
    assert found.lines[0][1] == pytest.approx((2 * factor, factor))
    assert (found.unit, found.unit_said) == (word, units != 0)


def test_blocks_are_taken_apart_and_hidden_layers_left_out():
    def draw(document):
        document.layers.add("notes").off()
        block = document.blocks.new("MARK")
        block.add_lwpolyline([(0, 0), (1, 0), (1, 1)], close=True)
        document.modelspace().add_blockref(
            "MARK", (10, 5), dxfattribs={"xscale": 3, "yscale": 3, "rotation": 90}
        )
        document.modelspace().add_line((0, 0), (9, 9), dxfattribs={"layer": "notes"})

    (mark,) = read("a.dxf", dxf(draw)).lines
    assert np.allclose(mark, ((10, 5), (10, 8), (7, 8), (10, 5)))


# -- SVG


def test_shapes_of_an_svg_are_in_mm_with_y_upwards():
    found = read(
        "a.svg",
        SVG.format(
            '<g transform="translate(10 5) scale(2)"><path d="M0 0 h10 v5 h-10 z"/></g>'
            '<circle cx="70" cy="20" r="10"/><text x="1" y="2">no</text>'
            '<path d="M0 0 L1 1" display="none"/>'
        ).encode(),
    )
    box, circle = found.lines
    assert np.allclose(box, ((10, -5), (30, -5), (30, -15), (10, -15), (10, -5)))
    assert all(abs(hypot(x - 70.0, y + 20.0) - 10.0) < 2e-3 for x, y in circle)
    assert found.closed == 2 and found.left_out == {"text": 1}
    assert (found.unit, found.unit_said) == ("mm", True)


def test_curves_of_an_svg_keep_within_their_chord():
    bend = SVG.format('<path d="M0 0 C 10 20 20 20 30 0 Q 40 -20 50 0 A 10 5 0 0 1 70 0"/>')
    (line,) = read("a.svg", bend.encode()).lines
    points = []
    for k in range(2001):
        t = k / 2000.0
        points.append(
            (
                3 * (1 - t) ** 2 * t * 10 + 3 * (1 - t) * t**2 * 20 + 30 * t**3,
                -(3 * (1 - t) ** 2 * t * 20 + 3 * (1 - t) * t**2 * 20),
            )
        )
    path = LineString(line)
    assert max(path.distance(Point(spot)) for spot in points) < 0.0105


@pytest.mark.parametrize(
    ("name", "content", "words"),
    [
        ("a.dxf", b"what", "a DXF drawing"),
        ("a.svg", b"<svg", "an SVG drawing"),
        ("a.svg", b'<!DOCTYPE s [<!ENTITY a "b">]><svg/>', "entities of its own"),
        ("a.pdf", b"%PDF", "a DXF or SVG drawing"),
        ("a.svg", SVG.format("<text>x</text>").encode(), "at least one; it has 1 text"),
        ("a.dxf", b"x" * 10_000_001, "at most 10 MB"),
        (
            "a.svg",
            SVG.format(f'<path d="M0 0 {"l.1 .1 l.1 -.1 " * 10_001}"/>').encode(),
            "at most 20000; draw it with fewer lines",
        ),
    ],
    ids=["no-dxf", "no-svg", "entities", "pdf", "no-line", "large", "corners"],
)
def test_what_cannot_be_read_says_why(name, content, words):
    with pytest.raises(MachiningError, match=words):
        read(name, content)


# -- joined


def test_pieces_that_meet_become_one_closed_line_and_the_gap_is_said():
    pieces = [((0, 0), (10, 0)), ((10, 10), (10, 0.03)), ((10, 10), (0, 10.0)), ((0, 10), (0, 0))]
    (line,), gap = joined(pieces, MEET_MM)
    assert line[0] == line[-1] and len(line) == 5 and gap == pytest.approx(0.03)
    assert len(joined(pieces, 0.01)[0]) == 1 and joined(pieces, 0.01)[0][0][0] != line[0]


def test_where_three_meet_none_is_joined():
    star = [((0, 0), (cos(a), sin(a))) for a in (0.0, 2.0, 4.0)]
    lines, gap = joined(star, MEET_MM)
    assert len(lines) == 3 and gap == 0.0


@given(st.integers(3, 40), st.randoms(use_true_random=False))
def test_any_cut_up_outline_is_put_together_again(count, rng):
    corners = [
        (round(20 * cos(2 * pi * k / count), 3), round(20 * sin(2 * pi * k / count), 3))
        for k in range(count)
    ]
    pieces = [(a, b) for a, b in zip(corners, [*corners[1:], corners[0]], strict=True)]
    pieces = [piece[::-1] if rng.random() < 0.5 else piece for piece in pieces]
    rng.shuffle(pieces)
    (line,), _ = joined(pieces, 0.001)
    assert line[0] == line[-1] and len(line) == count + 1
    assert Polygon(line).area == pytest.approx(Polygon(corners).area)


# -- placed and engraved


def test_lines_are_scaled_and_turned_about_the_drawing_s_zero_then_moved():
    on = Drawn(lines=(((1.0, 0.0), (0.0, 2.0)),), x_mm=10.0, y_mm=-5.0, scale=2.0, angle_deg=90.0)
    assert on.placed[0] == (pytest.approx((10.0, -3.0)), pytest.approx((6.0, -5.0)))


def test_more_corners_than_can_be_answered_are_refused_in_a_sentence():
    long = tuple((float(k % 7), float(k % 5)) for k in range(MOST_DRAWN_CORNERS + 1))
    with pytest.raises(ValidationError, match="there can be at most 20000"):
        Drawn(lines=(long,))


def test_a_line_that_stands_still_is_refused_in_a_sentence():
    with pytest.raises(ValidationError, match="line 2 passes the same corner twice"):
        Drawn(lines=(SQUARE, ((1.0, 1.0), (1.0, 1.0))))


def test_an_engraving_takes_the_v_of_its_lines():
    got = result(answer(engraved(lines=(SQUARE[:4],), x_mm=30.0, y_mm=12.0)), "e")
    wide = 0.1 + 2 * 0.3 * np.tan(np.radians(30.0))
    area = 0.3 * (0.1 + wide) / 2.0
    assert got.removed_mm3 == pytest.approx(48.0 * area, rel=0.03)
    assert got.title == "Engrave" and got.path_mm > 48.0


def test_lines_over_a_pocket_that_is_open_or_under_stock_are_told():
    there = engraved(x_mm=0.0, y_mm=0.0)
    assert "cut.in-air" not in ids(there)
    open_already = plan(FACE, POCKET, there.setups[0].operations[1], tools=ENGRAVER)
    found = finding(open_already, "cut.in-air")
    assert found.severity == "look" and found.values["share"].value == pytest.approx(1.0)
    unfaced = plan(there.setups[0].operations[1], tools=ENGRAVER)
    stands = finding(unfaced, "cut.more-than-planned")
    assert stands.severity == "stop" and stands.values["over"].value == pytest.approx(1.0)
    assert "cut.more-than-planned" not in ids(after_fix(unfaced, stands))


@pytest.mark.parametrize("waves", [0, 24])
def test_an_edge_drawn_in_thousands_of_corners_is_no_finer_than_it_need_be(waves):
    """All round an outline: its section's middle goes along it, as far in as it lies."""
    turns = np.linspace(0.0, 2.0 * pi, 5001)
    away = 20.0 + (0.4 * np.sin(waves * turns) if waves else 0.0)
    ring = np.column_stack([away * np.cos(turns), away * np.sin(turns)])
    ring[-1] = ring[0]
    line = tuple((float(x), float(y)) for x, y in ring)
    taken = bevels.off_lines(Drawn(lines=(line,), tool_side="right"), bevels.sloped(0.4, 0.4))
    block = prism(Polygon(line), -2.0, 0.0)
    inside = Polygon(line).buffer(-0.4 / 3.0).exterior.length
    assert volume(taken ^ block) == pytest.approx(0.4 * 0.4 / 2.0 * inside, rel=0.02)
    assert taken.num_tri() < 20_000


def rounded(on):
    return RoundEdge(id="r", tool="t9", on=on, radius_mm=2.0)


def test_edges_along_drawn_lines_are_those_along_typed_ones():
    corners = ((-40.0, -25.0), (40.0, -25.0), (40.0, 25.0))
    ways = [
        result(
            answer(plan(FACE, RoundEdge(id="r", tool="t9", on=on, radius_mm=2.0), tools=ROUNDER)),
            "r",
        ).path_mm
        for on in (Lines(at_mm=(corners,)), Drawn(lines=(corners,)))
    ]
    assert ways[0] == pytest.approx(ways[1]) and ways[0] > 0


def test_a_solid_of_many_lines_is_that_of_its_grooves():
    rings = tuple(
        tuple((r * cos(2 * pi * k / 250), r * sin(2 * pi * k / 250)) for k in [*range(250), 0])
        for r in (2.0, 4.0, 6.0, 8.0)
    )
    got = answer(engraved(lines=rings, x_mm=28.0, y_mm=0.0))
    lengths = sum(2.0 * pi * r for r in (2.0, 4.0, 6.0, 8.0))
    wide = 0.1 + 2 * 0.3 * np.tan(np.radians(30.0))
    assert result(got, "e").removed_mm3 == pytest.approx(
        lengths * 0.3 * (0.1 + wide) / 2.0, rel=0.05
    )
