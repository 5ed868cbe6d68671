"""A run over time: what was in when, and the motor's speed and amperes."""

from __future__ import annotations

from typing import Any, Final

from markupsafe import Markup

from vinegate.core.starter.motor import Relay, Turned
from vinegate.core.starter.run import Run
from vinegate.core.starter.stage import Drawn
from vinegate.drawing.plot import Axes, Line, plot, up_to
from vinegate.drawing.scene import Scene, svg
from vinegate.drawing.sequence import sequence, tracks_of

_STRIP: Final = 170


def over_time(drawn: Drawn, run: Run, relay: Relay | None) -> dict[str, Any]:
    """Once something was pressed: what was in when, and the motor's speed and amperes."""
    if not run.events:
        return {"turned": None, "tracks": ""}
    until_s = run.until_ms / 1000
    moves = [(one.at_ms / 1000, one.tag, one.position) for one in run.events]
    rows = tracks_of(moves, [device.tag for device in drawn.circuit.devices], until_s)
    turned = drawn.shaft.turned(run.hangs, until_s) if drawn.shaft else None
    found: dict[str, Any] = {"turned": turned, "tracks": _svg(sequence(rows, until_s), "sequence-drawing")}
    if turned is not None:
        found["speed_plot"] = _svg(_speeds(turned, until_s), "chart-drawing")
        found["amps_plot"] = _svg(_amps(turned, until_s), "chart-drawing")
        if relay is not None:
            heat = relay.heat_pct(turned)
            found["relay"] = relay
            found["relay_heat"] = float(heat.max())
            found["heat_plot"] = _svg(_heat(turned, heat.tolist(), until_s), "chart-drawing")
    return found


def _speeds(turned: Turned, until_s: float) -> Scene:
    speed = turned.speed_rpm
    top = up_to(max(float(abs(speed).max()), 1.0) * 1.05)
    lines = [Line(role="torque", name="", xs=turned.time_s.tolist(), ys=speed.clip(min=0).tolist())]
    if float(speed.min()) < 0:
        lines.append(Line(role="load", name="backwards", xs=turned.time_s.tolist(), ys=(-speed).clip(min=0).tolist()))
    axes = Axes(most_x=until_s, most_y=top, x_name="s", y_name="rpm", height=_STRIP)
    return plot(axes, lines, "Speed over time")


def _amps(turned: Turned, until_s: float) -> Scene:
    top = up_to(max(float(turned.line_a.max()), 1.0) * 1.05)
    axes = Axes(most_x=until_s, most_y=top, x_name="s", y_name="A", height=_STRIP)
    line = Line(role="current", name="", xs=turned.time_s.tolist(), ys=turned.line_a.tolist())
    return plot(axes, [line], "Amperes of the line over time")


def _heat(turned: Turned, heat: list[float], until_s: float) -> Scene:
    top = up_to(max(*heat, 100.0) * 1.05)
    lines = [
        Line(role="current", name="", xs=turned.time_s.tolist(), ys=heat),
        Line(role="limit", name="trips", xs=[0.0, until_s], ys=[100.0, 100.0]),
    ]
    axes = Axes(most_x=until_s, most_y=top, x_name="s", y_name="%", height=_STRIP)
    return plot(axes, lines, "Heat of the overload relay over time")


def _svg(scene: Scene, kind: str) -> Markup:
    return Markup(svg(scene, kind))  # noqa: S704 - our own drawing
