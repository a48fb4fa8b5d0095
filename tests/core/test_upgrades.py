"""Plans of earlier formats: one stored sample of each is read, and says what it said when it was
written.
"""

from __future__ import annotations

import json
from copy import deepcopy
from pathlib import Path

import pytest

from machining.exchange.plan_json import read, write
from machining.plan.document import Plan
from machining.plan.upgrades import FORMAT, STEPS, up_to_date
from machining.world.machine import Machine, SpindleNose
from machining.world.settings import Settings
from machining.world.upgrades import format_of, item_up_to_date

from . import build, lathe
from .build import LIBRARY, good

FORMATS = Path(__file__).parent.parent / "formats"
SAMPLES = sorted(FORMATS.glob("plan-*.json"))


def stored(name: str) -> dict:
    return json.loads((FORMATS / name).read_text())


def test_there_is_a_sample_of_every_format():
    assert {stored(path.name)["format"] for path in SAMPLES} == set(STEPS)
    assert Plan().format == FORMAT


@pytest.mark.parametrize("path", SAMPLES, ids=lambda path: path.stem)
def test_every_sample_is_read_and_the_step_changes_nothing_it_is_given(path):
    raw = stored(path.name)
    before = deepcopy(raw)
    assert Plan.model_validate(up_to_date(raw)).format == FORMAT
    assert raw == before
    today = json.loads(Plan.model_validate(up_to_date(raw)).model_dump_json())
    assert up_to_date(today) == today


def test_an_old_reason_keeps_what_was_silenced_and_no_more():
    """When it was written, this plan had nothing to look at: speed-band and peck were silent for
    any words, tap-risk for a stop.
    """
    plan = Plan.model_validate(up_to_date(stored("plan-1.json")))
    found = {
        (f.id, f.operation): f.kept for f in build.answer(plan).findings if f.severity == "look"
    }
    # and 0.2 was said where 0.3 stands, and a stop says too little, which nobody looked at then
    assert found == {
        ("cut.speed-band", "rough"): "proven on this part since spring",
        ("cut.more-than-planned", "outside"): "",
        ("sheet.prompt-bare", "drill"): "",
    }
    ops = {op.id: op for op in plan.setups[0].operations}
    assert ops["drill"].reason == "coolant hole is on the left"
    assert dict(ops["drill"].kept)["cut.peck"] == "coolant hole is on the left"
    assert dict(ops["tap"].kept) == {"cut.tap-risk": "Look down every thread."}
    assert ops["face"].kept == ()
    assert (ops["rough"].coolant, ops["rough"].reason) == (
        "flood",
        "proven on this part since spring Coolant: through the tool, 40 bar.",
    )
    assert dict(plan.setups[0].kept) == {"cut.range-change": "gauge the first three"}


def test_no_old_reason_turns_a_stop_into_ready():
    """The thread cut with the tool's back was 'ready' once somebody had written 'gauge the first
    three'.
    """
    seen = lathe.answer(Plan.model_validate(up_to_date(stored("plan-1-turned.json"))))
    assert [
        f.message
        for f in seen.findings
        if f.id == "cut.thread" and f.severity == "stop" and "backwards" in f.message
    ]
    assert not seen.ready


@pytest.mark.parametrize(
    "raw",
    [
        None,
        7,
        [],
        {"format": 99},
        {"setups": 7},
        {"setups": [3, {"operations": [None, {"kind": "tap", "stop_after": 4, "reason": []}]}]},
    ],
)
def test_what_is_no_plan_passes_through_to_the_model_that_refuses_it(raw):
    with pytest.raises(ValueError):
        Plan.model_validate(up_to_date(raw))


ARMS = ("arms_apart_mm", "arms_wide_mm", "arms_deep_mm", "arms_over_mm")


def unsaid(axes, *fields):
    return tuple(each.model_copy(update=dict.fromkeys(fields, 0.0)) for each in axes)


def before_arms(key: str) -> Machine:
    """The seed's, as nobody had said yet where the arms of a tilting table stand, nor read how
    square X and Y are, nor timed a probe.
    """
    axes = getattr(build.LIBRARY.machines[key].places[0], "rotaries", ())
    rests = RESTS if key == "plover" else {}
    fields = {"rotaries": unsaid(axes, *ARMS), **rests}
    library = build.with_part(key, "places", **fields)
    machine = build.with_part(key, "carriers", library, probe_touch_s=0.0).machines[key]
    return machine.model_copy(update={"square": ()})


