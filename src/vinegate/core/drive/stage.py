"""The drive on its sheet: what motor and drive give at every speed, against what is asked there."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from typing import Final

from vinegate.core.cautions import BRIDGE_CAUTION, drive_caution
from vinegate.core.drive import duty
from vinegate.core.drive.agree import agree_gates
from vinegate.core.drive.amperes import (
    Asked,
    asked_of,
    breakaway_gates,
    current_gates,
    one_phase_gate,
    several_gates,
    thermal_gate,
)
from vinegate.core.drive.bridge_side import bridge_side_of
from vinegate.core.drive.catch import Coast, coast_of, restart_gates
from vinegate.core.drive.cooling import Cooling, cooled_as_said, cooling_of
from vinegate.core.drive.cycle import cycle_gates
from vinegate.core.drive.derated import over_what_is_left
from vinegate.core.drive.duty import Point, Row
from vinegate.core.drive.energy import Energy, energy_of, least_flow_gate, only_to_start_gate
from vinegate.core.drive.envelope import Envelope, Laden, Supplied, envelope_of, law_of
from vinegate.core.drive.facts import Drive
from vinegate.core.drive.fitness import (
    altitude_gate,
    earthed_gate,
    emc_gate,
    flux_gate,
    rest_gate,
    rings_gate,
    stop_gate,
    strapped_gate,
)
from vinegate.core.drive.lead import Lead, bearing_gate, insulation_gate, lead_gates, lead_of
from vinegate.core.drive.line_side import LineSide, harmonic_gates, line_side_of
from vinegate.core.drive.losses import Input, Losses, drive_loss_w, input_of, loss_gate, losses_of
from vinegate.core.drive.lowering import least_gate, lowering_gate
from vinegate.core.drive.mode import Control, control_gate, control_of
from vinegate.core.drive.need import Need, Plain, need_of, plain
from vinegate.core.drive.paper import paper_of
from vinegate.core.drive.parameters import Parameter, parameters_of
from vinegate.core.drive.ramps import Path, Ramps, down_gate, overload_gates, path_of, ramps_of, up_gate
from vinegate.core.drive.rating import Rating, limit_a, rating_of
from vinegate.core.drive.ride import Ride, ride_gates, ride_of
from vinegate.core.drive.signals import Signal, signals_of
from vinegate.core.drive.skip import Band, bands_of, skip_gate
from vinegate.core.drive.slowest import slowest_gates
from vinegate.core.drive.tune import Tuning, tuned_gate, tuning_of
from vinegate.core.drive.unchosen import of_one_to_choose
from vinegate.core.drive.unrun import Judged, behind_a_run
from vinegate.core.drive.volts import Volts, motor_efficiency, volts_gate, volts_left
from vinegate.core.fed import Fed, fed, fed_drive
from vinegate.core.grade import Gate, breaks, from_answer, informs, unknown
from vinegate.core.load.stage import LOAD
from vinegate.core.machine.stage import MACHINE
from vinegate.core.numbers import write
from vinegate.core.plate.kind import Family, shown
from vinegate.core.plate.stage import PLATE
from vinegate.core.records import dataclass, replace
from vinegate.core.sheet import Sheet
from vinegate.core.supply.stage import SUPPLY
from vinegate.core.wiring.stage import WIRING
from vinegate.core.work import Specification, Work

KEY: Final = "drive"


@dataclass(frozen=True, kw_only=True, eq=False)
class Driven:
    """What the drive's sheet shows, and what start and stop read. `used` unless it is only considered."""

    used: bool
    plain: Plain
    volts: Volts
    cooling: Cooling
    control: Control
    rating: Rating
    supplied: Supplied
    rows: tuple[Row, ...]
    inputs: tuple[Input, ...]
    path: Path
    ramps: Ramps
    asked: Asked
    bands: tuple[Band, ...]
    lead: Lead | None
    side: LineSide
    coast: Coast
    ride: Ride
    tuning: Tuning | None
    losses: Losses
    energy: Energy | None
    parameters: tuple[Parameter, ...] = ()
    signals: tuple[Signal, ...] = ()

    @property
    def envelope(self) -> Envelope:
        """Over all speeds, worked when it is looked at."""
        return envelope_of(self.supplied, max(row.hz for row in self.rows) / self.plain.base_hz)


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """`driven` is None where no drive is thought of, or facts are missing."""

    considered: bool = False
    driven: Driven | None = None
    bridge: LineSide | None = None
    """What a direct-current machine's own drive draws from its line."""
    beside: tuple[Gate, ...] = ()
    """Of a drive that is worked beside the way in use: its gates as they would weigh, were it used."""


