"""The starter's circuit on its sheet: drawn from the way to start, proved, its races and single faults named."""

from __future__ import annotations

from collections import Counter
from typing import Final

from vinegate.core.drive.count import fed_by_one, motors_on
from vinegate.core.fed import fed
from vinegate.core.grade import Verdict, ordered, unknown
from vinegate.core.numbers import write
from vinegate.core.paper import PaperTable
from vinegate.core.plate.kind import Family
from vinegate.core.plate.stage import PLATE
from vinegate.core.protection.connected import connected
from vinegate.core.protection.facts import CoilVolts
from vinegate.core.records import dataclass, replace
from vinegate.core.rectifier import bridge_of
from vinegate.core.sheet import Sheet
from vinegate.core.start.compare import MethodRow
from vinegate.core.start.reclosure import Spike
from vinegate.core.start.stage import START, StartStudy
from vinegate.core.start.way import Windings
from vinegate.core.start.ways import USUAL, way_of
from vinegate.core.starter.asked import SPARE, changes_s, restart_delay_s, shaft_of, wishes_of
from vinegate.core.starter.burdens import burdens_of, loads_of
from vinegate.core.starter.circuits import BY_WAY, braked_here, drawn_to, with_brake
from vinegate.core.starter.control import Control, control_of, feed_of
from vinegate.core.starter.control_gates import control_gates, described, fits
from vinegate.core.starter.facts import Starter
from vinegate.core.starter.faults import Class, Fault, swept, tried
from vinegate.core.starter.gates import gates_of
from vinegate.core.starter.heater import heater_gates
from vinegate.core.starter.logic import Circuit
from vinegate.core.starter.motor import Shaft
from vinegate.core.starter.netlist import Amps, Netlist, Part, parts_of
from vinegate.core.starter.past import past_gates
from vinegate.core.starter.proof import Proof, proved
from vinegate.core.starter.reclose import reclose_gate
from vinegate.core.starter.tags import named_by, renamed
from vinegate.core.starter.timing import Race, races_of
from vinegate.core.starter.trunk import without
from vinegate.core.starter.waits import waits_gates
from vinegate.core.starter.wires import Wiring, wired
from vinegate.core.starter.wishes import LeftOut, left_out
from vinegate.core.stop.softly import softly
from vinegate.core.stop.stage import STOP, Stopping
from vinegate.core.stop.ways import ALONE
from vinegate.core.stop.ways import way_of as stop_way_of
from vinegate.core.system_volts import SystemVolts
from vinegate.core.work import Specification, Work

KEY: Final = "starter"


@dataclass(frozen=True, slots=True, kw_only=True)
class Drawn:
    """The circuit with all that is read from it; `us` by which family of symbols it is drawn."""

    circuit: Circuit
    netlist: Netlist
    wiring: Wiring
    parts: tuple[Part, ...]
    proof: Proof
    faults: tuple[Fault, ...]
    tests: tuple[tuple[str, frozenset[str]], ...]
    races: tuple[Race, ...]
    us: bool
    marked: str = "net"
    """What stands on the ends of wires: their net, or their target."""
    lettered: bool = False
    """Whether its tags are letters and numbers, that do not say what is pressed."""
    overload_leg: bool = False
    """Whether the overload's heaters stand in the windings' leads."""
    control: Control | None = None
    """What feeds its coils; None while a contactor's amperes are not known."""
    spike: Spike | None = None
    """Of the change-over, where the start's study has one."""
    shaft: Shaft | None = None
    """The motor that it runs; None while a part of the start's study is missing."""


_FOR_OTHERS: Final = (
    "Which single faults may remain is for the risk assessment of the machine; no performance level is worked here. "
    "An emergency stop is judged by a competent person. Work dead, locked out and proved."
)


