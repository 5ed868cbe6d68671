"""The documentation: its list, a page, a picture on it, and a search. No account is asked for."""

from __future__ import annotations

from flask import Blueprint, Response, abort, render_template, request, send_from_directory
from markupsafe import Markup

from vinegate.web.docs.shelf import GROUPS, ROOT, html_of, page, pages, search

blueprint = Blueprint("docs", __name__, template_folder="templates", url_prefix="/docs")

_LONGEST = 80
_PICTURES = (".png", ".svg", ".json")


@blueprint.get("/")
def index() -> str:
    """Every page by its group; with `find`, where the words stand."""
    sought = request.args.get("find", "").strip()[:_LONGEST]
    groups = [(title, [one for one in pages() if one.group == key]) for key, title in GROUPS]
    return render_template("docs/index.html", groups=groups, sought=sought, hits=search(sought))


@blueprint.get("/<path:name>")
def show(name: str) -> str | Response:
    """A page by its name, or a picture that stands on one."""
    if name.endswith(_PICTURES):
        return send_from_directory(ROOT, name, max_age=3600)
    found = page(name.removesuffix(".md"))
    if found is None:
        abort(404)
    return render_template("docs/page.html", shown=found, body=Markup(html_of(found.name)))  # noqa: S704 - html is off
