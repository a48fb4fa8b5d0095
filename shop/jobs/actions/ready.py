"""Processes that are there before the worker asks them anything: one for any plan, and who answered
last, which knows its plan.
"""

from __future__ import annotations

import os
from pathlib import Path

from ..reckoners import MOST_BYTES, Reckoner

LONGEST_S = 300.0  # of the processor's time
KEPT_SHARE = 0.5  # of the memory that one may have: who has more than that left is kept
_ready, _knows = list[Reckoner](), dict[int, Reckoner]()


def make_ready() -> None:
    """One for the next question, that has its beginning behind it when it is asked."""
    if not _ready:
        _ready.append(_begun())


def fetched(plan: int) -> Reckoner:
    """Who knows the plan, else the one that was made ready, else another."""
    waiting = [each for each in (_knows.pop(plan, None), *_ready) if each is not None]
    for found in waiting:
        if found in _ready:
            _ready.remove(found)
        if found.process.poll() is None:
            found.leave(False)
            return found
        found.end()
    return _begun()


def keep(plan: int, reckoner: Reckoner) -> None:
    """Who answered, for the next question of the plan; whoever was kept before goes."""
    drop()
    if 0 < _bytes(reckoner) < KEPT_SHARE * reckoner.most_bytes:
        _knows[plan] = reckoner
    else:
        reckoner.end()


def drop() -> None:
    """Nobody is kept."""
    while _knows:
        _knows.popitem()[1].end()


def _begun() -> Reckoner:
    return Reckoner(LONGEST_S, MOST_BYTES, for_long=True)


def _bytes(reckoner: Reckoner) -> int:
    """Of memory that its process has taken; 0 where it has ended or nobody can tell."""
    try:
        pages = Path(f"/proc/{reckoner.process.pid}/statm").read_text().split()
        return int(pages[0]) * os.sysconf("SC_PAGE_SIZE")
    except (OSError, ValueError, IndexError):
        return 0