def _plan(work: Work) -> Drawn | None:
    sheet, facts, study = work.sheet(KEY), work.circuit.of(KEY, Starter), work.found(START)
    if not _drawable(work, study):
        return None
    used = study.comparison.row(study.chosen) if study.comparison else None
    if used is not None and used.outcome is None and used.verdict is Verdict.FAILS:
        return None  # not a way to start for this machine: nothing is drawn that could look proved
    stopping = work.found(STOP)
    rated = connected(work).rated
    line_a = rated.drawn.value if rated.drawn else None
    steps = _steps(work, study)
    if steps is None:
        return None  # a wound rotor's resistor without the slip that says in how many
    circuit, lacks, lettered = _circuit(work, facts, study, used, line_a, steps)
    parts = parts_of(circuit, _amps(work, study, line_a))
    netlist, wiring = wired(circuit.timeless())
    drawn = Drawn(
        circuit=circuit,
        netlist=netlist,
        wiring=wiring,
        parts=parts,
        control=_control(work, sheet, facts, circuit, parts),
        proof=proved(circuit),
        faults=swept(circuit),
        tests=tried(circuit),
        races=races_of(circuit),
        us=work.rules.practice.us_units,
        marked=work.job.limits.wire_marks or "net",
        lettered=lettered,
        overload_leg=work.circuit.protection.overload_place == "delta",
        spike=used.spike if used else None,
        shaft=shaft_of(work.circuit, study, stopping, facts, line_a),
    )
    _auxiliaries(sheet, parts, work.circuit.protection.signals)
    _judged(work, drawn, lacks, used)
    sheet.notes += (_fault_note(drawn), _FOR_OTHERS)
    return drawn


_SMALL_SIGNALS: Final = (
    "Signals to a controller, some milliamperes at 24 V, ask contacts made for so little: gold, or two side by side; "
    "what reports a contactor's state mirrors its main poles."
)


def _auxiliaries(sheet: Sheet, parts: tuple[Part, ...], signals: int | None) -> None:
    """Auxiliary contacts of all its contactors: what is drawn takes, and what is wanted beside."""
    count = float(sum(one.contacts for one in parts if one.duty))
    drawn = sheet.given("aux_drawn", "Contacts drawn of its contactors", "n_1", count, "", source="counted in it")
    said = "entered" if signals is not None else "none asked"
    wanted = sheet.given("aux_signals", "Signals wanted", "n_2", float(signals or 0), "", source=said)
    if signals:
        sheet.notes.append(_SMALL_SIGNALS)
    sheet.work("aux", "Auxiliary contacts, at least", "n", drawn.value + wanted.value, "", formula="n_1+n_2",
               inputs=(drawn, wanted), source="of all its contactors together")  # fmt: skip


def _drawable(work: Work, study: StartStudy) -> bool:
    """Whether its way to start is known, drawn here, and one for its kind of machine."""
    family, way = work.circuit.plate.family, way_of(study.chosen)
    single = family is Family.SINGLE
    known = single or study.comparison is not None or work.circuit.start.method is not None
    suits = way is USUAL if single else way.rectifies is (family is Family.DC)
    return study.chosen in BY_WAY and known and suits


def _judged(work: Work, drawn: Drawn, lacks: tuple[LeftOut, ...], used: MethodRow | None) -> None:
    """The gates of what is drawn and of its coils, or what its coils lack."""
    sheet, facts = work.sheet(KEY), work.circuit.of(KEY, Starter)
    study, rated = work.found(START), work.found(PLATE).rated
    sheet.notes += [f"{one.name}: {one.why}." for one in lacks]
    if keeps := drawn.circuit.rested or drawn.circuit.rides:
        sheet.notes.append(f"{keeps} runs on without control power, as it is proved: a true off-delay timer.")
    pull, held = facts.coil_pull_va, facts.coil_hold_va
    sheet.gates += ordered(
        "starter.coil_va", "Coil pulling in and held", held, pull, unit="VA", source="an open magnet takes more",
        sentence=f"{write(pull or 0.0, 3)} VA pulling in, {write(held or 0.0, 3)} VA held.", remedy="Exchange them.",
    )  # fmt: skip
    star = way_of(study.chosen).windings is Windings.WYE
    sheet.gates += gates_of(work.circuit, _supplied(work, facts), drawn, lacks, changes_s(used), star=star)
    sheet.gates += reclose_gate(work, drawn.circuit, way_of(study.chosen), restart_delay_s(work.circuit, facts))
    sheet.gates += heater_gates(work.job, work.circuit, facts)
    sheet.gates += waits_gates(work.job, work.circuit, facts, drawn.circuit)
    if facts.bypass == "yes" and way_of(study.chosen).converts:
        sheet.gates += past_gates(work)
    if not described(facts):
        return
    if drawn.control is not None:
        burdens = burdens_of(drawn.circuit)
        sheet.gates += control_gates(sheet, work.rules, _supplied(work, facts), drawn.control, burdens, rated.power_w)
    else:
        wanted = rated.lacking(("plate.full_load_current", work.rules.words.full_load_current, None))
        if drawn.circuit.windings and rated.drawn is not None:
            wanted = [("starter.low_current", "amperes at low speed")]
        missing = sheet.needs(wanted, "its coils")
        sheet.gates.append(unknown("starter.coil_volts", "Coils pull in at the lowest volts", missing))


