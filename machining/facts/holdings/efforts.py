"""What hands do to each kind of holding: to close and open it on a part, and to set it up."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from machining.plan.clamped import Clamped
from machining.plan.clamps_on import after, clamped_on
from machining.plan.holding import BetweenCentres, InChuck, InCollet
from machining.plan.in_vise import Holding
from machining.plan.pulled import Pulled
from machining.world.gear import Gear
from machining.world.workholding import Chuck, Puller, Vise

from ..context import StationFacts


@dataclass(frozen=True, slots=True)
class Effort:
    """So many ``times`` what the shop's ``setting`` counts (s), of what; ``cut_for_it`` is done
    for one part, and never there from the setup before.
    """

    setting: str
    times: float = 1.0
    of: str = ""
    cut_for_it: bool = False


def vise_closed(station: StationFacts, held: Holding, vise: Vise) -> Effort:
    return Effort("vise_s", _vises(held), "vises it lies in")


def vise_set(held: Holding, vise: Vise) -> Iterator[Effort]:
    yield Effort("vise_set_s", _vises(held), "vises")
    if held.profile_mm > 0.0:
        yield Effort("soft_jaws_s", _vises(held), "pairs of soft jaws", cut_for_it=True)


def _vises(held: Holding) -> float:
    return 1.0 if held.second_mm is None else 2.0


def chuck_closed(station: StationFacts, held: InChuck | InCollet, item: object) -> Effort:
    more = held.tailstock_n is not None
    return Effort("chuck_s", 2.0 if more else 1.0, "chuck and tailstock" if more else "chuck")


def mandrel_closed(station: StationFacts, held: object, item: object) -> Effort:
    return Effort("chuck_s", 1.0, "mandrel")


def centres_closed(station: StationFacts, held: BetweenCentres, item: object) -> Effort:
    return Effort("chuck_s", 2.0, "driver and tailstock")


def jaws_set(held: InChuck, chuck: Chuck) -> Iterator[Effort]:
    yield Effort("jaws_set_s", 1.0, "set of jaws")
    if chuck.jaw_kind == "soft" and held.bored_mm is not None:
        yield Effort("soft_jaws_s", 1.0, "set of soft jaws", cut_for_it=True)


def nose_set(held: object, item: object) -> Iterator[Effort]:
    yield Effort("jaws_set_s", 1.0, "change of what the spindle carries")


def clamps_closed(station: StationFacts, held: Clamped, gear: Gear) -> Effort:
    """Those that are on at the start are put on, those at the end taken off."""
    ids = [each.id for each in held.clamps]
    on = clamped_on(held, station.work)
    if not on:
        return Effort("clamp_s", 2.0 * len(ids), "clamps, put on and taken off")
    last = station.work[-1]
    many = len(on[""]) + len(after(last, on[last.id], ids))
    return Effort("clamp_s", float(many), "clamps put on at the start and taken off at the end")


def base_set(held: Clamped, gear: Gear) -> Iterator[Effort]:
    yield Effort("base_set_s", 1.0, "plate or fixture")
    if held.vise is not None:
        yield Effort("vise_set_s", _vises(held.vise), "vises under it")


def pulled_down(station: StationFacts, held: Pulled, puller: Puller) -> Effort:
    if puller.by == "vacuum":
        return Effort("vacuum_s", 1.0, "plate")
    return Effort("stuck_s", 1.0, "part stuck down and taken off again")


def puller_set(held: Pulled, puller: Puller) -> Iterator[Effort]:
    yield Effort("base_set_s", 1.0, "plate that pulls")
