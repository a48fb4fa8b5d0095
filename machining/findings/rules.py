"""Every rule that looks for something in a plan, in the order its findings are told."""

from __future__ import annotations

from .cut.angled_load_grows import angled_load_grows
from .cut.at_rapid import at_rapid
from .cut.chip import chip
from .cut.coolant import coolant
from .cut.dust_mist import dust_mist
from .cut.groove_as_rougher import groove_as_rougher
from .cut.interrupted import interrupted
from .cut.life import life
from .cut.lines_where_stock_is import lines_where_stock_is
from .cut.material_changed import material_changed
from .cut.more_than_planned import more_than_planned
from .cut.over_the_curve import over_the_curve
from .cut.peck import peck
from .cut.range_change import range_change
from .cut.simultaneous import simultaneous
from .cut.slow_edge import slow_edge
from .cut.special_tool import special_tool
from .cut.speed_band import speed_band
from .cut.tap_risk import tap_risk
from .cut.thread import thread
from .cut.thread_on import thread_on
from .cut.too_deep import too_deep
from .cut.turned_interrupted import turned_interrupted
from .cut.turned_thread import turned_thread
from .cut.up_cut import up_cut
from .cut.values_source import values_source
from .finding import OperationRule, PlannedRule, PlanRule, SetupRule, StationRule
from .hold.at_angle import at_angle
from .hold.below import below
from .hold.brace_gone import brace_gone
from .hold.change_optional import change_optional
from .hold.covered import covered
from .hold.crushes import crushes
from .hold.family_shim import family_shim
from .hold.first_run import first_run
from .hold.grip_shallow import grip_shallow
from .hold.grips_nothing import grips_nothing
from .hold.jams import jams
from .hold.jaw_angle import jaw_angle
from .hold.jaw_in_cut import jaw_in_cut
from .hold.leaks import leaks
from .hold.loose_piece import loose_piece
from .hold.loses_datum import loses_datum
from .hold.marks import marks
from .hold.none_chosen import none_chosen
from .hold.not_located import not_located
from .hold.not_seated import not_seated
from .hold.over_located import over_located
from .hold.over_torque import over_torque
from .hold.overhang import overhang
from .hold.parallels import no_such_parallels
from .hold.presses_thin import presses_thin
from .hold.rest_in_cut import no_centre, rest_in_cut
from .hold.slender import slender
from .hold.slips import slips
from .hold.slips_in_chuck import slips_in_chuck
from .hold.soft_jaw_fit import soft_jaw_fit
from .hold.soft_jaw_gap import soft_jaw_gap
from .hold.tabs_weak import tabs_weak
from .hold.wrong_way import wrong_way
from .reach.behind_shoulder import behind_shoulder
from .reach.flute_short import flute_short
from .reach.gouges import gouges
from .reach.helix_entry import helix_entry
from .reach.inner_radius import inner_radius
from .reach.not_in_this_setup import not_in_this_setup
from .reach.path_hits_clamp import path_hits_clamp
from .reach.pocket_entry import pocket_entry
from .reach.shank_in_holder import shank_in_holder
from .reach.slender_tool import slender_tool
from .reach.slot_width import slot_width
from .reach.stick_out import stick_out
from .reach.stops_short import stops_short
from .reach.straight_down import straight_down
from .reach.tool_impossible import tool_impossible
from .reach.turn_in import turn_in
from .reach.turned_too_deep import turned_too_deep
from .reach.undercut_entry import undercut_entry
from .reach.undercut_lip import undercut_lip
from .reach.wrong_floor import wrong_floor
from .route.centre_old import centre_old
from .route.face_order import face_order
from .route.offsets import offset_duplicate, offset_unknown
from .route.one_machine import one_machine
from .route.outside_order import outside_order
from .route.pockets import pockets
from .route.registers import registers
from .route.restart import restart
from .route.said_order import said_order
from .route.share_tool import share_tool
from .route.skin import skin
from .route.stands_there import stands_there
from .route.takes import takes
from .route.tilted_plane import tilted_plane
from .route.zero_direction import zero_direction
from .route.zero_there import zero_there
from .route.zero_unconfirmed import zero_unconfirmed
from .sheet.notes import notes, setup_notes
from .sheet.prompt_bare import prompt_bare
from .sheet.time_ideal import time_ideal
from .size.ball_finish import ball_finish
from .size.bar_pushed_off import bar_pushed_off
from .size.blank_short import blank_short
from .size.blend import blend
from .size.chain import chain
from .size.datum_function import datum_function
from .size.datum_sawn import datum_sawn
from .size.edges import edge_excluded, edges
from .size.face_not_yet_cut import face_not_yet_cut
from .size.fixed_size import fixed_size
from .size.floor_pass import floor_pass
from .size.gauge_hold import gauge_hold
from .size.hole_before import hole_before
from .size.no_reason import no_reason
from .size.order import edge_before_wall, order
from .size.part_bends import part_bends
from .size.parted_off import parted_off
from .size.push_off import push_off
from .size.repeat_missing import repeat_missing
from .size.run_out import run_out
from .size.spring_pass import spring_pass
from .size.squeezed import squeezed
from .size.stack_up import stack_up
from .size.thread_before_turning import thread_before_turning
from .size.tram import tram
from .size.turned_finish import turned_finish
from .size.uncovered import uncovered
from .size.worn_finisher import worn_finisher
from .travel.aim import aim
from .travel.arms import arms_unsaid
from .travel.axis import axis
from .travel.column import column
from .travel.feed_not_reached import feed_not_reached
from .travel.feed_over import feed_over
from .travel.lift import lift
from .travel.neighbour import in_another, neighbour
from .travel.on_table import table_load, table_size
from .travel.speed_over import speed_over
from .travel.stands_on import stands_on
from .travel.swing import goes_round, under_the_tool
from .travel.tilt import tilt
from .travel.tool_change import tool_change
from .travel.tool_size import tool_size
from .travel.tool_unit import tool_unit
from .travel.wrong_machine import wrong_machine

