"""Quantities that only a drive asks."""

from __future__ import annotations

from typing import Final

from vinegate.core.measured import Quantity

OUTPUT: Final = Quantity(name="frequency", unit="Hz", shown="Hz", bare="Hz", example="50 Hz", least=0.1, most=600)
CARRIER: Final = Quantity(
    name="carrier frequency", unit="Hz", shown="Hz", bare="kHz", example="4 kHz", least=500, most=50000
)
TURNING: Final = Quantity(name="speed", unit="rpm", shown="min⁻¹", bare="rpm", example="600 rpm", least=0, most=25000)
RISE: Final = Quantity(
    name="rise time", unit="second", shown="s", bare="microsecond", example="0.2 µs", least=1e-9, most=2e-5
)
CAPACITY: Final = Quantity(
    name="capacitance", unit="farad", shown="F", bare="microfarad", example="1500 µF", least=1e-6, most=1
)
HENRY: Final = Quantity(
    name="inductance", unit="henry", shown="H", bare="millihenry", example="4 mH", least=1e-6, most=10
)
OVERLOAD: Final = Quantity(
    name="overload", unit="one", shown="", bare="percent", bare_too="one", example="150 %", least=1, most=4,
    usual=(1, 4),
)  # fmt: skip
REACTANCE: Final = Quantity(
    name="reactance", unit="one", shown="", bare="percent", bare_too="one", example="3 %", least=0.001, most=0.2,
    usual=(0.001, 0.2),
)  # fmt: skip
LOSS: Final = Quantity(name="loss", unit="W", shown="W", bare="W", example="900 W", least=1, most=1e6)
PEAK: Final = Quantity(name="voltage", unit="V", shown="V", bare="V", example="1600 V", least=100, most=10000)
COST: Final = Quantity(name="cost", unit="one", shown="", bare="one", example="3200", least=0, most=1e9)
LASTS: Final = Quantity(
    name="time", unit="second", shown="s", bare="second", example="20 s or 2 min", least=0, most=86400
)
