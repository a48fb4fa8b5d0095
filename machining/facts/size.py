"""Will it measure right: push-off of finishing cuts, and material still standing over a hole."""

from __future__ import annotations

from machining.cutting import finish, forces
from machining.cutting.data import constant
from machining.geometry.contours import thickest
from machining.geometry.regions import Region, disc
from machining.geometry.solids import section
from machining.memo import Memo
from machining.plan.operation import Bore, FinishWalls
from machining.plan.places import DrawnArea, OnFeatures, Outside, Rectangle
from machining.plan.turned import Profile
from machining.quantities.computed import Computed, Given, Value
from machining.reaching import deflection
from machining.removal.found import NEAR
from machining.world.feature import Boss, Hole, Pocket

from .context import OperationFacts, PlanFacts, Ready
from .feeds import chip_at

STANDING_MM = 0.05
SLOT_SHARE = 0.97  # of a slot's width, from which a tool counts as wide as it
WALL_MM, WALL_OPEN = 0.05, 0.05  # beside the hole, and the share of its round that counts as open
WALL_LEVELS = (0.15, 0.3, 0.5, 0.7, 0.85)


def scallop(op: Ready, step: float) -> None:
    """The cusp a ball leaves between its steps (mm)."""
    if abs(2 * op.tool.corner_radius_mm - op.tool.diameter_mm) < 1e-6:
        op.work_out(
            finish.scallop_height,
            "scallop",
            ball_radius=op.of_tool("corner_radius_mm"),
            stepover=Given(min(step, op.tool.diameter_mm)),
        )


def pulled_in_slot(op: Ready, facts: PlanFacts) -> None:
    """Figures slot_force and slot_pull of a slot of its tool's own width."""
    depth, narrow = _depth_seen(op), narrow_mm(op, facts)
    if not _known(op, facts) or depth <= 0 or narrow is None:
        return
    if SLOT_SHARE * narrow <= op.tool.diameter_mm <= narrow + 1e-6:
        aside = op.work_out(
            forces.force_in_slot, "slot_force", depth=Given(depth), **_edge(op, facts)
        )
        _bent(op, "slot_pull", aside, depth)


def roughed_wall(op: Ready, facts: PlanFacts, wide: float | None = None) -> None:
    """Figures wall_force and rough_push_off, of a wall cut as ``wide`` (mm) as nothing else is."""
    wide = wide or op.seen.worst_width_mm or op.seen.width_mm
    if not _known(op, facts) or wide is None:
        return
    depth, width = _depth_seen(op), Given(min(wide, op.tool.diameter_mm))
    force = op.work_out(
        forces.force_on_wall, "wall_force", depth=Given(depth), width=width, **_edge(op, facts)
    )
    _bent(op, "rough_push_off", force, depth)


def finished_wall(op: Ready, facts: PlanFacts, wide: float, passes: int) -> None:
    """Figures wall_force, push_off, size_error after spring passes, and feed_marks. What stands on
    the wall counts, where that is not what was said.
    """
    if not _known(op, facts):
        return
    wide = stands_on_wall(op, wide)
    depth, width = _depth_seen(op), Given(min(wide, op.tool.diameter_mm))
    force = op.work_out(
        forces.force_on_wall, "wall_force", depth=Given(depth), width=width, **_edge(op, facts)
    )
    left = _bent(op, "push_off", force, depth)
    for k in range(2, passes + 1):
        if left.value > float(width):
            break  # it is pushed off by more than was there: the model ends here
        again = op.work_out(
            forces.force_on_wall,
            f"spring_force_{k}",
            depth=Given(depth),
            width=left,
            **_edge(op, facts),
        )
        bent = _bent(op, f"bent_{k}", again, depth)
        least = Given(constant("spring", "least_chip"), "data:spring.least_chip")
        left = op.work_out(
            finish.left_by_spring_pass,
            "size_error",
            bent=bent,
            edge_radius=op.of_tool("edge_radius_mm"),
            least_chip=least,
        )
    op.work_out(
        finish.side_milled_roughness,
        "feed_marks",
        feed_per_tooth=op.figures["chip"],
        edges=op.of_tool("flutes"),
        diameter=op.of_tool("diameter_mm"),
    )


