"""What a release stands on that has changed in the library since."""

from __future__ import annotations

import json
from functools import lru_cache

from machining.exchange import plan_json
from machining.exchange.release_record import canonical
from machining.exchange.since import changed_since
from machining.quantities.errors import MachiningError
from shop.base import blobs
from shop.library.snapshot import snapshot

from .models import Release


def stale(release: Release) -> tuple[str, ...]:
    """A line for each item; none where the record can't be read, which is told elsewhere."""
    return _since(release.sha256, snapshot().key)


@lru_cache(maxsize=128)
def _since(sha256: str, _library: str) -> tuple[str, ...]:
    try:
        record = json.loads(blobs.get_checked(sha256))
        plan, then = plan_json.read(canonical(record["export"]))
    except (blobs.Spoiled, MachiningError, KeyError, ValueError):
        return ()
    return tuple(changed_since(plan, then, snapshot()))
