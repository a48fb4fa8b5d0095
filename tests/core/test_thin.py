"""Walls, bars and webs of a solid, and how far they give, against closed forms."""

from __future__ import annotations

from dataclasses import replace
from math import cos, radians, sin

import numpy as np
import pytest

from machining.geometry.frames import Pose
from machining.geometry.solids import bar, block, joined, posed, to_mesh
from machining.geometry.thickness import FAR, Wall, grids_over, walls
from machining.holding.plate import gives
from machining.holding.wall import wall_bends
from machining.quantities.errors import OutOfRange

E_GPA = 70.0


def box(low, high):
    return block(np.array(low, dtype=float), np.array(high, dtype=float))


def thin(solid, slender: float = 4.0) -> list[Wall]:
    mesh = to_mesh(solid)
    return [each for each in walls(mesh, grids_over(*mesh.bounds()), slender) if each.ratio()]


BASE = box((0, 0, 0), (60, 40, 10))
WALL = joined([BASE, box((0, 19, 10), (60, 21, 30))])
FRAME = box((0, 0, 0), (90, 60, 10))
BARRED = FRAME - box((15, 10, -1), (44, 50, 11)) - box((46, 10, -1), (75, 50, 11))
STRIP = joined([box((0, 0, 0), (10, 40, 40)), box((10, 18, 18), (50, 20, 22))])


def test_a_wall_stands_on_what_is_thick():
    (wall,) = thin(WALL)
    assert wall.axis == 1 and wall.mean_mm == pytest.approx(2.0, abs=1e-3)
    assert wall.far().max() == pytest.approx(20.0, abs=wall.grid.cell)
    assert wall.ratio() == pytest.approx(10.0, rel=0.04)
    low, high = wall.faces()
    assert low[:, 1] == pytest.approx(19.0, abs=1e-3) and high[:, 1] == pytest.approx(
        21.0, abs=1e-3
    )


def test_a_bar_between_windows_is_carried_at_both_ends():
    (wall,) = thin(BARRED)
    assert wall.axis == 0 and wall.mean_mm == pytest.approx(2.0, abs=1e-3)
    assert wall.far().max() == pytest.approx(20.0, abs=wall.grid.cell)


@pytest.mark.parametrize(
    "solid",
    [box((0, 0, 0), (80, 50, 20)), bar(0.0, 0.0, 20.0, 0.0, 60.0), FRAME - bar(20, 20, 5, -1, 11)],
    ids=["block", "round bar", "plate with a hole"],
)
def test_what_is_thick_is_no_wall(solid):
    assert thin(solid) == []


def test_each_fin_of_a_comb_is_a_wall():
    fins = [box((4 * k, 0, 10), (4 * k + 1, 40, 30)) for k in range(20)]
    found = thin(joined([box((0, 0, 0), (80, 40, 10)), *fins]))
    assert len(found) == 20 and {each.axis for each in found} == {0}
    assert all(each.mean_mm == pytest.approx(1.0, abs=1e-3) for each in found)


@pytest.mark.parametrize("deg", [10.0, 25.0, 40.0])
def test_a_wall_that_stands_at_an_angle_is_as_thick_as_it_is(deg):
    c, s = cos(radians(deg)), sin(radians(deg))
    turn = np.array([[c, -s, 0.0], [s, c, 0.0], [0.0, 0.0, 1.0]])
    found = thin(posed(WALL, Pose(turn, np.zeros(3))))
    assert found[0].mean_mm == pytest.approx(2.0, rel=0.04)
    assert found[0].ratio() == pytest.approx(10.0, rel=0.08)


def test_what_nothing_thick_carries_has_no_ratio_until_something_holds_it():
    mesh = to_mesh(box((0, 0, 0), (80, 50, 2)))
    (sheet,) = walls(mesh, grids_over(*mesh.bounds()), 4.0)
    assert sheet.ratio() == 0.0 and sheet.far().min() == FAR
    assert np.isinf(gives(sheet, E_GPA, np.array([0])))[0]
    held = sheet.middles()[:, 0] < 10.0
    assert sheet.far(held).max() == pytest.approx(70.0, rel=0.02)
    assert sheet.ratio(held) == pytest.approx(35.0, rel=0.03)


