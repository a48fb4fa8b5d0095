"""Processes that answer questions about plans, so that one plan can't keep the others, or the
server, waiting.

Each answers one question at a time within a limit of time and memory; a question that passes it is
*too large*, its process is ended and another takes its place. Who answered a plan last answers it
again: its results are kept there.
"""

from __future__ import annotations

import logging
import mmap
import os
import socket
import subprocess
import sys
import time
from collections import OrderedDict, deque
from collections.abc import Callable
from concurrent.futures import Future
from contextlib import suppress
from dataclasses import dataclass, field
from itertools import count
from multiprocessing.connection import Connection
from pathlib import Path
from threading import Condition, Thread
from typing import Any

log = logging.getLogger("fabrotax.reckoners")
ROOT = Path(__file__).resolve().parent.parent.parent
LONGEST_S = float(os.environ.get("FABROTAX_LONGEST_S", "20"))
MOST_BYTES = int(float(os.environ.get("FABROTAX_MOST_GB", "2.5")) * 1024**3)
# processes at first; after which time one is no longer counted on; at most
AT_ONCE, SLOW_AFTER_S, MOST = 2, 2.5, 6
MOST_WAITING, KEPT, SPARE_S = 60, 96, 240.0
# how long one that is busy is waited for rather than one that does not know the plan: with another
# plan; with this one, of which it then knows more than anybody could find out meanwhile
SOON_S, SAME_PLAN_S = 0.3, 10.0
# what may take long; what takes no knowledge of the plan
SEARCHES, QUICK = {"fixes", "ways", "standing"}, {"meant", "part"}
# how many times its limit a question may wait for the processor; of whose clock a second has so
# many
WAITS, TICKS = 10, os.sysconf("SC_CLK_TCK")


Hear = Callable[[Any], None]


class TooLarge(Exception):
    """A question that took more time or memory than one plan may have; its text is the reason."""


class Overtaken(Exception):
    """An edit of the same plan came before this was worked out: ask again, if it still matters."""


class Busy(Exception):
    """More questions wait than can be answered soon."""


class Refusal(Exception):
    """The core's own refusal: ``about`` has sentence, field, value, index and whether something is
    missing.
    """

    def __init__(self, about: dict[str, Any]) -> None:
        super().__init__(about["sentence"])
        self.about = about


@dataclass(frozen=True)
class Asked:
    """A question about a plan document, with all that its answer depends on. ``plan`` only says who
    may know it already.
    """

    name: str
    sha: str
    text: str
    library_key: str
    library: bytes
    solids: dict[str, bytes] = field(default_factory=dict)
    about: dict[str, Any] = field(default_factory=dict)
    plan: int = 0

    @property
    def key(self) -> tuple[str, ...]:
        return (
            self.name,
            self.sha,
            self.library_key,
            *self.solids,
            repr(sorted(self.about.items())),
        )

    @property
    def edited(self) -> bool:
        """Does somebody wait for what an edit comes to?"""
        return bool(self.about.get("since"))

    @property
    def subjects(self) -> list[tuple[str, bool]]:
        """Questions alike in one of these are answered by who answered the last of them. What is
        searched for is a matter apart, so that no edit waits for it.
        """
        search = self.name in SEARCHES
        return [(name, search) for name in (str(self.plan), self.sha) if name != "0"]


