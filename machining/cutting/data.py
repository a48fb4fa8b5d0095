"""Constants of practice, read once from ``machining/data/cutting.toml``."""

from __future__ import annotations

import tomllib
from functools import cache
from pathlib import Path
from typing import Any


@cache
def constants() -> dict[str, dict[str, Any]]:
    return tomllib.loads((Path(__file__).parent.parent / "data" / "cutting.toml").read_text())


def constant(table: str, name: str) -> float:
    return float(constants()[table][name])
