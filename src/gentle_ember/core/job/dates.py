"""What runs out by the date stamped on it: propane cylinders, and the rubber of gas hoses.

Cylinders in the United States: 49 CFR 180.209, the shorter of the terms it has had. Local rules
and the filler come first; a filler never fills one that ran out.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from typing import Annotated

from pydantic import AfterValidator

CYLINDER_YEARS: dict[str, int] = {"made": 12, "plain": 12, "s": 7, "e": 5}
"""Years a cylinder is good for, by its stamp: the date it was made, or of a later test, whose
letter tells how it was tested."""
HOSE_YEARS = 10
"""Years from the day it was made after which a gas hose is replaced, unless its maker says less."""
SOON = timedelta(days=92)


def month(text: str) -> str:
    """A month as stamped on a cylinder or printed on a hose, kept as year and month.

    Raises:
        ValueError: when it can't be read.

    >>> month("04 19"), month("4/2019"), month("2019-4"), month("11-98"), month("")
    ('2019-04', '2019-04', '2019-04', '1998-11', '')
    """
    said = text.strip()
    if not said:
        return ""
    found = re.fullmatch(r"(\d{4})[ ./-](\d{1,2})", said)
    year, number = (found[1], found[2]) if found else ("", "")
    if not found and (found := re.fullmatch(r"(\d{1,2})[ ./A-Z-]+(\d{4}|\d{2})", said)):
        number, year = found[1], found[2]
    if not found or not 1 <= int(number) <= 12:
        raise ValueError("Write it as month and year, like 04 19 or 2019-04")
    whole = int(year) if len(year) == 4 else 2000 + int(year) - 100 * (int(year) >= 70)
    if not 1940 <= whole <= 2100:
        raise ValueError("That is no year such a thing was made in")
    return f"{whole}-{int(number):02d}"


Month = Annotated[str, AfterValidator(month)]


class Standing(StrEnum):
    """How a dated thing stands on a day."""

    GOOD = "good"
    SOON = "soon"
    OVER = "over"
    NOT_YET = "not_yet"
    """Stamped with a month that has not come: misread, or not what it says."""


@dataclass(frozen=True, slots=True)
class Dated:
    """A thing that is good until the end of a month."""

    since: str
    last: date
    """The last day it is good."""
    years: int
    standing: Standing

    @property
    def until(self) -> str:
        """The month it is good to."""
        return f"{self.last:%Y-%m}"


def dated(since: str, years: int, today: date) -> Dated:
    """How something stamped with a month stands, good for whole years from it.

    >>> dated("2012-04", 12, date(2024, 4, 30)).standing.value
    'soon'
    >>> dated("2012-04", 12, date(2024, 5, 1)).standing.value
    'over'
    """
    year, number = int(since[:4]), int(since[5:])
    end = date(year + years + number // 12, number % 12 + 1, 1) - timedelta(days=1)
    standing = (
        Standing.NOT_YET if (year, number) > (today.year, today.month)
        else Standing.OVER if today > end
        else Standing.SOON if today > end - SOON
        else Standing.GOOD
    )  # fmt: skip
    return Dated(since, end, years, standing)
