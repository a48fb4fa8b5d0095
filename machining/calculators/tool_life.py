from __future__ import annotations

from machining.cutting import tool_life as taylor

from .parameter import Over0, Share, Whole
from .registry import Results, calculator


@calculator(
    "tool-life",
    "How long an edge lasts",
    group="Time",
    asks=(
        "Does this tool last the batch?",
        "How much slower must it run to last?",
        "How many edges does the batch take?",
    ),
    uses=(
        taylor.life_at_speed,
        taylor.parts_per_edge,
        taylor.edges_for_batch,
        taylor.speed_for_life,
    ),
    example={
        "cutting_speed_m_min": 400,
        "known_speed_m_min": 350,
        "known_life_min": 90,
        "exponent": 0.25,
        "cutting_s": 57,
        "quantity": 48,
    },
    words={
        "exponent": "carbide 0.2 to 0.3, high-speed steel 0.1 to 0.15",
        "cutting_s": "in cut, each part",
    },
)
def tool_life(
    cutting_speed_m_min: Over0,
    known_speed_m_min: Over0,
    known_life_min: Over0,
    exponent: Share,
    cutting_s: Over0,
    quantity: Whole,
) -> Results:
    """From a life known at another speed, by Taylor's law. The speed to last is the one at which a
    single edge makes the batch.
    """
    life = taylor.life_at_speed(cutting_speed_m_min, known_speed_m_min, known_life_min, exponent)
    parts = taylor.parts_per_edge(life, cutting_s)
    return {
        "life_min": life,
        "parts_per_edge": parts,
        "edges": taylor.edges_for_batch(quantity, parts),
        "speed_to_last_m_min": taylor.speed_for_life(
            quantity * cutting_s / 60.0, known_speed_m_min, known_life_min, exponent
        ),
    }
