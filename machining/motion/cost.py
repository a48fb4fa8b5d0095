"""What a batch costs: machines and people by the hour, edges, stock, and work done elsewhere."""

from __future__ import annotations

from machining.quantities.checks import not_negative

HOUR_S = 3600.0


def by_the_hour(seconds: float, an_hour: float) -> float:
    """c = t/3600·r. Raises OutOfRange for values under 0."""
    return not_negative("seconds", seconds) / HOUR_S * not_negative("an_hour", an_hour)


def of_stock(mass_kg: float, price_kg: float, quantity: int) -> float:
    """c = m·p·q. Raises OutOfRange for values under 0."""
    return not_negative("mass_kg", mass_kg) * not_negative("price_kg", price_kg) * quantity


def elsewhere(lot: float, piece: float, quantity: int) -> float:
    """c = c₀ + c₁·q. Raises OutOfRange for values under 0."""
    return not_negative("lot", lot) + not_negative("piece", piece) * quantity