_STOPS_DRAWN: Final = (
    "it is drawn with buttons and no selector; plugging across the line; direct current across the line, and one way "
    "round otherwise, but for part winding and a wound rotor"
)


def _circuit(
    work: Work, facts: Starter, study: StartStudy, used: MethodRow | None, line_a: float | None, steps: int
) -> tuple[Circuit, tuple[LeftOut, ...], bool]:
    """The circuit as wished, what is wished and not in it, and whether its tags are the job's letters."""
    stopping = work.found(STOP)
    lines, line = 3 if bridge_of(work.job, work.circuit).three else 2, fed(work.job, work.circuit)
    wishes = wishes_of(work.circuit, facts, used, stopping, line_a, steps)
    neutral = line is not None and line.neutral
    wishes = replace(wishes, bridge_lines=lines, softly_s=_softly_s(study, stopping), neutral=neutral)
    if fed_by_one(work.circuit):
        wishes = replace(wishes, drive_lines=("L1", "N" if neutral else "L2"))
    circuit = drawn_to(study.chosen, wishes)
    lacks = left_out(wishes, circuit)
    if stopping is not None and stop_way_of(stopping.chosen).holds:
        circuit = with_brake(circuit)
    names = named_by(circuit, work.job.limits.tags or work.rules.control.tags)
    circuit = renamed(circuit, names)
    if facts.bridged:
        circuit = without(circuit, facts.bridged)
    if stopping is not None and braked_here(stopping.chosen) and stopping.chosen not in circuit.grants:
        lacks = (*lacks, LeftOut("Its way to stop", _STOPS_DRAWN))
    return circuit, lacks, bool(names)


def _softly_s(study: StartStudy, stopping: Stopping | None) -> float:
    """How long its soft starter stays fed after a stop, so that it can ramp down; nought where it does not."""
    way = stop_way_of(stopping.chosen) if stopping is not None else ALONE
    soft = softly(study.comparison, way_of(study.chosen), way)
    return round(SPARE * soft.ramp_s, 1) if soft is not None else 0.0


def _steps(work: Work, study: StartStudy) -> int | None:
    """Of a resistor or reactor; None while it is not known."""
    steps, slip = way_of(study.chosen).steps, work.found(PLATE).rated.slip
    return steps(work.circuit, slip.value / 100 if slip is not None else None) if steps is not None else 1


def _control(work: Work, sheet: Sheet, facts: Starter, circuit: Circuit, parts: tuple[Part, ...]) -> Control | None:
    loads = loads_of(circuit, {one.tag: one.amps for one in parts}, facts.coil_pull_va, facts.coil_hold_va)
    burdens = burdens_of(circuit)
    if loads is None or not any(one.pulls for one in burdens):
        return None
    line, rated = fed(work.job, work.circuit), work.found(PLATE).rated
    hertz, facts = rated.frequency.value if rated.frequency else 60.0, _supplied(work, facts)
    line_v = line.volts_v if line else None
    neutral_v = None if line is not None and line.neutral else _neutral_v(work, line_v)
    feed = feed_of(work.rules, facts, work.circuit.protection.coil_v, line_v, hertz, neutral_v)
    return control_of(sheet, work.rules, facts, loads, burdens, feed)


def _supplied(work: Work, facts: Starter) -> Starter:
    """Where nothing is said of what feeds them, coils for the circuit's own volts are fed by it: no transformer stands
    between 120 V and 120 V. Where a rule set asks one, of small machines alone."""
    line, rated, coil_v = fed(work.job, work.circuit), work.found(PLATE).rated, work.circuit.protection.coil_v
    if facts.control_from is None and isinstance(coil_v, CoilVolts):
        return facts.model_copy(update={"control_from": "dc"})
    said = (facts.control_from, facts.transformer_va, facts.transformer_z_pu, facts.primary_fuse_a)
    if line is None or coil_v is None or any(one is not None for one in said) or not fits(line.volts_v, coil_v):
        return facts
    most = work.rules.control.direct_most_w
    if most is not None and (rated.power_w is None or rated.power_w > most):
        return facts
    return facts.model_copy(update={"control_from": "line"})


def _neutral_v(work: Work, line_v: float | None) -> float | None:
    """From a line to neutral: of a system that is named by its own, else what there may be."""
    system = work.job.volts_at(work.circuit.wiring.board)
    if isinstance(system, SystemVolts) and system.kind:
        return system.neutral_v
    return line_v / 3**0.5 if line_v else None


