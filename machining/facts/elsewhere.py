"""An operation that is known, its station standing elsewhere on the table: what its moves ask of
the machine is asked anew, all else stays as it is.
"""

from __future__ import annotations

from dataclasses import replace

from machining.quantities.errors import MachiningError

from . import tilted, travel
from .context import OperationFacts, Ready, StationFacts

OF_FIGURES = ("figures", "gauges")  # what is shown of an operation that changes with its travel


def standing_at(known: OperationFacts, station: StationFacts) -> OperationFacts | None:
    """None where more than its travel hangs on where it stands."""
    if known.station.planned.at == station.planned.at or not isinstance(known, Ready):
        return known
    if station.turns or tilted.is_tilted(known) or "travel" in known.unknown:
        return None
    there = replace(known, station=station, figures={})
    try:
        travel.of_operation(there)
    except MachiningError:
        return None
    figures = {name: there.figures.get(name, each) for name, each in known.figures.items()}
    shown = {name: each for name, each in known.shown.items() if name not in OF_FIGURES}
    return replace(known, station=station, figures=figures, shown=shown)