def stands_on_wall(op: Ready, said: float) -> float:
    """The width (mm) its path meets but in corners, as said where that is no more than a tenth
    off.
    """
    usual = op.found.met.usual_width if op.found is not None else 0.0
    return said if usual <= 0 or abs(usual - said) <= NEAR * said else usual


def _known(op: Ready, facts: PlanFacts) -> bool:
    return facts.material is not None and "chip" in op.figures


def _edge(op: Ready, facts: PlanFacts) -> dict[str, Value]:
    """What the forces of a milling cutter ask besides depth and width."""
    return {
        "diameter": op.of_tool("diameter_mm"),
        "edges": op.of_tool("flutes"),
        "feed_per_tooth": op.figures["chip"],
        "kc11": facts.of_material("kc11_n_mm2"),
        "mc": facts.of_material("mc"),
        "radial_ratio": Given(constant("force_ratio", "radial"), "data:force_ratio.radial"),
        "axial_ratio": Given(constant("force_ratio", "axial"), "data:force_ratio.axial"),
        "helix": op.of_tool("helix_deg"),
    }


def _bent(op: Ready, name: str, force: Computed, depth: float) -> Computed:
    """How far (mm) a side force at half the depth bends tool, holder and machine."""
    tool, holder = op.tool, op.holder
    give = holder.stiffness_um_n + op.machine.compliance_um_n
    return op.work_out(
        deflection.tool_push_off,
        name,
        force=force,
        stick_out=Given(op.loaded.stick_out_mm, f"tool:T{op.loaded.number}"),
        flute_length=op.of_tool("flute_length_mm"),
        cutting_diameter=op.of_tool("diameter_mm"),
        neck_length=op.of_tool("usable_length_mm"),
        neck_diameter=op.of_tool("behind_flutes_mm"),
        shank_diameter=op.of_tool("shank_diameter_mm"),
        modulus=Given(constant("modulus_gpa", tool.material), f"data:modulus_gpa.{tool.material}"),
        flute_share=Given(constant("modulus_gpa", "flute_share"), "data:modulus_gpa.flute_share"),
        acting_at=Given(depth / 2.0),
        compliance=Given(give, "holder and machine"),
    )


def narrow_mm(op: OperationFacts, facts: PlanFacts) -> float | None:
    """The narrow side of the pocket, mm."""
    on = op.operation.on
    if isinstance(on, Rectangle):
        return min(on.length_mm, on.width_mm)
    if isinstance(on, DrawnArea):
        return thickest(on.region)
    pocket = (
        facts.geometry.feature(on.ids[0])
        if isinstance(on, OnFeatures) and len(on.ids) == 1
        else None
    )
    if not isinstance(pocket, Pocket):
        return None
    spans = [max(along) - min(along) for along in zip(*pocket.loops[0], strict=True)]
    return min(span for axis, span in enumerate(spans) if axis != "xyz".index(pocket.opens[1]))


def push_off_at(op: Ready, facts: PlanFacts, width: float, depth: float) -> float:
    """Push-off (mm) of a finishing cut along walls with another width or depth, all else as
    planned; needs push_off.
    """
    assert isinstance(op.operation, FinishWalls)
    width = width / op.operation.chain
    now, force = op.figures["push_off"], op.figures["wall_force"]
    given = {i.name: i.value for i in force.inputs}
    chip = (
        chip_at(op, min(width, op.tool.diameter_mm))
        if not op.operation.feed_typed
        else given["feed_per_tooth"]
    )
    harder = forces.force_on_wall(
        **{
            **given,
            "width": min(width, op.tool.diameter_mm),
            "depth": depth,
            "feed_per_tooth": chip,
        }
    )
    return deflection.tool_push_off(
        **{**{i.name: i.value for i in now.inputs}, "force": harder, "acting_at": depth / 2.0}
    )


