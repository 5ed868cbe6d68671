"""The stop on its sheet: what is asked, every way side by side, the way in use and its gates."""

from __future__ import annotations

from math import pi

import numpy as np

from vinegate.core.drive.envelope import Supplied
from vinegate.core.drive.stage import supplied_of
from vinegate.core.grade import breaks, unknown
from vinegate.core.load.stage import LOAD
from vinegate.core.machine.slip_rings import first_torque, ohms_in_turn
from vinegate.core.machine.stage import MACHINE
from vinegate.core.plate.stage import PLATE
from vinegate.core.records import dataclass, replace
from vinegate.core.start.stage import START
from vinegate.core.start.way import Way as StartWay
from vinegate.core.start.ways import USUAL
from vinegate.core.start.ways import way_of as start_way
from vinegate.core.stop.asked import Asked, asked_of
from vinegate.core.stop.bands import worked
from vinegate.core.stop.direct import direct_a
from vinegate.core.stop.facts import Stop
from vinegate.core.stop.fed import as_fed
from vinegate.core.stop.figures import put_armature, put_direct, put_drive, put_sizes
from vinegate.core.stop.gates import gates_of, in_emergency
from vinegate.core.stop.returned import to_generator
from vinegate.core.stop.row import StopRow, no_row
from vinegate.core.stop.softly import before_gates, before_notes, runs_on_s, softly
from vinegate.core.stop.ways import USUAL as BRAKE
from vinegate.core.stop.ways import WAYS, way_of
from vinegate.core.work import Specification, Work


@dataclass(frozen=True, slots=True, kw_only=True)
class Stopping:
    """Rows as they are made, and the one in use; `must_hold` when the load would turn the machine.

    What the stage finds has the way in use and those less dear, that were looked at to find it.
    """

    rows: tuple[StopRow, ...]
    chosen: str
    must_hold: bool

    def row(self, method: str) -> StopRow:
        """The row of a method. Raises KeyError."""
        for row in self.rows:
            if row.method == method:
                return row
        raise KeyError(method)

    @property
    def used(self) -> StopRow:
        return self.row(self.chosen)


def _plan(work: Work) -> Stopping | None:
    """The way to stop. None, with what is missing named, without a load, a speed or a rated current."""
    sheet, circuit = work.sheet("stop"), work.circuit
    rated, load, described, study = (
        work.found(PLATE).rated,
        work.found(LOAD).asked,
        work.found(MACHINE),
        work.found(START),
    )
    started = _started_by(work)
    inertia_alone = circuit.load.kind is not None and described.inertia is None
    wanted = (
        ("machine.inertia", "rotor inertia", load) if inertia_alone else ("load.kind", "the load", load),
        ("plate.speed", "plate speed", rated.speed),
        ("plate.full_load_current", "rated current", rated.current),
        ("plate.power", "power", rated.power_w or None),
    )
    missing = rated.lacking(*wanted)
    means = _means(work)
    if missing or load is None or means is None:
        sheet.gates.append(unknown("stop.stop", "Stops as asked", sheet.needs(missing, "how it stops")))
        return None
    asked = replace(means, stop=circuit.stop)
    found = _stopping(_rows(work, means, asked), asked, circuit.stop.method)
    used = way_of(found.chosen)
    _sizes(work, means, asked, found.used)
    soft, on_s = softly(study.comparison, started, used), runs_on_s(circuit)
    ahead_s = on_s + (soft.ramp_s if soft is not None else 0.0)
    soft_kj = soft.heat_j / 1000 if soft is not None else 0.0
    sheet.gates += gates_of(
        circuit, asked, found.used, used, study.loss, (started or USUAL).key, ahead_s=ahead_s, soft_kj=soft_kj
    )
    sheet.gates += [*before_gates(asked, found.used, used, soft, on_s), *to_generator(work.job, circuit, asked, used)]
    sheet.notes += [*before_notes(soft, on_s), *_notes(asked)]
    return found


def _sizes(work: Work, means: Asked, asked: Asked, used: StopRow) -> None:
    """All sizes on the sheet, those of ways that are not in use too, each a step: another way leaves them alone."""
    sheet, load, way = work.sheet, work.found(LOAD).asked, way_of(used.method)
    assert load is not None
    unit = work.rules.words.speed_unit
    j = work.step("stop: sizes", lambda: put_sizes(sheet("stop"), asked, load, used, way, unit), means, used)
    if asked.phases == 3:
        work.step("stop: direct current", lambda: put_direct(sheet("stop"), asked), means)
        work.step("stop: a drive's", lambda: put_drive(sheet("stop"), asked), means)
    if asked.armature is not None:
        work.step("stop: an armature's", lambda: put_armature(sheet("stop"), asked, j), means, j)


def every_stop(work: Work) -> Stopping | None:
    """Every way to stop side by side."""
    used, means = work.found(STOP), _means(work)
    if used is None or means is None:
        return None
    asked = replace(means, stop=work.circuit.stop)
    return _stopping(_rows(work, means, asked, every=True), asked, used.chosen)


