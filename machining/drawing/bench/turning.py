"""Turned work from the side."""

from __future__ import annotations

from math import cos, radians, sin, sqrt, tan
from typing import Any

from .board import CUT, TOOL, WORK, Board

Given = dict[str, Any]
MOST_DRAWN = 40


def _insert(board: Board, x: float, y: float, size: float) -> None:
    board.area(
        TOOL,
        (x, y),
        (x + 0.25 * size, y + size),
        (x + 1.2 * size, y + 0.8 * size),
        (x + size, y + 0.1 * size),
    )


def load(board: Board, given: Given, found: Given) -> None:
    r, depth = given["diameter_mm"] / 2.0, given["depth_mm"]
    long = 2.6 * r
    board.fit((-0.2 * r, -1.15 * r), (long + 0.8 * r, 1.6 * r))
    inner = max(r - depth, 0.0)
    board.area(
        WORK,
        (0, -r),
        (0.55 * long, -r),
        (0.55 * long, -inner),
        (long, -inner),
        (long, inner),
        (0.55 * long, inner),
        (0.55 * long, r),
        (0, r),
    )
    board.axis((-0.2 * r, 0), (long + 0.3 * r, 0))
    _insert(board, 0.55 * long, inner, 0.45 * r)
    board.upright(-r, r, 0, "Ø " + board.figure("diameter_mm", 2 * r), -8)
    board.upright(inner, r, long, board.figure("depth_mm", depth), 12)
    board.arrow(
        (0.55 * long + 0.5 * r, 1.4 * r),
        (0.4 * long, 1.4 * r),
        board.figure("feed_per_rev_mm", given["feed_per_rev_mm"]),
    )
    board.corner(
        f"cutting force {board.figure('force_n', found['cutting_force_n'])}, torque"
        f" {board.figure('torque_nm', found['torque_nm'])}"
    )


def passes(board: Board, given: Given, found: Given) -> None:
    start, finish = given["start_diameter_mm"] / 2.0, given["finish_diameter_mm"] / 2.0
    long = 2.4 * start
    board.fit((-0.1 * start, 0), (long, 1.1 * start))
    board.area(
        WORK,
        (0, 0),
        (long, 0),
        (long, finish),
        (0.3 * long, finish),
        (0.3 * long, start),
        (0, start),
    )
    for diameter in found["diameters_mm"][:MOST_DRAWN]:
        board.line("thin", (0.3 * long, diameter / 2), (long, diameter / 2))
    board.line("hidden", (0.3 * long, start), (long, start), (long, finish))
    board.axis((-0.1 * start, 0), (long * 1.04, 0))
    board.upright(0, finish, long, "Ø " + board.figure("d_mm", 2 * finish), 10)
    board.upright(0, start, 0, "Ø " + board.figure("d_mm", 2 * start), -10)
    board.corner(
        f"{found['rough_passes']} rough, {board.figure('depth_mm', found['depth_mm'])} per side"
        " each, then the finish"
    )


def facing(board: Board, given: Given, found: Given) -> None:
    """The face from the front; inside the clamp diameter the speed falls."""
    outer, inner, limit = (
        given["outer_mm"] / 2.0,
        given["inner_mm"] / 2.0,
        found["clamp_diameter_mm"] / 2.0,
    )
    board.fit((-1.25 * outer, -1.15 * outer), (1.25 * outer, 1.15 * outer), 46)
    board.disc((0, 0), outer, WORK)
    if inner < limit < outer:
        board.disc((0, 0), limit, CUT, "hidden")
    elif limit >= outer:
        board.disc((0, 0), outer, CUT)
    if inner > 0:
        board.disc((0, 0), inner, "#ffffff")
    board.axis((-1.2 * outer, 0), (1.2 * outer, 0))
    board.across(-outer, outer, -outer, "Ø " + board.figure("outer_mm", 2 * outer), 16)
    board.arrow((0, outer * 1.12), (0, max(inner, 0.05 * outer)))
    board.corner(
        f"under Ø {board.figure('clamp_diameter_mm', 2 * limit)} the spindle's limit holds it back"
    )


def finish(board: Board, given: Given, found: Given) -> None:
    """The grooves of the nose radius, heights five times as tall as they are."""
    feed, nose = given["feed_per_rev_mm"], given["nose_radius_mm"]
    tall = 5.0
    height = found["rt_um"] / 1000.0 * tall
    board.fit((0, -0.6 * feed), (4 * feed, max(height, 0.6 * feed)))
    profile = []
    for k in range(97):
        x = 4 * feed * k / 96
        off = x % feed - feed / 2
        profile.append((x, tall * (nose - sqrt(max(nose**2 - off**2, 0.0)))))
    board.area(WORK, *profile, (4 * feed, -0.6 * feed), (0, -0.6 * feed))
    board.across(feed, 2 * feed, height, board.figure("feed_per_rev_mm", feed), -30)
    board.upright(0, height, 4 * feed, board.figure("rt_um", found["rt_um"]), 8)
    board.corner(
        f"nose radius {board.figure('nose_radius_mm', nose)}; heights drawn five times as tall"
    )


