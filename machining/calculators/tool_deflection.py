from __future__ import annotations

from machining.reaching import deflection

from .parameter import From0, Sections
from .registry import Results, calculator


@calculator(
    "tool-deflection",
    "Push-off of a stepped tool",
    group="Reach",
    asks=("How far is this tool pushed off?", "What does a shorter stick-out bring?"),
    uses=(deflection.tool_push_off,),
    example={"force_n": 100, "sections": "26:9.6:600,14:12:600"},
    serves=("finish_walls", "rough_outside", "rough_pocket"),
)
def tool_deflection(force_n: From0, sections: Sections, compliance_um_n: From0 = 0.0) -> Results:
    """Sections from the tip to the holder, each length, diameter and modulus (carbide 600, steel
    210 GPa); a fluted length bends like a cylinder of 0.8 of its diameter. The force acts at the
    tip.
    """
    return {
        "deflection_mm": (
            deflection.stepped_deflection(force_n, sections) + force_n * compliance_um_n / 1000.0
        )
    }
