"""Setting up, reach and time."""

from __future__ import annotations

from math import cos, log10, radians, sin, sqrt
from typing import Any

from machining.quantities.display import clock

from .board import CUT, HEIGHT, TOOL, WIDTH, WORK, Board

Given = dict[str, Any]


def cantilever(board: Board, given: Given, found: Given) -> None:
    """The stepped tool held at its holder's face, and bent, much larger than it bends."""
    sections = given["sections"]
    long, widest = sum(s[0] for s in sections), max(s[1] for s in sections)
    board.fit((-0.7 * widest, -1.4 * widest), (long * 1.12, 1.4 * widest))
    board.area(
        "#dde2ea",
        (long, -0.9 * widest),
        (long * 1.1, -0.9 * widest),
        (long * 1.1, 0.9 * widest),
        (long, 0.9 * widest),
    )
    at = 0.0
    for length, diameter, _ in sections:
        board.area(
            TOOL,
            (at, -diameter / 2),
            (at + length, -diameter / 2),
            (at + length, diameter / 2),
            (at, diameter / 2),
        )
        at += length
    bent = [
        (x, -0.9 * widest * (1 - 1.5 * (x / long) + 0.5 * (x / long) ** 3))
        for x in (long * k / 20 for k in range(21))
    ]
    board.line("hidden", *bent)
    board.arrow((0, 1.4 * widest), (0, 0.55 * widest), board.figure("force_n", given["force_n"]))
    board.across(0, long, -widest, board.figure("length_mm", long), 26)
    board.corner(
        f"pushed off {board.figure('deflection_mm', found['deflection_mm'])}; the dashed line is"
        " drawn much larger"
    )


def screw(board: Board, given: Given, found: Given) -> None:
    d = given["screw_diameter_mm"]
    board.fit((-4 * d, -3.4 * d), (4 * d, 3.0 * d))
    board.area(
        WORK, (-3.6 * d, -3.2 * d), (3.6 * d, -3.2 * d), (3.6 * d, -1.2 * d), (-3.6 * d, -1.2 * d)
    )
    board.area("#dde2ea", (-2.4 * d, -1.2 * d), (2.4 * d, -1.2 * d), (2.4 * d, 0), (-2.4 * d, 0))
    board.area(TOOL, (-0.5 * d, -2.6 * d), (0.5 * d, -2.6 * d), (0.5 * d, 0), (-0.5 * d, 0))
    board.area(TOOL, (-0.9 * d, 0), (0.9 * d, 0), (0.9 * d, 0.8 * d), (-0.9 * d, 0.8 * d))
    board.turning((0, 1.2 * d), 1.1 * d, board.figure("torque_nm", given["torque_nm"]))
    for side in (-1.7, 1.7):
        board.arrow(
            (side * d, 1.6 * d),
            (side * d, 0.1 * d),
            board.figure("force_n", found["force_n"]) if side > 0 else "",
        )
    board.across(-0.5 * d, 0.5 * d, -2.6 * d, board.figure("d_mm", d), 30)


def rotary(board: Board, given: Given, found: Given) -> None:
    """Looking along −Y: X to the right, Z up; the centre, the point before and after."""
    cx, cz, x0, z0, x1, z1 = (
        given["centre_x_mm"],
        given["centre_z_mm"],
        given["offset_x_mm"],
        given["offset_z_mm"],
        found["x_mm"],
        found["z_mm"],
    )
    radius = max(sqrt((x0 - cx) ** 2 + (z0 - cz) ** 2), 1e-6)
    board.fit((cx - radius * 1.1, cz - radius * 1.1), (cx + radius * 1.1, cz + radius * 1.1), 40)
    board.line("centre", *board.arc_points((cx, cz), radius, 0, 360))
    board.line("line", (cx, cz), (x0, z0))
    board.line("thick", (cx, cz), (x1, z1))
    for x, z, words in ((cx, cz, "centre"), (x0, z0, "before"), (x1, z1, "after")):
        px, py = board.at(x, z)
        board.sheet.circle(px, py, 4, "#14192b" if words != "after" else "#8a5a0f")
        board.sheet.text(px + 9, py - 7, words, anchor="start", halo=True)
    board.corner(f"after: X {board.figure('x_mm', x1)}, Z {board.figure('z_mm', z1)}")
    board.corner(
        f"turned {board.figure('angle_deg', given['angle_deg'])} about +Y: Z goes towards X", 1
    )


