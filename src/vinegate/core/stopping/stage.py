"""The stop on its sheet: what is asked, every way side by side, the way in use and its gates."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from vinegate.core.facts import Circuit, Job
from vinegate.core.gate import Gate, Verdict, unknown
from vinegate.core.load.stage import Asked as Load
from vinegate.core.machine.circuit import EquivalentCircuit
from vinegate.core.machine.describe import Machine
from vinegate.core.plate.rated import Rated
from vinegate.core.quantity import write
from vinegate.core.sheet import Sheet
from vinegate.core.stopping.courses import Turning, speeds_down
from vinegate.core.stopping.methods import (
    ORDER,
    Asked,
    StopRow,
    brake,
    brake_torque,
    bus_volts,
    closing_j,
    coast,
    dc,
    direct_a,
    drive,
    drive_then_brake,
    plug,
    resistor,
)
from vinegate.core.working import Figure, Provenance


@dataclass(frozen=True, slots=True, kw_only=True)
class Stopping:
    """Rows as they are made, and the one in use; `must_hold` when the load would turn the machine."""

    rows: tuple[StopRow, ...]
    chosen: str
    must_hold: bool

    def row(self, method: str) -> StopRow:
        """The row of a method. Raises KeyError."""
        for row in self.rows:
            if row.method == method:
                return row
        raise KeyError(method)


def plan_stop(
    sheet: Sheet,
    job: Job,
    *,
    circuit: Circuit,
    rated: Rated,
    machine: Machine | None,
    load: Load | None,
    rotor: Figure | None,
    rated_nm: float | None,
    stall: Figure | None,
    locked: Figure | None,
    start: Gate | None,
) -> Stopping | None:
    """Every way to stop. None, with what is missing named, without a load, a speed or a rated current."""
    wanted = (
        ("load.kind", "the load", load),
        ("plate.speed", "plate speed", rated.speed),
        ("plate.full_load_current", "rated current", rated.current),
        ("plate.power", "power", rated_nm),
    )
    missing = [(path, label) for path, label, value in wanted if value is None]
    if missing or load is None or rated.speed is None or rated.current is None or rated_nm is None:
        sheet.gates.append(unknown("brake.stop", "Stops as asked", sheet.needs(missing, "how it stops")))
        return None
    asked = replace(
        _asked(job, circuit, rated, machine, load, rotor.value if rotor else 0.0, rated_nm),
        stall_s=stall.value if stall else None,
        locked_a=locked.value if locked else None,
    )
    rows = tuple(make(asked) for make in (coast, brake, dc, plug, drive, drive_then_brake))
    chosen = circuit.stop.method or _cheapest(rows)
    _figures(sheet, asked, load)
    sheet.gates += _gates(circuit, asked, next(row for row in rows if row.method == chosen), start)
    if asked.hold:
        sheet.notes.append(
            "The brake's coil is live whenever the motor is: across two motor leads on the line, or by a contact of "
            "the starter; behind a drive by the drive's own contact on running. A contact on fault alone would hold it "
            "open."
        )
    sheet.notes.append(
        "Emergency stop: category 0 cuts power at once (brake or coasting), category 1 slows first and then cuts it "
        "(IEC 60204-1). The risk assessment of the driven machine decides."
    )
    found = tuple(replace(row, chosen=row.method == chosen) for row in rows)
    return Stopping(rows=found, chosen=chosen, must_hold=asked.hold)


def _asked(
    job: Job, circuit: Circuit, rated: Rated, machine: Machine | None, load: Load, rotor: float, rated_nm: float
) -> Asked:
    assert rated.speed
    assert rated.current
    hoist = load.kind == "hoist"
    omega = speeds_down(rated.speed.value * math.pi / 30)
    torque = load.torque_at(omega * 30 / math.pi)
    if hoist:  # lowering, the load drives with all its weight, and no friction at rest helps
        torque = np.full(omega.size, -float(torque[0]))
    if machine is not None and isinstance(machine.circuit, EquivalentCircuit):
        whole = machine.circuit.synchronous_rad_s()
        torque = torque + machine.circuit.drag_w / whole * (omega / whole) ** 2
    heavy = Turning(omega=omega, load_nm=torque, inertia_kgm2=load.inertia_kgm2, rated_nm=rated_nm)
    said = circuit.stop.hold
    model = machine.circuit if machine is not None and isinstance(machine.circuit, EquivalentCircuit) else None
    return Asked(
        stop=circuit.stop,
        heavy=heavy,
        light=heavy.lighter(circuit.stop.light_pu or 1.0, rotor),
        machine=model,
        volts_v=machine.volts_v if machine else 0.0,
        line_v=job.volts_at(circuit.wiring.board) or (machine.volts_v if machine else 0.0),
        rated_a=rated.current.value,
        stall_s=None,
        locked_a=None,
        hold=said == "yes" or (said is None and hoist),
        hoist=hoist,
    )


def _cheapest(rows: tuple[StopRow, ...]) -> str:
    """The first in order of cost that passes; the brake where none does."""
    passing = [row for row in rows if row.verdict in (Verdict.OPEN, Verdict.AJAR)]
    return min(passing, key=lambda row: ORDER[row.method]).method if passing else "brake"


def _figures(sheet: Sheet, asked: Asked, load: Load) -> None:
    soft = Provenance.ESTIMATED if load.inertia_soft else Provenance.STATED
    n = sheet.given(
        "speed", "Speed it stops from", "n", float(asked.heavy.omega[0]) * 30 / math.pi, "r/min",
        provenance=Provenance.STAMPED, source="plate",
    )  # fmt: skip
    j = sheet.given(
        "inertia", "Inertia, load and rotor", "J", asked.heavy.inertia_kgm2, "kg·m²", provenance=soft,
        source="the load's sheet",
    )  # fmt: skip
    sheet.work(
        "energy", "Kinetic energy", "E_k", asked.heavy.energy_j / 1000, "kJ",
        formula="J·(π·n/30)²/2/1000", inputs=(j, n), source="definition",
    )  # fmt: skip
    chosen = Provenance.STATED if asked.stop.brake_torque_nm else Provenance.ASSUMED
    usual = "entered" if asked.stop.brake_torque_nm else "usual: 1.5 times rated torque, twice for a hoist"
    sheet.given("torque", "Brake torque", "T_B", brake_torque(asked), "N·m", provenance=chosen, source=usual)
    chosen = Provenance.STATED if asked.stop.dc_current_a else Provenance.ASSUMED
    amps = sheet.given(
        "direct", "Direct current through two leads", "I_dc", direct_a(asked), "A", provenance=chosen,
        source="entered" if asked.stop.dc_current_a else "usual: 2.5 times rated",
    )  # fmt: skip
    sheet.work(
        "equivalent", "Alternating current of the same field", "I_e", math.sqrt(2 / 3) * amps.value, "A",
        formula="√(2/3)·I_dc", inputs=(amps,), source="two leads in series; Fitzgerald, 6th ed., chapter 6",
    )  # fmt: skip
    _direct_supply(sheet, asked, amps)
    ohms, peak, joules = resistor(asked)
    estimated = Provenance.ESTIMATED
    if math.isfinite(ohms):
        source = "largest of J·ω·(dω/dt) less the load's, 90 % through motor and drive"
        p = sheet.given("peak", "Braking power, peak", "P_p", peak / 1000, "kW", provenance=estimated, source=source)
        entered = asked.stop.bus_v is not None
        u = sheet.given(
            "bus", "Bus volts at which it switches in", "U_B", bus_volts(asked), "V",
            provenance=Provenance.STATED if entered else Provenance.ASSUMED,
            source="entered" if entered else "usual: 1.6 times the line's",
        )  # fmt: skip
        sheet.work(
            "ohms", "Braking resistor, at most", "R_B", ohms, "Ω", formula="U_B²/(1000·P_p)", inputs=(u, p),
            source="it must take the peak at the bus' volts", provenance=estimated,
        )  # fmt: skip
        sheet.given("joules", "its heat a stop", "E_B", joules / 1000, "kJ", provenance=estimated, source=source)


def _direct_supply(sheet: Sheet, asked: Asked, amps: Figure) -> None:
    """Volts, transformer and bridge of DC injection: two windings in series, a single-phase bridge."""
    if asked.machine is None:
        return
    r_1 = sheet.given(
        "r1", "Stator resistance, of the wye", "R_1", asked.machine.r1_ohm, "Ω", provenance=Provenance.ESTIMATED,
        source="the machine's sheet",
    )  # fmt: skip
    volts = sheet.work(
        "direct_volts", "Direct volts at two leads", "U_dc", 2 * r_1.value * amps.value, "V",
        formula="2·R_1·I_dc", inputs=(r_1, amps), source="two windings in series; cold, a fifth less",
    )  # fmt: skip
    bridge = sheet.work(
        "bridge_volts", "Alternating volts of its bridge", "U_ac", volts.value / 0.9, "V",
        formula="U_dc/0.9", inputs=(volts,), source="single-phase bridge: mean 2·√2/π of rms",
    )  # fmt: skip
    sheet.work(
        "transformer", "Its transformer, short-time", "S_T", bridge.value * amps.value / 1000, "kVA",
        formula="U_ac·I_dc/1000", inputs=(bridge, amps), source="smooth current: rms of the secondary is I_dc",
    )  # fmt: skip


def _gates(circuit: Circuit, asked: Asked, row: StopRow, start: Gate | None) -> list[Gate]:
    gates = [
        Gate(
            key="brake.stop",
            name="Stops as asked",
            verdict=row.verdict,
            sentence=f"{row.name[:1].upper()}{row.name[1:]}: {row.why}",
            source="t = ∫ J dω/(T_brake + T_load)",
            value=row.time_s,
            limit=asked.stop.within_s,
            margin=None if row.time_s is None or not asked.stop.within_s else asked.stop.within_s - row.time_s,
            unit="s" if row.time_s is not None else "",
            remedy="" if row.verdict is Verdict.OPEN else _remedy(row),
            estimated=True,
        )
    ]
    per_hour = asked.stop.per_hour or circuit.start.starts_per_hour
    if row.holds and per_hour:
        kj = row.outside_kj if row.method == "brake" else closing_j(asked) / 1000
        gates.append(_brake_heat(asked, kj, per_hour))
    if row.rotor_kj and per_hour:
        gates += _machine_heat(circuit, row, per_hour, start)
    if row.method == "drive" and asked.stop.drive_least_ohm is not None:
        gates.append(_least_ohms(asked))
    return gates


def _remedy(row: StopRow) -> str:
    if row.method == "plugging" and row.verdict is Verdict.AJAR:
        return "A zero-speed switch, with reversal locked out until it stands."
    return "Another way, more torque, or more time."


def _machine_heat(circuit: Circuit, row: StopRow, per_hour: float, start: Gate | None) -> list[Gate]:
    """Mean loss of running, starts and stops against the rated loss, which the machine can shed for ever."""
    plate = circuit.plate
    if start is None or start.value is None or plate.power_w is None or plate.efficiency_pu is None:
        return []
    rated_loss = plate.power_w * (1 / plate.efficiency_pu - 1)
    stops = 100 * per_hour * 1000 * (row.rotor_kj + row.stator_kj) / 3600 / rated_loss
    share = start.value + stops
    verdict = Verdict.SHUT if share > 115 else Verdict.AJAR if share > 100 else Verdict.OPEN
    return [
        Gate(
            key="brake.per_hour",
            name="Starts and stops an hour",
            verdict=verdict,
            sentence=f"With {write(per_hour)} stops an hour the mean loss is {share:.0f} % of the rated loss.",
            source="mean over the hour, starts included (as duty S5, IEC 60034-1:2022 4.2.5)",
            value=share,
            limit=100.0,
            margin=100 - share,
            unit="%",
            remedy="" if verdict is Verdict.OPEN else "Fewer stops, or a way that heats something else.",
            estimated=True,
        )
    ]


def _brake_heat(asked: Asked, kj: float, per_hour: float) -> Gate:
    """Mean heat of the stops against what the brake sheds for ever."""
    rating = asked.stop.brake_power_w
    if rating is None:
        return unknown("brake.heat", "Brake's heat", ("the brake's heat rating",))
    mean = kj * 1000 * per_hour / 3600
    stops = f"{write(per_hour)} stops an hour, {write(kj, 3)} kJ each"
    verdict = Verdict.SHUT if mean > rating else Verdict.AJAR if mean > 0.8 * rating else Verdict.OPEN
    return Gate(
        key="brake.heat",
        name="Brake's heat",
        verdict=verdict,
        sentence=f"{stops}: {write(mean, 3)} W of {write(rating)} W.",
        source="mean over the hour",
        value=mean,
        limit=rating,
        margin=rating - mean,
        unit="W",
        remedy="" if verdict is Verdict.OPEN else "A larger brake, fewer stops, or a ramp before it.",
        estimated=True,
    )


def _least_ohms(asked: Asked) -> Gate:
    """The resistor between what the drive bears and what the stop needs."""
    ohms, _, _ = resistor(asked)
    least = asked.stop.drive_least_ohm or 0.0
    verdict = Verdict.OPEN if np.isinf(ohms) or ohms >= least else Verdict.SHUT
    text = f"The stop needs at most {write(ohms, 3)} Ω, the drive bears no less than {write(least, 3)} Ω."
    if np.isinf(ohms):
        text = "The load slows it by itself: no resistor is needed."
    return Gate(
        key="brake.ohms",
        name="Braking resistor",
        verdict=verdict,
        sentence=text,
        source="R ≤ U_B²/P_peak",
        remedy="" if verdict is Verdict.OPEN else "A longer ramp, or a larger drive.",
        estimated=True,
    )
