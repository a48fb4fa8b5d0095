"""What a shop decides once: margins, factors and limits. Every default names its reason."""

from __future__ import annotations

from math import floor, log, log10
from typing import ClassVar, Literal

from pydantic import ConfigDict, Field

from machining.quantities.units import INCH_MM

from .by_hand import BY_HAND, TimesByHand
from .record import (
    Factor,
    Length,
    LengthOrZero,
    Line,
    Name,
    NoneOrKey,
    SecondsOrZero,
    Share,
    Step,
)

DateLanguage = Literal[
    "", "en-gb", "en", "de", "fr", "it", "es", "pt", "nl", "sv", "da", "fi", "pl", "cs"
]


GROUPS: dict[str, tuple[str, ...]] = {
    "On every sheet": ("shop_name", "address", "units", "paper", "date_language"),
    "How a plan starts": (
        "first_machine",
        "usual_side_mm",
        "usual_top_mm",
        "usual_bottom_mm",
        "usual_saw_mm",
        "clean_up_mm",
        "usual_rolled_mm",
        "usual_drawn_mm",
        "usual_bar_mm",
        "general_tolerance_mm",
        "edges",
    ),
    "Room and grip": (
        "side_margin_mm",
        "below_margin_mm",
        "jaw_margin_mm",
        "between_mm",
        "sine_bar_mm",
        "grip_least_mm",
        "grip_share",
        "fine_finish_um",
        "travel_least_mm",
        "opens_least_mm",
        "holding_factor",
        "first_run_factor",
        "grab_factor",
    ),
    "What a cut may use": (
        "wear_factor",
        "power_share",
        "short_peak_s",
        "plunge_share",
        "peck_from",
        "speed_step_rpm",
        "feed_step_mm_min",
    ),
    "Size and stiffness": (
        "push_off_share",
        "rough_push_off_share",
        "close_band_mm",
        "slender_limit",
        "wall_ratio",
        "wall_bends_mm",
        "stick_out_spare_mm",
        "face_step_mm",
    ),
    "How true a place is found": (
        "edge_finder_mm",
        "probe_mm",
        "indicator_mm",
        "touch_off_mm",
        "known_mm",
        "raw_side_mm",
        "jaw_again_mm",
        "seat_again_mm",
        "tool_length_mm",
        "tool_radius_mm",
        "index_mm",
        "block_deg",
        "sine_deg",
        "jaws_deg",
        "sine_plate_mm",
        "sine_plate_high_mm",
        "vise_deg",
        "centre_days",
    ),
    "Moves and time": (
        "first_clearance_mm",
        "retract_mm",
        "link_share",
        "reached_share",
        "settle_s",
    ),
    **BY_HAND,
    "Release": ("approver_may_be_editor",),
}