def thread(board: Board, given: Given, found: Given) -> None:
    """One groove and the depth of each pass in it."""
    pitch, depth = given["pitch_mm"], given["thread_depth_mm"]
    half = depth * tan(radians(30))
    wide = max(1.4 * half, 0.7 * pitch)
    board.fit((-wide, -depth * 1.3), (wide, depth * 0.3))
    board.area(
        WORK,
        (-wide, 0),
        (-half, 0),
        (0, -depth),
        (half, 0),
        (wide, 0),
        (wide, -depth * 1.3),
        (-wide, -depth * 1.3),
    )
    for at in found["cumulative_infeed_mm"][:MOST_DRAWN]:
        board.line("thin", (-half + at * 0, 0), (0, -at), (half, 0))
    board.upright(-depth, 0, wide, board.figure("depth_mm", depth), 8)
    listed = ", ".join(
        board.figure("x_mm", at).split()[0] for at in found["cumulative_infeed_mm"][:8]
    )
    board.corner("to " + listed + (" …" if len(found["cumulative_infeed_mm"]) > 8 else ""))
    board.corner(f"lead {board.figure('feed_per_rev_mm', found['feed_per_rev_mm'])}", 1)


def chuck(board: Board, given: Given, found: Given) -> None:
    """The jaws from the front; each arrow is what is left of its grip, to the scale of the grip at
    rest.
    """
    r, jaws, inside = (
        given["grip_diameter_mm"] / 2.0,
        int(min(given["jaws"], 12)),
        given["grip"] == "internal",
    )
    far = 1.9 * r
    board.fit((-far * 1.25, -far), (far * 1.25, far), 30)
    board.disc((0, 0), r, WORK)
    if inside:
        board.disc((0, 0), 0.99 * r, "#ffffff", "line")
    for k in range(jaws):
        a = radians(90 + 360 * k / jaws)
        ux, uy, w = cos(a), sin(a), 0.16 * r
        near, end = (0.35 * r, r) if inside else (r, 1.75 * r)
        board.area(
            TOOL,
            *(
                (d * ux - s * w * uy, d * uy + s * w * ux)
                for d, s in ((near, -1), (end, -1), (end, 1), (near, 1))
            ),
        )
        share = found["dynamic_force_per_jaw_n"] / given["static_force_per_jaw_n"]
        if share > 0.02:
            length = min(share, 1.6) * 0.6 * r
            board.arrow(
                (
                    ux * (r - length if inside else r + length),
                    uy * (r - length if inside else r + length),
                ),
                (ux * r, uy * r),
            )
    board.across(
        -r, r, -r, "Ø " + board.figure("grip_diameter_mm", 2 * r), 60 if not inside else 20
    )
    board.corner(
        f"each jaw {board.figure('force_n', given['static_force_per_jaw_n'])} at rest,"
        f" {board.figure('force_n', found['dynamic_force_per_jaw_n'])} at"
        f" {board.figure('rpm', given['rpm'])}"
    )
    if found["release_rpm"] is not None:
        board.corner(
            f"lets go at {board.figure('rpm', found['release_rpm'])}; the chuck maker's limit comes"
            " first",
            1,
        )


def taper(board: Board, given: Given, found: Given) -> None:
    large, long = given["large_diameter_mm"] / 2.0, given["length_mm"]
    small = (
        found["small_diameter_mm"]
        if given["small_diameter_mm"] is None
        else float(given["small_diameter_mm"])
    ) / 2.0
    angle = given.get("angle_deg") or found["angle_deg"]
    board.fit((0, -large), (long, large))
    board.area(WORK, (0, -large), (long, -small), (long, small), (0, large))
    board.axis((-0.05 * long, 0), (1.05 * long, 0))
    board.upright(-large, large, 0, "Ø " + board.figure("d_mm", 2 * large), -10)
    board.upright(-small, small, long, "Ø " + board.figure("d_mm", 2 * small), 10)
    board.across(0, long, -large, board.figure("length_mm", long), 16)
    board.corner(f"{angle:.3f}° per side, {2 * angle:.3f}° included")


def pipe(board: Board, given: Given, found: Given) -> None:
    """The thread's cone from its mouth to its depth."""
    taper(
        board,
        {
            "large_diameter_mm": given["major_mm"],
            "length_mm": max(given["depth_mm"], given["pitch_mm"]),
            "small_diameter_mm": found["diameter_mm"],
        },
        {"angle_deg": found["angle_deg"]},
    )


def bar(board: Board, given: Given, found: Given) -> None:
    """The bar with its parts, to scale."""
    long, pull, parts = given["bar_length_mm"], found["pull_mm"], found["parts_per_bar"]
    high = long * 0.06
    board.fit((0, -high), (long, high), 30)
    board.area(WORK, (0, -high), (long, -high), (long, high), (0, high))
    board.area(
        CUT,
        (long - found["remnant_mm"], -high),
        (long, -high),
        (long, high),
        (long - found["remnant_mm"], high),
        outline=None,
    )
    shown = min(parts, 200)
    for k in range(1, shown + 1):
        board.line("thin", (k * pull, -high), (k * pull, high))
    board.across(0, long, -high, board.figure("bar_length_mm", long), 20)
    board.across(
        long - found["remnant_mm"], long, high, board.figure("remnant_mm", found["remnant_mm"]), -20
    )
    board.corner(
        f"{parts} parts of {board.figure('pull_mm', pull)} a bar, {found['bars']}"
        f" {'bar' if found['bars'] == 1 else 'bars'}"
    )