def floor_lift(op: Ready) -> float | None:
    """How far (mm) the axial force of a roughing cut moves tool and spindle, None without its
    forces.
    """
    force = op.figures.get("side_force")
    if force is None:
        return None
    given = {i.name: i.value for i in force.inputs}
    turn = forces.over_one_turn(**{**given, "edges": int(given["edges"])})
    return turn.peak_axial * (op.holder.stiffness_um_n + op.machine.compliance_um_n) / 1000.0


def tolerance_each_way(op: OperationFacts, facts: PlanFacts) -> tuple[float, str]:
    """Half the narrowest band asked of what the operation cuts, and where it comes from."""
    on = op.operation.on
    names = drawn_as(on, facts)
    bands = [
        (r.band_mm / 2.0, f"drawing: {r.what}")
        for r in facts.plan.part.requirements
        if r.feature in names and r.band_mm > 0
    ]
    return min(
        bands, default=(facts.library.settings.general_tolerance_mm, "shop.general_tolerance_mm")
    )


def drawn_as(on: object, facts: PlanFacts) -> set[str]:
    """What the drawing calls the place an operation cuts: features, the outside, or the rounds and
    holes as wide as a turned contour.
    """
    if isinstance(on, OnFeatures):
        return set(on.ids)
    if isinstance(on, Outside):
        return {"outside"}
    if not isinstance(on, Profile):
        return set()
    wide, outside = {round(d, 2) for _, d in on.at_mm}, on.side == "outside"
    rounds = {
        each.id
        for each in facts.geometry.features
        if isinstance(each, Boss if outside else Hole) and round(each.diameter_mm, 2) in wide
    }
    return rounds | {"outside"} if outside else rounds


def standing_over_hole(op: Ready, memo: Memo) -> float | None:
    """How much material (mm) still stands over the mouth of a hole before it is cut; None where
    there is none.
    """
    if not op.work.holes:
        return None
    work = op.work

    def highest() -> float:
        surface = op.before.top()
        over = [
            (surface.highest_within(disc(x, y, 0.45 * work.hole_diameter)), mouth)
            for x, y, mouth, _ in work.holes
        ]
        return max((top - mouth for top, mouth in over if top is not None), default=0.0)

    standing = memo.get(("over-hole", op.before.key, work.holes, work.hole_diameter), highest)
    return standing if standing > STANDING_MM else None


def open_wall(op: Ready, memo: Memo) -> float | None:
    """How deep (mm) the wall of a hole is first open on a side, in material before the cut; None
    where it is whole or all gone.
    """
    if not op.work.holes:
        return None
    before, work = op.before.solid, op.work
    radius = (work.hole_diameter if isinstance(op.operation, Bore) else op.tool.diameter_mm) / 2.0

    levels: dict[float, Region] = {}  # alike holes are cut at the same heights

    def at(height: float) -> Region:
        if height not in levels:
            levels[height] = section(before, height)
        return levels[height]

    def first() -> float | None:
        for x, y, mouth, bottom in work.holes:
            ring = disc(x, y, radius + WALL_MM).exterior  # type: ignore[attr-defined]
            for share in WALL_LEVELS:
                level = at(round(mouth - share * (mouth - bottom - work.point_height), 6))
                inside = ring.intersection(level).length / ring.length
                if WALL_OPEN < inside < 1.0 - WALL_OPEN:
                    return share * (mouth - bottom)
        return None

    found: float | None = memo.get(("open-wall", op.before.key, work.holes, radius), first)
    return found


def _depth_seen(op: Ready) -> float:
    """Depth of cut (mm), that asked for where none was worked out."""
    asked = float(getattr(op.operation, "step_down_mm", 0.0))
    return asked if op.seen.depth_mm is None else op.seen.depth_mm
