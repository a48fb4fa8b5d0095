"""What a cycle, a part and a batch take, of what happens in them."""

from __future__ import annotations

from machining.quantities.checks import not_negative, positive, within
from machining.quantities.computed import formula
from machining.quantities.units import Plain, Rpm, Seconds

from .timing import spindle_time


@formula(unit="s")
def times_each(count: Plain, each: Seconds) -> float:
    """t = n·t₁

    So often, so long. Raises OutOfRange for values under 0.
    Source: a sum.
    """
    return not_negative("count", count) * not_negative("each", each)


@formula(unit="s")
def spindle_start(rpm: Rpm, max_rpm: Rpm, base_rpm: Rpm, start: Seconds) -> float:
    """t(n) = T·g(n)/g(nmax), g = n/nb up to nb, (1 + (n/nb)²)/2 above

    From rest to a speed. Raises OutOfRange for values not over 0.
    Source: constant torque up to the base speed, constant power above.
    """
    return spindle_time(rpm, max_rpm, base_rpm, start)


@formula(unit="s")
def change_time(
    stop: Seconds,
    orient: Seconds,
    retract: Seconds,
    waits: Seconds,
    swap: Seconds,
    codes: Seconds,
    spin_up: Seconds,
    approach: Seconds,
) -> float:
    """t = max(ts + to, tr) + tw + tt + tm + max(tu, ta)

    A tool change of its parts: the spindle stops and is held while the tool goes up, the pocket is
    waited for, the tools are swapped, codes, and the spindle starts while the tool comes down.
    Raises OutOfRange for values under 0.
    Source: what goes on at the same time is counted once.
    """
    every = {"stop": stop, "orient": orient, "retract": retract, "waits": waits, "swap": swap}
    every |= {"codes": codes, "spin_up": spin_up, "approach": approach}
    for name, value in every.items():
        not_negative(name, value)
    return max(stop + orient, retract) + waits + swap + codes + max(spin_up, approach)


@formula(unit="s")
def cycle_time(
    cutting: Seconds,
    moving: Seconds,
    changes: Seconds,
    starts: Seconds,
    by_hand: Seconds,
    machine: Seconds,
    meanwhile: Seconds,
) -> float:
    """t = tc + tm + tt + ts + th + ta − tp

    Door shut to door open: in cut, moves and waits, tool changes, spindle starts, attendance by
    hand, what the machine does of itself between parts (pallet, bar), less what goes on at the same
    time on another carrier. Raises OutOfRange for values under 0.
    Source: a sum over the ledger.
    """
    parts = {
        "cutting": cutting,
        "moving": moving,
        "changes": changes,
        "starts": starts,
        "by_hand": by_hand,
        "machine": machine,
    }
    taken = sum(not_negative(name, value) for name, value in parts.items())
    return taken - within("meanwhile", meanwhile, 0.0, max(taken, 0.0))


@formula(unit="s")
def by_hand_time(load: Seconds, find: Seconds) -> float:
    """t = tl + tf

    What a part is attended to outside its cycles: put in, and its zero found where that is done
    anew on every part. Raises OutOfRange for values under 0.
    Source: a sum.
    """
    return not_negative("load", load) + not_negative("find", find)


@formula(unit="s")
def part_time(cycles: Seconds, by_hand: Seconds, meanwhile: Seconds) -> float:
    """t = tz + th − tp

    One part: its share of every cycle it goes through and of loading by hand, less what is loaded
    on another pallet while the machine cuts. Raises OutOfRange for values under 0.
    Source: a sum.
    """
    taken = not_negative("cycles", cycles) + not_negative("by_hand", by_hand)
    return taken - within("meanwhile", meanwhile, 0.0, taken)


@formula(unit="s")
def prove_out_time(cycle: Seconds, factor: Plain) -> float:
    """t = tz·(k − 1)

    What the first cycle takes longer, run slowly and looked at. Raises OutOfRange for a factor
    under 1.
    Source: practice; the shop's own factor.
    """
    return not_negative("cycle", cycle) * (positive("factor", within("factor", factor, 1, 100)) - 1)


@formula(unit="s")
def batch_total(
    build: Seconds,
    prove_out: Seconds,
    first_part: Seconds,
    running: Seconds,
    edges: Seconds,
    by_hand: Seconds,
    meanwhile: Seconds,
) -> float:
    """t = tb + tp + tm + Σ n·tz + te + q·th − q·tw

    All parts of a plan, one setup after the other: built, proven, the first part measured, cycles,
    worn edges changed, parts put in, less what is put in while the machine cuts. Raises OutOfRange
    for values under 0.
    Source: a sum.
    """
    parts = {
        "build": build,
        "prove_out": prove_out,
        "first_part": first_part,
        "running": running,
        "edges": edges,
        "by_hand": by_hand,
    }
    taken = sum(not_negative(name, value) for name, value in parts.items())
    return taken - within("meanwhile", meanwhile, 0.0, taken)
