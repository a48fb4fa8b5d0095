"""The one family of errors a caller has to expect from the core."""

from __future__ import annotations


class MachiningError(ValueError):
    """A value the core can't work with; its text is a sentence for a person."""

    def __init__(self, field: str, value: object, accepted: str) -> None:
        self.field, self.value, self.accepted = field, value, accepted
        super().__init__(f"{field} is {value}; it must be {accepted}.")


class OutOfRange(MachiningError):
    """A number outside what the model accepts, or not a finite number at all."""


class NotUnderstood(MachiningError):
    """A text that is no value of the wanted kind."""

    def __init__(self, field: str, value: object, accepted: str) -> None:
        super().__init__(field, repr(value), accepted)
        self.value = value
        self.args = (f"{field}: {value!r} is not understood; write {accepted}.",)


class Missing(MachiningError):
    """Something is referred to that isn't there."""

    def __init__(self, field: str, value: object) -> None:
        super().__init__(field, value, "something that exists")
        self.args = (f"{field} {value!r} doesn't exist.",)
