"""hold.slips, hold.chuck-speed: what the jaws keep of their force at speed against the cut of a
worn edge.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts import requirement
from machining.facts.context import PlanFacts, Ready
from machining.facts.holdings import chuck as chuck_in
from machining.quantities.said import Shown

from ..finding import Finding, of_operation
from ..tools import lighter

SPEED_TAKES = 0.25  # of the force at rest, from which the speed is named as the reason


def slips_in_chuck(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    held, factor = chuck_in.held_in(op.station), op.value("holding")
    asked, rpm = requirement.asked(op, facts), op.value("top_rpm") or op.value("rpm")
    if (
        held is None
        or rpm is None
        or (factor is None and not op.seen.let_go)
        or (factor is not None and factor >= asked)
    ):
        return
    holding, chuck = held
    fixes = list(chuck_in.CHUCK.tighten(op, holding, chuck, asked))
    fixes += lighter(op, facts, 0.98 * (factor or 0.0) / asked) if factor else ()
    thrown, at_rest = op.value("centrifugal") or 0.0, holding.force_per_jaw_n
    values = {
        "factor": Shown(factor or 0.0, "factor"),
        "asked": Shown(asked, "factor"),
        "rpm": Shown(rpm, "spindle_speed"),
        "left": Shown(op.value("jaw_at_speed") or 0.0, "force"),
        "rest": Shown(at_rest, "force"),
    }
    by_speed = thrown > SPEED_TAKES * at_rest
    yield of_operation(
        op,
        "hold.chuck-speed" if by_speed else "hold.slips",
        "stop",
        (
            "At {rpm} each jaw keeps {left} of {rest}: {factor} the cutting force of a worn edge;"
            " {asked} is asked for."
            if by_speed
            else "The jaws stand {factor} the cutting force of a worn edge; {asked} is asked for."
        ),
        values,
        "holding" if factor is not None else "jaw_at_speed",
        tuple(fixes),
    )
