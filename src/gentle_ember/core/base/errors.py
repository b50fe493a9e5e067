"""Errors the core raises; each names the quantity, its value and what is allowed."""

from __future__ import annotations


class QuantityError(ValueError):
    """A quantity that is not a number, or lies outside what the method or the field allows.

    `kind` is the quantity kind (see `quantities.KINDS`); `value`, `low` and `high` are SI.
    """

    def __init__(
        self, name: str, kind: str, value: float, low: float | None, high: float | None
    ) -> None:
        self.name, self.kind, self.value, self.low, self.high = name, kind, value, low, high
        super().__init__(f"{name}: {value!r} is outside {low!r} to {high!r} ({kind}, SI)")


class ChangeError(ValueError):
    """A change that names a place the job does not have."""


class EndError(ValueError):
    """An end that is not written as system:size:m or :f."""

    def __init__(self, text: str) -> None:
        self.text = text
        super().__init__(f"{text!r} is no end: write system:size:m or :f, such as npt:1/2:m")
