"""Theme, health, and the page that shows every component in every state."""

from __future__ import annotations

from dataclasses import replace

from flask import Blueprint, redirect, render_template, request
from markupsafe import Markup
from werkzeug.wrappers import Response as Redirect

from vinegate.core.codes import KIND_NAMES, Meaning
from vinegate.core.field import measure
from vinegate.core.grade import Gate, Verdict
from vinegate.core.place.devices import DeviceRow
from vinegate.core.quantity import POWER
from vinegate.core.shelf import shelf
from vinegate.drawing.areas_sketch import Ground, areas_sketch
from vinegate.drawing.scene import svg
from vinegate.store.drafts import Conflict
from vinegate.web.form import METAL_FOR_PATTERNS, FormField
from vinegate.web.whole import own_path

blueprint = Blueprint("pages", __name__, template_folder="templates")
_YEAR_S = 31_536_000


@blueprint.post("/theme")
def theme() -> Redirect:
    """Light, dark, or as the system says."""
    wanted = request.form.get("theme", "")
    response = redirect(own_path(request.form.get("back", "")) or "/")
    response.set_cookie("theme", wanted if wanted in {"light", "dark"} else "", max_age=_YEAR_S, samesite="Lax")
    return response


@blueprint.get("/codes")
def codes() -> str:
    """The shelf: what any code on a plate means."""
    question = request.args.get("q", "")[:200]
    found = shelf(question) if question else ()
    kinds: dict[str, list[Meaning]] = {}
    for meaning in found:
        kinds.setdefault(KIND_NAMES[meaning.kind], []).append(meaning)
    return render_template("pages/codes.html", question=question, kinds=kinds)


@blueprint.get("/patterns")
def patterns() -> str:
    """Every component in every state."""
    fact = measure("Power", POWER, "P", help="Shaft power: hp, kW.")
    plain = FormField(path="plate.power", fact=fact, label="Power", text="75 hp", was="75 hp")
    message = "“Q” is not a unit of power: write it like 30 hp or 22 kW."
    fields = {
        "filled": plain,
        "empty": replace(plain, text="", was=""),
        "error": replace(plain, text="75 Q", error=message),
        "contested": replace(
            plain,
            conflict=Conflict(path="plate.power", was="", theirs="60 hp", mine="75 hp", by="Tam Birdwhistle", at=None),
        ),
        "read only": replace(plain, readonly=True),
        "choice": replace(plain, fact=METAL_FOR_PATTERNS, label="Metal", text="copper"),
    }
    fields = {name: replace(f, path=f"pattern.{index}") for index, (name, f) in enumerate(fields.items())}
    gates = [
        Gate(
            key=f"pattern.{verdict}",
            name="Dip at the board",
            verdict=verdict,
            sentence="Across the line: dip 4.8 % of 5 %.",
            source="supply contract",
            remedy="" if verdict is Verdict.PASSES else "A start that draws less, or a stiffer source.",
        )
        for verdict in Verdict
    ]
    return render_template("pages/patterns.html", fields=fields, gates=gates, sketch=_sketch())


def _sketch() -> Markup:
    """Each danger an area can have, and a chip of each verdict."""
    kinds = (("0", "zone 0"), ("1", "zone 1"), ("2", "zone 2"), ("", "unclassified"), ("?", "not known"))
    grounds = [Ground(key=f"p{danger}", name=name, short="", below="", danger=danger) for danger, name in kinds]
    devices = [
        DeviceRow(
            key=f"pattern-{verdict}",
            name="device",
            area=ground.key,
            area_name=ground.name,
            asked="",
            enclosure_asked="",
            has="",
            verdict=verdict,
            why="",
            checks=(),
        )
        for verdict, ground in zip(Verdict, grounds, strict=False)
    ]
    return Markup(svg(areas_sketch(grounds, devices), "areas-sketch"))  # noqa: S704 - our own drawing
