"""Drills, threads and balls in holes, in section."""

from __future__ import annotations

from math import cos, pi, radians, sin, sqrt, tan
from typing import Any

from .board import CUT, TOOL, WORK, Board

Given = dict[str, Any]
MOST_DRAWN = 40


def _hole(
    board: Board, radius: float, depth: float, point: float, wide: float, below: float
) -> None:
    board.area(
        WORK,
        (-wide, 0),
        (-radius, 0),
        (-radius, -depth),
        (0, -depth - point),
        (radius, -depth),
        (radius, 0),
        (wide, 0),
        (wide, -depth - below),
        (-wide, -depth - below),
    )


def drilling(board: Board, given: Given, found: Given) -> None:
    r = given["diameter_mm"] / 2.0
    point = (
        0.0
        if given["point_angle_deg"] >= 180
        else min(r / tan(radians(given["point_angle_deg"]) / 2), 8 * r)
    )
    board.fit((-3.2 * r, -point - 3 * r), (3.2 * r, 4 * r))
    _hole(board, r, r, point, 2.8 * r, point + 1.6 * r)
    board.area(TOOL, (0, -r - point), (r, -r), (r, 3.6 * r), (-r, 3.6 * r), (-r, -r))
    board.axis((0, -point - 2.2 * r), (0, 4 * r))
    board.turning((0, 3.0 * r), 0.9 * r, board.figure("torque_nm", found["torque_nm"]))
    board.arrow((2.0 * r, 3.0 * r), (2.0 * r, 0.4 * r), board.figure("thrust_n", found["thrust_n"]))
    board.across(
        -r, r, -point - 2 * r, "Ø " + board.figure("diameter_mm", given["diameter_mm"]), 12
    )
    board.corner(
        f"point angle {board.figure('angle_deg', given['point_angle_deg'])}, half"
        f" {board.figure('angle_deg', given['point_angle_deg'] / 2)}"
    )


def pecks(board: Board, given: Given, found: Given) -> None:
    depth, peck = given["depth_mm"], given["peck_mm"]
    r = depth / 8
    board.fit((-5 * r, -depth * 1.12), (5 * r, 2 * r))
    _hole(board, r, depth, 0.0, 3 * r, depth * 0.1)
    for k in range(1, min(found["pecks"], MOST_DRAWN) + 1):
        board.line("thin", (-r, -min(k * peck, depth)), (r, -min(k * peck, depth)))
    board.upright(-depth, 0, 3 * r, board.figure("depth_mm", depth), 14)
    board.upright(-min(peck, depth), 0, -3 * r, board.figure("peck_mm", min(peck, depth)), -14)
    board.corner(f"{found['pecks']} {'peck' if found['pecks'] == 1 else 'pecks'}")


def tapped(board: Board, given: Given, found: Given) -> None:
    """Half a section of the thread over its pilot hole."""
    major, pitch, drill = (
        given["major_mm"],
        given["pitch_mm"],
        given.get("drill_mm") or found["drill_mm"],
    )
    share = given.get("thread_percent") or found["thread_percent"]
    deep = (major - drill) / 2.0
    teeth, wide = 5, major * 0.95
    board.fit((-wide, 0), (wide, teeth * pitch))
    for side in (-1.0, 1.0):
        outline = [(side * wide, 0.0)]
        for k in range(teeth):
            outline += [
                (side * drill / 2, k * pitch + 0.06 * pitch),
                (side * (drill / 2 + deep), k * pitch + 0.5 * pitch),
                (side * drill / 2, k * pitch + 0.94 * pitch),
            ]
        outline.append((side * wide, teeth * pitch))
        board.area(WORK, *outline)
    board.axis((0, -0.2 * pitch), (0, teeth * pitch + 0.2 * pitch))
    board.across(-drill / 2, drill / 2, 0, "drill " + board.figure("drill_mm", drill), 18)
    board.across(
        -major / 2, major / 2, teeth * pitch, "thread " + board.figure("major_mm", major), -18
    )
    board.corner(f"{share:.0f} % of full thread, pitch {board.figure('pitch_mm', pitch)}")


