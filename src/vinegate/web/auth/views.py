"""Sign-in, sign-out; in demo mode, one click for each made-up person."""

from __future__ import annotations

from urllib.parse import urlsplit

from flask import Blueprint, abort, current_app, redirect, render_template, request, url_for
from flask_login import current_user, login_required, login_user, logout_user
from werkzeug.wrappers import Response

from vinegate.demo import PEOPLE
from vinegate.store import accounts
from vinegate.store.jobs import note_trail
from vinegate.store.models import User
from vinegate.web.limits import SIGN_IN, limiter

blueprint = Blueprint("auth", __name__, template_folder="templates")


@blueprint.get("/sign-in")
def sign_in() -> str | Response:
    """The sign-in page."""
    if current_user.is_authenticated:
        return redirect(url_for("jobs.index"))
    return _page()


@blueprint.post("/sign-in")
@limiter.limit(SIGN_IN)
def sign_in_post() -> tuple[str, int] | Response:
    """Check login and password."""
    login = request.form.get("login", "").strip()
    user = accounts.authenticate(login, request.form.get("password", ""))
    if user is None:
        return _page(login=login, error="Login and password do not belong together."), 422
    return _enter(user)


@blueprint.post("/sign-in/demo/<login>")
def sign_in_demo(login: str) -> Response:
    """Sign in as a made-up person; only where the demo is served."""
    if not current_app.config["VINEGATE"].demo or login not in {person.login for person in PEOPLE}:
        abort(404)
    user = accounts.user_by_login(login)
    if user is None:
        abort(404)
    return _enter(user)


@blueprint.post("/sign-out")
@login_required
def sign_out() -> Response:
    logout_user()
    return redirect(url_for("auth.sign_in"))


def _enter(user: User) -> Response:
    from vinegate.web.app import SessionUser

    login_user(SessionUser(user))
    note_trail(user, "signed in", "")
    return redirect(_next_page())


def _next_page() -> str:
    """Where the person wanted to go, if it is a path of ours."""
    wanted = request.args.get("next", "")
    parts = urlsplit(wanted)
    if wanted.startswith("/") and not wanted.startswith("//") and not parts.netloc and "\\" not in wanted:
        return wanted
    return url_for("jobs.index")


def _page(login: str = "", error: str = "") -> str:
    people = PEOPLE if current_app.config["VINEGATE"].demo else ()
    return render_template("auth/sign_in.html", login=login, error=error, people=people)