def sine(board: Board, given: Given, found: Given) -> None:
    angle, long, stack = radians(given["angle_deg"]), given["sine_length_mm"], found["stack_mm"]
    roll = 0.06 * long
    board.fit((-0.2 * long, -0.1 * long), (1.15 * long, max(stack, 0.4 * long) + 0.3 * long))
    board.line("thick", (-0.2 * long, -roll), (1.15 * long, -roll))
    end = (long * cos(angle), stack)
    board.area(
        CUT,
        (end[0] - roll, -roll),
        (end[0] + roll, -roll),
        (end[0] + roll, stack - roll),
        (end[0] - roll, stack - roll),
    )
    for at in ((0.0, 0.0), end):
        board.disc(at, roll)
    up, (ux, uy) = 2.2 * roll, (cos(angle), sin(angle))
    corners = [
        (-0.08 * long, roll),
        (1.08 * long, roll),
        (1.08 * long, up + roll),
        (-0.08 * long, up + roll),
    ]
    board.area(WORK, *((a * ux - b * uy, a * uy + b * ux) for a, b in corners))
    board.upright(-roll, stack - roll, 1.15 * long, board.figure("stack_mm", stack), 4)
    board.across(
        0,
        end[0],
        -roll,
        board.figure("angle_deg", given["angle_deg"])
        + ", "
        + board.figure("l_mm", long)
        + " between rolls",
        20,
    )


def runout(board: Board, given: Given, found: Given) -> None:
    """Two circles, the eccentricity drawn as a fifth of the radius."""
    r = 1.0
    board.fit((-1.5, -1.25), (1.5, 1.25), 30)
    board.disc((0.2, 0), r, WORK)
    board.axis((-1.4, 0), (1.4, 0))
    board.axis((0, -1.2), (0, 1.2))
    board.line("centre", (0.2, -1.1), (0.2, 1.1))
    board.sheet.circle(*board.at(0, 0), 3.5, "#8a5a0f")
    board.sheet.circle(*board.at(0.2, 0), 3.5, "#14192b")
    board.across(0, 0.2, -1.0, board.figure("eccentricity_mm", found["eccentricity_mm"]), 26)
    board.corner(
        f"reading over a full turn {board.figure('reading_mm', given['indicator_reading_mm'])};"
        " drawn much larger"
    )
    if found["squareness_mm"] is not None:
        board.corner(
            f"out of square over the part {board.figure('squareness_mm', found['squareness_mm'])}",
            1,
        )


def shim(board: Board, given: Given, found: Given) -> None:
    first, this, thick = (
        given["first_diameter_mm"] / 2.0,
        given["this_diameter_mm"] / 2.0,
        found["shim_mm"],
    )
    board.fit((-1.5 * first, -1.25 * first), (1.5 * first, 1.1 * first))
    board.area(
        WORK,
        (-1.4 * first, 0),
        (-first, 0),
        *board.arc_points((0, 0), first, 180, 360),
        (1.4 * first, 0),
        (1.4 * first, -1.2 * first),
        (-1.4 * first, -1.2 * first),
    )
    board.area(
        CUT,
        *board.arc_points((0, 0), first, 210, 330),
        *reversed(board.arc_points((0, 0), this, 210, 330)),
    )
    board.disc((0, 0), this)
    board.across(-this, this, this, "Ø " + board.figure("d_mm", 2 * this), -12)
    board.across(-first, first, -1.2 * first, "nest Ø " + board.figure("d_mm", 2 * first), 14)
    board.corner(f"shim {board.figure('shim_mm', thick)}")


def move(board: Board, given: Given, found: Given) -> None:
    """Speed over time."""
    time, top, asked = found["time_s"], found["reached_mm_min"], given["speed_mm_min"]
    left, right, base, high = 60.0, WIDTH - 40, HEIGHT - 52, HEIGHT - 52 - 190
    sheet = board.sheet
    sheet.line("line", (left, high - 8), (left, base), (right, base))
    y = base - (base - high) * min(top / asked, 1.0)
    sheet.line("hidden", (left, high), (right, high))
    ramp = min(0.5, top / 60.0 / given["acceleration_mm_s2"] / time) if time > 0 else 0.0
    tau = (
        min(ramp / 2, given["acceleration_mm_s2"] / given["jerk_mm_s3"] / time)
        if given["jerk_mm_s3"] and time > 0
        else 0.0
    )
    span = right - left
    if tau > 0:
        ramp = min(0.5, ramp + tau)
    points = [
        (
            left + span * ramp * k / 16,
            base - (base - y) * (k / 16 if not tau else (k / 16) ** 2 * (3 - 2 * k / 16)),
        )
        for k in range(17)
    ]
    points += [(right - (x - left), height) for x, height in reversed(points)]
    sheet.line("thick", *points)
    sheet.text(
        left + 4,
        high - 5,
        "asked " + board.figure("speed_mm_min", asked),
        number=True,
        bold=True,
        anchor="start",
    )
    sheet.text(
        (left + right) / 2,
        y - 6 if top < asked * 0.999 else y + 16,
        "reached " + board.figure("reached_mm_min", top),
        number=True,
        bold=True,
        halo=True,
    )
    sheet.text(right, base + 16, board.figure("time_s", time), number=True, bold=True, anchor="end")
    sheet.text(left, base + 16, "0", number=True)