RESTS = {  # that nobody had said Plover has
    **dict.fromkeys(("tailstock_n", "steady_from_mm", "steady_to_mm")),
    "centre_mm": SpindleNose.model_fields["centre_mm"].default,
}


def known(key: str) -> Machine:
    """The seed's, as it was: Curlew's table could not turn, Plover fed no bar, and nobody had
    measured where Heron's table is, or said where a column stands or how wide a head is, or what a
    touch of a probe takes.
    """
    fields = {
        "curlew": {
            "rotaries": (),
            "surface_below_mm": None,
            "tombstones": (),
            **dict.fromkeys(("middle_x_mm", "middle_y_mm", "top_z_mm")),
        },
        "plover": {"bar_feed_s": 0.0, "longest_bar_mm": 0.0, **RESTS},
        "heron": {**dict.fromkeys(("middle_x_mm", "middle_y_mm", "top_z_mm")), "plates": ()},
    }
    axes = build.LIBRARY.machines[key].places[0].rotaries
    if axes and key != "curlew":
        fields[key] = {**fields.get(key, {}), "rotaries": unsaid(axes, "swing_mm", *ARMS)}
    library = build.with_part(key, "places", **fields.get(key, {}))
    machine = build.with_part(key, "carriers", library, probe_touch_s=0.0).machines[key]
    spindles = tuple(each.model_copy(update={"nose": ()}) for each in machine.spindles)
    newer = {"offset_block": "", "obstacles": (), "spindles": spindles, "square": ()}
    if key == "curlew":
        newer["work_offsets"] = Machine.model_fields["work_offsets"].default
    return machine.model_copy(update=newer)


def test_machines_of_format_2_are_what_they_were():
    """Written when a machine was one record of everything; the seed has the same in parts."""
    for key, raw in stored("machines-2.json").items():
        before = deepcopy(raw)
        now = Machine.model_validate(item_up_to_date("machines", 2, raw))
        assert raw == before
        assert now == known(key)
        today = now.model_dump(mode="json")
        assert item_up_to_date("machines", format_of("machines"), today) == today


def test_machines_of_format_3_say_how_they_lean_in_figures():
    """Dunlin's sentence is read as what it says; one that can't be is kept with the source."""
    for key, raw in stored("machines-3.json").items():
        before = deepcopy(raw)
        now = Machine.model_validate(item_up_to_date("machines", 3, raw))
        assert raw == before
        assert now == before_arms(key)
    raw = {**stored("machines-3.json")["dunlin"], "tram_note": "nods a little"}
    now = Machine.model_validate(item_up_to_date("machines", 3, raw))
    assert now.tram == ()
    assert now.source.endswith("Its spindle nods a little. Faces ran towards x+.")


def test_a_5_axis_mill_whose_axes_nobody_gave_says_so():
    raw = {**stored("machines-2.json")["petrel"], "rotary": None}
    now = Machine.model_validate(item_up_to_date("machines", 2, raw))
    assert now.places[0].rotaries == () and "nobody gave its rotary axes" in now.source


@pytest.mark.parametrize(
    ("stated", "now"),
    [
        ({"load_unload_s": 60.0, "setup_s": 1800.0}, Settings()),  # nobody had changed them
        ({"load_unload_s": 45.0}, Settings(load_unload_s=45.0)),
        (
            {"setup_s": 2400.0, "zero_s": 30.0},
            Settings(
                setup_s=2400.0,
                zero_s=30.0,
                vise_set_s=0.0,
                jaws_set_s=0.0,
                soft_jaws_s=0.0,
                base_set_s=0.0,
                set_more_s=0.0,
            ),
        ),
    ],
)
def test_what_a_shop_had_stated_for_loading_and_building_stays_all_it_counts(stated, now):
    before = dict(stated)
    assert Settings.model_validate(item_up_to_date("settings", 1, stated)) == now
    assert stated == before


def test_a_file_s_settings_are_brought_up_to_date_too():
    raw = json.loads(write(good(), LIBRARY))
    assert raw["formats"]["settings"] == format_of("settings")
    old = {**raw, "formats": {**raw["formats"], "settings": 1}}
    old["settings"] = {"setup_s": 1800.0, "load_unload_s": 60.0, "gauge_s": 25.0}
    assert read(json.dumps(old).encode())[1].settings == Settings(gauge_s=25.0)
    assert read(json.dumps(raw).encode())[1].settings == LIBRARY.settings
