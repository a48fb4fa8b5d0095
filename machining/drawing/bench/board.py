"""A small drawing board: millimetres in, paper out, figures in the reader's units."""

from __future__ import annotations

from collections.abc import Callable
from math import atan2, cos, hypot, pi, radians, sin
from typing import Any

from machining.calculators.parameter import quantity_of
from machining.drawing import dimension
from machining.drawing.svg import Point2, Sheet, Style
from machining.quantities.display import System, show

WIDTH, HEIGHT, EDGE = 460.0, 300.0, 52.0
BESIDE = 84.0  # room for the figures of upright dimensions
WORK, TOOL, CUT = "#eef1f7", "#ced7f2", "#f6e7c8"
Draw = Callable[["Board", dict[str, Any], dict[str, Any]], None]


class Board:
    """Set ``fit`` first: the box of millimetres that must show. Y grows upwards."""

    def __init__(self, title: str, system: System) -> None:
        self.sheet, self.system = Sheet(WIDTH, HEIGHT, title), system
        self.scale, self._x, self._y = 1.0, 0.0, 0.0

    def fit(self, low: Point2, high: Point2, edge: float = EDGE) -> None:
        width, height = max(high[0] - low[0], 1e-9), max(high[1] - low[1], 1e-9)
        self.scale = min(
            (WIDTH - 2 * max(edge, BESIDE if edge == EDGE else edge)) / width,
            (HEIGHT - 2 * edge) / height,
        )
        self._x = WIDTH / 2 - (low[0] + high[0]) / 2 * self.scale
        self._y = HEIGHT / 2 + (low[1] + high[1]) / 2 * self.scale

    def at(self, x: float, y: float) -> Point2:
        return self._x + x * self.scale, self._y - y * self.scale

    def figure(self, name: str, value: float) -> str:
        """A value as an input or result of this name is written, without needless zeros."""
        digits, space, unit = show(value, quantity_of(name)[0], self.system).partition(" ")
        return (
            (digits.rstrip("0").rstrip(".") if "." in digits and space else digits) + space + unit
        )

    def line(self, style: Style, *points: Point2, closed: bool = False) -> None:
        self.sheet.line(style, *(self.at(*p) for p in points), closed=closed)

    def area(self, fill: str, *points: Point2, outline: Style | None = "line") -> None:
        self.sheet.area(fill, [[self.at(*p) for p in points]])
        if outline:
            self.line(outline, *points, closed=True)

    def arc_points(self, centre: Point2, radius: float, start: float, end: float) -> list[Point2]:
        """Points along an arc, angles in degrees from +X."""
        steps = max(2, int(abs(end - start) / 4) + 2)
        return [
            (
                centre[0] + radius * cos(radians(start + (end - start) * k / (steps - 1))),
                centre[1] + radius * sin(radians(start + (end - start) * k / (steps - 1))),
            )
            for k in range(steps)
        ]

    def disc(self, centre: Point2, radius: float, fill: str = TOOL, style: Style = "thick") -> None:
        self.area(fill, *self.arc_points(centre, radius, 0, 360), outline=style)

    def axis(self, a: Point2, b: Point2) -> None:
        self.line("centre", a, b)

    def across(self, x0: float, x1: float, y: float, words: str, off: float = 20.0) -> None:
        """A level dimension ``off`` paper points below (positive) or above what lies at
        height y.
        """
        at = self.at(x0, y)[1]
        dimension.across(self.sheet, self.at(x0, 0)[0], self.at(x1, 0)[0], at + off, words, at)

    def upright(self, y0: float, y1: float, x: float, words: str, off: float = 20.0) -> None:
        """An upright dimension ``off`` paper points right (positive) or left of what lies at x."""
        at = self.at(x, 0)[0]
        dimension.upright(
            self.sheet, self.at(0, y0)[1], self.at(0, y1)[1], at + off, words, at, beside=True
        )

    def angle(
        self, centre: Point2, start: float, end: float, words: str, radius: float = 44.0
    ) -> None:
        """An angle's arc with its figure; radius on paper."""
        points = self.arc_points(centre, radius / self.scale, start, end)
        self.line("dimension", *points)
        middle = radians((start + end) / 2)
        x, y = self.at(*centre)
        self.sheet.text(
            x + (radius + 22) * cos(middle),
            y - (radius + 12) * sin(middle) + 4,
            words,
            number=True,
            bold=True,
            halo=True,
        )

    def arrow(self, a: Point2, b: Point2, words: str = "", style: Style = "thick") -> None:
        (x0, y0), (x1, y1) = self.at(*a), self.at(*b)
        self.paper_arrow(x0, y0, x1, y1, words, style)

    def paper_arrow(
        self, x0: float, y0: float, x1: float, y1: float, words: str = "", style: Style = "thick"
    ) -> None:
        long = hypot(x1 - x0, y1 - y0)
        if long < 1:
            return
        ux, uy = (x1 - x0) / long, (y1 - y0) / long
        self.sheet.line(style, (x0, y0), (x1, y1))
        self.sheet.wedge(
            f"M{x1:.1f} {y1:.1f}L{x1 - 8 * ux - 3.2 * uy:.1f}"
            f" {y1 - 8 * uy + 3.2 * ux:.1f}L{x1 - 8 * ux + 3.2 * uy:.1f}"
            f" {y1 - 8 * uy - 3.2 * ux:.1f}Z",
            "#14192b",
        )
        if words:
            level = abs(ux) > abs(uy)
            self.sheet.text(
                (x0 + x1) / 2 + (0 if level else 8),
                (y0 + y1) / 2 + (-7 if level else 4),
                words,
                number=True,
                bold=True,
                halo=True,
                anchor="middle" if level else "start",
            )

    def turning(self, centre: Point2, radius: float, words: str = "") -> None:
        """A curved arrow: something turns clockwise as seen."""
        points = self.arc_points(centre, radius, 150, 50)
        self.line("thick", *points)
        (x1, y1), (x0, y0) = self.at(*points[-1]), self.at(*points[-2])
        turn = atan2(y1 - y0, x1 - x0)
        corners = [
            (x1 + 4 * cos(turn), y1 + 4 * sin(turn)),
            *((x1 + 6 * cos(turn + k), y1 + 6 * sin(turn + k)) for k in (0.75 * pi, -0.75 * pi)),
        ]
        self.sheet.wedge("M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in corners) + "Z", "#14192b")
        if words:
            x, y = self.at(centre[0], centre[1] + radius)
            self.sheet.text(x, y - 8, words, number=True, bold=True, halo=True)

    def note(
        self, x: float, y: float, words: str, anchor: str = "middle", number: bool = True
    ) -> None:
        self.sheet.text(*self.at(x, y), words, number=number, bold=number, anchor=anchor, halo=True)

    def corner(self, words: str, row: int = 0) -> None:
        """Words at the upper left, a line each row."""
        self.sheet.text(14, 20 + 15 * row, words, anchor="start", size=11)
