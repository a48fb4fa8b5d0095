"""A fixture of the shop for the plain part: two rails to lie on, three stops, four threads."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from typing import Any

from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from OCP.TopoDS import TopoDS_Shape

from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.operation import Operation
from machining.plan.trade import Hold
from machining.ways.trade import meaning
from machining.world.fixture import Fixture
from machining.world.fixture_read import Found, found_in
from machining.world.geometry import from_examined
from machining.world.library import Library
from tools.demo_parts import box

from . import build
from .shapes_in_step import fused, lying_drum, read

THREADS = ((-58.0, -20.0), (-58.0, 20.0), (54.0, -20.0), (54.0, 20.0))
PICKED = {
    "seats": ((-44.0, 26.0), (20.0, 26.0)),  # by where they begin in X, and how high they are
    "locators": (("-x", -44.0), ("+y", 33.0)),  # by their side, and where that is
}


def body(plate: float = 20.0) -> TopoDS_Shape:
    """A plate of 180 x 120 with rails 6 high, stops 6 and 8 higher, and tapping holes for M6."""
    shape = fused(
        box(-90, -60, 0, 180, 120, plate),
        box(-44, -40, plate, 12, 80, 6),
        box(20, -40, plate, 12, 80, 6),
        box(-44, 33, plate + 6, 12, 8, 6),
        box(20, 33, plate + 6, 12, 8, 6),
        box(-52, -6, plate, 8, 12, 14),
    )
    for x, y in THREADS:
        shape = BRepAlgoAPI_Cut(shape, lying_drum((x, y, 4.0), (0, 0, 1), 5.0, 40.0)).Shape()
    return shape


@cache
def found() -> Found:
    return found_in(from_examined("own", read(body())))


@cache
def fixture(**fields: Any) -> Fixture:
    """With its rails and stops picked."""
    there = found()
    seats = [
        each
        for each in there.seats
        if (round(each.region.bounds[0], 1), each.high_mm) in PICKED["seats"]
    ]
    locators = [
        each
        for each in there.locators
        if (each.side, each.at_mm["xy".index(each.side[1])]) in PICKED["locators"]
        and each.high_mm > 26.0
        and each.low_mm == 26.0
    ]
    return Fixture(
        key="own",
        name="Rail fixture",
        friction=0.15,
        mass_kg=3.5,
        source="made up for tests",
        blocks=there.blocks,
        seats=tuple(seats),
        locators=tuple(locators),
        threads=there.threads,
        **fields,
    )


def library(own: Fixture | None = None) -> Library:
    held = {**build.LIBRARY.holdings, "own": own or fixture()}
    return replace(build.LIBRARY, holdings=held)


def put_in(*operations: Operation, own: Fixture | None = None, **fields: Any) -> Plan:
    """The plain part with these operations, held in it as it is usually."""
    of = build.plan(*operations, **fields)
    hold = Hold(station="st1", item="own")
    return apply(of, list(meaning(hold, of, library(own), build.MEMO)))
