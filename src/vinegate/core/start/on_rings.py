"""A wound rotor's first moment: what it draws in the first step of its resistor."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from vinegate.core.facts import Circuit
from vinegate.core.machine.curves import run_at
from vinegate.core.machine.describe import Machine
from vinegate.core.machine.slip_rings import first_torque
from vinegate.core.numbers import write
from vinegate.core.plate.rated import Rated
from vinegate.core.sheet import Sheet
from vinegate.core.turning import Taken
from vinegate.core.working import Provenance

_BAND: Final = 0.10
"""The circuit goes through the rated point and the breakdown torque; between them it is estimated."""


def on_first_step(sheet: Sheet, circuit: Circuit, rated: Rated, machine: Machine) -> tuple[Taken, Taken] | None:
    """Amperes at rest with the rings shorted, from which ways draw a share; and the power factor behind the resistor.

    At the same torque ohms go with slip (Fitzgerald, 6th ed., section 6.7): at rest behind `K/t_1` ohms the machine
    draws what it draws at `t_1·s_N` with its rings shorted.
    """
    if rated.speed is None:
        return None
    top = machine.circuit.synchronous_rad_s() * 30 / math.pi
    peak, slip = first_torque(circuit), 1 - rated.speed.value / top
    there = run_at(machine.circuit, np.array([1.0, min(peak * slip, 1.0)]), volts_v=machine.volts_v)
    bare, amps = (float(one) for one in there.line_current_a)
    factor = float(there.power_factor[1])
    sheet.given(
        "rings_current", "Current in the first step of its resistor", "I_1", amps, "A", provenance=Provenance.ESTIMATED,
        source=f"its circuit at {write(peak, 3)} times its rated slip",
    )  # fmt: skip
    return (
        Taken(label="what its circuit draws", unit="A", value=bare, low=(1 - _BAND) * bare, high=(1 + _BAND) * bare,
              how="estimated"),
        Taken(label="its power factor", value=factor, low=max(factor - _BAND, 0.05), high=min(factor + _BAND, 1.0),
              how="estimated"),
    )  # fmt: skip