def considered(facts: Drive) -> bool:
    """Whether anything is said of a drive at all."""
    return any(getattr(facts, name) is not None for name in Drive.model_fields)


def _plan(work: Work) -> Found:
    circuit, facts = work.circuit, work.circuit.of(KEY, Drive)
    used = circuit.from_drive
    if circuit.plate.family is Family.DC and not used:
        return Found(bridge=_bridge(work, facts))
    if not used and not considered(facts):
        return Found()
    sheet = work.sheet(KEY)
    sheet.notes.append(drive_caution(facts.discharge_s))
    if (gate := _possible(work)) is not None:
        return Found(considered=True, beside=_put(sheet, [gate], used=used))
    basis = basis_of(work, sheet)
    if basis is None:
        lacks = sheet.needs(_missing(work), "the drive")
        lacking = unknown("drive.torque", "Torque at every operating point", lacks)
        return Found(considered=True, beside=_put(sheet, [lacking], used=used))
    driven = _driven(basis, used=used)
    driven = replace(driven, parameters=parameters_of(basis.need, driven), signals=signals_of(basis.need, driven))
    judged = behind_a_run(Judged(_gates(basis, driven), driven.rows), basis.need, partial(_judged_behind, work))
    beside = _put(sheet, judged.gates, used=used)
    return Found(considered=True, driven=replace(driven, rows=judged.rows), beside=beside)


def _put(sheet: Sheet, gates: Sequence[Gate], *, used: bool) -> tuple[Gate, ...]:
    """Onto the sheet: weighing where it is used; else they only inform, and are given back as they would weigh."""
    sheet.gates += gates if used else [informs(gate) for gate in gates]
    return () if used else tuple(gates)


def _judged_behind(work: Work, run_ohm: float) -> Judged:
    """As behind a run of so many ohms a phase."""
    basis = basis_of(work, Sheet(KEY, ""), run_ohm)
    assert basis is not None  # nothing lacks: it was worked without that run
    driven = _driven(basis, used=True)
    return Judged(_gates(basis, driven), driven.rows)


def _bridge(work: Work, facts: Drive) -> LineSide | None:
    """The line of a direct-current machine's own drive, with its harmonics judged; None while facts are missing."""
    sheet, side = work.sheet(KEY), bridge_side_of(work)
    if side is not None:
        sheet.notes.append(BRIDGE_CAUTION)
        sheet.gates += harmonic_gates(work.rules, facts, side)
    return side


def _possible(work: Work) -> Gate | None:
    """A drive turns three-phase induction machines; None where it may."""
    plate = work.circuit.plate
    if plate.family in (Family.CAGE, Family.WOUND):
        return None
    text = f"{shown(plate.kind)[:1].upper()}{shown(plate.kind)[1:]}: a three-phase drive does not turn it."
    source = "NEMA MG 1 part 30; IEC TS 60034-25: three-phase machines"
    return from_answer("drive.possible", "Motor that a drive can turn", breaks(text, source),
                       remedy="A three-phase cage motor; direct current takes a drive of its own.")  # fmt: skip


def _line(work: Work) -> Fed | None:
    """What the drive gets; between lines where it asks for a neutral that its board has not."""
    return fed_drive(work.job, work.circuit) or fed(work.job, work.circuit)