def _amps(work: Work, study: StartStudy, line_a: float | None) -> Amps:
    circuit = work.circuit
    rings_a, direct_a = circuit.plate.rotor_current_a, _direct_a(work.found(STOP))
    armature_a, takes_a = None, line_a
    if circuit.plate.family is Family.DC and line_a is not None:
        armature_a, takes_a = line_a, line_a * bridge_of(work.job, circuit).rms
    elif line_a is not None:
        takes_a = line_a * motors_on(circuit) * (3**0.5 if fed_by_one(circuit) else 1.0)
    return Amps(
        line=line_a, locked=_locked_a(study), direct=direct_a, rings=rings_a, armature=armature_a,
        input=circuit.protection.drive_input_a or takes_a,
    )  # fmt: skip


def _locked_a(study: StartStudy) -> float | None:
    """The high end of what it can be."""
    rotor = study.locked_rotor
    return rotor.high.value if rotor is not None and rotor.high is not None else None


def _direct_a(stopping: Stopping | None) -> float | None:
    """Amperes of the brake as the stop's sheet has them; None where it is not worked."""
    return stopping.used.peak_a or None if stopping is not None and braked_here(stopping.chosen) else None


def _fault_note(drawn: Drawn) -> str:
    """Single faults are told, not judged."""
    if not drawn.faults:
        return "Its single faults are not looked at while it hurts without any."
    counts = Counter(fault.ends for fault in drawn.faults)
    told = ((Class.NOTICED, "seen"), (Class.UNNOTICED, "not"), (Class.DANGEROUS, "dangerous"))
    said = ", ".join(f"{counts[end]} {'is' if counts[end] == 1 else 'are'} {word}" for end, word in told)
    return f"Of {len(drawn.faults)} single faults (every contact, coil and pole once) {said}."


def _station(drawn: Drawn | None) -> tuple[str, str] | None:
    if drawn is None:
        return None
    contacts = sum(one.what.endswith("contact") for one in drawn.netlist.elements)
    return drawn.circuit.name, f"{contacts} contacts"


def _paper(drawn: Drawn | None) -> tuple[PaperTable, ...]:
    """Parts, wires and single faults."""
    if drawn is None:
        return ()
    parts = tuple(
        (one.tag, one.name, f"{write(one.amps, 3)} A {one.duty}" if one.amps else one.duty or "–", str(one.makes),
         str(one.breaks) + (f" + {one.late} late" if one.late else ""),
         ", ".join(word for word in (one.block, one.delay, "mirror contacts" if one.mirror else "") if word))
        for one in drawn.parts
    )  # fmt: skip
    wires = tuple(
        (one.net, str(one.begins), str(one.ends), one.cable, " / ".join(dict.fromkeys(one.marks(drawn.marked))))
        for one in drawn.wiring.wires
    )
    strip = tuple((str(one.number), one.net, one.inside, one.outside, one.place) for one in drawn.wiring.terminals)
    faults = tuple((one.what, one.ends.value, one.seen) for one in drawn.faults if one.ends is not Class.NOTICED)
    tests = tuple((step, ", ".join(sorted(poles)) or "nothing") for step, poles in drawn.tests)
    coils = tuple(
        (one.tag, one.name, *(f"{'' if va.given else '≈ '}{write(va.value, 3)} VA" for va in (one.pull, one.hold)))
        for one in (drawn.control.loads if drawn.control else ())
    )
    return (
        PaperTable(stage=KEY, title="Control circuit: to be tried, motor leads off", rows=tests, blank="Seen",
                   head=("Do", "Then is in")),
        PaperTable(stage=KEY, title="Control circuit: parts", rows=parts, numbers=(3, 4),
                   head=("Tag", "What", "Carries", "Make", "Break", "Asked")),
        *([PaperTable(stage=KEY, title="Control power: its coils", rows=coils, numbers=(2, 3),
                      head=("Tag", "What", "Pulling in", "Held"))] if coils else []),
        PaperTable(stage=KEY, title="Control circuit: wires", rows=wires,
                   head=("Net", "From", "To", "Cable", "Marked")),
        PaperTable(stage=KEY, title="Control circuit: terminals", rows=strip, blank="Seen",
                   head=("Terminal", "Net", "Panel side", "Outside", "Where")),
        PaperTable(stage=KEY, title="Control circuit: single faults that are not seen, or dangerous", rows=faults,
                   head=("Fault", "Ends", "Seen")),
    )  # fmt: skip


STARTER = Specification(
    key=KEY, plan=_plan, sheets={KEY: "Control circuit"}, facts={KEY: Starter}, station=_station, stands="start",
    paper=_paper,
)  # fmt: skip
