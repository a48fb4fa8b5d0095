"""What of a plan is set anew for another material, as one list."""

from __future__ import annotations

from dataclasses import dataclass, field

from machining.cutting.search import FULL_DEPTH, SHALLOW
from machining.facts.context import PlanFacts, Ready
from machining.facts.pecks import peck_wanted
from machining.plan.base import FEED_TYPED, SPEED_TYPED
from machining.plan.edit import Change
from machining.plan.operation import Drill, RoughOutside, RoughPocket
from machining.quantities.said import Shown, length
from machining.ways.choices.rough import rough_choices

DEEP = 0.5  # of the diameter: from this depth on a roughing cut is one of full depth
GENTLER = 0.98  # of the section now, or it stays


@dataclass
class Anew:
    """``fields`` are what changes of an operation; ``words`` say it, with ``{names}`` of
    ``values``.
    """

    op: Ready
    fields: dict[str, object] = field(default_factory=dict)
    words: list[str] = field(default_factory=list)
    values: dict[str, Shown] = field(default_factory=dict)

    def edit(self) -> Change:
        return Change(on=self.op.on, fields=self.fields)

    def say(self, words: str, **values: float) -> None:
        """With values (mm) named so that no other operation's have the same name."""
        names = {name: f"{name}{self.op.number}of{self.op.setup.number}" for name in values}
        self.words.append(words.format(**{name: f"{{{full}}}" for name, full in names.items()}))
        self.values |= {names[name]: length(value) for name, value in values.items()}


def set_anew(facts: PlanFacts) -> list[Anew]:
    """Speeds and feeds by the plan's material where others were typed, a peck where it wants one,
    and roughing steps no heavier than its search finds: nothing gets bolder. Operations that stay
    are not among them, nor any where nothing was proven in another material.
    """
    if not any(proven_elsewhere(op, facts) for op in facts.ready()):
        return []
    found = [_of(op, facts) for op in facts.ready()]
    return [each for each in found if each.fields]


def proven_elsewhere(op: Ready, facts: PlanFacts) -> bool:
    """Were its speed and feed typed for another material?"""
    return op.operation.proven_in not in ("", facts.plan.material)


def _of(op: Ready, facts: PlanFacts) -> Anew:
    anew, kind = Anew(op), op.operation
    typed = [name for name in (*SPEED_TYPED, *FEED_TYPED) if getattr(kind, name, None) is not None]
    if typed and proven_elsewhere(op, facts):
        anew.fields |= dict.fromkeys(typed)
        anew.say("speed and feed by the data")
    if isinstance(kind, Drill):
        wanted = peck_wanted(op, facts)
        if wanted is not None and kind.peck_mm is None:
            anew.fields["peck_mm"] = wanted
            anew.say("a peck every {peck}", peck=wanted)
    if isinstance(kind, RoughOutside | RoughPocket):
        _gentler(anew, kind, facts)
    return anew


def _gentler(anew: Anew, kind: RoughOutside | RoughPocket, facts: PlanFacts) -> None:
    """Steps of the school it is cut by, where those are smaller."""
    deep = kind.step_down_mm >= DEEP * anew.op.tool.diameter_mm
    school = FULL_DEPTH if deep else SHALLOW
    best = next(
        (each.cut for each in rough_choices(anew.op, facts) if each.label == school.name), None
    )
    if best is None or best.depth * best.width >= GENTLER * kind.step_down_mm * kind.step_over_mm:
        return
    down, over = min(best.depth, kind.step_down_mm), min(best.width, kind.step_over_mm)
    anew.fields |= {"step_down_mm": down, "step_over_mm": over}
    anew.say("steps {down} × {over}", down=down, over=over)