def thread_milled(board: Board, given: Given, found: Given) -> None:
    """The tool in its bore from above; the centre runs on the inner circle."""
    hole, tool = given["hole_diameter_mm"] / 2.0, given["tool_diameter_mm"] / 2.0
    board.fit((-1.7 * hole, -1.2 * hole), (1.7 * hole, 1.2 * hole))
    board.area(
        WORK,
        (-1.5 * hole, -1.15 * hole),
        (1.5 * hole, -1.15 * hole),
        (1.5 * hole, 1.15 * hole),
        (-1.5 * hole, 1.15 * hole),
    )
    board.disc((0, 0), hole, "#ffffff")
    board.disc((hole - tool, 0), tool)
    board.line("centre", *board.arc_points((0, 0), hole - tool, 0, 360))
    board.turning((0, 0), 0.55 * (hole - tool) if hole - tool > 0.4 * hole else 0.3 * hole)
    board.across(
        -hole, hole, -1.15 * hole, "thread " + board.figure("hole_diameter_mm", 2 * hole), 14
    )
    board.corner(
        f"edge {board.figure('edge_feed_mm_min', found['edge_feed_mm_min'])}, centre"
        f" {board.figure('centre_feed_mm_min', found['centre_feed_mm_min'])}"
    )
    board.corner(
        f"helix {board.figure('helix_mm', found['helix_mm'])} long, tool"
        f" {board.figure('tool_diameter_mm', 2 * tool)}",
        1,
    )


def ball_in_cone(board: Board, given: Given, found: Given) -> None:
    r, mouth, half = (
        given["ball_diameter_mm"] / 2.0,
        given["mouth_diameter_mm"] / 2.0,
        radians(given["cone_angle_deg"]) / 2,
    )
    top = found["ball_top_above_mouth_mm"]
    deep = min(mouth / tan(half), 4 * r + mouth)
    wide = max(2 * r, 2 * mouth)
    board.fit((-wide, -deep), (wide, max(top, 0.2 * r)))
    board.area(
        WORK,
        (-wide, 0),
        (-mouth, 0),
        (-mouth + deep * tan(half), -deep),
        (mouth - deep * tan(half), -deep),
        (mouth, 0),
        (wide, 0),
        (wide, -deep * 1.05),
        (-wide, -deep * 1.05),
    )
    board.disc((0, top - r), r)
    board.axis((0, -deep), (0, top))
    board.across(-mouth, mouth, 0, board.figure("mouth_mm", 2 * mouth), 24)
    board.upright(0, top, wide, board.figure("top_mm", top), 8)
    board.corner(
        "the ball rests on the rim" if found["seats"] == "rim" else "the ball seats in the cone"
    )
    board.corner(
        f"touches at Ø {board.figure('contact_diameter_mm', found['contact_diameter_mm'])};"
        f" included angle {board.figure('cone_angle_deg', given['cone_angle_deg'])}",
        1,
    )


def scallop(board: Board, given: Given, found: Given) -> None:
    """Three passes of a ball and the cusps between them, heights to the same scale."""
    radius, step = given["ball_radius_mm"], given.get("stepover_mm") or found["stepover_mm"]
    height = given.get("height_mm") or found["height_mm"]
    board.fit((-1.7 * step, -max(step * 0.35, height)), (1.7 * step, max(0.9 * step, height * 1.5)))
    bottom = []
    for k in range(-24, 25):
        x = 1.6 * step * k / 24
        off = (x + step / 2) % step - step / 2
        bottom.append((x, radius - sqrt(max(radius**2 - off**2, 0.0))))
    board.area(WORK, *bottom, (1.6 * step, -step * 0.3), (-1.6 * step, -step * 0.3))
    spread = min(90.0, 180.0 / pi * 0.9 * step / radius)
    for k in (-1, 0, 1):
        board.line(
            "hidden",
            *(
                (k * step + radius * sin(radians(a)), radius - radius * cos(radians(a)))
                for a in [spread * j / 10 for j in range(-10, 11)]
            ),
        )
    board.across(-step / 2, step / 2, height, board.figure("stepover_mm", step), -34)
    board.upright(0, height, 1.6 * step, board.figure("height_mm", height), 8)
    board.corner(f"ball radius {board.figure('ball_radius_mm', radius)}")


