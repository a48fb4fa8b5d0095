"""The way of the part from station to station, as setups and stations come and go."""

from __future__ import annotations

from .document import BLANK, Setup, Station
from .outside import OutsideStep

Setups = tuple[Setup, ...]


def in_their_order(setups: Setups) -> Setups:
    """Where each setup has one station, the part goes through them in their order."""
    if any(len(each.stations) > 1 for each in setups):
        return setups
    before = (BLANK, *(each.stations[0].id for each in setups))
    return tuple(
        _with_stations(setup, (_taking(setup.stations[0], takes),))
        for setup, takes in zip(setups, before, strict=False)
    )


def on_the_way(setups: Setups, new: Station) -> Setups:
    """Setups with a station that came in: what took what it takes gets the part from it."""
    if new.takes == BLANK:
        return setups
    return _instead(setups, new.takes, new.id, but=new.id)


def past(setups: Setups, gone: Station) -> Setups:
    """Setups without a station: what took from it takes what that took."""
    return _instead(setups, gone.id, gone.takes)


def still_done(steps: tuple[OutsideStep, ...], gone: Station) -> tuple[OutsideStep, ...]:
    """What is done elsewhere after a station that went is done after what that took."""
    return tuple(
        each.model_copy(update={"after": gone.takes}) if each.after == gone.id else each
        for each in steps
    )


def _instead(setups: Setups, takes: str, instead: str, but: str = "") -> Setups:
    return tuple(
        _with_stations(
            setup,
            tuple(
                _taking(each, instead) if each.takes == takes and each.id != but else each
                for each in setup.stations
            ),
        )
        for setup in setups
    )


def _taking(station: Station, takes: str) -> Station:
    return station if station.takes == takes else station.model_copy(update={"takes": takes})


def _with_stations(setup: Setup, stations: tuple[Station, ...]) -> Setup:
    same = stations == setup.stations
    return setup if same else setup.model_copy(update={"stations": stations})
