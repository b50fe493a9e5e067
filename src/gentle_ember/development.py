"""The server for `make dev`: reloads on change, on the demo's data; the page comes from Vite."""

from __future__ import annotations

from gentle_ember.cli import PORT, default_data
from gentle_ember.web.app import create_app

if __name__ == "__main__":
    data = default_data().with_name("gentle-ember-demo")
    create_app(data).run(port=PORT, debug=False, use_reloader=True)
