"""``fabrotax``: the core on the command line. Wrong input ends with 2 and one sentence."""

from __future__ import annotations

import argparse
import json
import sys
from dataclasses import replace
from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING

from machining.quantities.errors import MachiningError

if TYPE_CHECKING:
    from machining.geometry.laid import Lay


def main(arguments: list[str] | None = None) -> int:
    parser = _parser()
    chosen, rest = parser.parse_known_args(arguments)
    if chosen.verb == "calc" and all("=" in each for each in rest):
        chosen.inputs += rest  # inputs after a flag
    elif rest:
        parser.error(f"{' '.join(rest)} is not understood")
    try:
        return {
            "evaluate": _evaluate,
            "offsets": _offsets,
            "read-step": _read_step,
            "read-lines": _read_lines,
            "schema": _schema,
            "calc": _calc,
            "verify": _verify,
            "holding": _holding,
        }[chosen.verb](chosen)
    except MachiningError as problem:
        print(problem, file=sys.stderr)
        return 2
    except OSError as problem:
        print(f"{problem.filename} can't be read: {problem.strerror}.", file=sys.stderr)
        return 2


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="fabrotax", description="Plans the setups and operations of machined parts."
    )
    verbs = parser.add_subparsers(dest="verb", required=True)
    evaluate = verbs.add_parser("evaluate", help="answer an exported plan")
    evaluate.add_argument("plan", type=Path)
    evaluate.add_argument("--json", action="store_true", help="everything the browser gets")
    _offset_words(verbs)
    read_step = verbs.add_parser(
        "read-step", help="read a STEP file to features, geometry and mesh"
    )
    read_step.add_argument("step", type=Path)
    read_step.add_argument("--out", type=Path, help="folder for geometry.json and mesh.glb")
    read_step.add_argument("--solid", type=int, help="which of several solids, counted from 1")
    read_step.add_argument(
        "--lay",
        type=_lay,
        default="straight",
        help="straight with the axes (left out), as in its file, or a flat face square to an axis",
        metavar="straight|file|FACE",
    )
    read_lines = verbs.add_parser("read-lines", help="read the lines of a DXF or SVG file")
    read_lines.add_argument("file", type=Path)
    read_lines.add_argument(
        "--meet-mm", type=float, help="ends that near each other are joined; left out: 0.05"
    )
    calc = verbs.add_parser("calc", help="work out one calculator; without a name, list them")
    calc.add_argument("name", nargs="?")
    calc.add_argument(
        "inputs",
        nargs="*",
        metavar="key=value",
        help="a bare number is in the unit of the name; diameter_mm=1/2in is read too",
    )
    calc.add_argument("--json", action="store_true", help="one flat object, numbers unrounded")
    verbs.add_parser("schema", help="the JSON schema of a plan document")
    verify = verbs.add_parser(
        "verify",
        help=(
            "check the record of a release: that it is whole, and that it says what this program"
            " works out"
        ),
    )
    verify.add_argument("record", type=Path)
    verify.add_argument("--sha256", help="the hash printed on the sheet")
    holding = verbs.add_parser("holding", help="answer a holding given as points of contact")
    holding.add_argument("case", type=Path)
    holding.add_argument("--json", action="store_true", help="one object, numbers unrounded")
    return parser


