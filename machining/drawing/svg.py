"""A drawing as SVG text: one path a line style, numbers in the number face, no style
sheet needed.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, field
from html import escape
from typing import Literal

from machining.quantities.display import System

Style = Literal["thick", "line", "thin", "hidden", "centre", "dimension", "zero"]
INK, SOFT, BRASS = "#14192b", "#626b84", "#8a5a0f"
STROKES: dict[Style, tuple[str, float, str]] = {
    "thick": (INK, 1.5, ""),
    "line": (INK, 0.9, ""),
    "thin": (SOFT, 0.6, ""),
    "hidden": (INK, 0.7, "4 2.5"),
    "centre": (SOFT, 0.6, "9 3 2 3"),
    "dimension": (INK, 0.6, ""),
    "zero": (INK, 1.6, ""),
}
Point2 = tuple[float, float]


@dataclass
class Sheet:
    """Collects what is drawn; y grows downwards, as on paper."""

    width: float
    height: float
    title: str
    system: System = "metric"
    _paths: dict[Style, list[str]] = field(default_factory=lambda: defaultdict(list))
    _under: list[str] = field(default_factory=list)
    _over: list[str] = field(default_factory=list)

    def size(self, value: float) -> str:
        """A length (mm) as a dimension says it."""
        digits = f"{value / 25.4:.3f}" if self.system == "inch" else f"{value:.2f}"
        return digits.rstrip("0").rstrip(".")

    def line(self, style: Style, *points: Point2, closed: bool = False) -> None:
        if len(points) > 1:
            self._paths[style].append(
                "M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in points) + ("Z" if closed else "")
            )

    def area(self, fill: str, loops: Iterable[Iterable[Point2]]) -> None:
        """A filled area under all lines; inner loops stay open."""
        path = "".join("M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in loop) + "Z" for loop in loops)
        if path:
            self._under.append(f'<path d="{path}" fill="{fill}" fill-rule="evenodd"/>')

    def circle(
        self, x: float, y: float, radius: float, fill: str = "#ffffff", style: Style = "line"
    ) -> None:
        colour, width, _ = STROKES[style]
        self._over.append(
            f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{radius:.1f}" fill="{fill}" stroke="{colour}"'
            f' stroke-width="{width}"/>'
        )

    def wedge(self, path: str, fill: str) -> None:
        self._over.append(f'<path d="{path}" fill="{fill}"/>')

    def text(
        self,
        x: float,
        y: float,
        words: str,
        *,
        size: float = 10.5,
        number: bool = False,
        bold: bool = False,
        anchor: str = "middle",
        turn: float = 0.0,
        halo: bool = False,
    ) -> None:
        face = (
            "'Fx Num', 'JetBrains Mono Variable', monospace"
            if number
            else "'Fx Text', 'Atkinson Hyperlegible Next Variable', sans-serif"
        )
        turned = f' transform="rotate({turn:g} {x:.1f} {y:.1f})"' if turn else ""
        common = (
            f'x="{x:.1f}" y="{y:.1f}" font-family="{face}" font-size="{size:g}"'
            f' font-weight="{700 if bold else 400}" text-anchor="{anchor}"{turned}'
        )
        if halo:
            self._over.append(
                f'<text {common} fill="none" stroke="#ffffff"'
                f' stroke-width="3.5">{escape(words)}</text>'
            )
        self._over.append(f'<text {common} fill="{INK}">{escape(words)}</text>')

    def done(self) -> str:
        paths = []
        for style, bits in self._paths.items():
            colour, width, dash = STROKES[style]
            dashed = f' stroke-dasharray="{dash}"' if dash else ""
            paths.append(
                f'<path d="{"".join(bits)}" fill="none" stroke="{colour}" stroke-width="{width}"'
                f' stroke-linecap="round" stroke-linejoin="round"{dashed}/>'
            )
        inner = "".join([*self._under, *paths, *self._over])
        return (
            f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {self.width:g} {self.height:g}"'
            f' width="{self.width:g}" height="{self.height:g}" role="img"'
            f' aria-label="{escape(self.title)}">{inner}</svg>'
        )
