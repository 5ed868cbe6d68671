"""The app factory."""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from flask import Flask, Response, request
from flask_compress import Compress
from flask_login import LoginManager, UserMixin, current_user
from flask_talisman import Talisman
from flask_wtf.csrf import CSRFProtect
from jinja2 import ChoiceLoader, FileSystemLoader, PrefixLoader
from werkzeug.middleware.proxy_fix import ProxyFix

from vinegate import __version__
from vinegate.collecting import loaded
from vinegate.core.capture.files import MOST_BYTES
from vinegate.standby import standby
from vinegate.store.accounts import user_by_id
from vinegate.store.database import connect_to, database
from vinegate.store.models import User
from vinegate.web import api, auth, circuit, docs, jobs, metrics, pages, quick, record, restart
from vinegate.web.assets import Assets
from vinegate.web.display import FILTERS, GLOBALS
from vinegate.web.errors import register_errors
from vinegate.web.hosts import Hosts
from vinegate.web.limits import limiter
from vinegate.web.unnamed import leave_out_server
from vinegate.web.whole import whole_in


@dataclass(frozen=True, slots=True, kw_only=True)
class Config:
    """What a deployment decides. `https`: TLS is ended by a proxy in front that sets X-Forwarded-*.
    `beside`: long work may run in processes of its own. `hosts`: names it may be called by; empty: any.
    """

    secret_key: str
    database_url: str
    demo: bool = False
    https: bool = False
    limit_sign_in: bool = True
    development: bool = False
    hosts: tuple[str, ...] = ()
    metrics: bool = False
    beside: bool = True


class SessionUser(UserMixin):
    """The signed-in person."""

    def __init__(self, user: User) -> None:
        self.user = user
        self.id = user.id
        self.name = user.name

    def get_id(self) -> str:
        """Ends with the number of its sessions: a password change or a sign-out ends them all."""
        return f"{self.user.id}.{self.user.sessions}"


_POLICY = {
    "default-src": "'none'",
    "script-src": "'self'",
    "style-src": "'self'",
    "img-src": "'self'",
    "font-src": "'self'",
    "connect-src": "'self'",
    "form-action": "'self'",
    "base-uri": "'none'",
    "frame-ancestors": "'none'",
}


def create_app(config: Config) -> Flask:
    """The application for this configuration. Opens no connection."""
    connect_to(config.database_url)
    app = Flask(__name__, static_folder=None)
    app.config.update(
        SECRET_KEY=config.secret_key,
        SESSION_COOKIE_HTTPONLY=True,
        SESSION_COOKIE_SAMESITE="Lax",
        SESSION_COOKIE_SECURE=config.https,
        SESSION_COOKIE_NAME="__Host-vinegate" if config.https else "vinegate",
        SESSION_COOKIE_PATH="/",
        REMEMBER_COOKIE_SECURE=config.https,
        WTF_CSRF_TIME_LIMIT=None,
        MAX_CONTENT_LENGTH=2_000_000,
        RATELIMIT_ENABLED=config.limit_sign_in,
        RATELIMIT_STORAGE_URI="memory://",
        COMPRESS_BR_LEVEL=5,  # a twelfth smaller than 4, for half a millisecond a sheet
        COMPRESS_MIMETYPES=["text/html", "text/css", "text/javascript", "application/json", "image/svg+xml"],
        VINEGATE=config,
    )
    app.wsgi_app = Hosts(app.wsgi_app, config.hosts)  # type: ignore[method-assign, assignment]
    if config.https:
        app.wsgi_app = ProxyFix(app.wsgi_app, x_for=1, x_proto=1, x_host=1)  # type: ignore[method-assign]
    metrics.attach(app, shown=config.metrics)
    _uploads(app)
    _packages(app, config)
    _connections(app)
    _private(app)
    _templates(app)
    for module in (auth, jobs, circuit, docs, record, pages, quick, restart, metrics):
        app.register_blueprint(module.blueprint)
    app.register_blueprint(record.of_job)
    app.register_blueprint(api.blueprint)
    app.extensions["csrf"].exempt(api.blueprint)  # it takes no cookie: tokens alone
    register_errors(app)
    return app


def create_app_from_environment() -> Flask:
    """The application as `vinegate serve` starts it. Raises KeyError for a variable that is not set."""
    app = create_app(
        Config(
            secret_key=os.environ["VINEGATE_SECRET_KEY"],
            database_url=os.environ["VINEGATE_DATABASE_URL"],
            demo=bool(os.environ.get("VINEGATE_DEMO")),
            https=bool(os.environ.get("VINEGATE_HTTPS")),
            metrics=bool(os.environ.get("VINEGATE_METRICS")),
            hosts=tuple(one.strip() for one in os.environ.get("VINEGATE_HOSTS", "").split(",") if one.strip()),
        )
    )
    leave_out_server()
    loaded()
    standby.stand()
    return app


_LARGER = {"record.bring": MOST_BYTES + 100_000, "record.enter": 40_000_000, "jobs.bring_in": 8_000_000}
"""Bytes that these may be sent, beyond what a form is."""


def _uploads(app: Flask) -> None:
    """Ahead of everything that reads a form."""

    @app.before_request
    def allow() -> None:
        if request.endpoint in _LARGER:
            request.max_content_length = _LARGER[request.endpoint]
            request.max_form_memory_size = _LARGER[request.endpoint]


def _packages(app: Flask, config: Config) -> None:
    CSRFProtect(app)
    Compress(app)
    limiter.init_app(app)
    Talisman(
        app,
        force_https=config.https,
        strict_transport_security=config.https,
        session_cookie_secure=config.https,
        content_security_policy=_POLICY,
        referrer_policy="same-origin",
        frame_options="DENY",
    )
    manager = LoginManager(app)
    manager.login_view = "auth.sign_in"
    manager.login_message = None

    @manager.user_loader
    def load(user_id: str) -> SessionUser | None:
        number, _, sessions = user_id.partition(".")
        known, counted = whole_in(number), whole_in(sessions)
        user = user_by_id(known) if known is not None else None
        return SessionUser(user) if user and user.sessions == counted else None


def _connections(app: Flask) -> None:
    """One connection a request, none for the files that ship with the application."""

    @app.before_request
    def open_connection() -> None:
        if request.endpoint not in ("assets", "metrics.live", "metrics.counts"):
            database.connect(reuse_if_open=True)

    @app.teardown_request
    def close_connection(_: BaseException | None) -> None:
        if not database.is_closed():
            database.close()


def _private(app: Flask) -> None:
    """Pages of those who signed in are kept by nobody on the way."""

    @app.after_request
    def no_store(response: Response) -> Response:
        if "Cache-Control" not in response.headers and current_user.is_authenticated:  # of a script nobody is looked up
            response.headers["Cache-Control"] = "no-store"
        return response


def _templates(app: Flask) -> None:
    assets = Assets(app)
    pages = PrefixLoader({"stages": FileSystemLoader(Path(__file__).parent / "stages")})
    app.jinja_loader = ChoiceLoader([loader for loader in (app.jinja_loader, pages) if loader is not None])
    app.jinja_env.globals.update(GLOBALS, asset=assets.url, version=__version__)
    app.jinja_env.filters.update(FILTERS)
    app.jinja_env.trim_blocks = True
    app.jinja_env.lstrip_blocks = True

    @app.context_processor
    def common() -> dict[str, Any]:
        theme = request.cookies.get("theme", "")
        return {
            "theme": theme if theme in {"light", "dark"} else "",
            "person": current_user if current_user.is_authenticated else None,
        }
