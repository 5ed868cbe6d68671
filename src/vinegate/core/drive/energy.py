"""A year's energy with the drive, and of the same flow set otherwise; price and payback with their band."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Final

import numpy as np

from vinegate.core.drive.duty import Row
from vinegate.core.drive.facts import CONTROLLED
from vinegate.core.drive.losses import Input
from vinegate.core.drive.need import Need
from vinegate.core.grade import Gate, at_least, check, rule
from vinegate.core.load import pump
from vinegate.core.load.curve import shutoff_of, static_of
from vinegate.core.numbers import write
from vinegate.core.records import dataclass
from vinegate.core.tables import load
from vinegate.core.turning import Turns
from vinegate.core.working import Figure, Provenance

_BAND: Final = 0.15
_HOURS_BAND: Final = 0.20
_REACHED: Final = 1.02
_FULL: Final = 0.95
_PUMPS: Final = ("pump-open", "pump-closed", "pump-static")
_FANS: Final = ("fan-open", "fan-closed")


@dataclass(frozen=True, slots=True, kw_only=True)
class Compared:
    """One way to set the flow: kilowatts from the line at each point, and the year's kilowatt-hours."""

    key: str
    name: str
    kw: tuple[float | None, ...]
    year_kwh: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Energy:
    """With the drive first, then the others at the same flow. `flow` is each point's, of that at full speed.

    `saved_kwh` against what stands there now, None while that is not said; `payback_years` with its band.
    """

    flow: tuple[float, ...]
    hours: tuple[float, ...]
    ways: tuple[Compared, ...]
    now: str | None
    saved_kwh: float | None
    price: float | None
    payback_years: tuple[float, float, float] | None


def energy_of(need: Need, rows: Sequence[Row], inputs: Sequence[Input], efficiency: float) -> Energy | None:
    """Put it on the sheet. None while no hours are given, or a pump's static head is not said."""
    worked = [(row, one) for row, one in zip(rows, inputs, strict=True) if row.point.hours]
    sheet, kind = need.sheet, need.load.kind
    if not worked:
        sheet.needs([("drive.points", "hours a year of its operating points")], "the year's energy")
        return None
    if kind in _PUMPS and need.circuit.load.static_pu is None:
        sheet.needs([("load.static", "the static head")], "what other ways to set the flow would take")
    hours = tuple(row.point.hours or 0.0 for row, _ in worked)
    flow = tuple(_flow(need, row) for row, _ in worked)
    drive = tuple(one.line_w / 1000 for _, one in worked)
    others = _others(need, flow, [row for row, _ in worked], hours, efficiency)
    ways = (Compared(key="by-drive", name="the drive", kw=drive, year_kwh=_year(drive, hours)), *others)
    year = sheet.given("year", "Energy a year with the drive", "E", (ways[0].year_kwh or 0.0) / 1000, "MWh",
                       provenance=Provenance.ESTIMATED,
                       source="watts from the line times hours, point by point")  # fmt: skip
    now = next((one for one in others if one.key == need.facts.now), None)
    saved, payback = None, None
    price = need.job.limits.energy_price
    if now is not None and now.year_kwh is not None:
        there = sheet.given("now", f"Energy a year now: {now.name}", "E_0", now.year_kwh / 1000, "MWh",
                            provenance=Provenance.ESTIMATED, source="shaft power at the same flow")  # fmt: skip
        saved = sheet.work("saved", "Saved a year", "ΔE", there.value - year.value, "MWh", formula="E_0−E",
                           inputs=(there, year), source="the same flow, not the same speed",
                           note="Within 15 % of the saving, unless curves are given.")  # fmt: skip
        payback = _payback(need, saved, price)
    return Energy(
        flow=flow,
        hours=hours,
        ways=ways,
        now=need.facts.now,
        saved_kwh=1000 * saved.value if saved is not None else None,
        price=price,
        payback_years=payback,
    )


def _others(
    need: Need, flow: Sequence[float], rows: Sequence[Row], hours: Sequence[float], efficiency: float
) -> list[Compared]:
    """Every other way to set the flow that the load has, at the same flow."""
    found = []
    for key, name in CONTROLLED:
        if (share := _otherwise(need, key)) is None:
            continue
        kw = tuple(
            _line_kw(need, q, share(q, row), efficiency, runs=min(q, 1.0) if key == _BY_TURNS else 1.0)
            for q, row in zip(flow, rows, strict=True)
        )
        found.append(Compared(key=key, name=name, kw=kw, year_kwh=_year(kw, hours)))
    return found


def _payback(need: Need, saved: Figure, price: float | None) -> tuple[float, float, float] | None:
    cost = need.facts.cost
    if not cost or not price or saved.value <= 0:
        return None
    sheet = need.sheet
    k, c = (
        sheet.given("cost", "Cost of the drive", "K", cost, ""),
        sheet.given("price", "Price of a kilowatt-hour", "c", price, "", fact="limits.energy_price"),
    )
    years = sheet.work(
        "payback",
        "Paid back in",
        "t_K",
        cost / (price * 1000 * saved.value),
        "years",
        formula="K/(1000·c·ΔE)",
        inputs=(k, c, saved),
        source="no interest; hours ±20 %, saving ±15 %",
    ).value
    wide = (1 - _BAND) * (1 - _HOURS_BAND), (1 + _BAND) * (1 + _HOURS_BAND)
    return years / wide[1], years, years / wide[0]


