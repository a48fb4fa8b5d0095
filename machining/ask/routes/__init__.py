"""Routes of whole parts, planned from the part alone."""

from .proposals import Tell, propose

__all__ = ["Tell", "propose"]
