"""What is tried of all there is: some of it in every run, all of it where there is time
(``make fuzz``).
"""

from __future__ import annotations

import os
from collections.abc import Iterable
from itertools import islice
from typing import TypeVar

ALL = os.environ.get("HYPOTHESIS_PROFILE") == "long"
Each = TypeVar("Each")


def often(examples: int) -> int:
    """How many examples a property is tried with: a quarter of these, or all."""
    return examples if ALL else max(4, examples // 4)


def some(of: Iterable[Each], each: int, first: int = 0) -> list[Each]:
    """One of each so many, or all."""
    return list(of if ALL else islice(of, first, None, each))
