"""Error pages: what happened, what is kept, where to go."""

from __future__ import annotations

from flask import Flask, Response, g, render_template, request
from flask_login import AnonymousUserMixin
from flask_wtf.csrf import CSRFError
from peewee import InterfaceError, OperationalError
from werkzeug.exceptions import HTTPException

from vinegate.store.jobs import NotAMember
from vinegate.typeset.press import AskerLeft, TooMany
from vinegate.web.api.problems import http as problem_of

_WORDS = {
    403: ("Not yours to change", "Your role in this job lets you read, not do this."),
    404: ("Not here", "There is no such page, or it belongs to a job you are not a member of."),
    405: ("Not this way", "This address does not take that kind of request."),
    413: ("Too much at once", "What was sent is larger than this page takes."),
    429: ("Too many tries", "Wait a minute, then try again."),
}


def register_errors(app: Flask) -> None:
    """Put the error pages in place."""

    @app.errorhandler(HTTPException)
    def http(error: HTTPException) -> tuple[str, int] | Response:
        if request.path.startswith("/api/"):  # a way or path there is not: programs are told as programs
            return problem_of(error)
        code = error.code or 500
        title, text = _WORDS.get(code, (error.name, error.description or ""))
        return _page(code, title, text)

    @app.errorhandler(CSRFError)
    def stale_form(_: CSRFError) -> tuple[str, int]:
        return _page(400, "This page has been open too long", "Sign in again in another tab, then send the form again.")

    @app.errorhandler(NotAMember)
    def not_a_member(_: NotAMember) -> tuple[str, int]:
        return _page(404, *_WORDS[404])

    @app.errorhandler(OperationalError)
    @app.errorhandler(InterfaceError)
    def database_away(error: Exception) -> tuple[str, int]:
        app.logger.error("database: %s", error)
        g._login_user = AnonymousUserMixin()  # the page must not ask the database who is looking
        text = "The database does not answer. What was kept is safe; what you just typed is still in your page."
        return _page(503, "Not reachable for the moment", text)

    @app.errorhandler(AskerLeft)
    def nobody(_: AskerLeft) -> tuple[str, int]:
        return "", 408  # read by nobody, but counted

    @app.errorhandler(TooMany)
    def busy(_: TooMany) -> tuple[str, int]:
        return _page(503, "Others are printing", "Several sheets are being written just now: try again in a moment.")

    @app.errorhandler(Exception)
    def broken(error: Exception) -> tuple[str, int]:
        app.logger.exception("unexpected", exc_info=error)
        return _page(500, "Something broke here", "It has been noted. What was kept is safe.")


def _page(code: int, title: str, text: str) -> tuple[str, int]:
    return render_template("error.html", code=code, title=title, text=text), code
