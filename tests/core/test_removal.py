"""The cut as found, against what can be worked out by hand."""

from __future__ import annotations

from math import pi, radians, sqrt, tan

import numpy as np
import pytest

from machining.geometry import solids
from machining.geometry.columns import Columns, Grid, columns_of, common
from machining.geometry.regions import rectangle
from machining.motion.path import Leg, Path
from machining.motion.paths.rounds import helix
from machining.removal.carry import Carried, carry, parts_of, steps_of
from machining.removal.gouge import into_part
from machining.removal.loads import Loads, loads
from machining.removal.near import near
from machining.removal.shape import ABOVE, Shape, shape_of
from machining.removal.trace import trace_of
from tests.core.build import LIBRARY

BLOCK = solids.block(np.array([0.0, 0.0, 0.0]), np.array([100.0, 60.0, 30.0]))


def flat(diameter: float) -> Shape:
    return Shape(diameter / 2.0, np.zeros(8), np.full(8, ABOVE), True)


def columns(solid: solids.Solid, cell: float = 0.25) -> Columns:
    low, high = solids.bounds(solid)
    return columns_of(solids.to_mesh(solid), Grid.over(low - 1.0, high + 1.0, cell))


def along(*corners: tuple[float, float, float]) -> Path:
    return Path((Leg("cut", np.array(corners)),))


def carried(path: Path, shape: Shape, solid: solids.Solid, cell: float = 0.25) -> Carried:
    stock = columns(solid, cell)
    return carry(steps_of(path, cell, stock.top), shape, stock)


def found(path: Path, diameter: float, solid: solids.Solid, cell: float = 0.25) -> Loads:
    return loads(trace_of(path, flat(diameter), columns(solid, cell)), 2000.0, diameter)


@pytest.mark.parametrize("cell", [0.1, 0.25, 0.5])
def test_columns_have_the_volume_of_their_solid(cell):
    through = solids.bar(30.0, 20.0, 7.0, -1.0, 40.0)
    across = solids.laid_along(
        solids.bar(0.0, 0.0, 4.0, 0.0, 70.0), 1, np.array([60.0, -5.0, 15.0])
    )
    solid = BLOCK - through - across
    assert columns(solid, cell).volume() == pytest.approx(solids.volume(solid), rel=2e-3)


def test_a_wall_that_falls_between_two_rows_is_met_evenly():
    """Without columns that stand differently in their cells the width would be 0.25 or 0.5."""
    for width in (0.3, 0.37, 0.45):
        wall = solids.block(np.zeros(3), np.array([100.0, width, 10.0]))
        assert columns(wall).volume() == pytest.approx(1000.0 * width, rel=0.02)


def test_what_two_have_in_common():
    grid = Grid.over(np.array([-1.0, -1.0]), np.array([101.0, 61.0]), 0.5)
    other = solids.block(np.array([50.0, 0.0, 10.0]), np.array([200.0, 60.0, 50.0]))
    both = common(*(columns_of(solids.to_mesh(each), grid) for each in (BLOCK, other)))
    assert both.volume() == pytest.approx(50.0 * 60.0 * 20.0, rel=1e-3)


@pytest.mark.parametrize(("width", "depth"), [(0.6, 25.0), (2.0, 10.0), (6.0, 4.0), (11.0, 1.0)])
def test_straight_side_cut(width, depth):
    y = 60.0 - width + 6.0
    loads = found(along((-10, y, 30 - depth), (110, y, 30 - depth)), 12.0, BLOCK, 0.15)
    inside = loads.area > 0.5 * loads.area.max()
    assert np.median(loads.width[inside]) == pytest.approx(width, rel=0.01)
    assert loads.depth[inside] == pytest.approx(depth, rel=1e-3)
    assert loads.widths_over(0.95)[0] == pytest.approx(width, rel=0.05)


def test_full_slot():
    loads = found(along((-10, 30, 20), (110, 30, 20)), 12.0, BLOCK)
    assert np.median(loads.width[loads.in_cut]) == pytest.approx(12.0, rel=0.01)
    assert loads.mean_depth() == pytest.approx(10.0, rel=1e-3)