def _offset_words(verbs: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    offsets = verbs.add_parser("offsets", help="where the zero of each position is")
    offsets.add_argument("plan", type=Path)
    offsets.add_argument("--setup", type=int, help="of one setup, counted from 1")
    as_what = offsets.add_mutually_exclusive_group()
    as_what.add_argument("--json", action="store_true", help="a list, mm and degrees")
    as_what.add_argument(
        "--g10", choices=("metric", "inch"), help="a block of G10 that sets them in a control"
    )


def _evaluate(chosen: argparse.Namespace) -> int:
    from machining.evaluate import evaluate
    from machining.evaluation import to_bytes
    from machining.exchange import plan_json
    from machining.findings.finding import in_words
    from machining.quantities.display import clock, sizes

    plan, library = plan_json.read(chosen.plan.read_bytes())
    answer = evaluate(plan, replace(library, today=date.today()))
    if chosen.json:
        sys.stdout.write(to_bytes(answer).decode() + "\n")
        return 0
    for setup in answer.setups:
        ways = ", then ".join(each.up for each in setup.stations)
        leaves = f", {setup.parts} parts" if setup.parts > 1 else ""
        print(f"Setup {setup.number}  {ways}  {clock(setup.cycle_s)}{leaves}")
        for op in setup.operations:
            print(
                f"  {op.number:>3}  {op.title} {sizes(op.detail, op.sizes):<24} {clock(op.time_s)}"
                + (f" × {op.times}" if op.times > 1 else "")
            )
        for station in setup.stations:
            for question, why in station.unknown.items():
                print(f"  {station.up}, {question}: {why}")
    print(f"One part {clock(answer.one_part_s)}")
    for finding in answer.findings:
        print(f"{finding.severity}: {finding.id}: {in_words(finding)}")
    return 0


def _offsets(chosen: argparse.Namespace) -> int:
    from machining.exchange import offset_block, offset_table, plan_json
    from machining.facts.offsets import offsets_of
    from machining.facts.route import walk
    from machining.memo import Memo
    from machining.quantities.errors import Missing

    plan, library = plan_json.read(chosen.plan.read_bytes())
    lines = offset_table.table(offsets_of(walk(plan, library, Memo())))
    if chosen.setup is not None:
        if not 1 <= chosen.setup <= len(plan.setups):
            raise Missing("Setup", str(chosen.setup))
        lines = [line for line in lines if line.setup == chosen.setup]
    if chosen.json:
        print(json.dumps([line.plain() for line in lines]))
    else:
        written = offset_block.to_g10(lines, chosen.g10) if chosen.g10 else None
        sys.stdout.write(written or offset_table.to_csv(lines))
    return 0


def _calc(chosen: argparse.Namespace) -> int:
    from machining.calculators.parameter import quantity_of
    from machining.calculators.registry import calculate, known, load
    from machining.quantities.display import show
    from machining.quantities.errors import NotUnderstood

    if chosen.name is None:
        for name, each in load().items():
            print(f"{name:<18} {each.title}")
        return 0
    asked = known(chosen.name)
    given: dict[str, str] = {}
    for pair in chosen.inputs:
        key, equals, value = pair.partition("=")
        if not equals:
            raise NotUnderstood(
                "input", pair, f"key=value; {asked.name} takes {', '.join(asked.parameters)}"
            )
        given[key] = value
    results = calculate(asked.name, given)
    if chosen.json:
        print(json.dumps(results))
        return 0
    for key, value in results.items():
        words = [
            show(each, quantity_of(key)[0]) if isinstance(each, int | float) else str(each)
            for each in (value if isinstance(value, list) else [value])
            if each is not None
        ]
        print(f"{key:<26} {', '.join(words) or 'none'}")
    return 0


def _holding(chosen: argparse.Namespace) -> int:
    from machining.exchange import holding_case
    from machining.quantities.display import show

    found = holding_case.answer(holding_case.read(chosen.case.read_bytes()))
    if chosen.json:
        print(json.dumps(found))
        return 0
    motions = "; ".join(found["free_motions"]) or "nothing is free"
    print(f"located  {found['located_rank']} of 6: {motions}")
    print(f"seated   {'yes' if found['seated'] else found['motion']}")
    print(f"held     {'no cut' if found['factor'] is None else show(found['factor'], 'factor')}")
    return 0


def _verify(chosen: argparse.Namespace) -> int:
    from machining.exchange.release_record import check

    told = check(chosen.record.read_bytes())
    print(f"{told.job}, release {told.number} by {told.by}, {told.at}")
    print(f"SHA-256 {told.sha256}")
    if chosen.sha256 and chosen.sha256.lower() != told.sha256:
        print(
            f"The sheet says {chosen.sha256.lower()[:80]}: this is not the record it was made"
            " from.",
            file=sys.stderr,
        )
        return 1
    if told.differs:
        print(f"Worked out again it differs: {told.differs}", file=sys.stderr)
        return 1
    print(told.said)
    return 0


def _read_lines(chosen: argparse.Namespace) -> int:
    """One JSON object for whoever runs this in a process of its own; a problem in its own words."""
    from dataclasses import asdict

    from machining.exchange.lines import MEET_MM, read

    meet = MEET_MM if chosen.meet_mm is None else chosen.meet_mm
    try:
        found = read(chosen.file.name, chosen.file.read_bytes(), meet)
    except MachiningError as problem:
        print(json.dumps({"problem": str(problem)}))
        return 2
    print(json.dumps({**asdict(found), "closed": found.closed}))
    return 0


def _schema(chosen: argparse.Namespace) -> int:
    from machining.plan.document import Plan

    print(json.dumps(Plan.model_json_schema(), indent=1, sort_keys=True))
    return 0


def _lay(text: str) -> Lay:
    if text == "straight":
        return "straight"
    if text == "file":
        return "file"
    if text.isdecimal():
        return int(text)
    raise argparse.ArgumentTypeError(
        f"it is {text!r}; it must be straight, file or the number of a flat face"
    )


def _read_step(chosen: argparse.Namespace) -> int:
    """Progress goes to stdout as JSON lines, for whoever runs this in a process of its own."""
    from hashlib import sha256

    from machining.exchange import glb
    from machining.geometry.kernel import SeveralSolids, examine
    from machining.geometry.laid import laid
    from machining.world.geometry import from_examined, to_json

    def tell(**line: object) -> None:
        print(json.dumps(line), flush=True)

    step = chosen.step.read_bytes()
    solid = chosen.solid - 1 if chosen.solid is not None else None
    try:
        examined = laid(
            examine(step, solid, lambda share, doing: tell(share=share, doing=doing)), chosen.lay
        )
    except SeveralSolids as problem:
        tell(problem=str(problem), sizes=problem.sizes)
        return 2
    except MachiningError as problem:
        tell(problem=str(problem))
        return 2
    tell(share=0.95, doing="finding features")
    way = "" if examined.turned_deg == 0.0 and chosen.lay == "straight" else f"@{chosen.lay}"
    key = sha256(step + f"#{solid or 0}{way}".encode()).hexdigest()
    try:
        geometry = from_examined(key, examined)
    except MachiningError as problem:
        tell(problem=str(problem))
        return 2
    if chosen.out:
        chosen.out.mkdir(parents=True, exist_ok=True)
        (chosen.out / "geometry.json").write_bytes(to_json(geometry))
        (chosen.out / "mesh.glb").write_bytes(glb.write(geometry.mesh))
    tell(
        share=1.0,
        doing="done",
        key=key,
        size=geometry.size,
        turned_deg=examined.turned_deg,
        volume_mm3=geometry.volume_mm3,
        features=[f.model_dump(mode="json", exclude={"loops"}) for f in geometry.features],
    )
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
