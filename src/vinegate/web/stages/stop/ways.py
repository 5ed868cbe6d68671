"""The stop's sheet: the facts, handles and sizes of the way in use, then those of the others."""

from __future__ import annotations

from typing import Final

from markupsafe import Markup

from vinegate.core.grade import Verdict
from vinegate.core.plan import Plan
from vinegate.core.stop.stage import Stopping
from vinegate.core.stop.way import Level
from vinegate.core.stop.ways import way_of
from vinegate.core.working import Figure
from vinegate.drawing.scene import svg
from vinegate.drawing.stops_strip import Setting, stops_lanes, stops_strip

NEED: Final = (
    "stop.hold",
    "stop.within",
    "stop.per_hour",
    "stop.power_failure",
    "stop.emergency",
    "stop.people",
    "stop.method",
    "stop.light",
    "stop.friction",
    "stop.overhauls",
    "stop.within_turns",
    "stop.distance",
)


def own_settings(plan: Plan) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Fields of the way in use, and of the others the machine has."""
    found = plan.stopping
    if found is None:
        return (), ()
    own = way_of(found.chosen).settings
    others = dict.fromkeys(path for row in found.rows for path in way_of(row.method).settings if path not in own)
    return own, tuple(others)


def sizes(plan: Plan) -> tuple[tuple[str, tuple[Figure, ...]], ...]:
    """What each way's parts must be, in named groups; that of the way in use first, ways that fail left out."""
    found = plan.stopping
    if found is None:
        return ()
    useful = [row for row in found.rows if row.chosen or row.verdict is not Verdict.FAILS]
    groups = dict.fromkeys(group for row in useful for group in way_of(row.method).sizes)
    own = way_of(found.chosen).sizes
    ordered = sorted(groups, key=lambda group: group not in own)
    named = ((group.name, tuple(plan.figure(f"stop.{key}") for key in group.figures)) for group in ordered)
    return tuple((name, tuple(one for one in figures if one)) for name, figures in named if any(figures))


def settings_of(plan: Plan, found: Stopping) -> tuple[Setting, ...]:
    """The handles of the way in use; none while it never comes to act."""
    way = way_of(found.chosen)
    at = way.handle.at(found.used) if way.handle else None
    if way.handle is None or at is None:
        return ()
    moment = Setting(field=way.handle.field, label=way.handle.label, value=at)
    return (moment, *_level(plan, way.level))


def _level(plan: Plan, level: Level | None) -> tuple[Setting, ...]:
    if level is None:
        return ()
    amps, drawn = plan.figure(level.figure), plan.figure(level.drawn)
    if amps is None or drawn is None:
        return ()
    return (Setting(field=level.field, label=level.label, value=amps.value, amps=True, shown_a=drawn.value),)


def stops_drawings(plan: Plan, *, on_paper: bool = False) -> tuple[Markup, ...]:
    """Every way to stop against time: speed, then torque, amperes and heat; handles on screen."""
    found = plan.stopping
    if found is None:
        return ()
    settings = () if on_paper else settings_of(plan, found)
    scenes = (stops_strip(found, settings=settings), stops_lanes(found, settings=settings))
    return tuple(Markup(svg(scene, "strip-drawing lanes stop")) for scene in scenes if scene)  # noqa: S704 - our own
