from __future__ import annotations

from machining.placing import indicated

from .parameter import Acute, Over0
from .registry import Results, calculator


@calculator(
    "sine-height",
    "Blocks under a sine bar",
    group="Setup",
    asks=("How high is the stack for this angle?",),
    uses=(indicated.sine_stack,),
    example={"angle_deg": 15, "sine_length_mm": 100},
)
def sine_height(angle_deg: Acute, sine_length_mm: Over0) -> Results:
    """From centre to centre of the rolls."""
    return {"stack_mm": indicated.sine_stack(angle_deg, sine_length_mm)}
