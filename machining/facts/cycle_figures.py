"""The figures of a setup's cycle, from its ledger."""

from __future__ import annotations

from machining.motion import cycle
from machining.quantities.computed import Given
from machining.world.machine import Machine

from . import changes
from .context import SetupFacts
from .ledger import BY_HAND, MOVES, OF_MACHINE, Kind, Ledger, why_change


def figures(setup: SetupFacts, ledger: Ledger) -> None:
    """Figures changes, range_changes, stops, pallet_change and cycle of a setup, and change_ of
    each operation.
    """
    machine = setup.machine
    if machine is None or not ledger.events:
        return
    origin = f"machine:{machine.name}"
    _changed(setup, machine, ledger, origin)
    _counted(setup, ledger, "range", "range_changes", origin)
    own = [op.operation.stop_s for op in setup.operations if op.operation.stop_after]
    said = any(each is not None for each in own)
    stops = "shop.stop_s, and what the plan says" if said else "shop.stop_s"
    _counted(setup, ledger, "stop", "stops", stops)
    _counted(setup, ledger, "pallet", "pallet_change", origin)
    taken = ledger.of("cut", "link", "change", "start", *MOVES, *BY_HAND, *OF_MACHINE)
    setup.work_out(
        cycle.cycle_time,
        "cycle",
        cutting=Given(ledger.of("cut", "link"), "paths of its operations"),
        moving=Given(ledger.of(*MOVES), "paths and places of its operations"),
        changes=Given(ledger.of("change"), "tool changes"),
        starts=Given(ledger.of("start"), "spindle starts"),
        by_hand=Given(ledger.of(*BY_HAND), "range changes and programmed stops"),
        machine=Given(ledger.of(*OF_MACHINE), "pallet, bar and probe"),
        meanwhile=Given(max(taken - ledger.ends_s, 0.0), "carriers that change while others cut"),
    )


def _counted(setup: SetupFacts, ledger: Ledger, kind: Kind, name: str, origin: str) -> None:
    count = ledger.count(kind)
    if count:
        each = Given(ledger.of(kind) / count, origin)
        setup.work_out(cycle.times_each, name, count=Given(float(count), "its cycle"), each=each)


def _changed(setup: SetupFacts, machine: Machine, ledger: Ledger, origin: str) -> None:
    """What is stated from chip to chip is one time for all; what is made of parts is their mean."""
    for operation, parts in ledger.changes.items():
        changes.figure(setup, operation, parts)
    for carrier in machine.carriers:
        made = [e.seconds for e in ledger.events if e.kind == "change" and e.carrier == carrier.id]
        if not made:
            continue
        stated = carrier.tool_to_tool_s is None
        each = carrier.chip_to_chip_s if stated else sum(made) / len(made)
        setup.work_out(
            cycle.times_each,
            why_change(setup, carrier.id).rpartition(".")[2],
            count=Given(float(len(made)), "its cycle"),
            each=Given(each, origin if stated else "its changes, on average"),
        )
