"""The interface's blueprint, who asks, and its errors as problem details (RFC 9457)."""

from __future__ import annotations

import json
from collections.abc import Callable
from functools import wraps
from typing import Any, ParamSpec, TypeVar

from flask import Blueprint, Response, g, request
from peewee import InterfaceError, OperationalError
from werkzeug.exceptions import HTTPException

from vinegate.store import once as asked_once
from vinegate.store.jobs import NotAMember
from vinegate.store.tokens import bearer

blueprint = Blueprint("api", __name__, template_folder="templates", url_prefix="/api/v1")

P = ParamSpec("P")
R = TypeVar("R")


class Problem(Exception):
    """Something that is told to the program that asked."""

    def __init__(self, status: int, title: str, detail: str = "", **more: Any) -> None:
        super().__init__(title)
        self.status, self.title, self.detail, self.more = status, title, detail, more

    def response(self) -> Response:
        body = {"type": "about:blank", "title": self.title, "status": self.status, "detail": self.detail} | self.more
        text = json.dumps({name: value for name, value in body.items() if value != ""}, ensure_ascii=False)
        found = Response(text, self.status, mimetype="application/problem+json")
        if self.status == 401:
            found.headers["WWW-Authenticate"] = 'Bearer realm="Vine Gate"'
        return found


@blueprint.errorhandler(Problem)
def problem(error: Problem) -> Response:
    return error.response()


@blueprint.errorhandler(NotAMember)
def not_here(_: NotAMember) -> Response:
    return Problem(
        404, "Not here", "There is no such thing, or it belongs to a job you are not a member of."
    ).response()


@blueprint.errorhandler(HTTPException)
def http(error: HTTPException) -> Response:
    found = Problem(error.code or 500, error.name, error.description or "").response()
    allowed = getattr(error, "valid_methods", None)
    if allowed:
        found.headers["Allow"] = ", ".join(allowed)
    return found


@blueprint.errorhandler(OperationalError)
@blueprint.errorhandler(InterfaceError)
def away(_: Exception) -> Response:
    return Problem(503, "Not reachable for the moment", "The database does not answer. Ask again.").response()


def token(*, writes: bool = False) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Only for a token that holds, and may write where that is asked. The person is then `g.bearer`."""

    def guard(function: Callable[P, R]) -> Callable[P, R]:
        @wraps(function)
        def run(*args: P.args, **kwargs: P.kwargs) -> R:
            kind, _, text = request.headers.get("Authorization", "").partition(" ")
            found = bearer(text.strip()) if kind.casefold() == "bearer" else None
            if found is None:
                raise Problem(401, "A token is asked", "Make one on your account's page; send it as a bearer token.")
            if writes and not found.writes:
                raise Problem(403, "This token reads only")
            g.bearer = found
            return function(*args, **kwargs)

        return run

    return guard


def once(function: Callable[P, Response]) -> Callable[P, Response]:
    """With an `Idempotency-Key` the same request is worked once, and its answer given again for seven days."""

    @wraps(function)
    def run(*args: P.args, **kwargs: P.kwargs) -> Response:
        word = request.headers.get("Idempotency-Key", "").strip()
        if not word:
            return function(*args, **kwargs)
        if len(word) > asked_once.LONGEST:
            raise Problem(422, "The key is too long", f"{asked_once.LONGEST} characters at most.")
        number = g.bearer.token
        try:
            before = asked_once.begin(number, word, f"{request.method} {request.path}\n".encode() + request.get_data())
        except asked_once.AnotherRequest:
            raise Problem(422, "This key was used for another request") from None
        except asked_once.StillWorked:
            raise Problem(409, "The same request is being worked", "Ask again in a moment.") from None
        if before is not None:
            kind = "application/problem+json" if before.status >= 400 else "application/json"
            again = Response(before.body, before.status, mimetype=kind)
            again.headers["Idempotent-Replayed"] = "true"
            return again
        return _noted(number, word, lambda: function(*args, **kwargs))

    return run


def _noted(number: int, word: str, work: Callable[[], Response]) -> Response:
    """What is refused is an answer too, and is told again; what breaks leaves the key free."""
    try:
        found = work()
    except Problem as problem_:
        asked_once.end(number, word, problem_.status, problem_.response().get_data(as_text=True))
        raise
    except Exception:
        asked_once.end(number, word, 500, "")
        raise
    asked_once.end(number, word, found.status_code, found.get_data(as_text=True))
    return found


def body() -> dict[str, Any]:
    """The request's JSON object. Raises Problem."""
    if request.mimetype != "application/json":
        raise Problem(415, "JSON is asked", "Send application/json.")
    try:
        text = request.get_data(as_text=False).decode()
        found = json.loads(text, parse_constant=_no_constant)
        json.dumps(found, ensure_ascii=False).encode()
    except (UnicodeError, ValueError, RecursionError):
        raise Problem(400, "This is no JSON that can be read") from None
    if not isinstance(found, dict):
        raise Problem(400, "An object is asked")
    return found


def _no_constant(text: str) -> float:
    raise ValueError(text)


def answer(value: Any, status: int = 200, **headers: str) -> Response:
    """JSON, kept by nobody."""
    text = json.dumps(value, ensure_ascii=False, allow_nan=False, separators=(",", ":"))
    found = Response(text, status, mimetype="application/json")
    found.headers["Cache-Control"] = "no-store"
    for name, text in headers.items():
        found.headers[name.replace("_", "-")] = text
    return found
