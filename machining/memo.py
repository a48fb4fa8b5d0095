"""Keeps costly results by the value of what went into them. Results never depend on it."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from hashlib import blake2b
from threading import Lock
from typing import TypeVar

T = TypeVar("T")


class Memo:
    """Bounded and thread-safe; the least recently used results go first. ``go_on`` is asked before
    a result is made; what it raises goes to whoever asked for the result.
    """

    def __init__(self, size: int = 4096, go_on: Callable[[], None] = lambda: None) -> None:
        self.go_on = go_on
        self._size, self._kept, self._lock = size, OrderedDict[Hashable, object](), Lock()
        self.hits = self.misses = 0

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        """The result for a key, made on first use. Two threads may make the same one; both are
        equal.
        """
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                self.hits += 1
                return self._kept[key]  # type: ignore[return-value]
        self.go_on()
        made = make()
        with self._lock:
            self.misses += 1
        self.put(key, made)
        return made

    def peek(self, key: Hashable) -> object | None:
        """The result for a key, None where it is not there (any more)."""
        with self._lock:
            return self._kept.get(key)

    def put(self, key: Hashable, made: object) -> None:
        """The result for a key, in place of what was there."""
        with self._lock:
            self._kept[key] = made
            self._kept.move_to_end(key)
            while len(self._kept) > self._size:
                self._kept.popitem(last=False)


def digest(*parts: object) -> str:
    """A short name for a value made of plain parts, equal for equal values in any process."""
    return blake2b(repr(parts).encode(), digest_size=12).hexdigest()