class Reckoner:
    """One process and the line to it."""

    def __init__(self, longest_s: float, most_bytes: int, for_long: bool = False) -> None:
        ours, theirs = socket.socketpair()
        env = {**os.environ, "OPENBLAS_NUM_THREADS": "1", "OMP_NUM_THREADS": "1"}
        # in memory: a byte of a file on a full disk would end who writes it
        with theirs, os.fdopen(os.memfd_create("left"), "w+b") as byte:
            byte.truncate(1)
            self._left = mmap.mmap(byte.fileno(), 1)
            files = [theirs.fileno(), byte.fileno()]
            command = [sys.executable, "-m", "machining.ask.process"]
            self.process = subprocess.Popen(
                [*command, *map(str, files), str(most_bytes), *["long"] * for_long],
                cwd=ROOT,
                pass_fds=files,
                stdin=subprocess.DEVNULL,
                env=env,
            )
        self.line = Connection(ours.detach())
        self.longest_s, self.most_bytes = longest_s, most_bytes
        self.ready = False
        self._hear: Hear | None = None

    def ask(self, asked: Asked, hear: Hear | None = None) -> bytes:
        """``hear`` is called with what it has found so far, and every second with None. Raises
        TooLarge, Refusal, or RuntimeError where the process failed; and what ``hear`` raises, after
        the process was ended.
        """
        self._hear = hear
        try:
            self._wait_until_ready()
            answer = self._sent(
                (
                    asked.name,
                    asked.sha,
                    asked.text,
                    asked.library_key,
                    None,
                    dict.fromkeys(asked.solids),
                    asked.about,
                )
            )
            if answer[0] == "lacks":
                answer = self._sent(
                    (
                        asked.name,
                        asked.sha,
                        asked.text,
                        asked.library_key,
                        asked.library,
                        asked.solids,
                        asked.about,
                    )
                )
        except (EOFError, OSError) as problem:
            self.end()
            raise TooLarge("the process that worked on it ended") from problem
        except Exception:
            self.end()
            raise
        kind, found = answer
        if kind == "done":
            return found  # type: ignore[no-any-return]
        if kind == "refused":
            raise Refusal(found)
        if kind == "left":
            raise Overtaken
        if kind == "too large":
            self.end()
            raise TooLarge(found)
        raise RuntimeError(found)

    def leave(self, left: bool) -> None:
        """Let it leave what it works on (what it found out is kept), or begin anew."""
        self._left[0] = left

    def _wait_until_ready(self) -> None:
        if not self.ready:
            self.line.recv()
            self.ready = True

    def _sent(self, message: tuple[Any, ...]) -> Any:
        """The answer. The limit is on the processor's time, so that a busy machine makes no plan
        too large; what waits for it is bounded too.
        """
        self.line.send(message)
        began, used = time.monotonic(), self._used_s()
        while True:
            if self._is_told(self.longest_s - (self._used_s() - used)):
                answer = self.line.recv()
                if answer[0] != "so far":
                    return answer
                if self._hear is not None:
                    self._hear(answer[1])
            elif (
                self._used_s() - used >= self.longest_s
                or time.monotonic() - began >= WAITS * self.longest_s
            ):
                raise TooLarge(f"more than {self.longest_s:g} s")

    def _is_told(self, within_s: float) -> bool:
        """Anything, within a time; who hears of it is told every second that it goes on."""
        if self._hear is None:
            return self.line.poll(max(0.5, within_s))
        if self.line.poll(min(1.0, max(0.1, within_s))):
            return True
        self._hear(None)
        return False

    def _used_s(self) -> float:
        """Processor time of the process so far; where the system does not tell it, the clock."""
        try:
            user, system = (
                Path(f"/proc/{self.process.pid}/stat").read_text().rpartition(")")[2].split()[11:13]
            )
        except (OSError, ValueError):
            return time.monotonic()
        return (int(user) + int(system)) / TICKS

    def end(self) -> None:
        self.process.kill()
        self.process.wait()
        self.line.close()