def _missing(work: Work) -> list[tuple[str, str]]:
    """What the drive cannot be worked without."""
    rated, line = work.found(PLATE).rated, _line(work)
    wanted = (
        ("supply.volts", "system volts", line),
        ("plate.power", "power", rated.power_w),
        ("plate.full_load_current", work.rules.words.full_load_current, rated.current),
        *rated.turning(rated.synchronous),
        rated.at_rest(work.rules.words.locked_rotor, work.found(MACHINE).machine),
        ("load.kind", "the load", work.found(LOAD).asked),
    )
    return rated.lacking(*wanted)


@dataclass(frozen=True, slots=True, kw_only=True)
class Basis:
    """What the points, the start and the stop are worked from."""

    need: Need
    volts: Volts
    points: tuple[Point, ...]
    control: Control
    rating: Rating
    supplied: Laden


def basis_of(work: Work, sheet: Sheet, run_ohm: float | None = None) -> Basis | None:
    """Volts, cooling, control, rating and what they leave, on this sheet; None while facts are missing.

    `run_ohm` stands for a run that is not given.
    """
    line, machine, asked = _line(work), work.found(MACHINE).machine, work.found(LOAD).asked
    if _missing(work) or line is None or machine is None or asked is None:
        return None
    run, supply = work.found(WIRING), work.found(SUPPLY)
    fault = supply.faults.largest.value * 1000 if supply.faults else None
    facts = work.circuit.of(KEY, Drive)
    ohm = run.r.value / 1000 if run else run_ohm
    need = need_of(work, sheet, facts, machine, asked, fault, line.volts_v, ohm)
    volts, cooling = volts_left(need), cooling_of(need)
    points = duty.points_of(need)
    control = control_of(need, min(point.rpm for point in points), max(point.rpm for point in points))
    rating = rating_of(need)
    supplied = Laden(
        need=need,
        turning=need.turning,
        plate_a=need.plate_a,
        rated_nm=need.rated_nm,
        slip=need.slip,
        law=law_of(need, volts, control.used),
        cooling=cooling,
        limit_a=limit_a(need, rating),
        limit_assumed=rating.limit_a is None and need.circuit.start.drive_limit is None,
        breakdown_times=need.rules.drives.breakdown_times,
        highest_v=volts.high_v,
        top_k=need.top_hz / need.base_hz,
    )
    return Basis(need=need, volts=volts, points=points, control=control, rating=rating, supplied=supplied)


def supplied_of(work: Work) -> Supplied | None:
    """What a drive would give this motor, whether or not one is thought of: the start and the stop read it."""
    if work.circuit.plate.family not in (Family.CAGE, Family.WOUND):
        return None
    return work.step("drive: supplied", lambda: _bare(work))


def _bare(work: Work) -> Supplied | None:
    basis = basis_of(work, Sheet(KEY, ""))
    return basis.supplied.bare if basis else None


def _driven(basis: Basis, *, used: bool) -> Driven:
    need, volts, control, rating, supplied = basis.need, basis.volts, basis.control, basis.rating, basis.supplied
    cooling, points = supplied.cooling, basis.points
    rows = duty.rows_of(supplied, points)
    asked = asked_of(need, rows)
    efficiency = motor_efficiency(need)
    losses = losses_of(supplied, efficiency, rating.plate_a)
    inputs = tuple(input_of(need, losses, row) for row in rows)
    path = path_of(supplied, rows[0].point.rpm)
    return Driven(
        used=used,
        plain=plain(need),
        volts=volts,
        cooling=cooling,
        control=control,
        rating=rating,
        supplied=supplied.bare,
        rows=rows,
        inputs=inputs,
        path=path,
        ramps=ramps_of(supplied, path, rating),
        asked=asked,
        bands=bands_of(need),
        lead=lead_of(need),
        side=line_side_of(need, volts, rows, inputs),
        coast=coast_of(need, rows[0].point.rpm, rows[-1].hz),
        ride=ride_of(need, rows[0].point.rpm, max(one.line_w for one in inputs)),
        tuning=tuning_of(need, control.used == "scalar"),
        losses=losses,
        energy=energy_of(need, rows, inputs, efficiency),
    )