def _year(kw: Sequence[float | None], hours: Sequence[float]) -> float | None:
    if any(one is None for one in kw):
        return None
    return sum((one or 0.0) * h for one, h in zip(kw, hours, strict=True))


def _line_kw(need: Need, flow: float, share: float | None, efficiency: float, *, runs: float) -> float | None:
    """From the line without a drive: shaft over the motor's efficiency, by its fixed and copper losses, for as much of
    the time as it `runs`.
    """
    if share is None:
        return None
    if flow > _REACHED:
        return None  # beyond full speed nothing else gives that flow
    rated = need.power_w
    shaft = share * need.load.torque_nm * need.load.full_speed_rpm * np.pi / 30
    lost = rated * (1 / efficiency - 1)
    part = shaft / rated
    return float(runs * need.motors * (shaft + lost * (0.4 + 0.6 * part**2) * (1 if share > 0 else 0)) / 1000)


def _flow(need: Need, row: Row) -> float:
    """Of that at full speed: by the pump against its system, else in proportion to speed."""
    speed = row.point.rpm / need.load.full_speed_rpm
    facts = need.circuit.load
    if need.load.kind in _PUMPS and facts.static_pu is not None:
        return float(pump.flow_at(np.array(speed), static_of(facts), shutoff_of(facts)))
    return speed


_BY_TURNS: Final = "on-off"
"""Full flow for part of the time: its losses with it."""
_Way = Callable[[float, Row], float | None]


def _otherwise(need: Need, key: str) -> _Way | None:
    """Shaft power at a flow, of that at full speed, by another way to set it; None where it is no way for the load."""
    kind = need.load.kind
    if key == "none" or (key == _BY_TURNS and kind in (*_PUMPS, *_FANS)):
        return lambda q, row: 1.0
    if kind in _PUMPS and key == "throttle":
        return lambda q, row: pump.SHUT_OFF_POWER + (1 - pump.SHUT_OFF_POWER) * min(q, 1.0)
    if kind in _PUMPS and key == "bypass":
        return lambda q, row: 1.0
    if kind in _FANS and key in ("damper", "vanes"):
        return lambda q, row: fan_share(key, q)
    return None


def fan_share(key: str, flow: float) -> float:
    """Shaft power of a fan by damper or vanes at a flow.

    >>> fan_share("damper", 0.8), fan_share("vanes", 1.0)
    (0.93, 1.0)
    """
    rows = load("fan_control").rows
    return float(np.interp(flow, [float(row["flow"]) for row in rows], [float(row[key]) for row in rows]))


def least_flow_gate(need: Need, rows: Sequence[Row]) -> Gate | None:
    """Below the speed at which a pump lifts its static head it churns and heats its own water."""
    facts = need.circuit.load
    if need.load.kind not in _PUMPS or not facts.static_pu:
        return None
    least = 100 * pump.least_speed(static_of(facts), shutoff_of(facts))
    slowest = min(rows, key=lambda row: row.point.rpm)
    share = 100 * slowest.point.rpm / need.load.full_speed_rpm
    text = f"At its slowest it turns at {write(share, 3)} % of full speed; it lifts from {write(least, 3)} %."
    return at_least("drive.lifts", "Pump lifts at its slowest", share, least, sentence=text, unit="%",
                    source="n = √(H_st/H_0): Karassik, Pump Handbook, 4th ed., 9.1",
                    remedy="A higher least speed: below it the pump churns its own water hot.")  # fmt: skip


def only_to_start_gate(need: Need, rows: Sequence[Row], drive_w: float) -> Gate | None:
    """A drive that runs at full speed all year only starts the motor, and loses all year."""
    slowest = min(row.point.rpm for row in rows) / need.load.full_speed_rpm
    wish = need.circuit.start
    if slowest < _FULL or max(row.hz for row in rows) > _REACHED * need.base_hz:
        return None
    key, name = "drive.only_to_start", "More than a start"
    if wish.speed_control == "yes" or wish.soft_stop == "yes":
        return rule(key, name, True, "Speed control or a soft stop is asked.", "as asked")
    turns = Turns(
        path="start.speed_control", label="speed control", passes="yes, where the speed is to be set", passes_as="yes"
    )
    text = (
        f"No point is below full speed: the drive would lose about {write(drive_w / 1000, 2)} kW to start the "
        "motor. Passes with speed control asked."
    )
    return check("drive.only_to_start", "More than a start", turns, text, "its own losses at full speed",
                 remedy="A soft starter with a by-pass; or the speeds at which it is to run.")  # fmt: skip
