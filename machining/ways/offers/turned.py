"""What could be turned next in a setup: the end, the outside, the bore, grooves, a
thread, and off.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from itertools import pairwise

from machining.facts.at_hand import Fits
from machining.geometry.contours import bridged, contour_of, valleys
from machining.geometry.regions import Region
from machining.geometry.solids import half_section, posed
from machining.plan.operation import Drill
from machining.plan.places import Points
from machining.plan.turned import (
    Groove,
    PartOff,
    Plane,
    Profile,
    Stretch,
    TurnFace,
    TurnFinish,
    TurnGroove,
    TurnRough,
    TurnThread,
)
from machining.quantities.names import same_thread, thread_of
from machining.world.feature import Hole
from machining.world.tool import Tool

from .bench import Bench, Offer

STANDS_OVER_MM = 0.05
PAST_MM = 4.0  # a parting tool's width and a little
Corners = list[tuple[float, float]]


def turn_offers(bench: Bench) -> Iterator[Offer]:
    """Each with a fitting tool; what is planned in this setup already is left out."""
    body = half_section(posed(bench.facts.geometry.solid, bench.seen.lie.pose))
    here: set[str] = {op.kind for op in bench.seen.work}
    plain: Fits = lambda t: t.kind == "turning_rough"  # noqa: E731
    fine: Fits = lambda t: t.kind == "turning_finish"  # noqa: E731
    end = float(bench.seen.lie.part_high[2])
    if "turn_face" not in here and float(bench.seen.lie.stock_high[2]) - end > STANDS_OVER_MM:
        yield bench.offer(
            "End",
            "Face",
            plain,
            lambda t: t.cutting_depth_mm,
            lambda id, tool, t: TurnFace(id=id, tool=tool, on=Plane(z_mm=round(end, 3) + 0.0)),
        )
    outside = down_to_jaws(past_the_end(contour_of(body), bench), bench)
    if len(outside) > 1:
        profile = Profile.through(bridged(outside), "outside")
        wide = f"Outside, Ø{2.0 * max(r for r, _ in outside):.4g}"
        if not _planned(bench, "turn_rough", "outside"):
            yield bench.offer(
                wide,
                "Rough",
                plain,
                lambda t: t.cutting_depth_mm,
                lambda id, tool, t: TurnRough(
                    id=id,
                    tool=tool,
                    on=profile,
                    depth_mm=min(2.0, t.cutting_depth_mm if t else 2.0),
                ),
            )
        if not _planned(bench, "turn_finish", "outside"):
            yield bench.offer(
                wide,
                "Finish",
                fine,
                lambda t: t.max_ramp_deg,
                lambda id, tool, t: TurnFinish(id=id, tool=tool, on=profile),
            )
        yield from _grooves(bench, outside)
    yield from _bore(bench, body)
    yield from _thread_and_off(bench, outside, here)


def past_the_end(corners: Corners, bench: Bench) -> Corners:
    """Drawn on past the part's other end where stock goes on there, so that parting off leaves no
    rim.
    """
    if not corners or corners[-1][1] - float(bench.seen.lie.stock_low[2]) < PAST_MM:
        return corners
    r, z = corners[-1]
    return [
        *(corners[:-1] if len(corners) > 1 and abs(corners[-2][0] - r) < 1e-4 else corners),
        (r, z - PAST_MM),
    ]


def down_to_jaws(corners: Corners, bench: Bench) -> Corners:
    """The contour as far as the jaws' margin lets a tool go."""
    lowest = (
        bench.seen.stand.top + bench.facts.library.settings.jaw_margin_mm
        if bench.seen.stand.top is not None
        else float(bench.seen.lie.part_low[2])
    )
    kept: Corners = []
    for r, z in corners:
        if z < lowest - 1e-6:
            if kept:
                above_r, above_z = kept[-1]
                share = (above_z - lowest) / (above_z - z)
                if share > 1e-6:
                    kept.append((round(above_r + share * (r - above_r), 5), round(lowest, 5)))
            break
        kept.append((r, z))
    return kept


def _planned(bench: Bench, kind: str, side: str) -> bool:
    return any(
        op.kind == kind and isinstance(op.on, Profile) and op.on.side == side
        for op in bench.seen.work
    )


def _grooves(bench: Bench, outside: Corners) -> Iterator[Offer]:
    done = {
        round(op.on.z_mm, 2)
        for op in bench.seen.work
        if isinstance(op, TurnGroove) and isinstance(op.on, Groove)
    }
    for place in valleys(outside):
        (bottom_r, high), (_, low) = outside[place + 1], outside[place + 2]
        width, bottom, at = round(high - low, 3), round(2.0 * bottom_r, 3), round(high, 3)
        if round(at, 2) in done:
            continue
        yield bench.offer(
            f"Groove {width:.4g} × Ø{bottom:.4g}",
            "Groove",
            _fits_groove(width),
            lambda t: t.insert_width_mm or 0.0,
            lambda id, tool, t, on=Groove(z_mm=at, width_mm=width, diameter_mm=bottom): TurnGroove(
                id=id, tool=tool, on=on
            ),  # type: ignore[misc]
        )


def _fits_groove(width: float) -> Fits:
    def fits(tool: Tool) -> bool:
        return tool.kind == "turning_groove" and (tool.insert_width_mm or 0.0) <= width + 1e-6

    return fits


