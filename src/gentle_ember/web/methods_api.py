"""Method pages: docs/engineering, as Show working links to them."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from flask import Response
from markdown_it import MarkdownIt

from gentle_ember.store.errors import NotFoundError
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.views.shop import MethodPageOut, MethodPath

api = blueprint("methods", "methods", "/api/methods", 404)


@cache
def folder() -> Path:
    """Where the pages are: inside an installed package, or the repository's docs."""
    packaged = Path(__file__).parent / "engineering"
    return packaged if packaged.is_dir() else Path(__file__).parents[3] / "docs" / "engineering"


@api.get("/<page>", responses={200: MethodPageOut})
def show(path: MethodPath) -> Response:
    """One method's page."""
    source = folder() / f"{path.page}.md"
    if not source.is_file():
        raise NotFoundError("There is no such method page.")
    text = source.read_text("utf-8")
    title = text.splitlines()[0].lstrip("# ")
    html = MarkdownIt("commonmark", {"html": False}).enable("table").render(text)
    return sent(MethodPageOut(page=path.page, title=title, html=html))
