"""Lines of an SVG file: paths and basic shapes, with all they are moved and scaled by."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator
from io import BytesIO
from math import ceil, hypot, sqrt
from xml.etree.ElementTree import ParseError

import svgelements
from svgelements import SVG, Arc, Close, Line, Move, Path, Shape

from machining.quantities.errors import OutOfRange

from .joined import Corners, Found

PER_INCH = 96.0  # of the unit that lengths without one have, by the standard
MM = 25.4 / PER_INCH
MOST_PIECES = 400  # of one curve
SEEN = ("none", "hidden", "collapse")


def read_svg(content: bytes, chord_mm: float) -> Found:
    """Y runs upwards in what comes back. Raises OutOfRange for what is no SVG file, and for one
    that declares entities of its own.
    """
    if b"<!ENTITY" in content:
        raise OutOfRange("the file", "one with entities of its own", "an SVG drawing without any")
    try:
        drawing = SVG.parse(BytesIO(content), ppi=PER_INCH, reify=True)
    except (ParseError, ValueError, KeyError, ZeroDivisionError, RecursionError) as problem:
        raise OutOfRange("the file", "something else", "an SVG drawing") from problem
    lines, left_out = list[Corners](), Counter[str]()
    for element in drawing.elements():
        if isinstance(element, svgelements.Text | svgelements.Image):
            left_out["text" if isinstance(element, svgelements.Text) else "picture"] += 1
        elif isinstance(element, Shape) and not _hidden(element):
            lines += _flat(Path(element), chord_mm / MM)
    flipped = [tuple((x * MM, -y * MM) for x, y in line) for line in lines]
    said = re.search(rb"<svg[^>]*\bwidth\s*=\s*[\"'][\d.\s]+(mm|cm|in|pt|pc)\b", content)
    return Found(flipped, said[1].decode() if said else "px", bool(said), dict(left_out))


def _hidden(element: Shape) -> bool:
    values = element.values
    return values.get("display") == "none" or values.get("visibility") in SEEN


def _flat(path: Path, chord: float) -> Iterator[Corners]:
    for part in path.as_subpaths():
        corners: list[tuple[float, float]] = []
        for segment in part:
            if isinstance(segment, Move):
                continue
            if segment.start is None or segment.end is None:
                continue
            if not corners:
                corners.append((segment.start.x, segment.start.y))
            if isinstance(segment, Line | Close):
                corners.append((segment.end.x, segment.end.y))
            else:
                corners += _curve(segment, chord)
        if len(corners) > 1:
            yield tuple(corners)


def _curve(segment: svgelements.Curve, chord: float) -> list[tuple[float, float]]:
    """Evenly in its parameter, in as many pieces as its bend asks for."""
    if isinstance(segment, Arc):
        radius = max(abs(segment.rx), abs(segment.ry), 1e-9)
        sweep, most = abs(segment.sweep), 2.0 * sqrt(2.0 * min(chord / radius, 0.5))
        count = sweep / most
    else:
        ways = [(p.x, p.y) for p in segment]
        bends = [
            hypot(a[0] - 2 * b[0] + c[0], a[1] - 2 * b[1] + c[1])
            for a, b, c in zip(ways, ways[1:], ways[2:], strict=False)
        ]
        degree = len(ways) - 1
        # a curve lies off its chord by at most its second derivative times an eighth of a step²
        count = sqrt(degree * (degree - 1) * max(bends, default=0.0) / (8.0 * chord))
    pieces = min(max(ceil(count), 1), MOST_PIECES)
    return [(p.x, p.y) for p in (segment.point(k / pieces) for k in range(1, pieces + 1))]