def _bars(board: Board, rows: list[tuple[str, list[tuple[str, float, str]]]]) -> None:
    most = max(sum(part[1] for part in parts) for _, parts in rows) or 1.0
    span, y = WIDTH - 150, 60.0
    for words, parts in rows:
        board.sheet.text(14, y + 16, words, anchor="start")
        x = 110.0
        for name, value, fill in parts:
            wide = span * value / most
            board.sheet.area(fill, [[(x, y), (x + wide, y), (x + wide, y + 26), (x, y + 26)]])
            board.sheet.line(
                "line", (x, y), (x + wide, y), (x + wide, y + 26), (x, y + 26), closed=True
            )
            if wide > 46:
                board.sheet.text(x + wide / 2, y + 17, name, size=9.5)
            x += wide
        y += 52


def batch(board: Board, given: Given, found: Given) -> None:
    total, setup, first = (
        found["total_s"],
        given["setup_s"],
        given["load_s"] if given["parallel_load"] else 0.0,
    )
    loads = -(-given["quantity"] // given["per_load"])
    cutting = loads * given["cycle_s"]
    _bars(
        board,
        [
            (
                "batch",
                [
                    ("setup", setup, TOOL),
                    ("cutting", cutting, CUT),
                    ("loading", max(total - setup - cutting, first), WORK),
                ],
            )
        ],
    )
    board.corner(
        f"{loads:g} loads; {clock(total)} in all, {board.figure('per_part_s', found['per_part_s'])}"
        " a part"
    )


def crossing(board: Board, given: Given, found: Given) -> None:
    """Time over quantity of both ways."""
    cross = found["quantity"]
    most = (
        2 * cross
        if cross
        else max(
            10.0,
            (given["setup_a_s"] + given["setup_b_s"])
            / max(given["unit_a_s"], given["unit_b_s"], 1.0),
        )
    )
    ends = {way: given[f"setup_{way}_s"] + most * given[f"unit_{way}_s"] for way in "ab"}
    top = max(*ends.values(), 1e-6)
    left, right, base, high = 60.0, WIDTH - 60, HEIGHT - 46, 44.0
    sheet = board.sheet
    sheet.line("line", (left, high - 8), (left, base), (right, base))
    for way, style in (("a", "thick"), ("b", "hidden")):
        y0, y1 = (base - (base - high) * v / top for v in (given[f"setup_{way}_s"], ends[way]))
        sheet.line(style, (left, y0), (right, y1))  # type: ignore[arg-type]
        sheet.text(right + 8, y1 + 4, way.upper(), bold=True, anchor="start")
    if cross:
        x = left + (right - left) * cross / most
        sheet.line("centre", (x, high), (x, base))
        sheet.text(x, base + 16, f"{cross:.4g}", number=True, bold=True)
    board.corner(
        "time over quantity"
        + (
            f"; {found['winner'].upper()} always wins"
            if found["winner"]
            else ""
            if cross
            else "; they start alike"
        )
    )


def life(board: Board, given: Given, found: Given) -> None:
    """Life over cutting speed, both scales logarithmic: Taylor's law is a straight line there."""
    known = (given["known_speed_m_min"], given["known_life_min"])
    points = sorted(
        {known, (given["cutting_speed_m_min"], found["life_min"]), points_of_batch(given, found)}
    )
    speeds, lives = [log10(p[0]) for p in points], [log10(max(p[1], 1e-12)) for p in points]
    left, right, base, high = 70.0, WIDTH - 90, HEIGHT - 50, 50.0
    wide, tall = max(speeds[-1] - speeds[0], 1e-6), max(max(lives) - min(lives), 1e-6)

    def at(speed: float, minutes: float) -> tuple[float, float]:
        return left + (log10(speed) - speeds[0]) / wide * (right - left), base - (
            log10(max(minutes, 1e-12)) - min(lives)
        ) / tall * (base - high)

    sheet = board.sheet
    sheet.line("line", (left - 14, high - 12), (left - 14, base + 12), (right + 12, base + 12))
    sheet.line("thick", at(*points[0]), at(*points[-1]))
    told = (
        ("known", *known),
        ("now", given["cutting_speed_m_min"], found["life_min"]),
        ("lasts the batch", *points_of_batch(given, found)),
    )
    for words, speed, minutes in told:
        x, y = at(speed, minutes)
        sheet.circle(x, y, 4, "#14192b" if words != "now" else "#8a5a0f")
        sheet.text(
            x + 8,
            y - 8,
            f"{words}: {board.figure('a_m_min', speed)}, {board.figure('a_min', minutes)}",
            anchor="start" if x < WIDTH / 2 else "end",
            size=9.5,
            halo=True,
        )
    board.corner(
        f"{found['parts_per_edge']:.4g} parts an edge; {found['edges']:g}"
        f" {'edge' if found['edges'] == 1 else 'edges'} for the batch"
    )


def points_of_batch(given: Given, found: Given) -> tuple[float, float]:
    return found["speed_to_last_m_min"], given["quantity"] * given["cutting_s"] / 60.0
