"""The drive's pictures: torque against speed with the points, and one of the others by choice."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

import numpy as np
from markupsafe import Markup

from vinegate.core.drive.duty import Row
from vinegate.core.drive.lead import Lead
from vinegate.core.drive.stage import Driven
from vinegate.core.numbers import write
from vinegate.drawing.drive_chart import Dragged, drive_chart
from vinegate.drawing.plot import Axes, Line, bars, plot, up_to
from vinegate.drawing.scene import Scene, svg

FIELD: Final = "drive-points"
VIEWS: Final = (
    ("volts", "volts and amperes"),
    ("cooling", "cooling"),
    ("spectrum", "harmonics"),
    ("lead", "peak by lead"),
    ("energy", "flow and power"),
    ("coast", "coast and catch"),
)


def torque_chart(driven: Driven) -> Markup:
    """What the sheet opens with."""
    plain, envelope = driven.plain, driven.envelope
    rpm = envelope.speed_rpm
    power = plain.load.power
    asked = plain.load.torque_at(rpm)
    heavy = asked * plain.heaviest * power.high / power.value
    light = asked * plain.lightest * power.low / power.value
    speeds = rpm.tolist()
    lines = [
        Line(role="breakdown", name="short of breakdown", xs=speeds, named=0.35,
             ys=(envelope.breakdown_nm / driven.supplied.breakdown_times).tolist()),
        Line(role="current", name="for a short time", xs=speeds, ys=envelope.short_nm.tolist(), named=0.45),
        Line(role="torque", name="for ever", xs=speeds, ys=envelope.continuous_nm.tolist(), named=0.2),
        Line(role="load", name="load", xs=speeds, ys=asked.tolist(), named=0.6),
    ]  # fmt: skip
    if float((heavy - light).max()) > 0.02 * plain.rated_nm:
        lines += [Line(role="edge", name="", xs=speeds, ys=ys.tolist()) for ys in (heavy, light)]
    most = float(rpm[-1])
    scene = drive_chart(
        lines, [_dragged(driven, row, most) for row in driven.rows], unit=plain.unit, most_rpm=most, field=FIELD
    )
    return _drawn(scene)


def _dragged(driven: Driven, row: Row, most_rpm: float) -> Dragged:
    point = row.point
    typed = driven.plain.typed[point.row] if point.row is not None else None
    unit = {"%": "%", "Hz": "Hz", "rpm": driven.plain.unit}[typed.speed_in] if typed else ""
    most = most_rpm * (typed.speed / point.rpm if typed and point.rpm else 1.0)
    return Dragged(rpm=point.rpm, nm=point.nm, mark=row.verdict.mark, row=point.row, unit=unit, most=round(most),
                   value=typed.speed if typed else point.rpm)  # fmt: skip


def _drawn(scene: Scene) -> Markup:
    return Markup(svg(scene, "chart-drawing drive"))  # noqa: S704 - our own drawing


def chart_of(driven: Driven, view: str) -> tuple[Markup, str] | None:
    """The picture chosen, with a line under it; None where its facts are missing."""
    made = _VIEWS[view](driven) if view in _VIEWS else None
    return (_drawn(made[0]), made[1]) if made else None


_Made = tuple[Scene, str] | None


def _volts(driven: Driven) -> _Made:
    need, law, envelope = driven.plain, driven.supplied.law, driven.envelope
    k = envelope.k
    hertz = (k * need.base_hz).tolist()
    plain = np.minimum(need.plate_v * k, law.most_v)
    exact = driven.supplied.fluxed(k)
    kept = driven.supplied.turning.at(k).kept(law.most_v).at_torque(np.full(k.size, need.rated_nm))
    lines = [
        Line(role="pf", name="plain", xs=hertz, ys=plain.tolist(), named=0.3),
        Line(role="torque", name="keeps the flux", xs=hertz, ys=kept.volts.tolist(), named=0.75),
    ]
    if not law.vector:
        lines.append(Line(role="current", name="as set", xs=hertz, ys=law.volts(k).tolist(), named=0.55))
    amps = exact.at_torque(np.minimum(need.load.torque_at(envelope.speed_rpm), exact.breakdown_nm())).amps
    scale = need.plate_v / need.plate_a / 2
    lines.append(Line(role="load", name="amperes", xs=hertz, ys=(amps * scale).tolist(), named=0.9))
    axes = Axes(most_x=hertz[-1], most_y=up_to(max(law.most_v, need.plate_v)), x_name="Hz", y_name="V")
    text = f"Amperes by the same axis: {need.plate_v / 2:.0f} V stand for the plate's {write(need.plate_a, 3)} A."
    return plot(axes, lines, "Volts and amperes against frequency"), text


def _cooling(driven: Driven) -> _Made:
    need, cooling = driven.plain, driven.cooling
    speed = np.linspace(0, 1, 41)
    bears = 100 * cooling.current_pu(speed, speed * need.base_hz)
    asked = [(100 * row.point.rpm / need.rated_rpm, 100 * row.amps / need.plate_a) for row in driven.rows]
    lines = [Line(role="torque", name="bears for ever", xs=(100 * speed).tolist(), ys=bears.tolist(), named=0.5)]
    if cooling.band:
        lines += [Line(role="edge", name="", xs=(100 * speed).tolist(),
                       ys=np.clip(bears + side * 100 * cooling.band, 0, 100).tolist()) for side in (-1, 1)]  # fmt: skip
    axes = Axes(
        most_x=max(100.0, *(x for x, _ in asked)) * 1.02, most_y=120, x_name="% of speed", y_name="% of plate amperes"
    )
    text = "The dots are the operating points." + (
        " The model holds within ten points either way." if cooling.band else ""
    )
    return plot(axes, lines, "Current borne against speed", dots=asked), text


def _spectrum(driven: Driven) -> _Made:
    side = driven.side
    rows = [
        (f"{order}th", 100 * amps / side.fundamental_a, limit)
        for order, amps, limit in zip(side.orders, side.harmonics_a, side.limits_pct, strict=True)
    ]
    text = f"THD {side.thd_pct:.0f} %, between {side.thd_low:.0f} and {side.thd_high:.0f} %; "
    text += f"{write(side.rms_a, 3)} A rms in."
    if side.one_phase:
        text += " Fed by one phase its 3rd is the largest, 58 to 88 % of the fundamental, and not drawn."
    elif not any(side.limits_pct):
        text += " Limits are drawn once the coupling's fault current is given."
    return bars(rows, "% of the fundamental", "Harmonics of the input current"), text


def _lead(driven: Driven) -> _Made:
    lead = driven.lead
    if lead is None:
        return None
    most = max(30.0, 1.25 * lead.length_m)
    metres = np.concatenate([np.linspace(0, 20, 21), np.linspace(22, most, 20)])
    lines = [
        Line(role="torque", name="a third of the way", xs=metres.tolist(), named=0.15,
             ys=[lead.peak_at(m, lead.critical_m[1]) for m in metres.tolist()]),
        Line(role="pf", name="", xs=metres.tolist(), ys=[lead.peak_at(m, lead.critical_m[0]) for m in metres.tolist()]),
        Line(role="limit", name=_borne(lead), xs=[0, most], ys=[lead.limit_v] * 2, named=0.9),
    ]  # fmt: skip
    axes = Axes(most_x=most, most_y=up_to(max(lead.limit_v, lead.bus_v * 2)), x_name="m", y_name="V peak")
    text = "Two schools of critical length; dashed a half of the way." + (
        "" if lead.filter == "none" else " The dot is behind what stands at its output."
    )
    return plot(
        axes, lines, "Peak at the motor's terminals against the lead's length", dots=[(lead.length_m, lead.peak_v)]
    ), text


def _borne(lead: Lead) -> str:
    return "the winding bears" if lead.known else "a general-purpose winding bears"


def _energy(driven: Driven) -> _Made:
    energy = driven.energy
    if energy is None or len(energy.flow) < 2:
        return None
    flow = [100 * one for one in energy.flow]
    order = sorted(range(len(flow)), key=flow.__getitem__)
    roles = {"by-drive": "torque", energy.now or "": "current"}
    lines = [
        Line(
            role=roles.get(way.key, "edge"),
            name=way.name,
            xs=[flow[i] for i in order],
            named=0.34 if way.key == "by-drive" else 0.0,
            ys=[way.kw[i] or 0.0 for i in order],
        )
        for way in energy.ways
    ]
    most = max(max(one or 0.0 for one in way.kw) for way in energy.ways)
    axes = Axes(most_x=max(*flow, 100.0), most_y=up_to(most * 1.05), x_name="% flow", y_name="kW from the line")
    return plot(
        axes, lines, "Power against flow"
    ), "At the same flow, from the line; within 15 % of a saving, estimated."


def _coast(driven: Driven) -> _Made:
    coast = driven.coast
    most = max(min(float(coast.time_s[-1]), 12 * max(coast.back_s, 1.0)), 2 * coast.back_s)
    keep = coast.time_s <= most
    lines = [Line(role="torque", name="coasts", xs=coast.time_s[keep].tolist(), ys=coast.rpm[keep].tolist(), named=0.5)]
    axes = Axes(most_x=most, most_y=up_to(float(coast.rpm[0])), x_name="s", y_name=driven.plain.unit)
    dot = (coast.back_s, coast.share * float(coast.rpm[0]))
    return plot(
        axes, lines, "Speed against time without power", dots=[dot]
    ), "The dot: power is back and the drive ready."


_VIEWS: Final[dict[str, Callable[[Driven], _Made]]] = {
    "volts": _volts,
    "cooling": _cooling,
    "spectrum": _spectrum,
    "lead": _lead,
    "energy": _energy,
    "coast": _coast,
}
