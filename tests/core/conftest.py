from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import settings

from machining.data import seed
from machining.geometry.kernel import Examined, examine
from machining.plan.document import Plan
from machining.world.geometry import PartGeometry, from_examined
from machining.world.library import Library
from shop.demo import clamp_block, gland
from tests.at_length import ALL

settings.register_profile("short", max_examples=8, deadline=None, derandomize=True)
settings.register_profile("long", max_examples=3000, deadline=None)
settings.load_profile("long" if ALL else "short")

PARTS = Path(__file__).parent.parent / "parts"
DEMO = Path(clamp_block.__file__).parent / "TW-118-B.step"
GLAND = DEMO.with_name("TW-520-A.step")


@pytest.fixture(scope="session")
def hinge_plate() -> Examined:
    return examine((PARTS / "hinge-plate.step").read_bytes())


@pytest.fixture(scope="session")
def clamp_geometry() -> PartGeometry:
    return from_examined("clamp", examine(DEMO.read_bytes()))


@pytest.fixture(scope="session")
def demo(clamp_geometry: PartGeometry) -> tuple[Plan, Library]:
    return demo_of(clamp_geometry)


@pytest.fixture(scope="session")
def gland_plan() -> tuple[Plan, Library]:
    """The demo's turned part."""
    solid = from_examined("gland", examine(GLAND.read_bytes()))
    return gland.draft(solid, "gland"), replace(seed(), geometries={"gland": solid})


def demo_of(geometry: PartGeometry) -> tuple[Plan, Library]:
    """The demo's milled part, drafted, with a library that has its solid."""
    return clamp_block.draft(geometry, "clamp"), replace(seed(), geometries={"clamp": geometry})
