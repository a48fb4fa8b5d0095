"""Force and friction tried off the planned ones: every cut is stood as if they were planned."""

from __future__ import annotations

from dataclasses import replace

import pytest

from machining.ask.holds import hold
from machining.facts.route import walk
from machining.quantities.errors import OutOfRange

from . import lathe
from .build import LIBRARY, MEMO, changed, good


def factors(of, library=LIBRARY, memo=MEMO, **tried):
    station = walk(of, library, memo).stations[0].id
    told = hold(of, library, memo, station=station, **tried)
    return {each["id"]: each["factor"] for each in told["operations"]}


def with_friction(share):
    """The library with its vises so much smoother."""
    vises = {
        key: each.model_copy(update={"friction": share * each.friction})
        for key, each in LIBRARY.vises.items()
    }
    return replace(LIBRARY, holdings={**LIBRARY.holdings, **vises})


@pytest.mark.parametrize("force", [0.5, 0.8, 1.3])
def test_with_another_force_it_is_as_if_that_were_planned(force):
    torque = good().station("st1").in_vise.torque_nm
    planned = factors(changed(good(), "station:st1", holding__torque_nm=force * torque))
    tried = factors(good(), force=force)
    for id, factor in planned.items():
        assert tried[id] == pytest.approx(factor, rel=1e-6)


def test_with_another_friction_it_is_as_if_the_library_said_so():
    planned = factors(good(), with_friction(0.7))
    tried = factors(good(), friction=0.7)
    for id, factor in planned.items():
        assert tried[id] == pytest.approx(factor, rel=1e-6)


def test_what_speed_takes_of_a_chuck_it_still_takes():
    of = lathe.plan(*lathe.GOOD)
    force = of.station("st1").in_chuck.force_per_jaw_n
    planned = factors(
        changed(of, "station:st1", holding__force_per_jaw_n=0.8 * force),
        lathe.LIBRARY,
        lathe.MEMO,
    )
    tried = factors(of, lathe.LIBRARY, lathe.MEMO, force=0.8)
    for id, factor in planned.items():
        assert tried[id] == pytest.approx(factor, rel=1e-3)


def test_as_planned_it_is_what_the_plan_says():
    facts = walk(good(), LIBRARY, MEMO)
    for op in facts.stations[0].operations:
        assert factors(good())[op.id] == op.value("holding")


def test_the_least_torque_is_told_for_the_friction_that_is_tried():
    station = walk(good(), LIBRARY, MEMO).stations[0].id
    plain, smooth = (
        hold(good(), LIBRARY, MEMO, station=station, friction=each)["operations"]
        for each in (1.0, 0.7)
    )
    for before, after in zip(plain, smooth, strict=True):
        if before["scale"]:
            assert after["scale"] is None or after["scale"] > before["scale"]


@pytest.mark.parametrize("wrong", [{"force": 0.0}, {"friction": 9.0}])
def test_shares_that_mean_nothing_are_refused(wrong):
    station = walk(good(), LIBRARY, MEMO).stations[0].id
    with pytest.raises(OutOfRange, match=next(iter(wrong))):
        hold(good(), LIBRARY, MEMO, station=station, **wrong)
