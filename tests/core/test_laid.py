"""Solids that lie turned in their files are laid straight, and on a face that is picked."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from machining.geometry.laid import laid
from machining.quantities.errors import OutOfRange
from machining.world.feature import Flat, Slanted
from machining.world.recognise import recognise
from tools.demo_parts import box, cut, drum, turned

from .shapes_in_step import hexagon, plate, read

PART = cut(plate(), box(-30, -20, 13, 60, 40, 20, 5), drum(40, 0, -1, 8, 40))


def size(examined):
    low, high = examined.mesh.bounds()
    return tuple((high - low).round(3).tolist())


@pytest.mark.parametrize(
    ("by", "about"), [(23.4, (0, 0, 1)), (40, (1, 2, 0.5)), (-12.5, (1, 0, 0)), (0.05, (0, 1, 0))]
)
def test_it_is_turned_back_by_what_it_was_turned(by, about):
    straight = laid(read(turned(PART, by, about)))
    assert straight.turned_deg == pytest.approx(abs(by), abs=1e-3)
    assert size(straight) == (100, 60, 25)
    kept = [(f.kind, f.id) for f in recognise(read(PART)) if f.kind in ("hole", "pocket", "flat")]
    assert [(f.kind, f.id) for f in recognise(straight)] == kept


@pytest.mark.parametrize("shape", [PART, hexagon(24, 0, 30), drum(0, 0, 0, 30, 50)])
def test_what_lies_straight_is_left_as_it_is(shape):
    examined = read(shape)
    assert laid(examined) is examined


def test_a_round_part_is_laid_along_an_axis():
    straight = laid(read(turned(drum(0, 0, 0, 30, 50), 33, (1, 1, 0))))
    assert size(straight) == pytest.approx((30, 30, 50), abs=0.02)


def test_a_slanted_face_can_be_laid_square_and_the_file_left_as_it_is():
    examined = read(cut(plate(), turned(box(-100, -100, 30, 200, 200, 60), 20, (0, 1, 0))))
    assert laid(examined).turned_deg == 0
    (face,) = (each for each in recognise(examined) if isinstance(each, Slanted))
    square = laid(examined, face.surfaces[0])
    assert square.turned_deg == pytest.approx(20)
    flats = [each for each in recognise(square) if isinstance(each, Flat)]
    assert any(f.faces == "+z" and f.outermost and f.area_mm2 == face.area_mm2 for f in flats)
    lying = read(turned(PART, 23.4, (0, 0, 1)))
    assert laid(lying, "file") is lying
    assert np.ptp(lying.mesh.vertices[:, 0]) > 110


def test_a_face_that_is_none_or_not_flat_is_refused():
    examined = read(PART)
    curved = next(n for n, face in enumerate(examined.faces) if face.kind == "cylinder")
    for number in (curved, len(examined.faces), 20_000):
        with pytest.raises(OutOfRange, match=rf"face is {number}; it must be"):
            laid(examined, number)
    nothing = replace(examined, faces=())
    assert laid(nothing) is nothing
