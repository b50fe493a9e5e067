"""What the page is built with of the core's own lists: stages and pages, fuels, choices, answers.

Written to `frontend/src/lib/api/published.ts` by `make types`, so that a value added in the core is
on the page with the next build, and one the page does not know how to show fails it.
"""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Any

from gentle_ember.core.job.choices import CHOICES
from gentle_ember.core.job.handling import HANDLING
from gentle_ember.core.job.usual_loads import USUAL_LOADS
from gentle_ember.core.physics.fuels import LETTERS, NAMES, FuelKey
from gentle_ember.core.quick.titles import QUICK
from gentle_ember.core.route import STAGES


def lists() -> dict[str, Any]:
    """Every list by the name the page knows it by."""
    pages = [
        {
            "page": f"{stage.key}/{page.key}",
            "name": page.name,
            "stage": stage.key,
            "views": ",".join(page.views),
            "facts": list(page.facts),
            "tab": page.tab,
        }
        for stage in STAGES
        for page in stage.pages
    ]
    fuels = [
        {"key": str(key), "name": NAMES[key], "letter": LETTERS[key],
         "hatch": str(HANDLING[key].hatch), "source": str(HANDLING[key].source)}
        for key in FuelKey
    ]  # fmt: skip
    return {
        "STAGES": [{"key": stage.key, "name": stage.name} for stage in STAGES],
        "PAGES": pages,
        "FUELS": fuels,
        "LETTERS": {one["key"]: one["letter"] for one in fuels},
        "STAGE_NAMES": {stage.key: stage.name for stage in STAGES},
        "USUAL_LOADS": [
            {
                "name": one.name,
                "kind": str(one.kind),
                "running": one.running_w,
                "starting": one.starting_w,
                "power_factor": one.power_factor,
                "both_legs": one.both_legs,
            }
            for one in USUAL_LOADS
        ],
        "QUICK": [{"name": name, "title": title} for name, title in QUICK.items()],
        **{name.upper(): [list(row) for row in rows] for name, rows in CHOICES.items()},
    }


def typescript() -> str:
    """The lists as the page imports them."""
    lines = ["// Written from the core by `make types`; not to be edited.\n"]
    for name, rows in lists().items():
        if isinstance(rows, dict):
            body = json.dumps(rows, ensure_ascii=False)
            lines.append(f"export const {name}: Record<string, string> = {body};\n")
            continue
        body = ",\n".join(f"  {json.dumps(row, ensure_ascii=False)}" for row in rows)
        lines.append(f"export const {name} = [\n{body}\n] as const;\n")
    return "\n".join(lines)


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(typescript(), "utf-8")
