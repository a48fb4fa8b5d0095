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
from typing import Any, TypeVar

G = TypeVar("G")
R = TypeVar("R")
MOST_HANDS, LOOKS_S = 4, 0.2
NICER = 5  # than who waits for an answer


def hands() -> int:
    """How many this machine has for one who asks."""
    return min(len(os.sched_getaffinity(0)), MOST_HANDS) if hasattr(os, "fork") else 1


def abreast(
    work: Callable[[int, G], R],
    given: Callable[[int], G],
    many: int,
    hands: int = 1,
    go_on: Callable[[], None] = lambda: None,
) -> Iterator[tuple[int, R]]:
    """The results of ``work(k, given(k))`` for each k below ``many`` as they come. With more than
    one of ``hands`` it is done by processes forked from this one: they know what it knows, and of
    what they find out only their results are kept. ``given`` is asked here when one is begun;
    ``go_on`` now and then, and what it raises ends all. Raises what the work raises.
    """
    if hands < 2 or many < 2:
        for k in range(many):
            yield k, work(k, given(k))
        return
    gc.freeze()  # what both know stays shared: nobody writes into it to count it
    try:
        helpers = [_forked(work) for _ in range(min(hands, many))]
    finally:
        gc.unfreeze()
    try:
        yield from _handed_out(helpers, given, many, go_on)
    finally:
        for child, line in helpers:
            line.close()
            os.kill(child, 9)
            os.waitpid(child, 0)


def _handed_out(
    helpers: list[tuple[int, Connection]],
    given: Callable[[int], G],
    many: int,
    go_on: Callable[[], None],
) -> Iterator[tuple[int, Any]]:
    free, begun, done = [line for _, line in helpers], 0, 0
    while done < many:
        while free and begun < many:
            free.pop().send((begun, given(begun)))
            begun += 1
        for line in wait([line for _, line in helpers], LOOKS_S):
            assert isinstance(line, Connection)
            try:
                k, found, problem = line.recv()
            except EOFError:
                go_on()  # who left it has left it everywhere
                raise MemoryError("one who helped has ended") from None
            if problem is not None:
                raise problem
            free.append(line)
            done += 1
            yield k, found
        go_on()


def _forked(work: Callable[[int, Any], Any]) -> tuple[int, Connection]:
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


def _help(line: Connection, work: Callable[[int, Any], Any]) -> None:
    """What is sent is done until nothing more comes."""
    while True:
        try:
            k, given = line.recv()
        except (EOFError, OSError):
            return
        try:
            line.send((k, work(k, given), None))
        except Exception as problem:
            line.send((k, None, _sent(problem)))


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
