"""Cutters from above and from the side."""

from __future__ import annotations

from math import acos, cos, degrees, radians, sin, tan
from typing import Any

from .board import CUT, TOOL, WORK, Board

Given = dict[str, Any]
MOST_DRAWN = 24


def cutter(board: Board, given: Given, found: Given) -> None:
    """The cutter from above: its edges, speed and feed."""
    r, flutes = given["diameter_mm"] / 2.0, int(min(given["flutes"], MOST_DRAWN))
    board.fit((-1.3 * r, -1.2 * r), (2.6 * r, 1.2 * r))
    board.disc((0, 0), r)
    for k in range(flutes):
        at = radians(20 + 360 * k / flutes)
        board.line("thick", (0.3 * r * cos(at), 0.3 * r * sin(at)), (r * cos(at), r * sin(at)))
    board.axis((-1.15 * r, 0), (1.15 * r, 0))
    board.axis((0, -1.15 * r), (0, 1.15 * r))
    board.turning((0, 0), 1.12 * r, board.figure("rpm", found["rpm"]))
    board.arrow((1.3 * r, 0), (2.5 * r, 0), board.figure("feed_mm_min", found["feed_mm_min"]))
    board.across(-r, r, -r, "Ø " + board.figure("diameter_mm", given["diameter_mm"]))
    for row, limit in enumerate(found["limited_by"]):
        board.corner(
            {
                "max_rpm": "held back by the spindle's limit",
                "max_feed": "held back by the feed's limit",
            }[limit],
            row,
        )


def solved(board: Board, given: Given, found: Given) -> None:
    """The same cutter, whatever of the four was asked."""
    known = {**{name: value for name, value in given.items() if value is not None}, **found}
    board.fit((-1.3, -1.2), (2.6, 1.2))
    board.disc((0, 0), 1.0)
    flutes = max(1, min(round(known["flutes"]), MOST_DRAWN))
    for k in range(flutes):
        at = radians(20 + 360 * k / flutes)
        board.line("thick", (0.3 * cos(at), 0.3 * sin(at)), (cos(at), sin(at)))
    board.turning((0, 0), 1.12, board.figure("rpm", known["rpm"]))
    board.arrow((1.3, 0), (2.5, 0), board.figure("feed_mm_min", known["feed_mm_min"]))
    board.note(
        0,
        -1.2,
        board.figure("feed_per_tooth_mm", known["feed_per_tooth_mm"])
        + " a tooth, "
        + f"{known['flutes']:.4g} teeth",
    )


def ramp(board: Board, given: Given, found: Given) -> None:
    """The ramp from the side, steeper than it is where it would be a hair."""
    depth, angle = given["depth_mm"], given["ramp_deg"]
    long = found["length_mm"]
    tall = depth if depth > 0.12 * long else 0.12 * long
    board.fit((0, -tall), (long, 0.5 * tall))
    board.area(WORK, (0, 0), (long, -tall), (long, -1.25 * tall), (0, -1.25 * tall))
    board.line("hidden", (0, 0), (long, 0))
    board.across(0, long, -1.25 * tall, board.figure("length_mm", long), 20)
    board.upright(-tall, 0, long, board.figure("depth_mm", depth), 10)
    board.corner(
        f"ramp {board.figure('ramp_deg', angle)}"
        + ("; drawn steeper than it is" if tall > depth else "")
    )
    if found["pitch_mm"] is not None:
        board.corner(
            f"on a helix {board.figure('pitch_mm', found['pitch_mm'])} a turn, {found['turns']:.3g}"
            " turns",
            1,
        )
    board.corner(
        f"helix holes from {board.figure('a_mm', found['smallest_hole_mm'])} to"
        f" {board.figure('a_mm', found['largest_hole_mm'])}",
        2,
    )


def engagement(board: Board, given: Given, found: Given) -> None:
    """The cutter from above in the side of the work; its arc of contact is filled."""
    width, r = given["radial_width_mm"], given["diameter_mm"] / 2.0
    board.fit((-2.3 * r, -1.2 * r), (1.7 * r, 1.35 * r))
    board.area(
        WORK,
        (-2.3 * r, r - width),
        (-2.3 * r, 1.3 * r),
        (1.6 * r, 1.3 * r),
        (1.6 * r, r),
        (0, r),
        (0, r - width),
        outline=None,
    )
    board.line("line", (-2.3 * r, r - width), (0, r - width))
    board.line("line", (0, r), (1.6 * r, r))
    board.disc((0, 0), r)
    arc = found.get("engagement_deg") or degrees(acos(1.0 - width / r))
    board.area(CUT, (0, 0), *board.arc_points((0, 0), r, 90.0, 90.0 + arc))
    flutes = int(min(given.get("flutes") or 3, MOST_DRAWN))
    for k in range(flutes):
        at = radians(90 + arc / 2 + 360 * k / flutes)
        board.line("thin", (0.25 * r * cos(at), 0.25 * r * sin(at)), (r * cos(at), r * sin(at)))
    board.across(-r, r, -r, "Ø " + board.figure("diameter_mm", given["diameter_mm"]), 18)
    board.upright(r - width, r, 1.6 * r, board.figure("radial_width_mm", width), 6)
    board.angle((0, 0), 90.0, 90.0 + arc, board.figure("engagement_deg", arc), 30)
    board.arrow((-1.15 * r, -0.5 * r), (-2.2 * r, -0.5 * r), "feed")


