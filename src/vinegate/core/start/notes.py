"""What practice gets wrong about starts, computed where it arises."""

from __future__ import annotations

import math

from vinegate.core.facts import Circuit, Job
from vinegate.core.numbers import write
from vinegate.core.rules import Words
from vinegate.core.start import ways
from vinegate.core.start.compare import Comparison, MethodRow
from vinegate.core.start.plant import Plant
from vinegate.core.start.soft_stop import SoftStop
from vinegate.core.start.trace import Outcome
from vinegate.core.start.ways import autotransformer, drive, soft_limit, wye_delta
from vinegate.core.supply.network import fault_currents_a

_HOURS = 8760
_DEMAND_MINUTES = 15
_HARDLY = 1.3


def notes_on(plant: Plant, found: Comparison, job: Job, circuit: Circuit, words: Words) -> list[str]:
    """Sentences for this circuit; only those that apply."""
    rows = {row.method: row for row in found.rows if row.outcome is not None}
    said = [
        _autotransformer(rows.get(autotransformer.WAY.key)),
        _demand(plant, rows.get(ways.USUAL.key), job),
        _drive(rows.get(drive.WAY.key), job, circuit),
        _wye_loaded(rows.get(wye_delta.WAY.key), words),
        _limit_too_low(rows.get(soft_limit.WAY.key), circuit),
        _resonance(plant, job),
        _harmonics(found),
        _soft_stop(found.soft_stop),
        _reversing(found, circuit),
    ]
    return [text for text in said if text]


def _autotransformer(row: MethodRow | None) -> str:
    if row is None or row.value is None or row.peak_a is None or row.motor_a is None:
        return ""
    t = row.value
    return (
        f"An autotransformer's tap of {100 * t:.0f} % gives the motor {100 * t:.0f} % of its current but the line only "
        f"{100 * t * t:.0f} % of it, and its exciting current on top: overloads see the motor's, the dip the line's."
    )


def _demand(plant: Plant, row: MethodRow | None, job: Job) -> str:
    """Energy of a start over the billing interval."""
    if row is None or row.time_s is None or row.heat_j is None:
        return ""
    kinetic = 0.5 * plant.inertia_kgm2 * (plant.synchronous_rad_s * 0.98) ** 2
    kw = (row.heat_j + kinetic) / 1000 / (60 * _DEMAND_MINUTES)
    price = f", {write(kw * job.limits.demand_price, 2)} a month" if job.limits.demand_price else ""
    return (
        f"Demand is billed over {_DEMAND_MINUTES} to 30 minutes: one start at full voltage adds about "
        f"{write(kw, 2)} kW to it{price}. A contract that limits starting kVA is another matter: ask for it."
    )


def _drive(row: MethodRow | None, job: Job, circuit: Circuit) -> str:
    if row is None or circuit.plate.power_w is None or circuit.start.speed_control == "yes":
        return ""
    kw = row.loss_share * circuit.plate.power_w / 1000
    year = kw * _HOURS
    money = f", {write(year * job.limits.energy_price, 3)} a year" if job.limits.energy_price else ""
    return (
        f"A drive used only to start loses about {write(kw, 2)} kW at full speed: "
        f"{write(year, 3)} kWh in a year of running{money}."
    )


def _wye_loaded(row: MethodRow | None, words: Words) -> str:
    if row is None or row.outcome is Outcome.REACHES:
        return ""
    return (
        f"In {words.wye} the machine has a third of its torque over the whole speed range, not only at rest: this load "
        f"needs to be taken off it to start so."
    )


def _limit_too_low(row: MethodRow | None, circuit: Circuit) -> str:
    if row is None or circuit.start.soft_limit is None or row.outcome is Outcome.REACHES:
        return ""
    limit = write(circuit.start.soft_limit, 2)
    return (
        f"A limit of {limit} × rated current does not carry this load up: torque goes with the square of the current, "
        f"and loaded starts usually take 3 to 4.5 ×. Leave it empty for the least that does."
    )


def _harmonics(found: Comparison) -> str:
    if not found.row(found.chosen).harmonics:
        return ""
    return (
        "It makes harmonics while it works (IEEE 519:2022, IEC 61000-3-12): a soft starter until its bypass closes, "
        "a drive all the time."
    )


def _reversing(found: Comparison, circuit: Circuit) -> str:
    if circuit.start.reversing != "yes":
        return ""
    way = ways.way_of(found.chosen)
    if way.by_frequency:
        return "Reversing: the drive turns the field itself; no contactors on its output."
    if way.rectifies:
        return "Reversing: a bridge for both directions turns it, or its field at rest, as its maker wires it."
    if way.at_rings:
        return (
            "Reversing needs a second stator contactor, interlocked electrically and mechanically with the first, and "
            "all of the resistor in before it closes: while it still turns the other way it slips nearly twice as much."
        )
    return (
        "Reversing needs a second line contactor, interlocked electrically and mechanically with the first; reversed "
        "while it still turns, the machine is plugged, at a little over its locked-rotor current."
    )


def _soft_stop(stop: SoftStop | None) -> str:
    """The ramp down against coasting."""
    if stop is None:
        return ""
    coasts = stop.coasts_to_a_tenth_s
    if coasts is None or stop.to_a_tenth_s is None:
        return "Switched off, this load alone does not slow the machine to a tenth of its speed."
    return (
        f"Switched off, it coasts to a tenth of its speed in about {write(coasts, 2)} s. The soft stop over "
        f"{write(stop.ramp_s)} s takes {write(stop.to_a_tenth_s, 2)} s and draws up to {stop.peak_a:.0f} A"
        + (": it hardly holds it longer." if stop.to_a_tenth_s < _HARDLY * coasts else ".")
    )


def _resonance(plant: Plant, job: Job) -> str:
    """`h = √(S_sc/Q_c)` at the board with capacitors (IEEE 519:2022 annex)."""
    for bus, amps in zip(plant.network.buses, fault_currents_a(plant.network), strict=True):
        board = job.main_board if bus.key == "main" else job.board(bus.key)
        kvar = board.capacitor_power if board else None
        if kvar:
            order = math.sqrt(math.sqrt(3) * bus.volts_v * amps / kvar)
            near = min((5, 7, 11, 13), key=lambda h: abs(h - order))
            close = abs(near - order) < 0.6
            return (
                f"With {write(kvar / 1000)} kvar on {bus.name} the supply resonates at harmonic {order:.1f}: "
                + (f"close to the {near}th that drives and soft starters make. " if close else "")
                + "No capacitors on the output side of a drive or soft starter."
            )
    return ""
