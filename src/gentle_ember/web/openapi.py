"""Write the OpenAPI document and the job file's schema to docs/api: `python -m …openapi FOLDER`."""

from __future__ import annotations

import json
import os
import sys
import tempfile
from pathlib import Path

from gentle_ember.documents import jobfile


def documents() -> dict[str, str]:
    """The published documents by file name; only where the app was not imported before."""
    os.environ["GENTLE_EMBER_DESCRIBE"] = "1"
    from gentle_ember.web.app import create_app

    with tempfile.TemporaryDirectory() as folder:
        api = create_app(Path(folder)).api_doc
    # A part that is not there is left out: null is no part of an OpenAPI document.
    api["components"] = {name: one for name, one in api["components"].items() if one is not None}
    texts = {"openapi.json": api, "job.schema.json": jobfile.schema()}
    return {
        name: json.dumps(body, indent=1, ensure_ascii=False, sort_keys=True) + "\n"
        for name, body in texts.items()
    }


if __name__ == "__main__":
    target = Path(sys.argv[1])
    target.mkdir(parents=True, exist_ok=True)
    for name, text in documents().items():
        (target / name).write_text(text, "utf-8")
