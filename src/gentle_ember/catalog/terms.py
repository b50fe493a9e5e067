"""The trade's names for things, and where in a job each is worked on."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib.resources import files

from pydantic import BaseModel, ConfigDict


class Term(BaseModel):
    """One thing with its several names; `page` and `field` lead to where it is worked on."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    name: str
    also: tuple[str, ...] = ()
    means: str
    page: str = ""
    field: str = ""


@cache
def terms() -> tuple[Term, ...]:
    """All terms of the shipped glossary."""
    text = (files("gentle_ember.catalog") / "data" / "terms.toml").read_text("utf-8")
    return tuple(Term.model_validate(row) for row in tomllib.loads(text)["term"])


def find_terms(query: str, limit: int = 8) -> list[Term]:
    """Terms of which some name holds every word of the query: exact, beginning, containing."""
    words = query.casefold().split()
    if not words:
        return []
    found: list[tuple[int, Term]] = []
    for term in terms():
        names = [term.name.casefold(), *(name.casefold() for name in term.also)]
        hits = [name for name in names if all(word in name for word in words)]
        if hits:
            exact = query.casefold().strip() in hits
            begins = any(name.startswith(words[0]) for name in hits)
            found.append((0 if exact else 1 if begins else 2, term))
    found.sort(key=lambda pair: pair[0])
    return [term for _, term in found[:limit]]
