"""The one family of errors a caller has to expect from the core."""

from __future__ import annotations

from typing import Any

MOST_SHOWN = 80


def brief(value: object) -> str:
    """A value as a refusal shows it: at most 80 signs of it, none of them invisible."""
    if isinstance(value, int) and abs(value) >= 10**MOST_SHOWN:
        return "a number of many digits"
    text = value[: MOST_SHOWN + 1] if isinstance(value, str) else str(value)
    text = "".join(sign if sign.isprintable() else "�" for sign in text[: MOST_SHOWN + 1])
    return text if len(text) <= MOST_SHOWN else text[: MOST_SHOWN - 1] + "…"


def quoted(value: object) -> str:
    """The same, a text in quotation marks."""
    return repr(brief(value)) if isinstance(value, str) else brief(value)


class MachiningError(ValueError):
    """A value the core can't work with; its text is a sentence for a person."""

    def __init__(self, field: str, value: object, accepted: str) -> None:
        self.field, self.value, self.accepted = field, value, accepted
        super().__init__(f"{field} is {brief(value)}; it must be {accepted}.")

    def __reduce__(self) -> tuple[Any, ...]:
        """As it is in another process: its sentence may be another one than is made of its
        parts.
        """
        return _as_it_was, (type(self), self.args, dict(self.__dict__))


def _as_it_was(of: type[MachiningError], args: tuple[Any, ...], parts: dict[str, Any]) -> Any:
    found = of.__new__(of)
    found.args, found.__dict__ = args, parts
    return found


class OutOfRange(MachiningError):
    """A number outside what the model accepts, or not a finite number at all."""


class NotUnderstood(MachiningError):
    """A text that is no value of the wanted kind."""

    def __init__(self, field: str, value: object, accepted: str) -> None:
        super().__init__(field, value, accepted)
        self.args = (f"{field}: {quoted(value)} is not understood; write {accepted}.",)


class Missing(MachiningError):
    """Something is referred to that isn't there."""

    def __init__(self, field: str, value: object) -> None:
        super().__init__(field, value, "something that exists")
        self.args = (f"{field} {quoted(value)} doesn't exist.",)
