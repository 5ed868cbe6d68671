"""Is the machine that was entered, by curve, circuit or tests, the one whose plate it is?"""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, check, rule
from vinegate.core.machine.curves import Model, curves
from vinegate.core.machine.describe import Machine
from vinegate.core.machine.tabulated import Tabulated
from vinegate.core.numbers import write, write_up
from vinegate.core.plate.kind import THREE_PHASE
from vinegate.core.plate.rated import Rated
from vinegate.core.turning import Turns

_SLIP: Final = 1.5
"""Times its plate's slip, either way: its tolerance of 20 to 30 % (IEC 60034-1:2022 table 20), and a cold rotor."""
_SLIP_LOCKED: Final = 3.0  # so many times its running resistance a rotor has at line frequency; assumed
_SLIP_OF_CURVE: Final = 2.0  # read off a sheet of paper; assumed
_ROUNDED_RPM: Final = 2.5  # plates give speeds by fives; assumed
_AMPS: Final = 1.15
"""Of efficiency's and power factor's tolerances together; assumed. NEMA MG 1:2021 12.47 allows a tenth."""
_COUNT: Final = 321
_LAST_SLIPS: Final = 3.0
"""Rated slips, within which of the synchronous speed a curve's last point tells of the rated one."""
_KEY, _NAME = "machine.plate", "Machine entered belongs to its plate"
_SOURCE: Final = "IEC 60034-1:2022 table 20, tolerances of slip, efficiency and power factor"
_REMEDY: Final = "Read it again, the units in its head and ohms by phase with it; else it is another machine's."
_LOCKED: Final = "Lock its rotor at a quarter of its hertz: at its own the tests tell of its start, not of its running."


def of_plate_gate(machine: Machine, rated: Rated) -> Gate | None:
    """At the rated torque it turns at about its plate's speed and draws about its amperes; None while those lack."""
    if rated.speed is None or rated.current is None or not machine.rated_torque_nm:
        return None
    found = curves(machine.circuit, volts_v=machine.volts_v, count=_COUNT)
    top = int(np.argmax(found.torque_nm))
    most = float(found.torque_nm[top])
    nm = machine.rated_torque_nm
    if most < nm:
        text = f"It gives {write(most, 3)} N·m at most, and {write(nm, 3)} N·m are its rated torque."
        return rule(_KEY, _NAME, False, text, _SOURCE, remedy=_REMEDY)
    falling = slice(None, top - 1 if top else None, -1)
    speed, amps = (float(np.interp(nm, found.torque_nm[falling], one[falling]))
                   for one in (found.speed_rpm, found.line_current_a))  # fmt: skip
    if not _resolved(machine.circuit, speed, rated):
        return None
    text = (
        f"At its rated torque it turns at {write(speed)} {rated.speed.unit} and draws {write(amps, 3)} A; its plate "
        f"says {rated.speed.shown} and {write(rated.current.value, 3)} A."
    )
    times = _SLIP_OF_CURVE if machine.origin == "maker's curve" else _SLIP
    at_rest = machine.origin == "from tests" and machine.fitted is not None
    met = (
        _near_speed(speed, rated, times, _SLIP_LOCKED if at_rest else times)
        and 1 / _AMPS <= amps / rated.current.value <= _AMPS
    )
    return rule(_KEY, _NAME, met, text, _SOURCE, remedy=_LOCKED if at_rest else _REMEDY)


def _resolved(model: Model, speed: float, rated: Rated) -> bool:
    """Whether its rated point lies between points that were given: a curve may end long before, closed for it."""
    if not isinstance(model, Tabulated) or rated.synchronous is None or rated.speed is None:
        return True
    last = model.speed_rpm[-2]
    return speed <= 1.005 * last or model.top_rpm - last <= _LAST_SLIPS * (rated.synchronous.value - rated.speed.value)


def _near_speed(speed: float, rated: Rated, less: float, more: float) -> bool:
    """Within so many times less and more slip."""
    assert rated.speed is not None
    said = rated.speed.value
    if rated.synchronous is None:  # a commutator's: its speed is not held by a frequency
        return 1 / _AMPS <= speed / said <= _AMPS
    slip, whole = rated.synchronous.value - said, rated.synchronous.value - speed
    return (slip - _ROUNDED_RPM) / less <= whole <= (slip + _ROUNDED_RPM) * more


_COPPER_PU, _COPPER_POWER, _APART = 0.06, -0.35, 6.0
"""Loss in a stator's copper, of rated power: so much at 1 kW, falling with that power of it; scatter of 2. Assumed."""


def resistance_gate(circuit: Circuit, rated: Rated) -> Gate | None:
    """None where the ohms measured between two leads are as many as such a winding has; too many meet no circuit."""
    ohms, watts = circuit.machine.dc_resistance_ohm, rated.power_w
    if ohms is None or watts is None or rated.current is None or circuit.plate.family not in THREE_PHASE:
        return None
    usual = _COPPER_PU * (watts / 1000) ** _COPPER_POWER * watts / (1.5 * rated.current.value**2)
    if ohms >= usual / _APART:
        return None
    passes = f"over {write_up(usual / _APART)} Ω"
    turns = Turns(
        path="machine.dc_resistance", label="ohms between two leads", passes=passes, passes_as=f"{write(usual, 3)} Ω"
    )
    text = (
        f"{write(ohms, 3)} Ω between two leads; windings of its power and amperes have some {write(usual, 2)} Ω. "
        f"Passes for {turns.label} {turns.passes}."
    )
    name, source = "Winding's ohms go with its power", "P = 1.5·R·I²: loss in copper of usual machines; assumed"
    return check("machine.resistance_size", name, turns, text, source, remedy="Read its unit again: mΩ or Ω.")