def _bore(bench: Bench, body: Region) -> Iterator[Offer]:
    """A bore along the spindle that is open at the free end: drilled, then turned out."""
    wall = [(r, z) for r, z in contour_of(body, outside=False)]
    end, corners = float(bench.seen.lie.part_high[2]), []
    for r, z in wall:
        if r < STANDS_OVER_MM:
            break
        corners.append((r, z))
    if len(corners) < 2 or corners[0][1] < end - 1e-3:
        return
    narrow = _as_read(2.0 * min(r for r, _ in corners), bench)
    deep = corners[0][1] - corners[-1][1]
    through = len(corners) == len(wall)
    group = f"Bore Ø{narrow:.4g}, {deep:.4g} deep"
    on = Points(
        at_mm=((0.0, 0.0),),
        top_mm=round(end, 3),
        diameter_mm=round(narrow, 3),
        depth_mm=round(deep, 3),
        through=through,
    )
    if not any(op.kind == "drill" for op in bench.seen.work):
        yield bench.offer(
            group,
            "Drill",
            lambda t: t.kind == "turning_drill" and t.diameter_mm <= narrow + 1e-6,
            lambda t: t.diameter_mm,
            lambda id, tool, t: Drill(
                id=id,
                tool=tool,
                on=on.model_copy(update={"diameter_mm": t.diameter_mm}) if t else on,
                peck_mm=t.diameter_mm if t and deep > 3 * t.diameter_mm else None,
            ),
        )
    bar: Fits = lambda t: t.kind == "boring_bar" and t.diameter_mm <= narrow  # noqa: E731
    profile = Profile.through(corners, "inside")
    for kind, label, made in (
        ("turn_rough", "Rough", TurnRough),
        ("turn_finish", "Finish", TurnFinish),
    ):
        if not _planned(bench, kind, "inside"):
            make = partial(_inside, made, profile)
            yield bench.offer(group, label, bar, lambda t: t.shank_diameter_mm, make)


def _as_read(across: float, bench: Bench) -> float:
    """The diameter (mm) of the hole that a section shows in chords."""
    holes = (each for each in bench.facts.geometry.features if isinstance(each, Hole))
    known = (each.diameter_mm for each in holes)
    return next((each for each in known if 0.0 <= each - across < STANDS_OVER_MM), across)


def _inside(
    made: type[TurnRough | TurnFinish], on: Profile, id: str, tool: str, t: Tool | None
) -> TurnRough | TurnFinish:
    return made(id=id, tool=tool, on=on, **({"depth_mm": 1.0} if made is TurnRough else {}))


def _threads_asked(bench: Bench, outside: Corners) -> Iterator[Offer]:
    """Threads of the drawing, over the longest stretch of their diameter."""
    cut = {
        (op.diameter_mm, op.pitch_mm)
        for setup in bench.facts.plan.setups
        for op in setup.operations
        if isinstance(op, TurnThread)
    }
    for asked in bench.facts.plan.part.requirements:
        wanted = thread_of(asked.thread) if asked.thread else None
        if wanted is None or any(same_thread(each, wanted) for each in cut):
            continue
        diameter, pitch = wanted
        along = [
            (high - low, high)
            for (r, high), (under, low) in pairwise(outside)
            if abs(2.0 * r - diameter) < pitch / 2.0 and abs(under - r) < 1e-3
        ]
        long, high = max(along, default=(0.0, 0.0))
        if long < pitch:
            continue
        on = Stretch(z_mm=round(high, 3) + 0.0, length_mm=round(long, 3))
        yield bench.offer(
            f"Thread {asked.thread}",
            "Cut",
            partial(_cuts_thread, pitch=pitch),
            lambda t: -t.cutting_depth_mm,
            partial(_thread, on, diameter, pitch),
        )


def _cuts_thread(tool: Tool, pitch: float) -> bool:
    return tool.kind == "turning_thread" and tool.pitch_mm in (None, pitch)


def _thread(
    on: Stretch, diameter: float, pitch: float, id: str, tool: str, t: Tool | None
) -> TurnThread:
    return TurnThread(id=id, tool=tool, on=on, diameter_mm=diameter, pitch_mm=pitch)


def _thread_and_off(bench: Bench, outside: Corners, here: set[str]) -> Iterator[Offer]:
    lie = bench.seen.lie
    end = round(float(lie.part_high[2]), 3) + 0.0
    yield from _threads_asked(bench, outside)
    size = round(2.0 * outside[0][0], 2) if outside else 10.0
    yield bench.offer(
        "By hand",
        "Thread",
        lambda t: t.kind == "turning_thread",
        lambda t: -(t.pitch_mm or 0.0),
        lambda id, tool, t: TurnThread(
            id=id,
            tool=tool,
            on=Stretch(z_mm=end, length_mm=max(round(0.8 * size, 1), 3.0)),
            diameter_mm=max(size, 1.0),
            pitch_mm=(t.pitch_mm if t else None) or 1.5,
        ),
        rare="turn_thread" in here,
    )
    back = float(lie.part_low[2])
    if "part_off" not in here and back - float(lie.stock_low[2]) > 1.0:
        yield bench.offer(
            "End",
            "Part off",
            lambda t: t.kind == "part_off",
            lambda t: t.cutting_depth_mm,
            lambda id, tool, t: PartOff(id=id, tool=tool, on=Plane(z_mm=round(back, 3))),
        )
    yield bench.offer(
        "By hand",
        "Groove",
        lambda t: t.kind == "turning_groove",
        lambda t: -(t.insert_width_mm or 0.0),
        lambda id, tool, t: TurnGroove(
            id=id,
            tool=tool,
            on=Groove(
                z_mm=end - 10.0,
                width_mm=(t.insert_width_mm if t else None) or 3.0,
                diameter_mm=max(round(0.8 * size, 1), 1.0),
            ),
        ),
        rare=True,
    )
