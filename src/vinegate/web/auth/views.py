"""Sign-in, sign-out; in demo mode, one click for each made-up person."""

from __future__ import annotations

from typing import Any

from flask import Blueprint, abort, current_app, redirect, render_template, request, session, url_for
from flask_login import current_user, login_required, login_user, logout_user
from werkzeug.wrappers import Response

from vinegate.demo import PEOPLE
from vinegate.store import accounts, tokens
from vinegate.store.jobs import note_trail
from vinegate.store.models import User
from vinegate.web.limits import SIGN_IN, limiter
from vinegate.web.whole import own_path, whole_in

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
    login, address = request.form.get("login", "").strip(), request.remote_addr or ""
    limited = current_app.config["VINEGATE"].limit_sign_in
    try:
        if limited:
            accounts.may_try(login, address)
    except accounts.TooManyTries as error:
        return _page(login=login, error=str(error)), 429
    user = accounts.authenticate(login, request.form.get("password", ""))
    if user is None:
        current_app.logger.warning("sign-in failed for %r from %s", login[:60], address)
        if limited:
            accounts.failed(login, address)
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
    """Here and wherever else this person is signed in."""
    accounts.end_sessions(current_user.user)
    logout_user()
    session.clear()
    return redirect(url_for("auth.sign_in"))


@blueprint.get("/account")
@login_required
def account() -> str:
    """One's own name, another password, tokens for one's programs."""
    return _account()


def _account(**more: Any) -> str:
    return render_template("auth/account.html", tokens=tokens.tokens(current_user.user), **more)


@blueprint.post("/account/tokens")
@login_required
def token() -> str | Response:
    """Make a token, shown once; or revoke one."""
    gone = whole_in(request.form.get("revoke", ""))
    if gone is not None:
        tokens.revoke(current_user.user, gone)
        return redirect(url_for("auth.account"))
    name = request.form.get("name", "").strip() or "a program"
    days = whole_in(request.form.get("days", ""), 3) or 90
    made = tokens.make(current_user.user, name=name, days=days, writes=bool(request.form.get("writes")))
    return _account(made=made)


@blueprint.post("/account")
@login_required
def account_post() -> tuple[str, int] | str:
    """Change the password: all other sessions end, this one goes on."""
    from vinegate.web.app import SessionUser

    user = current_user.user
    if accounts.authenticate(user.login, request.form.get("old", "")) is None:
        return _account(error="The old password is another one."), 422
    try:
        fresh = accounts.set_password(user, request.form.get("new", ""))
    except accounts.BadAccount as error:
        text = str(error)
        return _account(error=f"{text[:1].upper()}{text[1:]}."), 422
    note_trail(user, "password changed", "")
    session.clear()
    login_user(SessionUser(fresh))
    return _account(done=True)


def _enter(user: User) -> Response:
    from vinegate.web.app import SessionUser

    session.clear()  # another token than before
    login_user(SessionUser(user))
    note_trail(user, "signed in", "")
    return redirect(_next_page())


def _next_page() -> str:
    """Where the person wanted to go, if it is a path of ours."""
    return own_path(request.args.get("next", "")) or url_for("jobs.index")


def _page(login: str = "", error: str = "") -> str:
    people = PEOPLE if current_app.config["VINEGATE"].demo else ()
    return render_template("auth/sign_in.html", login=login, error=error, people=people)
