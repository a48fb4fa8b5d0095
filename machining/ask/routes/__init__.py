"""Routes of whole parts, planned from the part alone."""

from .proposals import propose

__all__ = ["propose"]
