"""Lines followed as they are typed or offset: edges, undercuts, engraving."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from machining.motion.path import Path, Pen

Line = tuple[tuple[float, float, float], ...]


def followed(lines: Sequence[Line], near: float, retract: float) -> Path:
    """Each line from its first corner to its last: down at feed where it starts, up where it ends.
    ``near`` is a height over the work.
    """
    pen = Pen(retract, near)
    for line in lines:
        pen.go_to(line[0][0], line[0][1])
        pen.plunge(line[0][2])
        pen.cut(np.array(line[1:]))
    return pen.path()
