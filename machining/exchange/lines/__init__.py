"""Lines that were drawn elsewhere: read from DXF and SVG files, in mm, joined where they meet."""

from __future__ import annotations

from dataclasses import dataclass

from machining.quantities.errors import OutOfRange

from .joined import Corners, joined

CHORD_MM = 0.01  # how far a straight piece may lie off the curve it stands for
MEET_MM = 0.05  # ends that near each other are one
MOST_BYTES = 10_000_000
MOST_CORNERS, MOST_LINES = 20_000, 2000


@dataclass(frozen=True, slots=True)
class Drawn:
    """What a file holds: its lines as corners (mm), those that run into themselves with their first
    corner once more at the end; the unit it was read in, and what it says of that; how wide the
    widest gap was that was closed, mm; and the kinds of things that are no lines, with their count.
    """

    lines: tuple[Corners, ...]
    unit: str
    unit_said: bool
    widest_gap_mm: float
    left_out: dict[str, int]

    @property
    def closed(self) -> int:
        return sum(line[0] == line[-1] for line in self.lines)


def read(name: str, content: bytes, meet_mm: float = MEET_MM) -> Drawn:
    """Lines of a DXF or SVG file, by what is in it. Raises OutOfRange for other files, for
    one with too much in it and for one with no line at all.
    """
    if len(content) > MOST_BYTES:
        raise OutOfRange(
            "the file", f"{len(content) / 1e6:.1f} MB", f"at most {MOST_BYTES / 1e6:.0f} MB"
        )
    if name.lower().endswith(".svg") or b"<svg" in content[:4096]:
        from .svg import read_svg

        found = read_svg(content, CHORD_MM)
    elif name.lower().endswith(".dxf"):
        from .dxf import read_dxf

        found = read_dxf(content, CHORD_MM)
    else:
        raise OutOfRange("the file", "something else", "a DXF or SVG drawing")
    corners = sum(len(line) for line in found.lines)
    if corners > MOST_CORNERS:
        raise OutOfRange(
            "corners in the file", f"{corners}", f"at most {MOST_CORNERS}; draw it with fewer lines"
        )
    lines, gap = joined(found.lines, meet_mm)
    if not lines:
        raise OutOfRange("lines in the file", "0", _at_least_one(found.left_out))
    if len(lines) > MOST_LINES:
        raise OutOfRange("lines in the file", f"{len(lines)}", f"at most {MOST_LINES}")
    return Drawn(tuple(lines), found.unit, found.unit_said, gap, found.left_out)


def _at_least_one(left_out: dict[str, int]) -> str:
    what = ", ".join(f"{count} {kind}" for kind, count in sorted(left_out.items()))
    return "at least one" + (f"; it has {what}, which hold no lines" if what else "")
