"""Records of the world: what they refuse, with the field and the reason; what they work out."""

from __future__ import annotations

import pytest
from pydantic import ValidationError

from machining.data import seed
from machining.plan.refusal import first_problem
from machining.quantities.errors import Missing
from machining.world.carrier import Carrier
from machining.world.feature import Hole, feature_id
from machining.world.library import Library
from machining.world.machine import Machine, SpindleNose, Table
from machining.world.material import CuttingData, Material
from machining.world.part import Requirement
from machining.world.settings import Settings
from machining.world.spindle import Spindle, SpindleRange
from machining.world.stock import Block, Round
from machining.world.stock.shaped import Shaped
from machining.world.stock.tube import Tube
from machining.world.tool import Holder, Tool
from machining.world.workholding import Vise

LIBRARY = seed()


def refused(model, known, **change) -> tuple[str, object, str]:
    with pytest.raises(ValidationError) as problem:
        model(**{**known.model_dump(), **change})
    return first_problem(problem.value)


HERON, ALUMINIUM = LIBRARY.machines["heron"], LIBRARY.materials["en-aw-6082"]
VISE, CHUCK = LIBRARY.vises["vise-125"], LIBRARY.holders["collet-chuck-12"]
SPINDLE, MAGAZINE, TABLE = HERON.spindles[0], HERON.carriers[0], HERON.places[0]
CURVE = SPINDLE.ranges[0].continuous


@pytest.mark.parametrize(
    ("model", "known", "change", "field", "words"),
    [
        (
            Table,
            TABLE,
            {"nose_to_table_min_mm": 700.0},
            "nose_to_table_min_mm",
            "must be under nose_to_table_max_mm, 620",
        ),
        (Spindle, SPINDLE, {"ranges": ()}, "ranges", "at least 1 item"),
        (Carrier, MAGAZINE, {"pockets": 0}, "pockets", "Pockets is 0: it must be at least 1"),
        (Spindle, SPINDLE, {"efficiency": 1.2}, "efficiency", "at most 1"),
        (
            Carrier,
            MAGAZINE,
            {"travel": {"x": 800, "y": -1, "z": 500}},
            "travel.y",
            "Y is -1: it must be at least 0",
        ),
        (Table, TABLE, {"pallets": 2}, "pallet_change_s", "must be over 0 with 2 pallets"),
        (
            Machine,
            HERON,
            {"carriers": (MAGAZINE.model_copy(update={"drives": "sub"}),)},
            "drives",
            "'sub' of magazine; it must be a spindle that turns the tool: main, or empty",
        ),
        (
            Machine,
            HERON,
            {"carriers": (MAGAZINE.model_copy(update={"drives": ""}),)},
            "drives",
            "over the table table a carrier must drive a spindle",
        ),
        (
            Machine,
            HERON,
            {"places": (SpindleNose(id="front", spindle="main", swing_mm=200.0),)},
            "spindle",
            "'main' of front; none of its spindles turns the work",
        ),
        (
            Machine,
            HERON,
            {"spindles": (SPINDLE, SPINDLE)},
            "id",
            "Id of spindles is 'main'; it must be used only once",
        ),
        (
            Machine,
            HERON,
            {"tram": [{"high_mm": 0.01, "towards": "up"}]},
            "tram.0.towards",
            "'x+', 'x-', 'y+' or 'y-'",
        ),
        (
            Tool,
            LIBRARY.tools["end-mill-12-z3"],
            {"neck_diameter_mm": 12.5},
            "neck_diameter_mm",
            "up to the cutting diameter, 12",
        ),
        (Machine, HERON, {"rapid_moves": "sideways"}, "rapid_moves", "'linear' or 'each-axis'"),
        (
            SpindleRange,
            SPINDLE.ranges[0],
            {"continuous": (CURVE[1], CURVE[0])},
            "continuous:",
            "rpm must rise from point to point",
        ),
        (
            SpindleRange,
            SPINDLE.ranges[0],
            {"continuous": CURVE[:1]},
            "continuous",
            "at least 2 items",
        ),
        (
            SpindleRange,
            SPINDLE.ranges[0],
            {"min_rpm": 20_000.0},
            "min_rpm",
            "must be under max_rpm, 12000",
        ),
        (Material, ALUMINIUM, {"mc": 1.0}, "mc", "under 1"),
        (Material, ALUMINIUM, {"kc11_n_mm2": 10.0}, "kc11_n_mm2", "over 50"),
        (Material, ALUMINIUM, {"iso_group": "Z"}, "iso_group", "'P', 'M', 'K', 'N', 'S' or 'H'"),
        (Material, ALUMINIUM, {"density_kg_dm3": float("inf")}, "density_kg_dm3", "finite number"),
        (
            CuttingData,
            ALUMINIUM.cutting_data[0],
            {"speed_start": 5000.0},
            "speed_start",
            "must lie from 300 to 1200",
        ),
        (Vise, VISE, {"friction": 0.0}, "friction", "over 0"),
        (Vise, VISE, {"parallels_mm": (18.0, -2.0)}, "parallels_mm.1", "at least 0.001"),
        (Holder, CHUCK, {"sections": ()}, "sections", "at least 1 item"),
        (Holder, CHUCK, {"key": "Not A Key"}, "key", "small letters, digits and -"),
        (Settings, Settings(), {"power_share": 1.5}, "power_share", "at most 1"),
        (Settings, Settings(), {"holding_factor": 0.5}, "holding_factor", "at least 1"),
        (Settings, Settings(), {"colour": "blue"}, "colour", "there is no such field"),
        (Block, Block(), {"x_low": {"over_mm": -0.1}}, "x_low.over_mm", "at least 0"),
        (Block, Block(), {"x_low": {"tolerance_mm": -1}}, "x_low.tolerance_mm", "at least 0"),
        (Round, Round(diameter_mm=20), {"diameter_mm": 0}, "diameter_mm", "at least 0.001"),
        (
            Tube,
            Tube(diameter_mm=30, bore_mm=20),
            {"bore_mm": 30},
            "bore_mm",
            "under the tube's Ø, 30",
        ),
        (Shaped, Shaped(geometry="a"), {"geometry": ""}, "geometry", "at least 1"),
        (
            Requirement,
            Requirement(id="a", what="w"),
            {"upper_mm": -1.0},
            "upper_mm",
            "at least lower_mm, 0",
        ),
    ],
)
def test_what_cannot_be_is_refused_with_field_and_reason(model, known, change, field, words):
    place, _, sentence = refused(model, known, **change)
    assert place == field
    assert words in sentence
    assert sentence.endswith(".")


