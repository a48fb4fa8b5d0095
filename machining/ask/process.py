"""A process that answers questions about plans, one at a time, within a limit of memory: ``python
-m machining.ask.process FD BYTES``.

What it is sent and sends goes over one socket as pickled tuples; it ends with its parent.
"""

from __future__ import annotations

import os
import pickle
import resource
import sys
import time
import traceback
from collections import OrderedDict
from dataclasses import replace
from multiprocessing.connection import Connection
from threading import Thread
from typing import Any

MEMO_SIZE, LIBRARIES, SOLIDS, PLANS = 8192, 8, 8, 64


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


def _end_with_parent(parent: int) -> None:
    while os.getppid() == parent:
        time.sleep(0.5)
    os._exit(0)


def main() -> None:
    line, most_bytes = Connection(int(sys.argv[1])), int(sys.argv[2])
    resource.setrlimit(resource.RLIMIT_AS, (most_bytes, most_bytes))
    Thread(target=_end_with_parent, args=(os.getppid(),), daemon=True).start()
    from machining.ask import QUESTIONS
    from machining.memo import Memo
    from machining.plan.document import Plan
    from machining.quantities.errors import MachiningError, Missing
    from machining.world.geometry import from_json

    memo, libraries, solids, plans = Memo(MEMO_SIZE), Shelf(LIBRARIES), Shelf(SOLIDS), Shelf(PLANS)
    try:
        line.send(("ready", os.getpid()))
    except OSError:  # who wanted it has ended while it started
        return
    while True:
        try:
            name, sha, text, library_key, library, wanted, about = line.recv()
        except (EOFError, OSError):  # nobody asks any more
            return
        try:
            if library is not None:
                libraries.put(library_key, pickle.loads(library))
            for key, solid in wanted.items():
                if solid is not None:
                    solids.put(key, from_json(solid))
            if library_key not in libraries or any(key not in solids for key in wanted):
                line.send(("lacks", None))
                continue
            plan = plans.get(sha) or plans.put(sha, Plan.model_validate_json(text))
            known = libraries[library_key]
            if wanted:
                with_solids = " ".join((library_key, *wanted))
                known = libraries.get(with_solids) or libraries.put(
                    with_solids,
                    replace(known, geometries={key: solids[key] for key in wanted}),
                )
            answer: tuple[str, Any] = ("done", QUESTIONS[name](plan, known, memo, **about))
        except MachiningError as problem:
            about = {
                "sentence": str(problem),
                "field": problem.field,
                "value": problem.value,
                "missing": isinstance(problem, Missing),
                "index": getattr(problem, "index", None),
            }
            answer = ("refused", about)
        except (MemoryError, RecursionError):
            memo = Memo(MEMO_SIZE)
            answer = ("too large", "more memory than one plan may have")
        except Exception as problem:
            if "bad_alloc" in str(problem):  # how the geometry library says that memory has run out
                memo = Memo(MEMO_SIZE)
                answer = ("too large", "more memory than one plan may have")
            else:
                traceback.print_exc()
                answer = ("failed", f"{type(problem).__name__}: {problem}"[:300])
        try:
            line.send(answer)
        except MemoryError:
            line.send(("too large", "more memory than one plan may have"))
        except OSError:
            return


if __name__ == "__main__":
    main()