class Reckoners:
    """Threads that each keep one process busy. Equal questions share one answer, kept while it is
    among the last asked.
    """

    def __init__(self, longest_s: float = LONGEST_S, most_bytes: int = MOST_BYTES) -> None:
        self.longest_s, self.most_bytes = longest_s, most_bytes
        self._waiting: deque[tuple[Asked, Future[bytes]]] = deque()
        self._kept: OrderedDict[tuple[str, ...], Future[bytes]] = OrderedDict()
        self._change = Condition()
        self._answers: dict[tuple[str, bool], int] = {}  # what is asked about -> who answered last
        self._busy: dict[int, tuple[float, Asked]] = {}  # thread -> since when, with what
        self._idle: dict[int, float] = {}  # thread -> since when, the longest idle first
        self._processes: dict[int, Reckoner] = {}
        self._numbers = count(1)
        self._ended = False

    def ask(self, asked: Asked) -> Future[bytes]:
        """The answer to come. Raises Busy."""
        with self._change:
            known = self._kept.get(asked.key)
            if known is not None and not (known.done() and known.exception()):
                self._kept.move_to_end(asked.key)
                return known
            if len(self._waiting) >= MOST_WAITING:
                raise Busy
            made = self._kept[asked.key] = Future[bytes]()
            while len(self._kept) > KEPT:
                self._kept.popitem(last=False)
            if asked.edited:
                self._make_way(asked)
            (self._waiting.appendleft if asked.edited else self._waiting.append)((asked, made))
            self._staff()
            self._change.notify_all()
        return made

    def _make_way(self, edit: Asked) -> None:
        """What is asked of the plan as it was before an edit is left. Under the lock."""

        def overtaken(asked: Asked) -> bool:
            other = asked.plan == edit.plan and asked.sha != edit.sha
            return other and not asked.edited and asked.name not in QUICK

        for each in [each for each in self._waiting if overtaken(each[0])]:
            self._waiting.remove(each)
            each[1].set_exception(Overtaken())
        for me, (_, asked) in self._busy.items():
            if overtaken(asked) and me in self._processes:
                self._processes[me].leave(True)

    def forget(self) -> None:
        """Drop every kept answer (what a test starts from)."""
        with self._change:
            self._kept.clear()

    def close(self) -> None:
        """End every process, also one that is working."""
        with self._change:
            self._ended = True
            for reckoner in self._processes.values():
                reckoner.process.kill()
            self._change.notify_all()

    def _wanted(self) -> int:
        """As many threads as are counted on, and the slow ones besides. Under the lock."""
        now = time.monotonic()
        return min(
            AT_ONCE + sum(now - since > SLOW_AFTER_S for since, _ in self._busy.values()), MOST
        )

    def _staff(self) -> None:
        """Enough threads that the slow ones don't keep the others waiting, each with its process
        before it is asked. Under the lock.
        """
        while len(self._busy) + len(self._idle) < self._wanted() and not self._ended:
            me = next(self._numbers)
            self._idle[me] = time.monotonic()
            Thread(target=self._work, args=(me,), name=f"reckoner-{me}", daemon=True).start()

    def _next(self, me: int) -> tuple[Asked, Future[bytes]] | None:
        """What this thread should take up: a plan it knows, else, if it was idle longest, one whose
        thread is neither idle nor soon will be. Under the lock.
        """
        now = time.monotonic()
        for each in self._waiting:
            knows = self._knows(each[0])
            if knows == me or (
                me == next(iter(self._idle)) and not self._is_worth_waiting_for(knows, each[0], now)
            ):
                return each
        return None

    def _is_worth_waiting_for(self, knows: int, asked: Asked, now: float) -> bool:
        """Will who knows the plan be free sooner than another could learn of it? Under the lock."""
        if knows not in self._busy:
            return knows in self._idle
        since, at = self._busy[knows]
        same = asked.name not in QUICK and set(asked.subjects) & set(at.subjects)
        return now - since < (SAME_PLAN_S if same else SOON_S)

    def _knows(self, asked: Asked) -> int:
        """Who answered its plan last, or another plan that says the same (a copy). Under the
        lock.
        """
        found = (self._answers[name] for name in asked.subjects if name in self._answers)
        return next(found, 0)

    def _wait(self, me: int) -> tuple[Asked, Future[bytes]] | None:
        """What to take up next; None where this thread should end."""
        with self._change:
            while (taken := self._next(me)) is None:
                spare = (
                    len(self._busy) + len(self._idle) > self._wanted()
                    and time.monotonic() - self._idle[me] > SPARE_S
                )
                if self._ended or spare:
                    self._idle.pop(me)
                    return None
                self._change.wait(SOON_S if self._waiting else 1.0)
                self._staff()
            self._waiting.remove(taken)
            self._idle.pop(me)
            self._busy[me] = time.monotonic(), taken[0]
            if me in self._processes:
                self._processes[me].leave(False)
            if taken[0].name not in QUICK:
                self._answers.update(dict.fromkeys(taken[0].subjects, me))
            self._change.notify_all()
            return taken

    def _process(self, me: int) -> Reckoner:
        known = self._processes.get(me)
        if known is None or known.process.poll() is not None:
            known = self._processes[me] = Reckoner(self.longest_s, self.most_bytes)
        return known

    def _work(self, me: int) -> None:
        while True:
            with suppress(OSError):  # asked for again when there is something to do
                self._process(me)
            taken = self._wait(me)
            if taken is None:
                if (reckoner := self._processes.pop(me, None)) is not None:
                    reckoner.end()
                return
            asked, future = taken
            found: bytes | Exception
            try:
                found = self._process(me).ask(asked)
            except Exception as problem:
                if not isinstance(problem, Refusal | Overtaken):
                    log.warning("%s of %s: %s", asked.name, asked.sha[:12], problem)
                found = problem
            # it is free again before anybody hears of the answer: the next question of this plan
            # comes here
            with self._change:
                self._busy.pop(me)
                self._idle[me] = time.monotonic()
                while len(self._answers) > 500:
                    self._answers.pop(next(iter(self._answers)))
                self._change.notify_all()
            if isinstance(found, Exception):
                future.set_exception(found)
            else:
                future.set_result(found)