def _started_by(work: Work) -> StartWay | None:
    """The way to start in use; None while nothing is said and nothing could be compared."""
    found, said = work.found(START).comparison, work.circuit.start.method
    return start_way(found.chosen) if found is not None else start_way(said) if said else None


def _means(work: Work) -> Asked | None:
    """What every way slows, and by what, without the facts of the stop; None while a part is missing."""
    return work.step("stop: means", lambda: _found_means(work))


def _found_means(work: Work) -> Asked | None:
    rated, load, described = work.found(PLATE).rated, work.found(LOAD).asked, work.found(MACHINE)
    if load is None or rated.speed is None or rated.current is None or not rated.power_w:
        return None
    rotor, locked = described.inertia, described.locked
    asked = asked_of(
        work.job,
        work.circuit,
        rated,
        described.machine,
        load,
        rotor_kgm2=rotor.value if rotor else 0.0,
        rated_nm=rated.power_w / (rated.speed.value * pi / 30),
        stall=described.stalls.hot,
        locked_a=locked.value if locked else None,
        drive_nm=_drive_nm(supplied_of(work), rated.speed.value),
    )
    return _without_facts(_at_rings(work, asked))


def _at_rings(work: Work, asked: Asked) -> Asked:
    """A wound rotor's resistor is all in while it brakes: the contactors of its steps fall out with the stator's."""
    started, slip, machine = _started_by(work), work.found(PLATE).rated.slip, asked.machine
    if started is None or not started.at_rings or machine is None or slip is None:
        return asked
    ohms = ohms_in_turn(slip.value / 100, first_torque(work.circuit), work.circuit.start.rotor_steps)
    if not ohms:
        return asked
    cages = tuple(replace(cage, r_ohm=ohms[0] * cage.r_ohm) for cage in machine.cages)
    return replace(asked, machine=replace(machine, cages=cages), outside=1 - 1 / ohms[0])


def _stopping(rows: tuple[StopRow, ...], asked: Asked, said: str | None) -> Stopping:
    """The rows with the one in use marked: as said, else the cheapest that passes."""
    chosen = said or _cheapest(rows, asked)
    return Stopping(
        rows=tuple(replace(row, chosen=True) if row.method == chosen else row for row in rows),
        chosen=chosen,
        must_hold=asked.must_hold,
    )


def _drive_nm(drive: Supplied | None, running_rpm: float) -> float | None:
    """The least that a drive brakes with between rest and running: its amperes and flux are those of driving."""
    return float(drive.short_at(np.linspace(0.1, 1.0, 10) * running_rpm).min()) if drive is not None else None


def _without_facts(asked: Asked) -> Asked:
    """With the direct current found, and without the facts: each way notes for itself what it reads of them."""
    return replace(asked, direct=direct_a(asked), stop=Stop())


def _rows(work: Work, means: Asked, asked: Asked, *, every: bool = False) -> tuple[StopRow, ...]:
    """Ways of a machine of this kind, each a step of its own: a brake's torque touches no drive.

    Not `every` one but where it is asked for: the one chosen, else those up to the first that passes.
    """
    rows: list[StopRow] = []
    chosen, started = work.circuit.stop.method, _started_by(work)
    for way in WAYS:
        if asked.phases not in way.phases or not (every or chosen in (None, way.key)):
            continue
        alone = work.step(f"stop: {way.key}", lambda way=way: worked(asked, way), means)  # type: ignore[misc]
        row = as_fed(alone, way, started, said=way.key == chosen)
        rows.append(row)
        if not every and (chosen is not None or _serves(row, asked)):
            break
    if chosen is None or any(row.method == chosen for row in rows):
        return tuple(rows)
    return (*rows, no_row(asked, way_of(chosen), breaks("It is no way to stop a machine of this kind.")))


def _cheapest(rows: tuple[StopRow, ...], asked: Asked) -> str:
    """The first in order of cost that passes as it is taken, in an emergency too; else one that may as it is started,
    and the brake where none does.
    """
    able = [row for row in rows if row.verdict.usable and not row.otherwise_started]
    return next((row.method for row in (*(row for row in able if _serves(row, asked)), *able)), BRAKE.key)


def _serves(row: StopRow, asked: Asked) -> bool:
    """Whether it does what is asked with all that is estimated as it is taken."""
    return row.verdict.usable and row.room >= 0 and in_emergency(asked, way_of(row.method))


def _notes(asked: Asked) -> list[str]:
    standard = asked.papers.stop if asked.papers else ""
    notes = [
        "Emergency stop: category 0 cuts power at once (brake or coasting), category 1 slows first and then cuts it "
        f"({standard}). The risk assessment of the driven machine decides; this sheet does not make one."
    ]
    if asked.stop.people is None:
        notes.append("Whether people can reach it while it turns is not said: a guard must hold until it stands.")
    if asked.load.full_pu < 1:
        notes.append("Slowed by no more of the load than while it starts, which takes longest; with all of it, sooner.")
    notes.append(
        "Eddy-current and fluid brakes load a machine that turns, for tests and long descents: their torque fades "
        "towards rest, they hold nothing, and they need their own cooling. They are not worked here."
    )
    return notes


STOP = Specification(key="stop", plan=_plan, sheets={"stop": "Stop"})