def farthest(wall: Wall, *middle: float) -> np.ndarray:
    """Its cell farthest out that is nearest to a place, else to the middle of those."""
    far = wall.far()
    rim = np.flatnonzero(far > far.max() - wall.grid.cell / 2.0)
    at = wall.middles()[rim]
    off = at - (np.array(middle) if middle else (at.min(axis=0) + at.max(axis=0)) / 2.0)
    return rim[[int(np.linalg.norm(off, axis=1).argmin())]]


def test_a_strip_bends_like_a_cantilever():
    """F·L³/(3·E·I): 40 long, 4 wide, 2 thick."""
    wall = next(each for each in thin(STRIP) if each.axis == 1)
    said = 40.0**3 / (3.0 * E_GPA * 1e3 * 4.0 * 2.0**3 / 12.0)
    assert gives(wall, E_GPA, farthest(wall))[0] == pytest.approx(said, rel=0.05)


def test_a_narrow_bar_bends_like_one_that_is_clamped_at_both_ends():
    """F·L³/(192·E·I): 40 long, 3 wide, 2 thick."""
    low = BARRED - box((40, 5, 3), (50, 55, 11))
    whole = joined([low, box((0, 0, 0), (90, 10, 10)), box((0, 50, 0), (90, 60, 10))])
    wall = next(each for each in thin(whole) if each.axis == 0)
    said = 40.0**3 / (192.0 * E_GPA * 1e3 * 3.0 * 2.0**3 / 12.0)
    assert gives(wall, E_GPA, farthest(wall))[0] == pytest.approx(said, rel=0.15)


def test_a_long_wall_gives_at_its_edge_as_a_plate_of_no_end_does():
    """0.168·F·a²/D in the middle of the free edge. Jaramillo, Deflections and moments due to a
    concentrated load on a cantilever plate of infinite length, 1950.
    """
    long = joined([box((0, 0, 0), (100, 40, 10)), box((0, 19, 10), (100, 21, 26))])
    (wall,) = thin(long)
    plate = E_GPA * 1e3 * 2.0**3 / (12.0 * (1.0 - 0.3**2))
    said = 0.168 * 16.0**2 / plate
    assert gives(wall, E_GPA, farthest(wall, 50.0, 20.0, 26.0))[0] == pytest.approx(said, rel=0.14)


def test_a_web_gives_in_its_middle_as_a_clamped_square_does():
    """0.0056·F·a²/D. Timoshenko, Theory of plates and shells, clamped edges."""
    (web,) = thin(box((0, 0, 0), (50, 50, 20)) - box((10, 10, 1), (40, 40, 21)))
    plate = E_GPA * 1e3 / (12.0 * (1.0 - 0.3**2))
    said = 0.0056 * 30.0**2 / plate
    assert gives(web, E_GPA, farthest(web))[0] == pytest.approx(said, rel=0.08)


def test_twice_as_thick_gives_an_eighth_and_a_held_edge_less():
    (wall,) = thin(WALL)
    at = farthest(wall, 30.0, 20.0, 30.0)
    once = gives(wall, E_GPA, at)[0]
    twice = gives(replace(wall, thick=2.0 * wall.thick), E_GPA, at)[0]
    assert twice == pytest.approx(once / 8.0)
    assert gives(wall, 2.0 * E_GPA, at)[0] == pytest.approx(once / 2.0)
    rim = (wall.far() > wall.far().max() - 1.0) & (np.abs(wall.middles()[:, 0] - 30.0) > 10.0)
    assert gives(wall, E_GPA, at, rim)[0] < 0.8 * once
    assert wall.ratio(rim) < wall.ratio()


def test_what_a_wall_bends_is_force_by_give_and_takes_no_less_than_nothing():
    assert wall_bends(150.0, 0.4) == pytest.approx(0.06)
    with pytest.raises(OutOfRange, match="force"):
        wall_bends(-1.0, 0.4)
