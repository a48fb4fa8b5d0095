"""Format 1 to 2 of settings: putting a part in was one time for whatever holds it, and building a
setup one for whatever is set up. Where a shop had stated its own, that stays all it counts; what
nobody had changed goes by elements.
"""

from __future__ import annotations

from typing import Any

USUAL = {"load_unload_s": 60.0, "setup_s": 1800.0}
IN_SETUP_S = ("vise_set_s", "jaws_set_s", "soft_jaws_s", "base_set_s", "set_more_s")


def step(raw: dict[str, Any]) -> dict[str, Any]:
    kept = {name: value for name, value in raw.items() if USUAL.get(name) != value}
    return {**kept, **dict.fromkeys(IN_SETUP_S, 0.0)} if "setup_s" in kept else kept
