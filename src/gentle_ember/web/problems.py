"""One error shape: RFC 9457 problem+json with field paths."""

from __future__ import annotations

import errno
import json
from typing import Any

from flask import Flask, Response
from pydantic import BaseModel, ValidationError
from sqlalchemy.exc import OperationalError
from werkzeug.exceptions import HTTPException

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.people import CodeNeededError, NotYoursError, PersonError
from gentle_ember.documents.jobfile import JobFileError
from gentle_ember.store.errors import (
    ConflictError,
    FieldError,
    InvalidJobError,
    NotFoundError,
    NothingToUndoError,
    UnearnedError,
    UnreadableJobError,
)
from gentle_ember.store.guesses import TooManyGuessesError
from gentle_ember.store.people import FirstLeadError, SignInError
from gentle_ember.store.validate import allowed, field_errors
from gentle_ember.units import ReadingError

FULL = (
    "The disk of the shop's machine is full: this was not saved, and nothing that was saved before "
    "is lost. Make room there, then save again."
)


def _is_full(error: OSError | OperationalError) -> bool:
    if isinstance(error, OSError):
        return error.errno in (errno.ENOSPC, errno.EDQUOT)
    return "full" in str(error.orig)


class ProblemField(BaseModel):
    """A fault at one field."""

    path: str
    message: str


class Problem(BaseModel):
    """What went wrong, and at which fields; nothing was changed."""

    type: str
    title: str
    status: int
    detail: str
    errors: list[ProblemField] = []


def problem(
    status: int, kind: str, title: str, detail: str, errors: list[FieldError] | None = None
) -> Response:
    """A problem+json response."""
    body: dict[str, Any] = {
        "type": f"/problems/{kind}",
        "title": title,
        "status": status,
        "detail": detail,
        "errors": [{"path": e.path, "message": e.message} for e in errors or []],
    }
    return Response(json.dumps(body), status, mimetype="application/problem+json")


def from_validation(error: ValidationError) -> Response:
    """A request body that does not keep to its schema."""
    errors = field_errors(error)
    return problem(
        422, "invalid", "Something in the request is not right", errors[0].message, errors
    )


def register(app: Flask) -> None:
    """Give every error of the core and the store its one shape."""

    @app.errorhandler(InvalidJobError)
    def _invalid(error: InvalidJobError) -> Response:
        detail = error.errors[0].message
        return problem(422, "invalid", "Not saved: a field needs correcting", detail, error.errors)

    @app.errorhandler(UnearnedError)
    def _unearned(error: UnearnedError) -> Response:
        title = "Not taken in: it holds what this job does not allow yet"
        return problem(422, "unearned", title, error.errors[0].message, error.errors)

    @app.errorhandler(QuantityError)
    def _quantity(error: QuantityError) -> Response:
        entry = FieldError(error.name, allowed(error))
        return problem(422, "invalid", "A quantity is out of range", entry.message, [entry])

    @app.errorhandler(ReadingError)
    def _reading(error: ReadingError) -> Response:
        entry = FieldError("text", str(error))
        return problem(422, "unreadable", "Not a quantity", str(error), [entry])

    @app.errorhandler(ConflictError)
    def _conflict(error: ConflictError) -> Response:
        detail = f"{error.who or 'Somebody'} changed this meanwhile; yours is kept in the field."
        errors = [FieldError(path, detail) for path in error.paths]
        return problem(409, "conflict", "Changed meanwhile", detail, errors)

    @app.errorhandler(NotFoundError)
    def _missing(error: NotFoundError) -> Response:
        return problem(404, "not-found", "Not found", str(error.args[0]))

    @app.errorhandler(UnreadableJobError)
    def _unreadable(error: UnreadableJobError) -> Response:
        return problem(409, "unreadable", "Not readable", str(error))

    @app.errorhandler(NothingToUndoError)
    def _nothing(error: NothingToUndoError) -> Response:
        return problem(409, "nothing-to-undo", "Nothing to undo", str(error))

    @app.errorhandler(NotYoursError)
    def _not_yours(error: NotYoursError) -> Response:
        return problem(403, "hand", "Not yours to put down", str(error))

    @app.errorhandler(CodeNeededError)
    def _code(error: CodeNeededError) -> Response:
        return problem(403, "code", "Your code", str(error))

    @app.errorhandler(SignInError)
    def _secret(error: SignInError) -> Response:
        return problem(403, "secret", "Not signed in", str(error))

    @app.errorhandler(FirstLeadError)
    def _lead(error: FirstLeadError) -> Response:
        return problem(409, "lead", "Somebody leads first", str(error))

    @app.errorhandler(PersonError)
    def _person(error: PersonError) -> Response:
        entry = FieldError(error.field, str(error))
        return problem(422, "invalid", "Not taken", str(error), [entry])

    @app.errorhandler(TooManyGuessesError)
    def _guesses(error: TooManyGuessesError) -> Response:
        answer = problem(429, "guesses", "Too many wrong ones", str(error))
        answer.headers["Retry-After"] = "60"
        return answer

    @app.errorhandler(JobFileError)
    def _job_file(error: JobFileError) -> Response:
        return problem(422, "job-file", "File refused; nothing was changed", str(error))

    @app.errorhandler(RecursionError)
    def _deep(_: RecursionError) -> Response:
        return problem(422, "invalid", "Not read", "It is nested deeper than anything here is.")

    @app.errorhandler(OSError)
    @app.errorhandler(OperationalError)
    def _storage(error: OSError | OperationalError) -> Response:
        if _is_full(error):
            return problem(507, "full", "The disk is full", FULL)
        if isinstance(error, OperationalError) and "locked" in str(error.orig):
            answer = problem(503, "busy", "Busy", "Another write is still under way; try again.")
            answer.headers["Retry-After"] = "2"
            return answer
        raise error

    @app.errorhandler(HTTPException)
    def _http(error: HTTPException) -> Response:
        status = error.code or 500
        return problem(status, "http", error.name, error.description or error.name)
