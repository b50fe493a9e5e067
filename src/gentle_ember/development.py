"""The server for `make dev`: reloads on change, on the demo's data; the page comes from Vite."""

from __future__ import annotations

import os

from gentle_ember.cli import PORT, default_data
from gentle_ember.serving import check_free, claimed
from gentle_ember.web.app import create_app

if __name__ == "__main__":
    data = default_data().with_name("gentle-ember-demo")
    if os.environ.get("WERKZEUG_RUN_MAIN"):
        create_app(data).run(port=PORT, debug=False, use_reloader=True)
    else:
        check_free("127.0.0.1", PORT)
        with claimed(data, f"http://127.0.0.1:{PORT}"):
            create_app(data).run(port=PORT, debug=False, use_reloader=True)
