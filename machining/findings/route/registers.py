"""route.offset-register: tools whose length or radius is read from another tool's register."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, SetupFacts
from machining.plan.document import LoadedTool
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.tool import STANDS_STILL, TURNS_ON_AXIS

from ..finding import Finding

ID, OF = "route.offset-register", {"h": "length", "d": "radius"}
NAMED = 6  # tools that are named before the others are counted


def registers(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Said of a machine's first setup."""
    if facts.first_on_its_machine(setup):
        loaded = [t for t in facts.plan.tools if t.machine == setup.planned.machine]
        shared = list(_shared(setup, loaded, facts))
        yield from shared
        told = {each.about.removesuffix("-h") for each in shared}
        yield from _odd(setup, [tool for tool in loaded if tool.id not in told])


def _shared(setup: SetupFacts, loaded: list[LoadedTool], facts: PlanFacts) -> Iterator[Finding]:
    """Whoever measures the second tool overwrites what was measured of the first. A radius matters
    where a path is offset by it.
    """
    for register, of in OF.items():
        seen = dict[int, LoadedTool]()
        for tool in loaded:
            number = getattr(tool, register)
            if number == 0 or (register == "d" and not _offsets_its_path(tool, facts)):
                continue
            if (first := seen.setdefault(number, tool)) is tool:
                continue
            odd = first if number == tool.number else tool
            values = {
                "odd": Shown(f"T{odd.number}"),
                "first": Shown(f"T{first.number}"),
                "second": Shown(f"T{tool.number}"),
                "register": Shown(f"{register.upper()}{number}"),
                "of": Shown(of),
            }
            yield Finding(
                ID,
                "stop",
                setup.id,
                "",
                "{first} and {second} both take their {of} from {register}: one of them cuts with"
                " the other’s.",
                values,
                "",
                (Proposal("Let {odd} use its own number", _own(odd, register), values),),
                about=f"{tool.id}-{register}",
            )


def _odd(setup: SetupFacts, loaded: list[LoadedTool]) -> Iterator[Finding]:
    odd = [each for each in loaded if each.h not in (0, each.number)]
    if not odd:
        return
    told = ", ".join(f"T{each.number} from H{each.h}" for each in odd[:NAMED])
    more = f" and {len(odd) - NAMED} more" if len(odd) > NAMED else ""
    own = tuple(edit for each in odd for edit in _own(each, "h"))
    yield Finding(
        ID,
        "look",
        setup.id,
        "",
        "Lengths are not in the registers of the tools’ own numbers: {told}.",
        {"told": Shown(told + more)},
        "",
        (Proposal("Let each tool use its own number", own),),
    )


def _own(tool: LoadedTool, register: str) -> tuple[Change, ...]:
    return (Change(on=f"tool:{tool.id}", fields={register: tool.number}),)


def _offsets_its_path(loaded: LoadedTool, facts: PlanFacts) -> bool:
    assembly = facts.library.assemblies.get(loaded.assembly)
    tool = facts.library.tools.get(assembly.tool) if assembly else None
    return tool is not None and tool.kind not in TURNS_ON_AXIS and tool.kind not in STANDS_STILL