def _gates(basis: Basis, driven: Driven) -> tuple[Gate, ...]:
    """The fast end first, then the slow one, drive, ramps, lead, line, and what happens when something fails."""
    need, rows, rating, fastest = basis.need, driven.rows, driven.rating, driven.rows[0]
    supplied, ramps = basis.supplied, driven.ramps
    found: list[Gate | None] = [
        *_of_speeds(basis, driven),
        *current_gates(supplied, rows, rating, driven.asked),
        one_phase_gate(need),
        *several_gates(need, supplied, rating),
        *overload_gates(supplied, driven.path, rating, ramps),
        rest_gate(supplied, rows, rating, driven.asked, ramps),
        up_gate(supplied, driven.path, ramps),
        down_gate(supplied, driven.path, ramps),
        lowering_gate(need, fastest.point.rpm),
        least_gate(need),
        skip_gate(need, driven.bands, rows),
        least_flow_gate(need, rows),
        *([insulation_gate(need, driven.lead)] if driven.lead else [unknown(*_INSULATION, ("the lead's length",))]),
        *lead_gates(need, driven.lead, fastest.hz),
        bearing_gate(need),
        tuned_gate(driven.tuning),
        *harmonic_gates(need.rules, need.facts, driven.side),
        *restart_gates(need, driven.coast, fastest.point.rpm),
        *ride_gates(need, driven.ride, fastest.point.rpm),
        only_to_start_gate(need, rows, drive_loss_w(driven.losses, driven.asked.amps)),
    ]
    gates = [gate for gate in found if gate is not None]
    gates = over_what_is_left(gates, supplied, rating, basis.points, ramps)
    return tuple(of_one_to_choose(gates, supplied, rating, basis.points, ramps))


def _of_speeds(basis: Basis, driven: Driven) -> list[Gate | None]:
    """The motor at its speeds: what it is, what it bears there, and how it is told to turn."""
    need, rows, supplied = basis.need, driven.rows, basis.supplied
    fastest = rows[0]
    return [
        *agree_gates(need, rows[-1].point.rpm, fastest.point.rpm),
        *cooled_as_said(need),
        *loss_gate(need, driven.losses),
        *duty.worst_of_each(rows),
        volts_gate(need, driven.volts, fastest.hz),
        *breakaway_gates(supplied),
        thermal_gate(need, rows),
        *slowest_gates(need, rows[-1], fastest),
        *cycle_gates(supplied, driven.rating),
        control_gate(need, driven.control),
        strapped_gate(need),
        flux_gate(need),
        stop_gate(need),
        emc_gate(need),
        altitude_gate(need),
        earthed_gate(need),
        rings_gate(need),
    ]


_INSULATION: Final = ("drive.insulation", "Winding bears the pulses")


def _station(found: Found) -> tuple[str, str] | None:
    """The drive's amperes and the speeds it runs at; nothing where no drive is thought of."""
    if found.bridge is not None:
        return "its line", f"{write(found.bridge.rms_a, 3)} A"
    if not found.considered:
        return None
    driven = found.driven
    if driven is None:
        return "not known yet", "–"
    rows = driven.rows
    speeds = f"{write(rows[-1].hz, 3)} to {write(rows[0].hz, 3)} Hz" if len(rows) > 1 else f"{write(rows[0].hz, 3)} Hz"
    size = f"{write(driven.rating.plate_a)} A" if driven.rating.plate_a else "drive not chosen yet"
    return f"{size}, {'heavy' if driven.rating.heavy else 'normal'} duty", speeds


DRIVE = Specification(
    key=KEY,
    plan=_plan,
    sheets={KEY: "Drive"},
    facts={KEY: Drive},
    station=_station,
    stands="start",
    paper=paper_of,
    beside=lambda found: bool(found.beside),
)