def face_passes(board: Board, given: Given, found: Given) -> None:
    width, diameter, step, passes = (
        given["width_mm"],
        given["diameter_mm"],
        given["step_mm"],
        found["passes"],
    )
    long = max(width * 1.3, diameter * 1.6)
    low = (width - diameter - (passes - 1) * step) / 2.0  # the passes lie evenly over the width
    board.fit((-0.6 * diameter, min(0.0, low)), (long, max(width, width - low)))
    board.area(WORK, (0, 0), (long * 0.92, 0), (long * 0.92, width), (0, width))
    for k in range(min(passes, MOST_DRAWN)):
        y = low + diameter / 2 + k * step
        board.line("thin", (0, y + diameter / 2), (long * 0.92, y + diameter / 2))
        board.axis((-0.5 * diameter, y), (long, y))
    board.disc((0, low + diameter / 2), diameter / 2)
    board.upright(0, width, long * 0.92, board.figure("width_mm", width), 14)
    board.corner(
        f"{passes} {'pass' if passes == 1 else 'passes'}, {board.figure('step_mm', step)} apart, Ø"
        f" {board.figure('diameter_mm', diameter)}"
    )


def engraved(board: Board, given: Given, found: Given) -> None:
    """A pointed tool at its depth, from the end of the line."""
    depth, width = (
        given.get("depth_mm") or found["depth_mm"],
        given.get("width_mm") or found["width_mm"],
    )
    pointed(board, width, depth, given["included_angle_deg"], given["tip_flat_mm"])


def spotted(board: Board, given: Given, found: Given) -> None:
    pointed(
        board,
        given["cone_diameter_mm"],
        found["depth_mm"],
        given["point_angle_deg"],
        given["tip_flat_mm"],
    )


def pointed(board: Board, width: float, depth: float, included: float, flat: float) -> None:
    half, tip, wide, up = radians(included) / 2, flat / 2, max(width * 1.2, depth), 1.2 * depth
    board.fit((-wide, -depth * 1.3), (wide, up))
    board.area(
        WORK,
        (-wide, 0),
        (-width / 2, 0),
        (-tip, -depth),
        (tip, -depth),
        (width / 2, 0),
        (wide, 0),
        (wide, -depth * 1.3),
        (-wide, -depth * 1.3),
    )
    reach = tip + min((depth + up) * tan(half), wide)
    top = -depth + (reach - tip) / tan(half)
    board.area(TOOL, (-tip, -depth), (tip, -depth), (reach, top), (-reach, top))
    board.axis((0, -depth * 1.25), (0, up))
    board.across(-width / 2, width / 2, 0, board.figure("width_mm", width), -26)
    board.upright(-depth, 0, wide, board.figure("depth_mm", depth), 8)
    board.corner(
        f"included angle {board.figure('angle_deg', included)}, half"
        f" {board.figure('angle_deg', included / 2)}"
    )


def tilted(board: Board, given: Given, found: Given) -> None:
    """The slanted edge laid on the surface: the contact is the origin, the axis stands at the half
    angle to the surface.
    """
    alpha, beta, offset, flat = (
        given[k]
        for k in ("tool_half_angle_deg", "surface_angle_deg", "contact_offset_mm", "tip_flat_mm")
    )
    shift, long, turn = found["axial_shift_mm"], offset * 3.0, radians(alpha + beta)
    u, v = (cos(turn), sin(turn)), (-sin(turn), cos(turn))
    tip = (offset * v[0] - shift * u[0], offset * v[1] - shift * u[1])
    surface = (cos(radians(beta)), sin(radians(beta)))
    board.fit((-long, -long), (long, long), 40)
    board.area(
        WORK,
        (-long * surface[0], -long * surface[1]),
        (long * surface[0], long * surface[1]),
        (long * surface[0], -long),
        (-long * surface[0], -long),
    )

    def on(along: float, off: float) -> tuple[float, float]:
        return tip[0] + along * u[0] + off * v[0], tip[1] + along * u[1] + off * v[1]

    wide = flat / 2 + long * tan(radians(alpha))
    board.area(TOOL, on(0, -flat / 2), on(0, flat / 2), on(long, wide), on(long, -wide))
    board.axis(on(-0.4 * long, 0), on(1.25 * long, 0))
    board.axis((0, 0), (0, 0.9 * long))
    board.corner(
        f"tilt from Z {board.figure('tilt_from_z_deg', found['tilt_from_z_deg'])}, axis to the"
        f" surface's normal {board.figure('axis_to_normal_deg', found['axis_to_normal_deg'])}"
    )
    board.corner(
        f"tool: half angle {board.figure('half_deg', alpha)}, included"
        f" {board.figure('included_deg', 2 * alpha)}; surface {board.figure('surface_deg', beta)}"
        " from level",
        1,
    )
    board.corner(
        f"from the tip to the contact along the axis {board.figure('axial_shift_mm', shift)}", 2
    )


def undercut(board: Board, given: Given, found: Given) -> None:
    """The section of a dovetail: each pass lays the flank further in, parallel to the last."""
    width, flank = given["total_width_mm"], given["flank_length_mm"]
    high = (flank**2 - width**2) ** 0.5 if flank > width * 1.05 else 0.6 * width
    board.fit((-0.5 * width, 0), (1.7 * width, 1.35 * high))
    board.area(
        WORK, (0, 1.35 * high), (0, high), (width, 0), (1.7 * width, 0), (1.7 * width, 1.35 * high)
    )
    for reached in found["cumulative_width_mm"][:MOST_DRAWN]:
        board.line("thin", (0, high * reached / width), (reached, 0))
    board.line("hidden", (0, 0), (0, high))
    board.across(0, width, 0, board.figure("width_mm", width), 18)
    board.corner("passes to " + _listed(board, found["cumulative_width_mm"]))
    board.corner("engaged flank " + _listed(board, found["engaged_flank_mm"]), 1)


def _listed(board: Board, values: list[float]) -> str:
    shown = ", ".join(board.figure("width_mm", value).split()[0] for value in values[:7])
    return shown + (" …" if len(values) > 7 else "")
