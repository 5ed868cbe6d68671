"""The stop's sheet: which facts each way has, its handles on the strip, its sizes."""

from __future__ import annotations

from typing import Final

from markupsafe import Markup

from vinegate.core.grade import Verdict
from vinegate.core.plan import Plan
from vinegate.core.stop.stage import Stopping
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
_BRAKE: Final = (
    "stop.brake_torque",
    "stop.brake_kind",
    "stop.brake_side",
    "stop.hold_factor",
    "stop.lining",
    "stop.brake_delay",
    "stop.brake_power",
    "stop.brake_stop",
    "stop.lining_work",
    "stop.release_from",
    "stop.release",
)
_RAMP: Final = ("stop.drive_ramp",)
_CHOPPER: Final = ("stop.bus", "stop.drive_least", "stop.resistor", "stop.resistor_power")
WAYS: Final = {
    "coast": (),
    "brake": _BRAKE,
    "dc": ("stop.dc_current", "stop.dc_leads", "stop.dc_delay", "stop.dc_time", "stop.dc_supply"),
    "plugging": ("stop.plug_timer",),
    "drive": (*_RAMP, *_CHOPPER),
    "regen": _RAMP,
    "drive-brake": (*_RAMP, "stop.brake_at", *_BRAKE),
    "armature": ("stop.armature_first", "stop.armature_stages"),
}
_BRAKE_SIZES: Final = (
    "torque",
    "hold_torque",
    "stop_torque",
    "brake_heat",
    "lining_stops",
    "lining_years",
    "driven_turns",
    "travel",
)
_DIRECT_SIZES: Final = (
    "direct",
    "equivalent",
    "delay",
    "direct_volts",
    "transformer",
    "bridge_amps",
    "limiting",
    "limiting_watts",
)
_DRIVE_SIZES: Final = ("peak", "ohms", "joules", "mean", "duty", "shortest", "returned", "saving")
_ARMATURE_SIZES: Final = ("armature_resistor", "first", "constant")


def own_settings(plan: Plan) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Fields of the way in use, and of the others the machine has."""
    found = plan.stopping
    if found is None:
        return (), ()
    own = WAYS[found.chosen]
    others = dict.fromkeys(path for row in found.rows for path in WAYS[row.method] if path not in own)
    return own, tuple(others)


def sizes(plan: Plan) -> tuple[tuple[str, tuple[Figure, ...]], ...]:
    """What each way's parts must be, in named groups; that of the way in use first, ways that fail left out."""
    found = plan.stopping
    if found is None:
        return ()
    groups = (
        ("Brake", _BRAKE_SIZES, ("brake", "drive-brake")),
        ("Direct current", _DIRECT_SIZES, ("dc",)),
        ("Drive", _DRIVE_SIZES, ("drive", "regen", "drive-brake")),
        ("Armature", _ARMATURE_SIZES, ("armature",)),
    )
    useful = {row.method for row in found.rows if row.chosen or row.verdict is not Verdict.FAILS}
    kept = [group for group in groups if useful & set(group[2])]
    ordered = sorted(kept, key=lambda group: found.chosen not in group[2])
    named = ((name, tuple(plan.figure(f"stop.{key}") for key in keys)) for name, keys, _ in ordered)
    return tuple((name, tuple(one for one in figures if one)) for name, figures in named if any(figures))


def settings_of(plan: Plan, found: Stopping) -> tuple[Setting, ...]:
    """The handles of the way in use."""
    used = found.used
    ramp = plan.figure("stop.ramp")
    if used.method in ("drive", "regen") and used.time_s is not None:
        return (Setting(field="stop-drive_ramp", label="Ramp down in", value=ramp.value if ramp else used.time_s),)
    if len(used.acting) < (2 if used.method == "drive-brake" else 1):
        return ()  # it never comes to act: there is no moment to drag
    if used.method == "drive-brake":
        closes = used.acting[1].from_s
        return (Setting(field="stop-brake_at", label="Brake closes at", value=closes),)
    if used.method == "plugging":
        return (Setting(field="stop-plug_timer", label="Plugging timer", value=used.acting[0].to_s),)
    if used.method == "brake":
        return (Setting(field="stop-brake_delay", label="Brake closes after", value=used.acting[0].from_s),)
    if used.method == "dc":
        return _of_direct_current(plan, found)
    return ()


def _of_direct_current(plan: Plan, found: Stopping) -> tuple[Setting, ...]:
    amps, same = plan.figure("stop.direct"), plan.figure("stop.equivalent")
    timer = Setting(field="stop-dc_time", label="DC timer", value=found.used.acting[0].to_s)
    if amps is None or same is None:
        return (timer,)
    level = Setting(field="stop-dc_current", label="Direct current", value=amps.value, amps=True, shown_a=same.value)
    return (timer, level)


def stops_drawings(plan: Plan, *, on_paper: bool = False) -> tuple[Markup, ...]:
    """Every way to stop against time: speed, then torque, amperes and heat; handles on screen."""
    found = plan.stopping
    if found is None:
        return ()
    settings = () if on_paper else settings_of(plan, found)
    scenes = (stops_strip(found, settings=settings), stops_lanes(found, settings=settings))
    return tuple(Markup(svg(scene, "strip-drawing lanes stop")) for scene in scenes if scene)  # noqa: S704 - our own
