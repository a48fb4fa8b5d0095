"""A process that answers questions about plans, one at a time, within a limit of memory: ``python
-m machining.ask.process LINE LEFT BYTES [long]``, two open files and a limit; for *long* questions
it fetches what takes a while to be there before it is asked.

What it is sent and sends goes over one socket as pickled tuples; a byte that it shares with its
parent says that a question is left, nobody waits for the answer any more. It ends with its parent.
"""

from __future__ import annotations

import mmap
import os
import pickle
import resource
import sys
import traceback
from collections import OrderedDict
from dataclasses import replace
from multiprocessing.connection import Connection
from threading import Thread
from typing import Any

from machining.ask import QUESTIONS, TOLD_MEANWHILE
from machining.ask.abreast import end_with
from machining.ask.telling import Tell
from machining.evaluation import plain_said
from machining.memo import Memo
from machining.plan.document import Plan
from machining.quantities.errors import MachiningError, Missing
from machining.quantities.said import Said
from machining.removal.warm import warm
from machining.world.geometry import from_json
from machining.world.library import Library

MEMO_SIZE, LIBRARIES, SOLIDS, PLANS = 8192, 8, 8, 64
MEMORY = "more memory than one plan may have"


class Left(BaseException):
    """Nobody waits for the answer any more."""


class Shelf(OrderedDict[str, Any]):
    """The last few things it was given, by name."""

    def __init__(self, most: int) -> None:
        super().__init__()
        self.most = most

    def put(self, key: str, value: Any) -> Any:
        self[key] = value
        self.move_to_end(key)
        while len(self) > self.most:
            self.popitem(last=False)
        return value


class Answers:
    """What it knows of libraries, solids and plans it was sent, and the memo they share. The byte
    ``left`` is set where a question is left.
    """

    def __init__(self, left: mmap.mmap, tell: Tell = lambda share, doing, so_far: None) -> None:
        self._libraries, self._solids, self._plans = Shelf(LIBRARIES), Shelf(SOLIDS), Shelf(PLANS)
        self._memo = Memo(MEMO_SIZE, self._go_on)
        self._left, self._tell = left, tell

    def _go_on(self) -> None:
        if self._left[0]:
            raise Left

    def to(self, message: tuple[Any, ...]) -> tuple[str, Any]:
        """*done* with the answer; *lacks*, where library or solids have to be sent as well;
        *refused* with the core's sentence, *left*, *too large* or *failed* with the reason.
        """
        try:
            return self._answered(message)
        except Left:
            return "left", None

    def _answered(self, message: tuple[Any, ...]) -> tuple[str, Any]:
        name, sha, text, library_key, library, solids, about = message
        try:
            if not self._has(library_key, library, solids):
                return "lacks", None
            plan = self._plans.get(sha) or self._plans.put(sha, Plan.model_validate_json(text))
            known = self._with_solids(library_key, solids)
            if name in TOLD_MEANWHILE:
                about = {**about, "tell": self._tell}
            return "done", QUESTIONS[name](plan, known, self._memo, **about)
        except MachiningError as problem:
            return "refused", {
                "sentence": str(problem),
                "field": problem.field,
                "value": problem.value,
                "missing": isinstance(problem, Missing),
                "index": getattr(problem, "index", None),
            }
        except (MemoryError, RecursionError):
            return self._out_of_memory()
        except Exception as problem:
            if "bad_alloc" in str(problem):  # how the geometry library says that memory has run out
                return self._out_of_memory()
            traceback.print_exc()
            return "failed", f"{type(problem).__name__}: {problem}"[:300]

    def _has(
        self, library_key: str, library: bytes | None, solids: dict[str, bytes | None]
    ) -> bool:
        if library is not None:
            self._libraries.put(library_key, pickle.loads(library))
        for key, solid in solids.items():
            if solid is not None:
                self._solids.put(key, from_json(solid))
        return library_key in self._libraries and all(key in self._solids for key in solids)

    def _with_solids(self, library_key: str, solids: dict[str, bytes | None]) -> Library:
        known: Library = self._libraries[library_key]
        if not solids:
            return known
        name, held = " ".join((library_key, *solids)), {key: self._solids[key] for key in solids}
        return self._libraries.get(name) or self._libraries.put(
            name, replace(known, geometries=held)
        )

    def _out_of_memory(self) -> tuple[str, str]:
        self._memo = Memo(MEMO_SIZE, self._go_on)
        return "too large", MEMORY


def main() -> None:
    line, left, most_bytes = Connection(int(sys.argv[1])), int(sys.argv[2]), int(sys.argv[3])
    resource.setrlimit(resource.RLIMIT_AS, (most_bytes, most_bytes))
    Thread(target=end_with, args=(os.getppid(),), daemon=True).start()

    def tell(share: float, doing: Said, so_far: dict[str, Any]) -> None:
        line.send(("so far", (share, plain_said(doing), so_far)))

    answers = Answers(mmap.mmap(left, 1), tell)
    warm()
    if sys.argv[4:]:
        import machining.ordering.constraints  # noqa: F401
    try:
        line.send(("ready", os.getpid()))
    except OSError:  # who wanted it has ended while it started
        return
    while True:
        try:
            message = line.recv()
        except (EOFError, OSError):  # nobody asks any more
            return
        try:
            line.send(answers.to(message))
        except MemoryError:
            line.send(("too large", MEMORY))
        except OSError:
            return


if __name__ == "__main__":
    main()
