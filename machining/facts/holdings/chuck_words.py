"""How the sheet tells what a chuck is set to and how a part goes into it."""

from __future__ import annotations

from machining.plan.holding import InChuck
from machining.quantities.said import Said, Shown, length
from machining.world.workholding import Chuck

from . import rests
from .base import KEEPS_FORCE, HeldWords, Lying
from .chuck_bodies import bored

STANDS = "Its bolts are not reckoned."


def force_of(holding: InChuck, chuck: Chuck) -> Shown:
    return Shown(holding.force_per_jaw_n, "force")


def words(holding: InChuck, chuck: Chuck, lying: Lying) -> HeldWords:
    on_step = " Push it against their step while they close." if bored(holding, chuck) else ""
    force = force_of(holding, chuck)
    steps = (
        *_boring(holding, chuck, force),
        Said("Wipe jaws and stock. The key out of the chuck."),
        Said(
            lying.handling + ". {out} stands out of the jaws." + on_step + lying.note,
            {"out": length(lying.stands_out_mm)},
        ),
        Said(
            "Close with {force} each jaw."
            + lying.reason
            + ("" if (first := holding.jaw_angle_deg) is None else f" Jaw 1 at {first:g}°."),
            {"force": force},
        ),
    )
    closed, each = Said(f"in the jaws, {holding.grips}"), "each jaw, at rest"
    if not lying.turns:
        bolt = Said(
            "Bolt the chuck to the table; indicate what it closes on: its axis is the part's."
        )
        care = Said("Nothing of the chuck is loose when the spindle turns: key out, jaws closed.")
        return HeldWords(chuck.name, force, each, closed, (bolt, *steps), care, caution_note=STANDS)
    limit = {"limit": Shown(lying.most_rpm, "spindle_speed")}
    return HeldWords(
        chuck.name,
        force,
        each,
        closed,
        (
            *steps,
            *rests.steps(holding),
            Said(
                "Limit the spindle to {limit} before the first cut at a kept cutting speed.", limit
            ),
        ),
        Said(
            "Guard closed before the spindle turns; never over {limit}, nor over the speed on the"
            " chuck's own plate and what its maker allows for these jaws.",
            limit,
        ),
        caution_note=f"{KEEPS_FORCE} A bar that stands out behind needs its guide.",
    )


def _boring(holding: InChuck, chuck: Chuck, force: Shown) -> tuple[Said, ...]:
    """How its soft jaws are made to fit, once, before the first part."""
    if not bored(holding, chuck) or holding.bored_mm is None:
        return ()
    outside = holding.grips == "outside"
    made = "Bore" if outside else "Turn"
    values = {
        "bored": Shown(holding.bored_mm, "size"),
        "grip": length(holding.grip_mm),
        "force": force,
    }
    text = f"{made} the soft jaws to Ø{{bored}}, {{grip}} deep, corner relieved"
    if holding.spacer_mm is not None:
        what = "a spacer of" if outside else "a ring of"
        text += f", closed with {{force}} each on {what} Ø{{spacer}}"
        values["spacer"] = length(holding.spacer_mm)
    if holding.spacer_mm is not None and holding.left_mm is not None:
        text += ", {left} of their travel left"
        values["left"] = length(holding.left_mm)
    return (Said(text + ". Once, before the first part; deburr them.", values),)
