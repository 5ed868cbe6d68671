"""Both machines on this circuit: their plates, what they draw here, and the load that either drives."""

from __future__ import annotations

import math
from typing import Final, cast

from vinegate.core.facts import Circuit, Job
from vinegate.core.fed import Fed, fed
from vinegate.core.grade import Gate, Verdict
from vinegate.core.load.stage import LOAD, Asked
from vinegate.core.machine.facts import MachineFacts
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.gates import OF_ITS_SUPPLY, plate_gates
from vinegate.core.plate.locked_rotor import LockedRotor, locked_rotor
from vinegate.core.plate.per_connection import AS_MANY
from vinegate.core.plate.rated import Rated, rate
from vinegate.core.records import dataclass, replace
from vinegate.core.replacement.facts import NewMachine, NewPlate, Replacement
from vinegate.core.replacement.rerated import rerated, times_here
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.start.stage import START
from vinegate.core.start.way import Way
from vinegate.core.start.ways import way_of
from vinegate.core.stop.stage import STOP
from vinegate.core.stop.ways import way_of as stop_way_of
from vinegate.core.work import Work

RPM: Final = math.pi / 30
"""Radians a second of a turn a minute."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Machine:
    """One of the two: its plate, as stamped and as it is `used` here, its rated point there, what it draws at rest."""

    plate: Plate
    used: Plate
    rated: Rated
    rest: LockedRotor | None
    rerated: float = 1.0
    """The supply's frequency over the plate's, where its volts rise or fall with it: so much faster and stronger."""
    odd: tuple[Gate, ...] = ()
    """What its plate says that cannot stand side by side, or hardly; looked for in the new one."""
    here: Gate | None = None
    """Its volts, as used here, against the supply's; of the new one."""

    @property
    def power_w(self) -> float | None:
        return self.rated.power_w

    @property
    def rest_a(self) -> float | None:
        """The high end."""
        return self.rest.high.value if self.rest is not None and self.rest.high is not None else None


@dataclass(frozen=True, slots=True, kw_only=True)
class Pair:
    old: Machine
    new: Machine
    facts: Replacement
    job: Job
    circuit: Circuit
    rules: RuleSet
    supply: Fed | None
    load: Asked | None
    way: Way
    holds: bool
    """Whether the circuit stops by a brake on its motor that holds the load."""

    @property
    def load_w(self) -> float | None:
        """What the driven machine asks at full speed: measured before it is taken from the load's sheet."""
        if self.facts.measured_power_w is not None:
            return self.facts.measured_power_w
        if self.load is None or not self.load.power.given:
            return None
        return self.load.torque_nm * self.load.full_speed_rpm * RPM

    @property
    def load_times(self) -> float:
        """What was measured over what the load's sheet says."""
        if self.load is None or not self.facts.measured_power_w:
            return 1.0
        return self.facts.measured_power_w / (self.load.torque_nm * self.load.full_speed_rpm * RPM)

    @property
    def measured(self) -> bool:
        return self.facts.measured_power_w is not None


def pair_of(work: Work) -> Pair:
    """The circuit's motor and the one that is to take over."""
    new = cast(Plate, work.circuit.of("new_plate", NewPlate))
    return Pair(
        old=_machine(work, work.circuit.plate, work.circuit.machine),
        new=_here(work, _machine(work, new, work.circuit.of("new_machine", NewMachine), checked=True)),
        facts=work.circuit.of("replacement", Replacement),
        job=work.job,
        circuit=work.circuit,
        rules=work.rules,
        supply=fed(work.job, work.circuit),
        load=work.found(LOAD).asked,
        way=way_of(work.found(START).chosen),
        holds=_holds(work),
    )


def _machine(work: Work, plate: Plate, machine: MachineFacts, *, checked: bool = False) -> Machine:
    """Worked on a sheet of its own, which is not shown: its lines are the plate's."""
    sheet = Sheet("plate", "")
    circuit = Circuit(plate=plate, machine=machine, wiring=work.circuit.wiring, start=work.circuit.start)
    rated = rate(sheet, circuit, work.job, work.rules)
    if checked:
        plate_gates(sheet, circuit, work.job, rated, work.rules, None)
    odd = tuple(gate for gate in sheet.gates if _is_odd(gate))
    here = next((gate for gate in sheet.gates if gate.key == "plate.volts"), None)
    return Machine(plate=plate, used=plate, rated=rated, rest=locked_rotor(sheet, circuit, rated, work.rules), odd=odd,
                   here=here)  # fmt: skip


def _is_odd(gate: Gate) -> bool:
    again = gate.key in AS_MANY and gate.verdict is Verdict.UNKNOWN
    wrong = gate.verdict in (Verdict.FAILS, Verdict.CHECK) or again
    return gate.weighs and wrong and gate.key not in _OF_ITS_PLACE


_OF_ITS_PLACE: Final = (*OF_ITS_SUPPLY, "plate.table")
"""These are between a plate and its supply or its rule set: rows of their own."""


def _here(work: Work, machine: Machine) -> Machine:
    """Of another frequency than the circuit's, with volts in its measure: what it gives and draws on this supply."""
    times = times_here(work, machine.plate)
    if times == 1.0:
        return machine
    used = rerated(machine.plate, machine.rated, times)
    there = _machine(work, used, work.circuit.of("new_machine", NewMachine), checked=True)
    return replace(machine, used=used, rated=there.rated, rest=there.rest, rerated=times, here=there.here)


def _holds(work: Work) -> bool:
    stopping = work.found(STOP)
    return stopping is not None and stop_way_of(stopping.chosen).holds