class Settings(TimesByHand):
    """``RULES`` are what an administrator alone changes, ``ASKED`` what a new shop is asked for
    first.
    """

    model_config = ConfigDict(
        json_schema_extra={
            "groups": [
                {"heading": heading, "fields": list(names)} for heading, names in GROUPS.items()
            ]
        }
    )

    ASKED: ClassVar[tuple[str, ...]] = (
        "shop_name",
        "units",
        "paper",
        "first_machine",
        "date_language",
    )

    RULES: ClassVar[frozenset[str]] = frozenset({"approver_may_be_editor"})

    shop_name: Name = Field("", description="as it stands on every sheet")
    address: Line = Field("", description="a line under the shop's name on every sheet")
    units: Literal["", "metric", "inch"] = Field(
        "", description="the system sheets are printed in, and a new browser starts with"
    )
    paper: Literal["", "A4", "Letter"] = Field(
        "", description="paper the sheets are drawn for with a release"
    )
    first_machine: NoneOrKey = Field(
        "",
        description=(
            "the machine a first setup starts on, where the part fits it; empty: the first that"
            " fits"
        ),
    )
    date_language: DateLanguage = Field(
        "", description="the language dates are written in on sheets"
    )
    side_margin_mm: Length = Field(3.0, description="room beside a holder")
    below_margin_mm: Length = Field(2.0, description="room below a holder")
    jaw_margin_mm: Length = Field(1.0, description="room between a cutting edge and a jaw")
    grip_least_mm: Length = Field(5.0, description="least depth of grip in a vise")
    grip_share: Share = Field(
        0.12, description="least grip as a share of the height above the jaws"
    )
    fine_finish_um: float = Field(
        4.0,
        ge=0.0,
        le=1_000,
        description="largest height of a drawn roughness that bare steel is kept off",
    )
    travel_least_mm: LengthOrZero = Field(
        1.0, description="what the jaws of a chuck keep of their travel when they are closed"
    )
    opens_least_mm: LengthOrZero = Field(
        0.5, description="how far they open beside what is put in, at least"
    )
    holding_factor: float = Field(
        2.0, ge=1, le=20, description="how many times the cutting force a holding must stand"
    )
    first_run_factor: float = Field(
        2.5,
        ge=1,
        le=20,
        description="the same of what is built for a part, until it has held one",
    )
    grab_factor: float = Field(
        2.5, ge=1, le=20, description="the same under a tool that may grab: buried teeth, a blade"
    )
    wear_factor: float = Field(
        1.3, ge=1, le=20, description="cutting force of a worn edge over a new one"
    )
    power_share: Share = Field(0.85, description="share of the continuous power a cut may use")
    short_peak_s: SecondsOrZero = Field(
        0.0, description="a cut up to this long may use the spindle's short-time curve; 0: none may"
    )
    plunge_share: Share = Field(
        0.3, description="feed straight down over feed sideways, for a milling cutter"
    )
    stick_out_spare_mm: Length = Field(
        15.0, description="stick-out over what is needed that is worth a look"
    )
    push_off_share: Share = Field(0.33, description="share of a tolerance that push-off may take")
    slender_limit: Factor = Field(
        5.0, description="stick-out over diameter of a milling cutter that is worth a look"
    )
    wall_ratio: Factor = Field(
        5.0,
        description="how far a wall or bar stands from what carries it, over its thickness, from"
        " which it counts as slender",
    )
    wall_bends_mm: Length = Field(
        0.02, description="how far a cut may bend a slender wall; twice as slender is always told"
    )
    close_band_mm: Length = Field(
        0.03, description="tolerance band that a roughing tool should not finish"
    )
    peck_from: Factor = Field(
        4.0, description="depth over diameter from which a drill pecks, in what is no light metal"
    )
    rough_push_off_share: Share = Field(
        0.5,
        description="share of what is left for finishing that push-off may take in a roughing cut",
    )
    edge_finder_mm: Length = Field(0.01, description="how closely an edge finder finds a side")
    probe_mm: Length = Field(0.005, description="how closely a probe finds a place")
    indicator_mm: Length = Field(
        0.005, description="how closely an indicator finds the axis of a hole, or a face"
    )
    touch_off_mm: Length = Field(0.02, description="how closely a tool touched off finds a face")
    known_mm: Length = Field(
        0.01, description="how closely a place that nobody picks up stands where it is known to"
    )
    raw_side_mm: LengthOrZero = Field(
        0.1, description="how uneven a sawn or cast side is that a part lies on or is found by"
    )
    jaw_again_mm: LengthOrZero = Field(
        0.015, description="how closely the next part comes against the same jaw or stop"
    )
    seat_again_mm: LengthOrZero = Field(
        0.01, description="how closely the next part comes down on the same seat"
    )
    tool_length_mm: LengthOrZero = Field(
        0.01, description="how closely the length of a tool is known"
    )
    tool_radius_mm: LengthOrZero = Field(
        0.01, description="how closely the radius of a tool is known where it cuts"
    )
    index_mm: LengthOrZero = Field(
        0.01, description="how closely a place stands once a table or a head has turned"
    )
    sine_bar_mm: Length = Field(100.0, description="how far apart the rolls of a sine bar are")
    block_deg: float = Field(
        0.03, ge=0, le=5, description="how closely an angle block sets an angle, degrees"
    )
    sine_deg: float = Field(
        0.005, ge=0, le=5, description="how closely a sine bar sets an angle, degrees"
    )
    jaws_deg: float = Field(
        0.01, ge=0, le=5, description="how closely soft jaws are cut at an angle, degrees"
    )
    sine_plate_mm: Length = Field(
        250.0, description="how far apart the rolls of a sine plate are, under a vise"
    )
    sine_plate_high_mm: Length = Field(
        90.0, description="how high its top stands over the table, laid flat"
    )
    vise_deg: float = Field(
        0.005, ge=0, le=5, description="how closely a sine plate sets an angle, degrees"
    )
    centre_days: int = Field(
        180, ge=1, le=3650, description="a centre of rotation is measured again after this, days"
    )
    face_step_mm: LengthOrZero = Field(
        0.003, description="what may stand between the passes of a face"
    )
    speed_step_rpm: Step = Field(10.0, description="spindle speeds are offered in steps of this")
    feed_step_mm_min: Step = Field(10.0, description="feeds are offered in steps of this")
    link_share: Share = Field(
        1.0, description="share of the machine's largest feed for links past the work"
    )
    reached_share: Share = Field(
        0.6,
        description="feed reached on average, over the one asked, under which it is worth a look",
    )
    general_tolerance_mm: Length = Field(
        0.1, description="tolerance of sizes the drawing gives none for, each way"
    )
    edges: Literal["hand", "machine", "leave", "ask"] = Field(
        "hand",
        description="what becomes of edges that no operation breaks, where the part does not say",
    )
    first_clearance_mm: Length = Field(
        2.0, description="height above the work where feeding starts"
    )
    retract_mm: Length = Field(25.0, description="height above the work for moves across it")
    settle_s: SecondsOrZero = Field(0.03, description="wait of an exact stop")
    usual_side_mm: LengthOrZero = Field(
        3.0, description="what a sawn blank stands over the part on each side"
    )
    usual_top_mm: LengthOrZero = Field(2.0, description="what it stands over on top")
    usual_bottom_mm: LengthOrZero = Field(
        8.0, description="what it stands over below, for the first setup to grip"
    )
    clean_up_mm: LengthOrZero = Field(
        0.3, description="least that stands on a sawn or rolled side for it to clean up"
    )
    usual_saw_mm: LengthOrZero = Field(
        1.0, description="how much longer than ordered the saw may leave it"
    )
    between_mm: LengthOrZero = Field(
        15.0, description="left between two parts, with what holds them, of one load"
    )
    usual_rolled_mm: LengthOrZero = Field(
        0.3, description="how much more may stand on a rolled face of plate"
    )
    usual_drawn_mm: LengthOrZero = Field(
        0.0, description="how much thicker than its size a bar may be; drawn bar is never over"
    )
    usual_bar_mm: LengthOrZero = Field(
        2.0, description="how much thicker a bar is taken than the part it is turned to"
    )
    approver_may_be_editor: bool = Field(
        False, description="may the last editor of a plan also release it"
    )

    def feed_step(self, units: str = "") -> float:
        """The step feeds are offered in (mm/min): where a plan or the shop is in inches, the 1, 2
        or 5 of inches a minute that is nearest.
        """
        if (units or self.units) != "inch":
            return self.feed_step_mm_min
        wanted = self.feed_step_mm_min / INCH_MM
        tens = 10.0 ** floor(log10(wanted))
        return INCH_MM * min(
            (tens * each for each in (1.0, 2.0, 5.0, 10.0)),
            key=lambda each: abs(log(each / wanted)),
        )
