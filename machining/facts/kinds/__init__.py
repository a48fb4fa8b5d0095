"""Kinds of operation that bring their own arithmetic, one file a family. ``HANDLERS`` finds them by
the kind's name.
"""

from __future__ import annotations

from . import edges, engrave, holes, threads, turned, undercut
from .base import Ground, Handler

HANDLERS: dict[str, Handler] = {
    **holes.HANDLERS,
    **threads.HANDLERS,
    **edges.HANDLERS,
    **undercut.HANDLERS,
    **engrave.HANDLERS,
    **turned.HANDLERS,
}

__all__ = ["HANDLERS", "Ground", "Handler"]
