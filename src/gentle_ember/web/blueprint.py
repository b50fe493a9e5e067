"""How a group of operations is made: its place, its tag, the problems all of it may answer with."""

from __future__ import annotations

import os

from flask import Response
from flask_openapi3 import APIBlueprint, Tag
from pydantic import BaseModel

from gentle_ember.web.problems import Problem

DESCRIBE_VARIABLE = "GENTLE_EMBER_DESCRIBE"
DESCRIBED = os.environ.get(DESCRIBE_VARIABLE) == "1"
"""Whether operations are described as they are made: it takes as long as all the rest of a start,
so that only `gentle_ember.web.openapi` asks for it, and a server serves the document it wrote."""


def blueprint(name: str, tag: str, prefix: str, *statuses: int) -> APIBlueprint:
    """A group of operations.

    Args:
        name: of the group, once an app.
        tag: what the document lists it under.
        prefix: where its addresses begin.
        statuses: of the problems any of them may answer with.
    """
    return APIBlueprint(
        name,
        __name__,
        url_prefix=prefix,
        abp_tags=[Tag(name=tag)],
        abp_responses=dict.fromkeys(statuses, Problem) if DESCRIBED else None,
        doc_ui=DESCRIBED,
    )


def sent(view: BaseModel | str, status: int = 200) -> Response:
    """An answer as JSON, made by its own response class."""
    text = view if isinstance(view, str) else view.model_dump_json()
    return Response(text, status, mimetype="application/json")
