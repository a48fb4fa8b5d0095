"""Dimensions: extension lines, arrows and the figure, above or beside what they measure."""

from __future__ import annotations

from math import cos, radians, sin

from .svg import Sheet

ARC_STEPS = 12
ARROW, GAP, OVER = 5.0, 2.0, 3.0


def across(sheet: Sheet, x0: float, x1: float, y: float, figure: str, from_y: float) -> None:
    """A horizontal dimension at height y; its extension lines come from ``from_y``."""
    sign = 1.0 if y > from_y else -1.0
    for x in (x0, x1):
        sheet.line("dimension", (x, from_y + sign * GAP), (x, y + sign * OVER))
    sheet.line("dimension", (x0, y), (x1, y))
    _arrows(
        sheet,
        x0,
        x1,
        lambda at, side: ((at, y), (at + side * ARROW, y - 1.6), (at + side * ARROW, y + 1.6)),
    )
    sheet.text((x0 + x1) / 2, y - 3.5, figure, number=True, bold=True, halo=True)


def upright(
    sheet: Sheet, y0: float, y1: float, x: float, figure: str, from_x: float, beside: bool = False
) -> None:
    """A vertical dimension at x; ``beside`` writes the figure level, for heights too small to write
    along.
    """
    sign = 1.0 if x > from_x else -1.0
    for y in (y0, y1):
        sheet.line("dimension", (from_x + sign * GAP, y), (x + sign * OVER, y))
    tight = abs(y1 - y0) < 3 * ARROW
    reach = 12.0 if tight else 0.0
    sheet.line("dimension", (x, min(y0, y1) - reach), (x, max(y0, y1) + reach))
    turned = -1.0 if tight else 1.0
    _arrows(
        sheet,
        min(y0, y1),
        max(y0, y1),
        lambda at, side: (
            (x, at),
            (x - 1.6, at + turned * side * ARROW),
            (x + 1.6, at + turned * side * ARROW),
        ),
    )
    if beside:
        sheet.text(
            x + sign * 5,
            (y0 + y1) / 2 + 3.5,
            figure,
            number=True,
            bold=True,
            anchor="start" if sign > 0 else "end",
            halo=True,
        )
    else:
        sheet.text(x - 4, (y0 + y1) / 2, figure, number=True, bold=True, turn=-90, halo=True)


def _arrows(sheet: Sheet, low: float, high: float, corners) -> None:  # type: ignore[no-untyped-def]
    for at, side in ((low, 1.0), (high, -1.0)):
        (ax, ay), (bx, by), (cx, cy) = corners(at, side)
        sheet.wedge(f"M{ax:.1f} {ay:.1f}L{bx:.1f} {by:.1f}L{cx:.1f} {cy:.1f}Z", "#14192b")


def zero_mark(sheet: Sheet, x: float, y: float, radius: float = 7.0) -> None:
    """The quartered circle of a work zero."""
    sheet.circle(x, y, radius, "#ffffff", "zero")
    r = radius
    sheet.wedge(
        f"M{x:.1f} {y:.1f}L{x:.1f} {y - r:.1f}A{r:g} {r:g} 0 0 1 {x + r:.1f} {y:.1f}ZM{x:.1f}"
        f" {y:.1f}L{x:.1f} {y + r:.1f}A{r:g} {r:g} 0 0 1 {x - r:.1f} {y:.1f}Z",
        "#8a5a0f",
    )


def balloon(sheet: Sheet, x: float, y: float, to_x: float, to_y: float, number: int) -> None:
    sheet.line("dimension", (x, y), (to_x, to_y))
    sheet.circle(to_x, to_y, 1.4, "#14192b")
    sheet.circle(x, y, 8.0)
    sheet.text(x, y + 3.6, str(number), number=True, bold=True, size=10)


def angle(
    sheet: Sheet, foot: tuple[float, float], far: float, degrees: float, to_right: bool
) -> None:
    """An arc ``far`` from its foot between level and what rises to one side, with the angle."""
    (x, y), sign = foot, 1.0 if to_right else -1.0
    steps = [radians(degrees) * k / ARC_STEPS for k in range(ARC_STEPS + 1)]
    sheet.line("dimension", *((x + sign * far * cos(t), y - far * sin(t)) for t in steps))
    middle = steps[-1] / 2.0
    sheet.text(
        x + sign * (far + 4.0) * cos(middle),
        y - (far + 4.0) * sin(middle) + 3.5,
        f"{degrees:.3f}".rstrip("0").rstrip(".") + "°",
        number=True,
        bold=True,
        anchor="start" if to_right else "end",
        halo=True,
    )
