"""Quantities that only a control circuit asks."""

from __future__ import annotations

from typing import Final

from vinegate.core.measured import Quantity

CONTROL_VA: Final = Quantity(name="load", unit="VA", shown="VA", bare="VA", example="150 VA", least=0, most=100000)
RATED_VA: Final = Quantity(name="rating", unit="VA", shown="VA", bare="VA", example="150 VA", least=0.5, most=100000)
IMPEDANCE: Final = Quantity(
    name="impedance", unit="one", shown="", bare="percent", bare_too="one", example="6 %", least=0.005, most=0.3,
    usual=(0.01, 0.3),
)  # fmt: skip
RUN_CAPACITANCE: Final = Quantity(
    name="capacitance", unit="farad", shown="F", bare="microfarad", example="0.3 µF", least=1e-8, most=2e-6
)