SETUP_RULES: tuple[SetupRule, ...] = (
    dust_mist,
    range_change,
    pockets,
    registers,
    share_tool,
    stands_there,
    said_order,
    face_order,
    one_machine,
    setup_notes,
    time_ideal,
    table_load,
    goes_round,
    arms_unsaid,
    in_another,
)
STATION_RULES: tuple[StationRule, ...] = (
    none_chosen,
    at_angle,
    grip_shallow,
    no_such_parallels,
    overhang,
    blank_short,
    datum_sawn,
    loses_datum,
    over_torque,
    not_located,
    over_located,
    family_shim,
    jams,
    no_centre,
    marks,
    first_run,
    soft_jaw_gap,
    soft_jaw_fit,
    wrong_way,
    skin,
    zero_direction,
    zero_unconfirmed,
    table_size,
    stands_on,
    lift,
    takes,
    offset_unknown,
    offset_duplicate,
    zero_there,
    centre_old,
    outside_order,
    parted_off,
)
OPERATION_RULES: tuple[OperationRule, ...] = (
    over_the_curve,
    speed_band,
    chip,
    too_deep,
    peck,
    slow_edge,
    tap_risk,
    life,
    values_source,
    angled_load_grows,
    thread,
    interrupted,
    material_changed,
    up_cut,
    more_than_planned,
    lines_where_stock_is,
    at_rapid,
    special_tool,
    grips_nothing,
    rest_in_cut,
    leaks,
    loose_piece,
    tabs_weak,
    brace_gone,
    slender,
    presses_thin,
    crushes,
    not_seated,
    slips,
    slips_in_chuck,
    jaw_in_cut,
    covered,
    change_optional,
    path_hits_clamp,
    jaw_angle,
    below,
    not_in_this_setup,
    stick_out,
    shank_in_holder,
    flute_short,
    gouges,
    undercut_lip,
    inner_radius,
    stops_short,
    turn_in,
    wrong_floor,
    tool_impossible,
    undercut_entry,
    helix_entry,
    pocket_entry,
    straight_down,
    slender_tool,
    slot_width,
    order,
    edge_before_wall,
    hole_before,
    fixed_size,
    push_off,
    run_out,
    tram,
    face_not_yet_cut,
    spring_pass,
    blend,
    floor_pass,
    worn_finisher,
    ball_finish,
    tilt,
    aim,
    tilted_plane,
    under_the_tool,
    tool_change,
    simultaneous,
    axis,
    neighbour,
    column,
    speed_over,
    feed_over,
    feed_not_reached,
    wrong_machine,
    tool_size,
    tool_unit,
    coolant,
    gauge_hold,
    edge_excluded,
    restart,
    notes,
    prompt_bare,
)
# of operations that turn the work, after those above
TURNED_RULES: tuple[OperationRule, ...] = (
    groove_as_rougher,
    turned_interrupted,
    turned_thread,
    thread_on,
    thread_before_turning,
    behind_shoulder,
    turned_too_deep,
    turned_finish,
    bar_pushed_off,
    part_bends,
    squeezed,
)
# of those above, what can be said of an operation that lacks a tool, a machine or a place
PLANNED_RULES: tuple[PlannedRule, ...] = (
    special_tool,
    not_in_this_setup,
    tool_impossible,
    slot_width,
    order,
    wrong_machine,
)
# of the whole plan, once all of it is worked out; with what still stands in the end
PLAN_RULES: tuple[PlanRule, ...] = (
    uncovered,
    repeat_missing,
    no_reason,
    chain,
    datum_function,
    stack_up,
    edges,
)
