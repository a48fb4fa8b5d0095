"""cut.power, cut.torque, cut.power-at-worst-stock: what a cut asks of the spindle's curve."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.feeds import blank_over
from machining.geometry.regions import Region
from machining.plan.edit import AddOperation, Change
from machining.plan.operation import Face, RoughOutside
from machining.plan.places import Outside
from machining.plan.proposal import Proposal
from machining.plan.turned import TurnFace
from machining.quantities.said import Shown

from ..finding import Finding, Severity, of_operation
from ..tools import lighter

LIMITS = (("power", "power"), ("torque", "torque"))
IDS = {"power": "cut.power", "torque": "cut.torque"}
# what a truing pass takes of the blank as drawn, and the closest a saw is asked for
TRUE_UP_MM, LEAST_SAWN_MM = 0.2, 0.1
SQUARE_FORMS = {"block", "plate", "square"}  # blanks with square corners in plan


FOR_A_SHORT_TIME = (
    "It asks {asked}, over the {limit} this spindle gives for good; for the {time} of this cut it"
    " gives {short}."
)


def over_the_curve(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    for worst in ("", "worst_"):
        for name, quantity in LIMITS:
            asked, limit = op.value(f"{worst}{name}"), op.value(f"{name}_limit")
            if (
                asked is None
                or limit is None
                or limit <= 0
                or asked <= limit * facts.library.settings.power_share
            ):
                continue
            yield _over(op, facts, worst, name, quantity, asked, limit)
            return


def _over(
    op: Ready,
    facts: PlanFacts,
    worst: str,
    name: str,
    quantity: str,
    asked: float,
    limit: float,
) -> Finding:
    settings, extra = facts.library.settings, blank_over(op)
    values = {
        "asked": Shown(asked, quantity),
        "limit": Shown(limit, quantity),
        "share": Shown(asked / limit, "percent"),
    }
    less = 0.98 * settings.power_share * limit / asked
    milder, id = lighter(op, facts, less), "cut.power-at-worst-stock" if worst else IDS[name]
    severity: Severity = "stop" if asked > limit else "look"
    short, taken = op.value(f"short_{name}_limit"), op.time.cutting_s
    if (
        short is not None
        and asked <= settings.power_share * short
        and 0.0 < taken <= settings.short_peak_s
    ):
        severity, sentence = "note", FOR_A_SHORT_TIME
        values |= {"time": Shown(taken, "seconds"), "short": Shown(short, quantity)}
    elif not worst:
        sentence = "It asks {asked} of the spindle, which gives {limit} at this speed: {share}."
    else:
        sentence = "With the blank {skin} {extra} over it asks {asked} of {limit}: {share}."
        values |= {"extra": Shown(extra, "length"), "skin": Shown(_skin(op, facts))}
        milder = (
            *milder,
            *_true_up(op, facts, extra),
            *_through_air(op),
            *_sawn_closer(op, facts, extra, less),
        )
    return of_operation(op, id, severity, sentence, values, f"{worst}{name}", milder)


def _skin(op: Ready, facts: PlanFacts) -> str:
    side = op.seen.blank_side
    return "" if side is None else facts.plan.stock.skin(side)


def _through_air(op: Ready) -> tuple[Proposal, ...]:
    """Passes that begin where the largest blank does: air on most blanks, and never more than a
    pass at once.
    """
    over = op.seen.blank_over_mm
    if not isinstance(op.operation, Face | RoughOutside | TurnFace):
        return ()
    return (
        Proposal(
            "Begin {over} outside of it, through air on most blanks",
            (Change(on=f"operation:{op.operation.id}", fields={"over_mm": over}),),
            {"over": Shown(over, "length")},
        ),
    )


def _true_up(op: Ready, facts: PlanFacts, extra: float) -> tuple[Proposal, ...]:
    """A light pass before it that takes the blank to its nominal size, whatever it is sawn to."""
    kind, work = op.operation, op.work
    if extra <= 0:
        return ()
    stands = (
        _stands_beside(work.kept, work.region.union(work.kept))
        if isinstance(kind, RoughOutside) and not work.kept.is_empty
        else work.top - work.floor
    )
    leave = round(stands + getattr(kind, "leave_mm", 0.0) - TRUE_UP_MM, 3)
    if leave <= 0 or not isinstance(kind, RoughOutside | Face):
        return ()
    steps: dict[str, object] = (
        {"step_over_mm": TRUE_UP_MM}
        if isinstance(kind, RoughOutside)
        else {"step_down_mm": TRUE_UP_MM}
    )
    square = isinstance(kind.on, Outside) and facts.plan.stock.form in SQUARE_FORMS
    first = kind.model_copy(
        update={
            "id": f"{kind.id[:40]}true",
            "leave_mm": leave,
            "reason": "trues up the blank",
            "stop_after": "",
            "pinned": False,
            "kept": (),
            **({"on": kind.on.model_copy(update={"along": "block"})} if square else {}),
            **steps,
        }
    )
    at = [each.id for each in op.setup.planned.operations].index(kind.id)
    return (
        Proposal(
            "True the blank up first",
            (AddOperation(setup=op.setup.planned.id, operation=first, index=at),),
            {},
        ),
    )


def _stands_beside(kept: Region, stock: Region) -> float:
    """How far (mm) the stock stands over what is kept on the side where it is least, of those where
    it stands.
    """
    inner, outer = kept.bounds, stock.bounds
    sides = [inner[0] - outer[0], inner[1] - outer[1], outer[2] - inner[2], outer[3] - inner[3]]
    return min((side for side in sides if side > TRUE_UP_MM), default=0.0)


def _sawn_closer(op: Ready, facts: PlanFacts, extra: float, share: float) -> tuple[Proposal, ...]:
    """The tolerance of sawing at which the cut stays inside: what is asked goes nearly with the
    width (or depth) at its worst. No mill rolls and no foundry casts closer for one order.
    """
    side = op.seen.blank_side
    if side is None or facts.plan.stock.skin(side) != "sawn":
        return ()
    outside = isinstance(op.operation, RoughOutside)
    worst = op.seen.worst_width_mm if outside else op.seen.worst_depth_mm
    if worst is None:
        return ()
    closer = int(50 * (worst * share**1.2 - (worst - extra))) / 50
    if closer < LEAST_SAWN_MM:
        return ()
    return (
        Proposal(
            "Order it sawn to {closer}",
            (Change(on="plan", fields={facts.plan.stock.tolerance_field(side): closer}),),
            {"closer": Shown(closer, "length")},
        ),
    )
