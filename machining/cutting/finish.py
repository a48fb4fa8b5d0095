"""What a finishing cut leaves: cusps of a ball, grooves of a turning tool."""

from __future__ import annotations

from math import acos, ceil, cos, degrees, radians, sin, sqrt

from machining.quantities.checks import not_negative, positive, within
from machining.quantities.computed import formula
from machining.quantities.units import Degrees, Millimetres, Plain


@formula(unit="mm", quantity="size")
def scallop_height(ball_radius: Millimetres, stepover: Millimetres) -> float:
    """h = R − √(R² − s²/4)

    Cusp a ball leaves between two passes on a flat. Raises OutOfRange for a step over 2R.
    Source: geometry.
    """
    radius = positive("ball_radius", ball_radius)
    half = within("stepover", stepover, 0.0, 2.0 * radius, low_open=True) / 2.0
    return half * half / (radius + sqrt(radius * radius - half * half))


@formula(unit="mm", quantity="size")
def scallop_step(ball_radius: Millimetres, height: Millimetres) -> float:
    """s = 2·√(2·R·h − h²)

    Step over that leaves a cusp of a height. Raises OutOfRange for a height over R.
    Source: geometry.
    """
    radius = positive("ball_radius", ball_radius)
    height = within("height", height, 0.0, radius, low_open=True)
    return 2.0 * sqrt(height * (2.0 * radius - height))


@formula(unit="µm", quantity="roughness")
def turned_roughness(feed_per_rev: Millimetres, nose_radius: Millimetres) -> float:
    """Rt = f²/(8·r)

    Depth of the groove a nose radius leaves at a feed. Raises OutOfRange for a feed over 2r.
    Source: geometry; good while the feed is well under the nose radius.
    """
    radius = positive("nose_radius", nose_radius)
    return (
        1000.0
        * within("feed_per_rev", feed_per_rev, 0.0, 2.0 * radius, low_open=True) ** 2
        / (8.0 * radius)
    )


@formula(unit="mm", quantity="size")
def scallop_on_round(corner_radius: Millimetres, ball_radius: Millimetres, step: Degrees) -> float:
    """h = (r + R)·cos(β/2) − √(R² − ((r + R)·sin(β/2))²) − r

    Cusp a ball leaves between two passes an angle apart on an outside round. Raises OutOfRange
    where the passes do not meet.
    Source: geometry: both contacts lie on the round, the ball's centres on a circle of r + R.
    """
    r, ball = positive("corner_radius", corner_radius), positive("ball_radius", ball_radius)
    half = radians(within("step", step, 0.0, 180.0, low_open=True)) / 2.0
    reach = (r + ball) * sin(half)
    within("step", step, 0.0, 2.0 * degrees(_widest(r, ball)), low_open=True)
    return (r + ball) * cos(half) - sqrt(max(ball * ball - reach * reach, 0.0)) - r


def _widest(r: float, ball: float) -> float:
    """Half the angle at which two balls on a round only just meet."""
    return acos(max(-1.0, min(1.0, sqrt(max((r + ball) ** 2 - ball**2, 0.0)) / (r + ball))))


@formula(unit="", quantity="count")
def round_passes(
    corner_radius: Millimetres, ball_radius: Millimetres, height: Millimetres
) -> float:
    """N = ⌈90°/β⌉, with β the step whose cusp is the height

    Passes of a ball round a quarter of an outside corner. Raises OutOfRange for values not over 0.
    Source: geometry.
    """
    r, ball, height = (
        positive("corner_radius", corner_radius),
        positive("ball_radius", ball_radius),
        positive("height", height),
    )
    low, high = 0.0, 2.0 * degrees(_widest(r, ball)) * (1.0 - 1e-12)
    if scallop_on_round(r, ball, high) <= height:
        return float(ceil(90.0 / high - 1e-9))
    for _ in range(60):
        middle = (low + high) / 2.0
        low, high = (
            (middle, high)
            if middle <= 0 or scallop_on_round(r, ball, middle) <= height
            else (low, middle)
        )
    return float(ceil(90.0 / max(low, 1e-6) - 1e-9))


@formula(unit="", quantity="count")
def passes_of_step(length: Millimetres, step: Millimetres) -> float:
    """N = ⌈l/s⌉

    Passes over a surface whose cusps stay under a height. Raises OutOfRange for values not over 0.
    Source: geometry.
    """
    return float(max(1, ceil(positive("length", length) / positive("step", step) - 1e-9)))


@formula(unit="µm", quantity="roughness")
def side_milled_roughness(
    feed_per_tooth: Millimetres, edges: Plain, diameter: Millimetres
) -> float:
    """Rt = (fz·z)²/(4·D)

    Waves the side of a mill leaves along its feed when one edge stands proud, as one always does:
    one wave a turn.
    Raises OutOfRange for a feed a turn over the diameter.
    Source: geometry of two circles a feed per turn apart; true edges would leave z² times less.
    """
    turn = positive("feed_per_tooth", feed_per_tooth) * within("edges", edges, 1.0, 200.0)
    return (
        1000.0 * within("feed", turn, 0.0, positive("diameter", diameter)) ** 2 / (4.0 * diameter)
    )


@formula(unit="mm", quantity="size")
def left_by_spring_pass(bent: Millimetres, edge_radius: Millimetres, least_chip: Plain) -> float:
    """δ = max(δ bend, k·rn)

    What a further pass at the same size leaves: its own push-off, but never less than the edge can
    cut. Raises OutOfRange for negative values.
    Source: an edge ploughs under a share of its radius; machining/data/cutting.toml.
    """
    return max(
        not_negative("bent", bent),
        not_negative("edge_radius", edge_radius) * within("least_chip", least_chip, 0.0, 1.0),
    )
