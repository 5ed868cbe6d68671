"""What templates share: how numbers, marks and glyphs are written."""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import datetime
from functools import cache, lru_cache
from typing import Any
from uuid import uuid4

from flask import request, url_for
from markupsafe import Markup, escape

from vinegate.core.cautions import CAUTIONS
from vinegate.core.grade import Verdict
from vinegate.core.listed import some
from vinegate.core.numbers import write
from vinegate.core.plate.terminals import Links
from vinegate.core.wording import inside
from vinegate.core.working import Figure, Provenance
from vinegate.drawing import glyphs
from vinegate.drawing.scene import svg
from vinegate.drawing.terminals import terminal_links
from vinegate.web.paging import other_page

_SUBSCRIPT = re.compile(r"_([A-Za-z0-9]+)")
_SIGNS = re.compile(r"(?<=[·+])|(?<=(?<!<)/)")


def figure_value(figure: Figure | None, digits: int = 4) -> str:
    """A figure for a person: value and unit, a dash for nothing.

    What is assumed or estimated has "≈" before it and no more than three digits.
    """
    if figure is None:
        return "–"
    if figure.soft:
        return f"≈ {write(figure.value, min(digits, 3))} {figure.unit}".rstrip()
    return f"{write(figure.value, digits)} {figure.unit}".rstrip()


@lru_cache(maxsize=4096)
def symbols(text: str) -> Markup:
    """A symbol or formula with its subscripts set low: I_LR becomes I with a small LR."""
    return Markup(_SUBSCRIPT.sub(r"<sub>\1</sub>", str(escape(text))))  # noqa: S704 - escaped on this line


def formula(text: str) -> Markup:
    """A formula that breaks, where it has to, behind a sign and not within a number."""
    return Markup(_SIGNS.sub("<wbr>", symbols(text)))  # noqa: S704 - escaped there


@cache
def gate_glyph(verdict: Verdict | str) -> Markup:
    return Markup(svg(glyphs.gate(Verdict(verdict)), "glyph gate"))  # noqa: S704 - our own drawing


@cache
def station_glyph(kind: str) -> Markup:
    return Markup(svg(glyphs.station(kind), "glyph stop-glyph"))  # noqa: S704 - our own drawing


def links_drawing(links: Links) -> Markup:
    return Markup(svg(terminal_links(links), "links-drawing"))  # noqa: S704 - our own drawing


def line_href(key: str) -> str:
    """Where a figure's line of working stands: on the sheet in hand, or on its own."""
    anchor, home, args = f"line-{key.replace('.', '-')}", key.partition(".")[0], request.view_args or {}
    if args.get("station", home) == home or "tag" not in args:
        return f"#{anchor}"
    return url_for("circuit.sheet", job_id=args["job_id"], tag=args["tag"], station=home, _anchor=anchor)


def wire_glyph() -> Markup:
    return Markup(svg(glyphs.plain(), "glyph wire"))  # noqa: S704 - our own drawing


def clock(moment: datetime | None) -> str:
    """Date and time, UTC as the store keeps it."""
    return f"{moment:%Y-%m-%d %H:%M} UTC" if moment else ""


_UNIT = re.compile(
    r"(?<=\d) (?=(?:%|°C|[mk]?Ω|[kmM]?[VAWNJ]|kVA|MVA|kvar|hp|m?s|m|ft|in|Hz|rpm|r/min|min⁻¹|N·m|mm²|AWG)(?![\w]))"
)


def tied(text: str) -> str:
    """A number and its unit on one line."""
    return _UNIT.sub("\N{NO-BREAK SPACE}", text)


PROVENANCE_WORDS = {
    Provenance.MEASURED: "measured",
    Provenance.STAMPED: "plate",
    Provenance.CATALOGUE: "catalogue",
    Provenance.TABLE: "table",
    Provenance.STATED: "entered",
    Provenance.ASSUMED: "assumed",
    Provenance.ESTIMATED: "estimated",
}

FILTERS: dict[str, Callable[..., Any]] = {
    "inside": inside,
    "figure": figure_value,
    "number": write,
    "some": some,
    "symbols": symbols,
    "formula": formula,
    "tied": tied,
    "clock": clock,
    "mark": lambda verdict: str(verdict).replace(" ", "-"),
    "provenance": lambda provenance: PROVENANCE_WORDS[Provenance(provenance)],
}
GLOBALS: dict[str, Any] = {
    "fresh_uid": lambda: uuid4().hex,
    "line_href": line_href,
    "other_page": other_page,
    "gate_glyph": gate_glyph,
    "station_glyph": station_glyph,
    "wire_glyph": wire_glyph,
    "links_drawing": links_drawing,
    "Verdict": Verdict,
    "planning_aid": CAUTIONS[0],
}
