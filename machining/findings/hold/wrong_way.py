"""hold.wrong-way: the part goes in turned as well, the cut would spoil it, and nothing tells."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.flip import MARKED, corner_words, flip_of
from machining.facts.wrong_way import Wrong, every_way
from machining.plan.edit import Keep
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding

ID = "hold.wrong-way"
NOTED_MM = 0.5  # farther over is told


def wrong_way(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Not of what was turned over: the sheet says where its marked corner lies."""
    if flip_of(station, facts) is not None:
        return
    harmful = [each for each in every_way(station, facts) or () if each.harms]
    if not harmful:
        return
    worst = harmful[0]
    off = max(abs(each) for each in worst.pushed)
    message = (
        "It goes in the wrong way round as well ({way}"
        + (", {off} farther over" if off > NOTED_MM else "")
        + "): then {volume} of the finished part are cut"
        " away, round X {x}, Y {y}, Z {z}."
    )
    if len(harmful) > 1:
        message += " {count} ways of putting it in do harm."
    yield Finding(
        ID,
        "look",
        station.setup.id,
        "",
        message,
        {
            "way": Shown(_lower(worst.words)),
            "volume": Shown(worst.spoils_mm3, "volume"),
            **{name: length(value) for name, value in zip("xyz", worst.at, strict=True)},
            "count": Shown(float(len(harmful)), "count"),
            **({"off": length(round(off, 1))} if off > NOTED_MM else {}),
        },
        "",
        tuple(_guards(station, worst)),
        station=station.id,
    )


def _lower(words: str) -> str:
    return words[:1].lower() + words[1:]


def _guards(station: StationFacts, worst: Wrong) -> Iterator[Proposal]:
    """Words for what keeps it from being put in like that: what stands in its way first."""
    said = []
    if worst.pin is not None:
        x, y = worst.pin.at
        said.append(
            f"a pin {worst.pin.diameter:g} mm thick and {worst.pin.high:g} mm high stands at"
            f" X {x:g}, Y {y:g} in what it lies on"
        )
    where = "the end that stands out" if station.turns else f"its {corner_words(MARKED)}"
    said.append(f"it is stamped at {where}, as it lies here")
    for words in said:
        keep = Keep(on=station.on, finding=ID, words=words)
        yield Proposal("Keep it: {words}", (keep,), {"words": Shown(words)})
