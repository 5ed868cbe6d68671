"""A three-phase meter over Modbus TCP. Off unless its address is allowed by whoever runs the application."""

from __future__ import annotations

import math
import os
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Final

UNIT: Final = 1
VALUES: Final = ("U12", "U23", "U31", "I1", "I2", "I3", "P", "pf", "Hz")
BENCH_MARK: Final = 90210.5
"""Behind the values of a simulated meter; a real one has no register there, or another number."""
ALLOWED: Final = "VINEGATE_INSTRUMENTS"
"""Environment: addresses that may be read, `host:port` with commas between. Empty: none."""
_TIMEOUT_S: Final = 2.0


class NoReading(RuntimeError):
    """Nothing could be read; `str()` says why."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    values: Mapping[str, float]
    simulated: bool


def allowed() -> tuple[str, ...]:
    """Addresses that may be read."""
    return tuple(one.strip() for one in os.environ.get(ALLOWED, "").split(",") if one.strip())


def read_meter(address: str, *, word_order: str = "big", first: int = 0, unit: int = UNIT) -> Reading:
    """Values by their names in V, A, W and Hz. Raises NoReading.

    `word_order` is "big" or "little": the wrong one gives numbers far from any meter's, which are refused.
    """
    if address not in allowed():
        raise NoReading(
            f"{address} is not among the addresses that may be read here: whoever runs the application lists them."
        )
    from pymodbus.client import ModbusTcpClient
    from pymodbus.exceptions import ModbusException

    host, _, port = address.rpartition(":")
    if not (port.isascii() and port.isdigit() and int(port) < 65536):
        raise NoReading(f"{address} has no port: write it like 192.0.2.10:502.")
    client: Any = ModbusTcpClient(host, port=int(port), timeout=_TIMEOUT_S, retries=0)
    try:
        if not client.connect():
            raise NoReading(f"Nothing answers at {address}.")
        found = _floats(client, first, len(VALUES), unit, word_order)
        simulated = _simulated(client, first + 2 * len(VALUES), unit, word_order)
    except (ModbusException, OSError) as error:
        raise NoReading(f"{address} stopped answering.") from error
    finally:
        client.close()
    values = dict(zip(VALUES, found, strict=True))
    _plausible(values)
    return Reading(values=values, simulated=simulated)


def _floats(client: Any, first: int, count: int, unit: int, word_order: str) -> list[float]:
    answer = client.read_holding_registers(first, count=2 * count, device_id=unit)
    if answer.isError():
        raise NoReading("It has no such registers: look at its list for the first one.")
    order = "big" if word_order == "big" else "little"
    found = client.convert_from_registers(answer.registers, client.DATATYPE.FLOAT32, word_order=order)
    return [float(one) for one in found] if isinstance(found, list) else [float(found)]


def _simulated(client: Any, at: int, unit: int, word_order: str) -> bool:
    try:
        return math.isclose(_floats(client, at, 1, unit, word_order)[0], BENCH_MARK, rel_tol=1e-6)
    except NoReading:
        return False


def _plausible(values: Mapping[str, float]) -> None:
    volts = [values[name] for name in VALUES[:3]]
    if not all(math.isfinite(one) for one in values.values()) or not all(1 <= one <= 2000 for one in volts):
        raise NoReading("Its volts cannot be: the order of its words is the other one, or its first register.")
    if not 10 <= values["Hz"] <= 400:
        raise NoReading("Its frequency cannot be: look at its list of registers.")
