"""What a shop decides once: margins, factors and limits. Every default names its reason."""

from __future__ import annotations

from pydantic import Field

from .record import NotNegative, Positive, Record, Share


class Settings(Record):
    side_margin_mm: Positive = Field(3.0, description="room beside a holder")
    below_margin_mm: Positive = Field(2.0, description="room below a holder")
    jaw_margin_mm: Positive = Field(1.0, description="room between a cutting edge and a jaw")
    grip_least_mm: Positive = Field(5.0, description="least depth of grip in a vise")
    grip_share: Share = Field(0.12, description="least grip as a share of the height above the jaws")
    holding_factor: float = Field(2.0, ge=1, description="how many times the cutting force a holding must stand")
    wear_factor: float = Field(1.3, ge=1, description="cutting force of a worn edge over a new one")
    power_share: Share = Field(0.85, description="share of the continuous power a cut may use")
    short_peak_s: NotNegative = Field(0.0, description="a cut up to this long may use the spindle's short-time curve; 0: none may")
    stick_out_spare_mm: Positive = Field(15.0, description="stick-out over what is needed that is worth a look")
    push_off_share: Share = Field(0.33, description="share of a tolerance that push-off may take")
    slender_limit: Positive = Field(5.0, description="stick-out over diameter of a milling cutter that is worth a look")
    close_band_mm: Positive = Field(0.03, description="tolerance band that a roughing tool should not finish")
    peck_from: Positive = Field(4.0, description="depth over diameter from which a drill pecks, in what is no light metal")
    rough_push_off_share: Share = Field(0.5, description="share of what is left for finishing that push-off may take in a roughing cut")
    speed_step_rpm: Positive = Field(10.0, description="spindle speeds are offered in steps of this")
    feed_step_mm_min: Positive = Field(10.0, description="feeds are offered in steps of this")
    link_share: Share = Field(1.0, description="share of the machine's largest feed for links past the work")
    reached_share: Share = Field(0.6, description="feed reached on average, over the one asked, under which it is worth a look")
    general_tolerance_mm: Positive = Field(0.1, description="tolerance of sizes the drawing gives none for, each way")
    first_clearance_mm: Positive = Field(2.0, description="height above the work where feeding starts")
    retract_mm: Positive = Field(25.0, description="height above the work for moves across it")
    load_unload_s: NotNegative = Field(60.0, description="opening, cleaning, loading and clamping one part by hand")
    settle_s: NotNegative = Field(0.03, description="wait of an exact stop")
    approver_may_be_editor: bool = Field(False, description="may the last editor of a plan also release it")