def test_chips_scale_with_the_tool_but_a_face_mill_s_do_not():
    rough, face = ALUMINIUM.data_for("rough", "carbide"), ALUMINIUM.data_for("face", "carbide")
    assert rough is not None
    assert face is not None
    assert rough.chip_mm(10) == pytest.approx(0.10)
    assert rough.chip_mm(20) == pytest.approx(0.10 * 2**0.75)
    assert face.chip_mm(50) == pytest.approx(face.chip_at_10_mm)
    assert ALUMINIUM.data_for("tap", "carbide") is None


def test_every_material_has_data_for_every_tool_the_shop_holds():
    """A seeded shop answers every seeded operation: no 'cutting data missing' on the first day."""
    wanted = {
        ("face_mill", "face"),
        ("end_mill", "rough"),
        ("end_mill", "finish"),
        ("drill", "drill"),
        ("reamer", "ream"),
        ("tap", "tap"),
        ("chamfer_mill", "chamfer"),
        ("boring_head", "bore"),
    }
    for material in LIBRARY.materials.values():
        for kind, process in wanted:
            for tool in (t for t in LIBRARY.tools.values() if t.kind == kind):
                assert material.data_for(process, tool.material) is not None, (
                    material.key,
                    tool.key,
                    process,
                )


def test_bands_are_in_order_and_steel_is_slower_than_aluminium():
    for material in LIBRARY.materials.values():
        for row in material.cutting_data:
            assert row.speed_low <= row.speed_start <= row.speed_high
            assert row.source
    steel, soft = (
        LIBRARY.materials["c45"].data_for("rough", "carbide"),
        ALUMINIUM.data_for("rough", "carbide"),
    )
    assert steel is not None
    assert soft is not None
    assert steel.speed_start < soft.speed_start


def test_assemblies_stand_on_tools_and_holders_that_exist():
    for assembly in LIBRARY.assemblies.values():
        tool, holder = LIBRARY.tools[assembly.tool], LIBRARY.holders[assembly.holder]
        assert assembly.stick_out_mm <= tool.overall_length_mm - holder.grip_depth_mm + 1e-9, (
            assembly.key
        )
        if tool.kind not in ("face_mill", "boring_head"):
            assert assembly.stick_out_mm >= tool.overall_length_mm - holder.deepest_mm - 1e-9, (
                assembly.key
            )


def test_curves_give_power_and_torque_that_agree():
    """P = 2π·n·M/60 000 at every point of the demo machines' curves, within their rounding."""
    for machine in LIBRARY.machines.values():
        ranges = [each for spindle in machine.spindles for each in spindle.ranges]
        for each in ranges:
            for point in (*each.continuous, *each.short_time):
                assert point.power_kw == pytest.approx(
                    2 * 3.14159265 * point.rpm * point.torque_nm / 60_000, rel=0.01, abs=0.01
                )
        assert all(each.min_rpm < each.max_rpm for each in machine.spindles)


def test_a_library_is_its_content():
    assert seed().key == LIBRARY.key
    other = Library(
        **{
            **{
                name: getattr(LIBRARY, name)
                for name in ("materials", "tools", "holders", "assemblies", "machines", "holdings")
            },
            "settings": Settings(wear_factor=1.4),
        }
    )
    assert other.key != LIBRARY.key
    assert LIBRARY.get("holdings", "vise-125") is VISE
    with pytest.raises(Missing, match="'vise-9' doesn't exist"):
        LIBRARY.get("holdings", "vise-9")


def test_feature_ids_follow_from_the_geometry():
    here = feature_id("hole", "+z", (1.0, 2.0, 0.0), 6.8)
    assert feature_id("hole", "+z", (1.0, 2.0, -0.0), 6.8) == here
    assert feature_id("hole", "+z", (1.0000001, 2.0, 0.0), 6.8) == here
    assert feature_id("hole", "+z", (1.01, 2.0, 0.0), 6.8) != here
    assert feature_id("hole", "-z", (1.0, 2.0, 0.0), 6.8) != here


def test_records_are_frozen():
    hole = Hole(id="h", point=(0, 0, 0), axis="+z", diameter_mm=6, length_mm=10, through=True)
    with pytest.raises(ValidationError, match="frozen"):
        hole.diameter_mm = 7.0  # type: ignore[misc]


def test_a_tolerance_band_is_its_width():
    assert Requirement(id="a", what="w", upper_mm=0.03, lower_mm=-0.01).band_mm == pytest.approx(
        0.04
    )


def test_every_setting_stands_under_one_heading():
    grouped = [name for group in Settings.model_json_schema()["groups"] for name in group["fields"]]
    assert sorted(grouped) == sorted(Settings.model_fields)
