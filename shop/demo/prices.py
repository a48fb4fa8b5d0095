"""What the demo shop pays for the materials it keeps."""

from __future__ import annotations

from collections.abc import Mapping

from machining.world.material import Material
from machining.world.price import PriceFrom

# of a kilogram; and from how many on that are ordered at once
PRICES: dict[str, tuple[float, tuple[tuple[float, float], ...]]] = {
    "en-aw-6082": (6.4, ((50.0, 5.6), (250.0, 4.9))),
    "en-aw-7075": (11.5, ((50.0, 9.8),)),
    "x5crnimo17-12-2": (8.2, ((100.0, 7.1), (500.0, 6.3))),
}


def priced(materials: Mapping[str, Material]) -> dict[str, Material]:
    """The same, with a price where the shop has one."""
    return {key: _priced(each) if key in PRICES else each for key, each in materials.items()}


def _priced(material: Material) -> Material:
    price, breaks = PRICES[material.key]
    rows = tuple(PriceFrom(from_so_many=least, price=less) for least, less in breaks)
    return material.model_copy(update={"price_kg": price, "price_breaks": rows})
