"""hold.marks: jaws or clamps that leave their marks on what is finished."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.holdings import KINDS
from machining.facts.marks import Marked, marked
from machining.facts.outside import WORDS
from machining.plan.edit import Change, Keep
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.world.workholding import Chuck, Vise

from ..finding import Finding

ID = "hold.marks"
SHIM = "a strip of soft metal lies between"
AFTER = "they are dressed or turned over afterwards"


def marks(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    for found in marked(station, facts):
        what = f"The {found.by.what}" if found.by.what[0] != "c" else found.by.what.capitalize()
        bites = "bite into" if found.by.bites else "press on"
        if found.by.what.startswith("clamp"):
            bites = "bites into" if found.by.bites else "presses on"
        where = ", at X {x}, Y {y}, Z {z}"
        text = f"{what} {bites} what is finished{where}."
        values = {name: length(float(v)) for name, v in zip("xyz", found.at, strict=True)}
        if found.asked is not None and found.asked.finish_um is not None:
            text += " The drawing asks {finish} there: {name}."
            values |= {
                "finish": Shown(found.asked.finish_um, "roughness"),
                "name": Shown(found.asked.what),
            }
        elif found.done is not None:
            text += " It was {done} before."
            values["done"] = Shown(WORDS[found.done.kind])
        yield Finding(
            ID,
            "look",
            station.setup.id,
            "",
            text,
            values,
            "",
            tuple(_fixes(station, found, facts)),
            station=station.id,
        )


def _fixes(station: StationFacts, found: Marked, facts: PlanFacts) -> Iterator[Proposal]:
    """What has soft jaws, of the same kind; or what somebody says."""
    held, item = station.planned.holding, station.item
    if isinstance(item, Chuck | Vise):
        for other in facts.library.holdings.values():
            soft = getattr(other, "jaw_kind", getattr(other, "jaws", "")) == "soft"
            place = station.place
            if type(other) is not type(item) or not soft or place is None:
                continue
            if not KINDS[other.kind].goes(other, place):
                continue
            usual = KINDS[other.kind].usual(station, other, held, facts)
            yield Proposal(
                "Hold it in the {other}",
                (Change(on=station.on, fields={"holding": usual.model_dump(mode="json")}),),
                {"other": Shown(other.name)},
            )
    for words in (SHIM, AFTER):
        keep = Keep(on=station.on, finding=ID, words=words)
        yield Proposal("Keep it: {words}", (keep,), {"words": Shown(words)})
