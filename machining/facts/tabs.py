"""A part that only its tabs carry: whether they stand a cut, and how it leaves its frame."""

from __future__ import annotations

from shapely import unary_union

from machining.geometry.regions import grown
from machining.geometry.solids import prism
from machining.holding import tabs
from machining.memo import digest
from machining.plan.operation import CutOut
from machining.quantities.computed import Given
from machining.world.geometry import PartGeometry

from .context import OperationFacts, PlanFacts, Ready, StationFacts
from .flaps import without_flaps
from .held import PULL_BACK
from .kinds.cut_outs import raised
from .loose import of_the_part
from .state import State

SLIT_MM, UNDER_MM = 0.05, 1.0  # what tabs are cut through with; under the floor


def cut_out_before(op: OperationFacts) -> Ready | None:
    """The operation that left the tabs its part hangs by, itself included; None without any."""
    for each in (*op.station.operations, op):
        kind = each.operation
        if isinstance(kind, CutOut) and kind.tabs and isinstance(each, Ready):
            return each
        if each.id == op.id:
            return None
    return None


def of_operation(op: Ready, facts: PlanFacts) -> None:
    """Figures tabs_shear, tabs_lift and tabs_stand of a cut on a part that hangs by tabs; none
    where the material's proof stress is not known.
    """
    by, material = cut_out_before(op), facts.material
    worn = op.figures.get("worn_force")
    if by is None or worn is None or material is None or material.proof_n_mm2 is None:
        return
    kind = by.operation
    assert isinstance(kind, CutOut)
    size = {
        "count": Given(float(kind.tabs)),
        "wide": Given(kind.tab_mm),
        "high": Given(kind.tab_high_mm),
        "proof": facts.of_material("proof_n_mm2"),
    }
    shear = op.work_out(tabs.tabs_shear, "tabs_shear", **size)
    gap = Given(by.work.across, "its cut")
    lift = op.work_out(tabs.tabs_lift, "tabs_lift", gap=gap, **size)
    drilled = "thrust" in op.figures and "side_force" not in op.figures
    wear = facts.shop("wear_factor").value
    lifting = PULL_BACK * worn.value if drilled else wear * (op.value("axial_force") or 0.0)
    op.work_out(
        tabs.tabs_stand,
        "tabs_stand",
        side=Given(0.0, "a drill pushes down") if drilled else worn,
        shear=shear,
        lifting=Given(max(lifting, 0.0), "its edge"),
        lift=lift,
    )


def hands_on(station: StationFacts, geometry: PartGeometry) -> State:
    """The stock as it leaves a station, skins and what hangs by them snapped off: of one with tabs
    the part alone, its tabs cut through where they meet the frame.
    """
    left = without_flaps(station, geometry)
    found = [cut_out_before(op) for op in station.operations[-1:]]
    by = found[0] if found else None
    if by is None or by.operation.kind != "cut_out":
        return left
    key = digest("out of its frame", left.key, by.work.key, by.operation.model_dump_json())

    def out() -> State:
        lying = left.seen_in(by.lie)
        over = raised(by.operation, by.work)  # type: ignore[arg-type]
        outer = unary_union([grown(by.work.kept, by.work.across)])
        slit = grown(outer, SLIT_MM).difference(grown(outer, -SLIT_MM))
        low, high = by.work.floor - UNDER_MM, max(each.height for each in over) + SLIT_MM
        parted = State(lambda: lying.solid - prism(slit, low, high), key, left.memo, by.lie)
        return of_the_part(parted, geometry)

    return left.memo.get(("hands on", key, geometry.key), out)