def test_inside_corner_meets_what_its_turn_sweeps():
    """e' = e·(2R − e)/(2(R − r)): a corner of 10 radius cut by a tool of 6 at 0.6."""
    corner, radius, width = 10.0, 6.0, 0.6
    rough = rectangle(50, 30, 80.0 - 2 * width, 40.0 - 2 * width, corner - width)
    solid = BLOCK - solids.prism(rough, 10.0, 31.0)
    turn = np.linspace(-pi / 2.0, 0.0, 91)
    middle, away = np.array([80.0, 20.0]), corner - radius
    arc = middle + away * np.column_stack([np.cos(turn), np.sin(turn)])
    spots = [(50.0, 16.0), *map(tuple, arc), (84.0, 30.0)]
    path = along(*((x, y, 10.0) for x, y in spots))
    result = carried(path, flat(12.0), solid, 0.1)
    along_arc = np.hypot(*(result.steps.at[:, :2] - middle).T) < away + 1e-6
    turned = np.arctan2(*(result.steps.at[:, :2] - middle).T[::-1])
    inner = along_arc & (turned > radians(-70)) & (turned < radians(-20))
    meant = width * (2 * corner - width) / (2 * (corner - radius))
    section = result.removed[inner].sum() / result.steps.length[inner].sum() / 20.0
    assert section == pytest.approx(meant, rel=0.03)


def test_face_with_overrun_is_in_cut_where_the_work_is():
    """Ø50 over a block 60 wide: what it removes, and how much of its way it is in contact."""
    path = along((-27, 20, 28), (127, 20, 28))
    result = carried(path, flat(50.0), BLOCK, 0.5)
    assert result.volume == pytest.approx(100.0 * 45.0 * 2.0, rel=0.01)
    # from where its foremost edge meets the near side to where its flank leaves the far one
    in_contact = result.steps.length[result.removed > 0].sum()
    assert in_contact == pytest.approx(125.0, rel=0.04)
    assert found(path, 50.0, BLOCK, 0.5).width.max() == pytest.approx(45.0, rel=0.03)


def test_helical_entry_removes_its_hole():
    x, y, round_, pitch = 50.0, 30.0, 5.4, 0.6
    way = helix(x, y, lambda z: np.full_like(z, round_), 30.5, 20.0, pitch)
    turn = np.linspace(0.0, 2 * pi, 181)
    last = np.column_stack([x + round_ * np.cos(turn), y + round_ * np.sin(turn), 0 * turn + 20.0])
    result = carried(along(*map(tuple, way), *map(tuple, last)), flat(12.0), BLOCK)
    assert result.volume == pytest.approx(pi * 11.4**2 * 10.0, rel=0.01)
    levels = (result.steps.at[:, 2] < 28.0) & (result.steps.at[:, 2] > 22.0)
    per_turn = result.removed[levels].sum() / (
        result.steps.length[levels].sum() / (2 * pi * round_)
    )
    assert per_turn == pytest.approx(pi * 11.4**2 * pitch, rel=0.03)


def test_drilling_into_a_cross_hole():
    """Ø6 through the middle of a Ø10 cross hole: without the two bows of it."""
    across = solids.Solid.cylinder(120.0, 5.0, 5.0, 360).rotate([0, 90, 0]).translate([-10, 30, 15])
    path = Path((Leg("plunge", np.array([(50.0, 30.0, 35.0), (50.0, 30.0, -1.0)])),))
    result = carried(path, flat(6.0), BLOCK - across, 0.1)
    y = np.linspace(-3.0, 3.0, 20001)
    gap = np.trapezoid(2 * np.sqrt(9 - y**2) * 2 * np.sqrt(25 - y**2), y)
    assert result.volume == pytest.approx(pi * 9.0 * 30.0 - gap, rel=0.01)
    through = (result.steps.at[:, 2] < 17.0) & (result.steps.at[:, 2] > 12.0)
    assert result.removed[through].sum() == 0.0


def test_an_undercut_leaves_what_is_over_it():
    """A slot mill 4 wide, Ø20 on a neck Ø10, runs 5 deep into a wall: 4 high, the roof stays."""
    lower, at = np.zeros(128), np.linspace(0.0, 10.0, 128)
    shape = Shape(10.0, lower, np.where(at > 5.0, 4.0, ABOVE), False)
    result = carried(along((-15, 65, 10), (115, 65, 10)), shape, BLOCK, 0.2)
    assert result.volume == pytest.approx(100.0 * 5.0 * 4.0, rel=0.01)
    assert result.left.top == pytest.approx(30.0)


def test_rapids_meet_stock_too():
    legs = (Leg("rapid", np.array([(50.0, 30.0, 60.0), (50.0, 30.0, 25.0)])),)
    result = carried(Path(legs), flat(12.0), BLOCK)
    assert result.volume == pytest.approx(pi * 36.0 * 5.0, rel=0.02)


@pytest.mark.parametrize(
    ("key", "radius", "height"),
    [
        ("end-mill-12-z3", 6.0, 0.0),
        ("drill-6-8", 3.4, 3.4 / tan(radians(70.0))),
    ],
)
def test_shapes_of_the_library(key, radius, height):
    shape = shape_of(LIBRARY.tools[key])
    assert shape.radius == pytest.approx(radius)
    assert shape.lower[-1] == pytest.approx(height, rel=1e-6)


