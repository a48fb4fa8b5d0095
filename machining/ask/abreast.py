"""Work that several processes do at the same time, each of which knows what this one knows."""

from __future__ import annotations

import gc
import os
import pickle
import time
from collections.abc import Callable, Iterator
from multiprocessing import Pipe
from multiprocessing.connection import Connection, wait
from threading import Thread
from types import TracebackType
from typing import Any, Generic, TypeVar

G = TypeVar("G")
R = TypeVar("R")
MOST_HANDS, LOOKS_S = 4, 0.2
NICER = 5  # than who waits for an answer


def hands() -> int:
    """How many this machine has for one who asks; one where nobody can tell."""
    cores = len(os.sched_getaffinity(0)) if hasattr(os, "sched_getaffinity") else 1
    return min(cores, MOST_HANDS)


def abreast(
    work: Callable[[int, G], R],
    given: Callable[[int], G],
    many: int,
    hands: int = 1,
    go_on: Callable[[], None] = lambda: None,
) -> Iterator[tuple[int, R]]:
    """The results of ``work(k, given(k))`` for each k below ``many`` as they come, by so many
    :class:`Helpers` that are there for it alone.
    """

    def both(pair: tuple[int, G]) -> R:
        return work(*pair)

    with Helpers(both, min(hands, many), go_on) as helpers:
        for k, _, found in helpers.do(lambda k: (k, given(k)), many):
            yield k, found


class Helpers(Generic[G, R]):
    """So many ``hands`` that do a ``work``: processes forked from this one, which know what it knew
    then. Of what each finds out only the results are told; it keeps the rest, and knows it when it
    is given more. One hand is this process itself. ``go_on`` is asked now and then, and what it
    raises ends all.
    """

    def __init__(
        self, work: Callable[[G], R], hands: int = 1, go_on: Callable[[], None] = lambda: None
    ) -> None:
        self.work, self.go_on = work, go_on
        self.hands = hands if hasattr(os, "fork") else 1
        self._forked: list[tuple[int, Connection]] = []

    def __enter__(self) -> Helpers[G, R]:
        if self.hands > 1:
            gc.freeze()  # what all know stays shared: nobody writes into it to count it
            try:
                self._forked = [_forked(self.work) for _ in range(self.hands)]
            finally:
                gc.unfreeze()
        return self

    def __exit__(
        self,
        kind: type[BaseException] | None,
        raised: BaseException | None,
        where: TracebackType | None,
    ) -> None:
        for child, line in self._forked:
            line.close()
            os.kill(child, 9)
            os.waitpid(child, 0)

    def do(
        self,
        given: Callable[[int], G],
        many: int,
        whose: Callable[[int], int | None] = lambda k: None,
    ) -> Iterator[tuple[int, int, R]]:
        """Each k below ``many`` with who did it and what came of it, as they come. ``given(k)`` is
        asked when it is begun; ``whose`` it is nobody else takes. Raises what the work raises, and
        MemoryError where a process ended.
        """
        if not self._forked:
            for k in range(many):
                yield k, 0, self.work(given(k))
            return
        doing, waiting = dict[int, int](), list(range(many))
        while waiting or doing:
            for me, (_, line) in enumerate(self._forked):
                mine = next((k for k in waiting if whose(k) in (None, me)), None)
                if me not in doing and mine is not None:
                    waiting.remove(mine)
                    doing[me] = mine
                    line.send(given(mine))
            lines = [line for _, line in self._forked]
            for each in wait(lines, LOOKS_S):
                me = next(k for k, line in enumerate(lines) if line is each)
                yield doing.pop(me), me, self._told(lines[me])
            self.go_on()

    def _told(self, line: Connection) -> R:
        try:
            found, problem = line.recv()
        except EOFError:
            self.go_on()  # who left it has left it everywhere
            raise MemoryError("one who helped has ended") from None
        if problem is not None:
            raise problem
        return found  # type: ignore[no-any-return]


def _forked(work: Callable[[Any], Any]) -> tuple[int, Connection]:
    ours, theirs = Pipe()
    parent = os.getpid()
    child = os.fork()
    if child:
        theirs.close()
        return child, ours
    try:
        ours.close()
        os.nice(NICER)
        Thread(target=end_with, args=(parent,), daemon=True).start()
        _help(theirs, work)
    finally:
        os._exit(0)


def _help(line: Connection, work: Callable[[Any], Any]) -> None:
    """What is sent is done until nothing more comes."""
    while True:
        try:
            given = line.recv()
        except (EOFError, OSError):
            return
        try:
            line.send((work(given), None))
        except Exception as problem:
            line.send((None, _sent(problem)))


def _sent(problem: Exception) -> Exception:
    """The same where it can be sent, else what it says."""
    try:
        pickle.loads(pickle.dumps(problem))
    except Exception:
        return RuntimeError(f"{type(problem).__name__}: {problem}"[:300])
    return problem


def end_with(parent: int) -> None:
    """Ends this process with its parent."""
    while os.getppid() == parent:
        time.sleep(0.5)
    os._exit(0)
