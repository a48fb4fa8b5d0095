"""What closed lines of a drawing go round, cleared and finished as a pocket."""

from __future__ import annotations

from math import cos, pi, sin

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from machining.geometry.regions import between, grown, rectangle, smallest_corner
from machining.plan.operation import FinishFloor, FinishWalls, RoughPocket
from machining.plan.places import DrawnArea, Rectangle

from .build import FACE, answer, ids, plan, result


def ring(x: float, y: float, radius: float, count: int = 180) -> tuple[tuple[float, float], ...]:
    corners = [
        (x + radius * cos(2 * pi * k / count), y + radius * sin(2 * pi * k / count))
        for k in range(count)
    ]
    return (*corners, corners[0])


def outline(length: float, width: float, corner: float) -> tuple[tuple[float, float], ...]:
    return tuple(rectangle(0.0, 0.0, length, width, corner).exterior.coords)


def pocketed(on, *more, floor=0.2):
    rough = RoughPocket(
        id="p",
        tool="t3",
        on=on,
        step_down_mm=4.0,
        step_over_mm=1.6,
        leave_mm=0.2,
        leave_floor_mm=floor,
    )
    return plan(FACE, rough, *more)


PLAIN = outline(36.0, 20.0, 6.0)
TYPED = Rectangle(
    x_mm=0.0, y_mm=0.0, length_mm=36.0, width_mm=20.0, corner_radius_mm=6.0, depth_mm=8.0
)


def test_a_drawn_rectangle_is_cut_as_a_typed_one():
    drawn = DrawnArea(file="a.dxf", lines=(PLAIN,), depth_mm=8.0)
    assert drawn.corner_radius_mm == pytest.approx(6.0, abs=0.1)
    one, other = (result(answer(pocketed(on)), "p") for on in (drawn, TYPED))
    for name in ("removed_mm3", "time_s", "path_mm", "found_width_mm"):
        assert getattr(one, name) == pytest.approx(getattr(other, name), rel=0.02)
    assert (one.title, one.detail) == ("Rough pocket", "a.dxf")


def test_walls_and_floor_are_finished_there():
    drawn = DrawnArea(lines=(PLAIN,), depth_mm=8.0)
    walls = FinishWalls(id="w", tool="t3", on=drawn, step_down_mm=8.0, width_mm=0.2)
    of = pocketed(drawn, walls, floor=0.0)
    assert result(answer(of), "w").found_width_mm > 0
    assert "cut.more-than-planned" not in ids(of)  # it knows who left it
    floor = FinishFloor(id="f", tool="t3", on=drawn, depth_mm=0.2, step_over_mm=4.0)
    assert result(answer(pocketed(drawn, floor)), "f").time_s > 0


def test_a_line_in_another_is_an_island_that_stays():
    wide = outline(44.0, 30.0, 6.0)  # the tool gets past the island
    drawn = DrawnArea(lines=(wide, ring(0.0, 0.0, 3.0)), depth_mm=8.0)
    whole, left = (
        result(answer(pocketed(on)), "p").removed_mm3
        for on in (DrawnArea(lines=(wide,), depth_mm=8.0), drawn)
    )
    assert whole - left == pytest.approx(pi * 3.2**2 * 7.8, rel=0.03)  # with what is left on it


def test_it_is_placed_like_any_drawing():
    drawn = DrawnArea(
        lines=(outline(18.0, 10.0, 3.0),),
        scale=2.0,
        angle_deg=90.0,
        x_mm=5.0,
        y_mm=-2.0,
        depth_mm=8.0,
    )
    low_x, low_y, high_x, high_y = drawn.region.bounds
    assert (low_x, low_y) == pytest.approx((5.0 - 10.0, -2.0 - 18.0), abs=0.01)
    assert (high_x, high_y) == pytest.approx((15.0, 16.0), abs=0.01)


@pytest.mark.parametrize(
    ("line", "words"),
    [
        (((0.0, 0.0), (9.0, 0.0), (9.0, 9.0)), "line 2 is open, its ends 12.7 mm apart"),
        (
            ((0.0, 0.0), (9.0, 9.0), (9.0, 0.0), (0.0, 9.0), (0.0, 0.0)),
            "line 2 crosses or touches itself",
        ),
    ],
)
def test_what_goes_round_nothing_is_refused_in_a_sentence(line, words):
    with pytest.raises(ValidationError, match=words):
        DrawnArea(lines=(PLAIN, line), depth_mm=3.0)


@given(st.floats(0.5, 8.0))
def test_the_smallest_corner_is_that_of_the_outline(radius):
    assert smallest_corner(rectangle(0.0, 0.0, 40.0, 24.0, radius)) == pytest.approx(
        radius, abs=0.05 + 0.01 * radius
    )


def test_sharp_corners_have_none_and_an_island_lets_by_what_its_gap_does():
    assert smallest_corner(rectangle(0.0, 0.0, 40.0, 24.0)) is None
    around = between([outline(40.0, 24.0, 8.0), ring(0.0, 0.0, 1.0)])
    assert smallest_corner(around) == pytest.approx(5.5, abs=0.15)
    assert not grown(around, -1.0).is_empty
