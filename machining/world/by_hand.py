"""What a shop counts for work by hand: parts put in, setups built, what happens while a batch runs,
and how far such times may be off.
"""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from .record import Factor, LengthOrZero, Mass, Money, Record, SecondsOrZero, Spread

BY_HAND: dict[str, tuple[str, ...]] = {
    "Putting parts in": (
        "door_s",
        "handle_s",
        "hoist_s",
        "seat_s",
        "vise_s",
        "chuck_s",
        "clamp_s",
        "vacuum_s",
        "stuck_s",
        "bar_s",
        "load_unload_s",
        "bar_end_mm",
        "lift_kg",
    ),
    "Building a setup": (
        "setup_s",
        "vise_set_s",
        "jaws_set_s",
        "soft_jaws_s",
        "base_set_s",
        "set_more_s",
        "zero_s",
        "tool_s",
        "prove_out_factor",
    ),
    "While a batch runs": (
        "stop_s",
        "clamp_stop",
        "gauge_s",
        "gauge_every",
        "edge_s",
        "deburr_s",
        "last_load",
        "people",
        "shift_hours",
        "person_hour",
        "saw_kerf_mm",
        "remnant_share",
        "restart_min",
    ),
    "How far a time may be off": (
        "spread_machine",
        "spread_timed",
        "spread_hand",
        "spread_before",
    ),
}


class TimesByHand(Record):
    """Seconds are those of one person who knows the work."""

    door_s: SecondsOrZero = Field(
        15.0,
        description="opening the door, chips off what is in the machine, closing it: once a load",
    )
    handle_s: SecondsOrZero = Field(
        10.0, description="taking a finished part out and setting the next one in its place"
    )
    hoist_s: SecondsOrZero = Field(
        150.0,
        description="the same with a hoist, or by two people, over what one person lifts",
    )
    seat_s: SecondsOrZero = Field(
        10.0, description="wiping the seats of one part clean, so that no chip lies under it"
    )
    vise_s: SecondsOrZero = Field(
        20.0, description="opening and closing a vise, the part knocked down on its parallels"
    )
    chuck_s: SecondsOrZero = Field(
        8.0, description="opening and closing a chuck, collet, mandrel or tailstock"
    )
    vacuum_s: SecondsOrZero = Field(
        10.0, description="letting air into a vacuum plate, and drawing it again"
    )
    stuck_s: SecondsOrZero = Field(
        240.0, description="sticking a part down, and taking it off again"
    )
    bar_s: SecondsOrZero = Field(120.0, description="putting a new bar into the feeder")
    load_unload_s: SecondsOrZero | None = Field(
        None,
        description="one time for every part put in and taken out, whatever holds it; empty: of the"
        " above",
    )
    zero_s: SecondsOrZero = Field(
        60.0, description="finding one zero by hand, when a setup is built or on every part"
    )
    stop_s: SecondsOrZero = Field(
        30.0, description="a programmed stop that says no time of its own: to look, to clear chips"
    )
    clamp_s: SecondsOrZero = Field(
        20.0, description="putting on or taking off one clamp at a stop, chips away from under it"
    )
    clamp_stop: Literal["stop", "prompt"] = Field(
        "stop",
        description="what the machine stops with to change clamps: its own stop, or a tool that is"
        " asked for by hand",
    )
    setup_s: SecondsOrZero = Field(
        900.0, description="papers, programme, the machine cleared for a setup: whatever it is"
    )
    vise_set_s: SecondsOrZero = Field(
        600.0, description="setting one vise on a table, and indicating it"
    )
    jaws_set_s: SecondsOrZero = Field(
        600.0, description="changing the jaws of a chuck, or what else a spindle carries"
    )
    soft_jaws_s: SecondsOrZero = Field(
        1800.0, description="cutting one pair or set of soft jaws to the part"
    )
    base_set_s: SecondsOrZero = Field(
        900.0, description="bolting down one plate or fixture, and indicating it"
    )
    set_more_s: SecondsOrZero = Field(
        240.0, description="setting each further vise or plate of a load to the first"
    )
    gauge_s: SecondsOrZero = Field(
        20.0, description="measuring one size of a part that the drawing gives a tolerance"
    )
    gauge_every: int = Field(
        10,
        ge=1,
        le=1_000_000,
        description="each so many parts one is measured, where the drawing's size says nothing",
    )
    edge_s: SecondsOrZero = Field(
        180.0, description="turning or changing a worn edge, and measuring it again"
    )
    deburr_s: SecondsOrZero = Field(
        60.0, description="breaking one metre of edges by hand at the bench, beside the machine"
    )
    last_load: Literal["whole", "filled"] = Field(
        "whole",
        description="does the last load, where it is not full, run its whole programme, or only"
        " that of the places that are filled",
    )
    people: int = Field(
        1, ge=1, le=50, description="how many people attend to machines that run at the same time"
    )
    spread_machine: Spread = Field(
        0.12, description="a machine's times, worked out from its maker's values or usual ones"
    )
    spread_timed: Spread = Field(
        0.04, description="a machine's times, where it was timed by the watch"
    )
    spread_hand: Spread = Field(0.25, description="what is done by hand on every part")
    spread_before: Spread = Field(
        0.35, description="what is built and proven before the first part"
    )
    shift_hours: float = Field(
        8.0, gt=0, le=24, description="hours a machine runs on a working day"
    )
    person_hour: Money = Field(0.0, description="what somebody who attends asks an hour")
    saw_kerf_mm: LengthOrZero = Field(
        1.5, description="what the saw takes between a blank and the next"
    )
    remnant_share: float = Field(
        0.5, ge=0, le=1, description="what a remnant counts for: a share of its material's price"
    )
    tool_s: SecondsOrZero = Field(120.0, description="putting in and measuring one tool")
    prove_out_factor: float = Field(
        3.0, ge=1, le=100, description="how many times its cycle the first run of a setup takes"
    )
    restart_min: Factor = Field(
        20.0,
        description="minutes a cut may run with no place to start it again from",
    )
    bar_end_mm: LengthOrZero = Field(
        120.0, description="what of a bar is left in the chuck and too short for a part"
    )
    lift_kg: Mass = Field(
        20.0, description="what one person lifts into a machine, by the shop's own rules"
    )