def test_a_ball_leaves_its_cusps():
    """Ø10 at a step of 2: 5 − √(25 − 1) between two passes."""
    tool = LIBRARY.tools["end-mill-12-z3"].model_copy(
        update={"diameter_mm": 10.0, "corner_radius_mm": 5.0, "kind": "end_mill"}
    )
    legs = tuple(
        Leg("cut", np.array([(-10.0, y, 25.0), (110.0, y, 25.0)])) for y in np.arange(20, 40, 2.0)
    )
    result = carried(Path(legs), shape_of(tool), BLOCK, 0.1)
    _, y = result.left.grid.places()
    inside = (y > 25.0) & (y < 31.0) & (result.left.tops[:, :, 0] > 0)
    cusp = result.left.tops[:, :, 0][inside].max() - 25.0
    assert cusp == pytest.approx(5.0 - sqrt(24.0), rel=0.05)


@pytest.mark.parametrize("seed", range(10))
def test_agrees_with_a_field_four_times_as_fine(seed):
    """Any path through any block: volume within 1 %, the largest section within 3 %."""
    dice = np.random.default_rng(seed)
    solid = BLOCK
    for _ in range(4):
        x, y, r = dice.uniform((5, 5, 3), (95, 55, 9))
        solid = solid - solids.bar(x, y, r, float(dice.uniform(0, 20)), 40.0)
    spots = dice.uniform((-5, -5), (105, 65), (8, 2))
    path = along(*((x, y, z) for (x, y), z in zip(spots, dice.uniform(10, 25, 8), strict=True)))
    shape = [flat(12.0), shape_of(LIBRARY.tools["drill-6-8"])][seed % 2]
    coarse, fine = (trace_of(path, shape, columns(solid, cell)) for cell in (0.4, 0.1))
    assert coarse.volume() == pytest.approx(fine.volume(), rel=0.01)
    most = [loads(each, 6000.0, 2 * shape.radius).area.max() for each in (coarse, fine)]
    assert most[0] == pytest.approx(most[1], rel=0.03)


@pytest.mark.parametrize("seed", range(8))
def test_columns_it_does_not_come_near_need_not_be_looked_at(seed):
    """Any path, with rapids into the block and out of it: every step meets what it met."""
    dice = np.random.default_rng(seed)
    spots = dice.uniform((-25, -25, 5), (125, 85, 45), (9, 3))
    legs = tuple(Leg(("cut", "rapid")[k % 2], spots[k : k + 2]) for k in range(len(spots) - 1))
    cone, slot_mill = shape_of(LIBRARY.tools["drill-6-8"]), np.linspace(0.0, 10.0, 128)
    neck = np.where(slot_mill > 5.0, 4.0, ABOVE)
    shape = [flat(9.0), cone, Shape(10.0, np.zeros(128), neck, False)][seed % 3]
    mesh, grid = solids.to_mesh(BLOCK), Grid.over(np.zeros(3), np.array([100.0, 60.0, 0.0]), 0.3)
    some = near(Path(legs), shape, grid, 30.0)
    assert 0 < some.sum() < some.size
    steps = steps_of(Path(legs), 0.3, 30.0)
    whole, less = (carry(steps, shape, columns_of(mesh, grid, of)) for of in (None, some))
    assert (whole.removed == less.removed).all() and (whole.deep == less.deep).all()
    assert less.left.volume() < whole.left.volume()


def test_a_path_in_parts_meets_what_it_meets_as_a_whole(monkeypatch):
    """Lifted and joined, in one part and in many, of one leg and of several."""
    dice = np.random.default_rng(3)
    spots = dice.uniform((-25, -25, 5), (125, 85, 45), (40, 3))
    legs = tuple(Leg(("cut", "rapid")[k % 2], spots[k : k + 2]) for k in range(len(spots) - 1))
    path, stock = Path(legs), columns(BLOCK, 0.5)
    whole = carry(steps_of(path, 0.5, stock.top), flat(9.0), stock)
    monkeypatch.setattr("machining.removal.carry.MOST_TOGETHER", 500)
    parts = list(parts_of(path, 0.5, stock.top))
    assert 5 < len(parts) < len(legs) and max(len(part.leg) for part in parts) < 1000
    trace, into = trace_of(path, flat(9.0), stock), into_part(path, flat(9.0), stock)
    assert (trace.steps.leg == whole.steps.leg).all() and trace.coarse is False
    assert trace.removed == pytest.approx(whole.removed, rel=1e-5, abs=1e-5)
    assert into.volume == pytest.approx(whole.volume)
    assert into.at == pytest.approx(whole.steps.at[whole.deep.argmax()])
    assert into_part(along((0, 0, 45), (100, 60, 45)), flat(9.0), stock) is None