def chain(board: Board, given: Given, found: Given) -> None:
    """The wall in section with what each cut leaves of it, not to scale along the wall."""
    wall, cuts = given["wall_mm"], int(given["cuts"])
    board.fit((-0.6 * wall, 0), (1.5 * wall, wall))
    board.area(WORK, (-0.6 * wall, 0), (0, 0), (0, wall), (-0.6 * wall, wall))
    for k in range(min(cuts, 12)):
        right, left = wall * (cuts - k) / cuts, wall * (cuts - k - 1) / cuts
        board.area(CUT, (left, 0), (right, 0), (right, wall), (left, wall))
        if cuts <= 6:
            board.note((left + right) / 2, wall * 0.5, str(k + 1))
    board.across(0, wall, 0, board.figure("wall_mm", wall))
    board.corner(
        f"after cut {int(given['after_cut'])}: {board.figure('d_mm', found['expected_mm'])}"
    )
    board.corner(f"correct by {board.figure('d_mm', found['correction_mm'])}", 1)


def bore_wear(board: Board, given: Given, found: Given) -> None:
    """Measured and wanted size as two circles; the difference is drawn ten times wider
    than it is.
    """
    target, error = given["target_mm"] / 2.0, (given["measured_mm"] - given["target_mm"]) / 2.0
    seen = target + max(min(error * 10, 0.25 * target), -0.25 * target)
    largest = max(seen, target)
    board.fit((-1.5 * largest, -1.1 * largest), (1.5 * largest, 1.1 * largest))
    if given["feature"] == "internal":
        board.area(
            WORK,
            (-1.4 * largest, -1.08 * largest),
            (1.4 * largest, -1.08 * largest),
            (1.4 * largest, 1.08 * largest),
            (-1.4 * largest, 1.08 * largest),
        )
        board.disc((0, 0), seen, "#ffffff")
    else:
        board.disc((0, 0), seen, WORK)
    board.line("hidden", *board.arc_points((0, 0), target, 0, 360))
    board.note(0, 0.06 * largest, "measured " + board.figure("measured_mm", given["measured_mm"]))
    board.note(0, -0.14 * largest, "wanted " + board.figure("target_mm", given["target_mm"]))
    sign = "+" if found["correction_mm"] > 0 else ""
    board.corner(
        f"change the wear value by {sign}{board.figure('correction_mm', found['correction_mm'])}"
        f" in {given['compensation']}"
    )
    board.area(
        CUT,
        *board.arc_points((0, 0), target, -8, 8),
        *reversed(board.arc_points((0, 0), seen, -8, 8)),
        outline=None,
    )


def corner_by_ball(board: Board, given: Given, found: Given) -> None:
    """The quarter round and the ball at each of its passes."""
    r, ball, passes = given["corner_radius_mm"], given["ball_radius_mm"], found["passes"]
    far = r + 2 * ball
    board.fit((-2.2 * r, -2.2 * r), (far, far), 30)
    board.area(
        WORK, (-2 * r, -2 * r), (r, -2 * r), *board.arc_points((0, 0), r, 0, 90), (-2 * r, r)
    )
    for k in range(min(passes, MOST_DRAWN) + 1):
        at = radians(90.0 * k / min(passes, MOST_DRAWN))
        board.line(
            "thin", *board.arc_points(((r + ball) * cos(at), (r + ball) * sin(at)), ball, 0, 360)
        )
    board.corner(
        f"{passes} passes, {board.figure('step_deg', found['step_deg'])} apart, cusps"
        f" {board.figure('height_mm', found['height_mm'])}"
    )
    board.corner(f"radius {board.figure('r_mm', r)}, ball radius {board.figure('r_mm', ball)}", 1)
