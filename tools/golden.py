"""Dump everything the service answers of the demo scenario, and compare two such dumps.

`python tools/golden.py dump FOLDER` seeds the scenario and writes one JSON file an answer;
`python tools/golden.py compare BEFORE AFTER` says which values differ. A move of code that is
meant to change nothing changes nothing here.
"""

from __future__ import annotations

import json
import re
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from gentle_ember.demo import seed
from gentle_ember.web.app import create_app
from gentle_ember.web.views.job import VIEWS

EVERY = ",".join(VIEWS)
PLACES = ("board", "finder", "reference", "learned", "catalog", "catalog/ends", "quick/forms")
OF_A_JOB = ("cylinder", "library", "log", "parts.csv", "output.csv", "label.svg")
MOVING = re.compile(r'"(updated_at|at|job|id)": "[^"]*"')
UNLIKE = 1e-9
SHOWN = 40


def dump(folder: Path) -> None:
    """Write every answer of the seeded scenario below a folder."""
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as made:
        data = Path(made) / "data"
        seed(data)
        client = create_app(data).test_client()
        for place in PLACES:
            _write(folder / f"{place.replace('/', '_')}.json", client.get(f"/api/{place}"))
        groups = client.get("/api/board?limit=100").json["groups"]
        for row in (row for group in groups for row in group["rows"]):
            name = re.sub(r"\W+", "-", row["title"].lower())[:24]
            at = f"/api/jobs/{row['id']}"
            _write(folder / f"{name}.json", client.get(f"{at}?views={EVERY}"))
            for place in OF_A_JOB:
                _write(folder / f"{name}.{place.split('.')[0]}.json", client.get(f"{at}/{place}"))


def _write(path: Path, answer: Any) -> None:
    if answer.status_code == 200:
        content = answer.json if answer.is_json else answer.get_data(as_text=True).splitlines()
    else:
        content = {"status": answer.status_code}
    text = json.dumps(content, indent=1, ensure_ascii=False)
    path.write_text(MOVING.sub(r'"\1": "…"', text), encoding="utf-8")


def compare(before: Path, after: Path) -> int:
    """Print what differs between two dumps; the count of files that do."""
    names = sorted({one.name for folder in (before, after) for one in folder.glob("*.json")})
    unlike = 0
    for name in names:
        held = [folder / name for folder in (before, after)]
        if not all(one.exists() for one in held):
            print(f"{name}: only in {before if held[0].exists() else after}")
            unlike += 1
            continue
        found = list(_differences(*(json.loads(one.read_text("utf-8")) for one in held)))
        unlike += bool(found)
        for line in found[:SHOWN]:
            print(f"{name}: {line}")
        if len(found) > SHOWN:
            print(f"{name}: and {len(found) - SHOWN} more")
    print(f"{len(names)} answers, {unlike} differ")
    return unlike


def _differences(old: Any, new: Any, at: str = "") -> Iterator[str]:
    if isinstance(old, dict) and isinstance(new, dict):
        for key in [*old, *(one for one in new if one not in old)]:
            if key not in new:
                yield f"{at}.{key}: gone, was {_short(old[key])}"
            elif key not in old:
                yield f"{at}.{key}: new, {_short(new[key])}"
            else:
                yield from _differences(old[key], new[key], f"{at}.{key}")
    elif isinstance(old, list) and isinstance(new, list):
        yield from _in_lists(old, new, at)
    elif isinstance(old, float) and isinstance(new, float):
        if abs(old - new) > UNLIKE * max(1.0, abs(old)):
            yield f"{at}: {old} → {new}"
    elif old != new:
        yield f"{at}: {_short(old)} → {_short(new)}"


def _in_lists(old: list[Any], new: list[Any], at: str) -> Iterator[str]:
    keys = [_keys(one) for one in (old, new)]
    if keys[0] and keys[1] and keys[0] != keys[1]:
        yield (
            f"{at}: in another order"
            if sorted(keys[0]) == sorted(keys[1])
            else (f"{at}: keys {_short(sorted({*keys[0]} ^ {*keys[1]}))} in one only")
        )
        held = dict(zip(keys[1], new, strict=True))
        for key, entry in zip(keys[0], old, strict=True):
            if key in held:
                yield from _differences(entry, held[key], f"{at}[{key}]")
        return
    if len(old) != len(new):
        yield f"{at}: {len(old)} entries, now {len(new)}"
    for place, (first, second) in enumerate(zip(old, new, strict=False)):
        yield from _differences(first, second, f"{at}[{place}]")


def _keys(entries: list[Any]) -> list[str]:
    """What tells records apart; empty where they are none, or some share a key."""
    found = [one["key"] for one in entries if isinstance(one, dict) and "key" in one]
    return found if len(found) == len(entries) == len(set(found)) else []


def _short(value: Any) -> str:
    text = json.dumps(value, ensure_ascii=False)
    return text if len(text) < 120 else text[:119] + "…"


if __name__ == "__main__":
    match sys.argv[1:]:
        case ["dump", folder]:
            dump(Path(folder))
        case ["compare", before, after]:
            sys.exit(bool(compare(Path(before), Path(after))))
        case _:
            sys.exit(__doc__)
