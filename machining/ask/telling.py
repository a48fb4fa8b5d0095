"""What hears of work that takes long: how far it is, what is done, and what was found so far."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from machining.quantities.said import Said

Tell = Callable[[float, Said, dict[str, Any]], None]
