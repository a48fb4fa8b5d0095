"""hold.none-chosen: a setup that nothing holds yet."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts import parallels
from machining.facts.context import PlanFacts, SetupFacts
from machining.plan.document import InChuck
from machining.plan.edit import Change, RemoveSetup
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding

# what an offered chuck closes with: of its jaws, of the stock, of its most
GRIP_SHARE, GRIP_OF_LENGTH, FORCE_SHARE = 0.8, 0.4, 0.6


def none_chosen(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    if setup.planned.holding is not None or not setup.operations:
        return
    if setup.machine is not None and setup.machine.kind == "lathe":
        yield _no_chuck(setup, facts)
        return
    fixes: list[Proposal] = []
    for vise in facts.library.vises.values():
        for letter in "yx":
            width = float(
                setup.lie.stock_high["xy".index(letter)] - setup.lie.stock_low["xy".index(letter)]
            )
            if width <= vise.max_opening_mm:
                least = facts.library.settings.grip_least_mm
                holding = parallels.usual_hold(vise, letter, least)
                edit = Change(
                    on=f"setup:{setup.planned.id}", fields={"holding": holding.model_dump()}
                )
                fixes.append(
                    Proposal(
                        "Hold it in the {vise} across {axis}",
                        (edit,),
                        {"vise": Shown(vise.name), "axis": Shown(letter.upper())},
                    )
                )
    words, numbered = (
        "Nothing says how the part is held in setup {setup}.",
        {"setup": Shown(str(setup.number))},
    )
    if not fixes:
        words = (
            "Nothing says how the part is held in setup {setup}, and no vise of the library opens"
            " far enough."
        )
        fixes = [
            Proposal("Take setup {setup} out", (RemoveSetup(setup=setup.planned.id),), numbered)
        ]
    yield Finding(
        "hold.none-chosen", "look", setup.planned.id, "", words, numbered, "", tuple(fixes[:3])
    )


def _no_chuck(setup: SetupFacts, facts: PlanFacts) -> Finding:
    """A lathe's setup with nothing to hold the part: the chucks that close on it."""
    across = float(setup.lie.stock_high[0] - setup.lie.stock_low[0])
    room = float(setup.lie.stock_high[2] - setup.lie.stock_low[2])
    fixes: list[Proposal] = []
    for chuck in facts.library.chucks.values():
        if chuck.min_grip_mm <= across <= chuck.max_grip_mm:
            held = InChuck(
                chuck=chuck.key,
                grip_mm=round(min(GRIP_SHARE * chuck.jaw_length_mm, GRIP_OF_LENGTH * room), 1),
                force_per_jaw_n=round(FORCE_SHARE * chuck.force_per_jaw_n, -2),
            )
            fixes.append(
                Proposal(
                    "Hold it in the {chuck}",
                    (
                        Change(
                            on=f"setup:{setup.planned.id}", fields={"holding": held.model_dump()}
                        ),
                    ),
                    {"chuck": Shown(chuck.name)},
                )
            )
    words, numbered = (
        "Nothing says how the part is held in setup {setup}.",
        {"setup": Shown(str(setup.number))},
    )
    if not fixes:
        words = (
            "Nothing says how the part is held in setup {setup}, and no chuck of the library closes"
            " on it."
        )
        fixes = [
            Proposal("Take setup {setup} out", (RemoveSetup(setup=setup.planned.id),), numbered)
        ]
    return Finding(
        "hold.none-chosen", "look", setup.planned.id, "", words, numbered, "", tuple(fixes[:3])
    )
