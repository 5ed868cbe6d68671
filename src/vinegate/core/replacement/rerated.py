"""A plate of another frequency as it holds on this supply, where the volts are in the measure of the frequency."""

from __future__ import annotations

from typing import Any

from vinegate.core.fed import fed
from vinegate.core.numbers import write
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.rated import Rated
from vinegate.core.plate.volts import Connection, VoltsDesignation
from vinegate.core.records import replace
from vinegate.core.work import Work


def times_here(work: Work, plate: Plate) -> float:
    """The supply's frequency over the plate's, where its volts rise or fall with it; else one: it holds as stamped."""
    hertz, line = work.circuit.plate.frequency_hz, fed(work.job, work.circuit)
    if not hertz or not plate.frequency_hz or hertz == plate.frequency_hz or line is None or plate.volts is None:
        return 1.0
    times = hertz / plate.frequency_hz
    return times if plate.volts.with_its_flux(line.volts_v, times) is not None else 1.0


def rerated(plate: Plate, rated: Rated, times: float) -> Plate:
    """The flux and so the torque and the amperes are kept; speed less slip, power and volts go with the frequency.

    Slip in turns a minute stays; so do kVA a horsepower and every torque in per cent (Fitzgerald, Electric Machinery,
    6th ed., 11.2).
    """
    facts: dict[str, Any] = {name: getattr(plate, name) for name in Plate.model_fields}
    return Plate.model_construct(**facts | {
        "frequency_hz": _scaled(plate.frequency_hz, times),
        "power_w": _scaled(plate.power_w, times),
        "rotor_volts_v": _scaled(plate.rotor_volts_v, times),
        "speed_rpm": _faster(rated, times) or plate.speed_rpm,
        "volts": _volts(plate.volts, times) if plate.volts is not None else None,
    })  # fmt: skip


def as_typed(stamped: Plate, used: Plate) -> tuple[tuple[str, str], ...]:
    """Fields of the plate and their texts as it is used here, where they are not as stamped."""
    texts = (
        ("power", used.power_w, f"{write((used.power_w or 0) / 1000, 4)} kW"),
        ("frequency", used.frequency_hz, f"{write(used.frequency_hz or 0)} Hz"),
        ("speed", used.speed_rpm, f"{write(used.speed_rpm or 0, 4)} rpm"),
        ("rotor_volts", used.rotor_volts_v, f"{write(used.rotor_volts_v or 0, 3)} V"),
        ("volts", used.volts, used.volts.text if used.volts else ""),
    )
    return () if used is stamped else tuple((name, text) for name, value, text in texts if value is not None)


def _scaled(value: float | None, times: float) -> float | None:
    return None if value is None else value * times


def _faster(rated: Rated, times: float) -> float | None:
    if rated.speed is None or rated.synchronous is None:
        return None
    return rated.speed.value + rated.synchronous.value * (times - 1)


def _volts(stamped: VoltsDesignation, times: float) -> VoltsDesignation:
    """Whole volts, as they would be stamped."""
    ways = tuple(_joined(one, times) for one in stamped.connections)
    return VoltsDesignation(text="/".join(one.text for one in ways), connections=ways)


def _joined(one: Connection, times: float) -> Connection:
    return replace(one, low_v=float(round(one.low_v * times)), high_v=float(round(one.high_v * times)))
