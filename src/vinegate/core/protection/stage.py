"""Protection: the five devices and the grounding conductor, each on its sheet, as rows, with what the chart draws."""

from __future__ import annotations

from collections.abc import Mapping

from vinegate.core.drive.count import fed_by_one, motors_on
from vinegate.core.fed import fed, volts_of
from vinegate.core.grade import Gate, rule, unknown
from vinegate.core.load.stage import LOAD
from vinegate.core.machine.stage import MACHINE
from vinegate.core.plate.locked_rotor import LockedRotor
from vinegate.core.plate.stage import PLATE
from vinegate.core.protection.across import ACROSS, starts_across
from vinegate.core.protection.advise import RunAsked, advise
from vinegate.core.protection.ahead import ahead_gates
from vinegate.core.protection.bands import Band
from vinegate.core.protection.capacitor import capacitor_gates, idles
from vinegate.core.protection.connected import connected
from vinegate.core.protection.hold import peak_a
from vinegate.core.protection.in_service import warm_gate
from vinegate.core.protection.lines import lines_gate, ways_of
from vinegate.core.protection.need import Device, Need, Terminals
from vinegate.core.protection.on_standby import as_there, runs_there, standby_gates
from vinegate.core.protection.overload import Overload, overload, plan_overload
from vinegate.core.protection.overspeed import overspeed_gate
from vinegate.core.protection.own_fault import fault_total, own_fault
from vinegate.core.protection.running import next_size_note, running_drop
from vinegate.core.protection.selectivity import upstream_gate
from vinegate.core.protection.short_circuit import far_fault
from vinegate.core.protection.unsaid_kind import DEVICE, Otherwise, gates_over, otherwise, over_kinds
from vinegate.core.protection.warm import ampacity_in, metal_gate
from vinegate.core.protection.withstand import withstand_k_s
from vinegate.core.records import dataclass, replace
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.start.sag import current_taken
from vinegate.core.start.stage import START
from vinegate.core.start.way import Windings
from vinegate.core.start.ways import way_of
from vinegate.core.supply.stage import SUPPLY
from vinegate.core.tables import load
from vinegate.core.turning import Taken
from vinegate.core.wiring.run import run_lacks, run_of
from vinegate.core.wiring.stage import WIRING
from vinegate.core.work import Specification, Work
from vinegate.core.working import Figure, Provenance


@dataclass(frozen=True, slots=True, kw_only=True)
class Protected:
    """The rows, top of the line first, and what the time-current chart draws.

    `first_a` is the first-cycle or reclosing peak over √2; `withstand_k_s` is k·S of the conductors, in A·√s.
    """

    devices: tuple[Device, ...]
    band: Band | None
    overload: Overload
    first_a: float | None
    withstand_k_s: float | None
    board: str
    volts_v: float | None
    sizing_a: float | None
    ways: int = 3
    lines: str | None = None
    got_v: float | None = None
    """How many of its board's lines it takes, which they are said to be, and the volts that it gets."""
    stands_by: tuple[str, ...] = ()
    """Circuits that it never runs beside."""

    def device(self, key: str) -> Device:
        """A row by its key. Raises KeyError."""
        for device in self.devices:
            if device.key == key:
                return device
        raise KeyError(key)

    def fitted(self, device_fact: str) -> dict[str, object]:
        """Facts of what is fitted, for where the circuit is supposed otherwise."""
        rating = {"rating_a": self.band.rating_a} if self.band is not None else {}
        return {**rating, **self.kind_fitted(device_fact), "trip_class": self.overload.trip}

    def kind_fitted(self, device_fact: str) -> dict[str, object]:
        """The kind of device as the fact at that path: of a rating that is advised, the kind it is advised with."""
        if self.band is None or not device_fact or self.device("device").take:
            return {}
        return {device_fact.partition(".")[2]: self.band.device}


def _need(work: Work) -> Need:
    """What is sized here, gathered from the earlier stages."""
    plated, supplied, described, study = work.found(PLATE), work.found(SUPPLY), work.found(MACHINE), work.found(START)
    job, circuit, run = work.job, work.circuit, work.found(WIRING)
    together, joined = work.step("protection: together", lambda: _together(work)), connected(work)
    faults, inrush, machine = supplied.faults, described.inrush, described.machine
    return Need(
        job=job,
        circuit=circuit,
        rated=joined.rated,
        plate=joined.rated.drawn,
        together=together.rated,
        drawn=together.drawn,
        sizing=together.sizing,
        sizing_each=joined.sizing,
        table=joined.table,
        locked=study.moment.full.current if study.moment.full else described.locked,
        peak=study.moment.full.peak if study.moment.full else None,
        source=supplied.source,
        run=run,
        supply_lacks=supplied.lacks,
        run_lacks=() if run else run_lacks(work.rules, run_of(circuit.wiring), supplied.frequency_hz),
        faults=faults,
        feed=supplied.feed,
        far=work.step("protection: far fault", lambda: _far(work), plated, supplied, run),
        motor_fault=work.step("protection: own fault", lambda: own_fault(work, together.rated), together),
        stalls=described.stalls,
        inrush=inrush,
        current=_current(inrush, work.rules),
        sag=study.moment.sag,
        into_drive=work.step("protection: into a drive", lambda: _into_drive(work)),
        promise=machine.promise if machine else None,
        load=work.found(LOAD).asked,
        comparison=study.comparison,
        start_lacks=study.lacks,
        runs_in_delta=study.runs_in_delta,
        terminals=Terminals(held=study.held, share=study.draws),
        frequency_hz=supplied.frequency_hz,
        elsewhere=_elsewhere(work),
    )


def _elsewhere(work: Work) -> tuple[Need, ...]:
    """The same where it starts otherwise too, so that what is advised serves there as well."""
    found = []
    if starts_across(work):
        found.append(replace(work.supposing(_need, start=ACROSS), where="past its drive"))
    if runs_there(work):
        found.append(replace(work.supposing(_need, **as_there(work)), where="on the standby"))
    return tuple(found)


def _far(work: Work) -> Figure | None:
    """The least fault at the motor's terminals; with it the current that sizes, as the sheet begins."""
    sheet, supplied, run = work.sheet("protection"), work.found(SUPPLY), work.found(WIRING)
    way = fed(work.job, work.circuit)
    least, neutral = supplied.faults.least_factor if supplied.faults else 1.0, way is not None and way.neutral
    far = far_fault(sheet, supplied.source, supplied.feed, run, least, neutral=neutral)
    if (sizing := work.found(PLATE).sizing) is not None:
        sheet.refer(sizing)
    return far


@dataclass(frozen=True, slots=True, kw_only=True)
class Together:
    """Amperes of all motors on a drive that is in use, else of the one motor: rated, from the line, and sized by."""

    rated: Figure | None
    drawn: Figure | None
    sizing: Figure | None


def _together(work: Work) -> Together:
    joined, circuit = connected(work), work.circuit
    rated, sizing = joined.rated.drawn, joined.sizing
    if rated is None or not way_of(work.found(START).chosen).by_frequency:
        return Together(rated=rated, drawn=rated, sizing=sizing)
    sheet, alike, whole = work.sheet("protection"), "alike, on one drive", sizing
    if (count := motors_on(circuit)) > 1:
        many = sheet.given("motors", "Motors on the drive", "m", float(count), "")
        all_of = sheet.work("together", "All its motors, rated", "I_m", count * rated.value, "A",
                            formula=f"m·{rated.symbol}", inputs=(many, rated), source=alike)  # fmt: skip
        whole = all_of if sizing is rated else sizing  # IEC sizes by the plate
        if sizing is not None and sizing is not rated:
            whole = sheet.work("sized_by", "All its motors, what sizes the circuit", "I_mt", count * sizing.value, "A",
                               formula=f"m·{sizing.symbol}", inputs=(many, sizing), source=alike)  # fmt: skip
        rated = all_of
    drawn = rated
    if fed_by_one(circuit):
        drawn = sheet.work("by_one", "From one phase, into the drive", "I_1ph", 3**0.5 * rated.value, "A",
                           formula=f"√3·{rated.symbol}", inputs=(rated,),
                           source="the same power on one phase")  # fmt: skip
    return Together(rated=rated, drawn=drawn, sizing=whole)


def _into_drive(work: Work) -> Figure | None:
    """Rated input of the drive, a step: the device rests on it."""
    given = work.circuit.protection.drive_input_a
    if given is None or not way_of(work.found(START).chosen).converts:
        return None
    return work.sheet("protection").given("drive_input", "Drive's rated input", "I_in", given, "A",
                                          provenance=Provenance.STAMPED, source="the drive's plate")  # fmt: skip


def _current(inrush: LockedRotor | None, rules: RuleSet) -> Taken | None:
    """Locked-rotor current with its band."""
    if inrush is None or inrush.high is None:
        return None
    return current_taken(inrush, f"{rules.words.locked_rotor} current", rules.current_tolerance)


def _plan(work: Work) -> Protected:
    """All of them, with the size of run that holds everything asked of it."""
    found, need, run = _sized(work)
    over = found.overload.line_a
    runs = work.step(
        "protection: run advised",
        lambda: advise(run.conductors, need, work.rules, found.band, over, run.asked),
        *work.used(), *need.elsewhere, *_by_setting(work, over),
    )  # fmt: skip
    if runs.take and load(work.rules.conductors).find(size=work.circuit.wiring.size or "") is None:
        runs = _once_laid(work, runs)
    work.step("protection: on the standby", lambda: _on_standby(work, found), *_fitted(work, found).items())
    return replace(found, devices=tuple(runs if one.key == runs.key else one for one in found.devices))


def _once_laid(work: Work, runs: Device) -> Device:
    """The row of a run that is not laid yet: what the start asks of it is known only of one that is."""
    there = work.supposing(lambda other: other.found(PROTECTION).device(runs.key), wiring={"size": runs.take})
    size = there.take or runs.take
    return replace(runs, asked=there.asked, advised=size, take=size)


def _on_standby(work: Work, found: Protected) -> None:
    work.sheet("supply").gates += standby_gates(work, PROTECTION, _fitted(work, found))


def _fitted(work: Work, found: Protected) -> dict[str, object]:
    return found.fitted(work.rules.device_fact)


def _by_setting(work: Work, line_a: Figure | None) -> tuple[Figure | None, ...]:
    """What a run hangs on beside the steps before it: the overload's setting, where the rule set sizes it by that."""
    return (line_a,) if work.rules.practice.sizes_by_setting else ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Laid:
    """The run as it is laid: its rows, and what it is asked."""

    conductors: Device
    ground: Device
    conduit: Device | None
    asked: RunAsked


def _laid(
    work: Work, need: Need, band: Band | None, line_a: Figure | None, kinds: tuple[str, Others] = ("", {})
) -> Laid:
    """The run's rows, with working and gates on its sheet: a step, as most settings leave it as it is."""
    wiring, rules = work.sheet("wiring"), work.rules
    runs = rules.conductors_row(wiring, need, line_a)
    size = _size_of(need, rules, runs)
    ground = over_kinds(
        rules.grounding(wiring, need, band, size), rules, *kinds,
        lambda one: rules.grounding(Sheet("wiring", ""), one.need, one.band, size),
    )  # fmt: skip
    conduit = rules.conduit(wiring, need, size, ground.chosen)
    asked = RunAsked(drops=running_drop(wiring, need, rules), others=(*runs.gates, *ground.gates))
    wiring.gates += [*asked.others, *asked.drops, *warm_gate(need), *lines_gate(need)]
    wiring.gates += conduit.gates if conduit is not None else ()
    wiring.gates += metal_gate(need, rules.papers.aluminium)
    next_size_note(wiring, need)
    return Laid(conductors=runs, ground=ground, conduit=conduit, asked=asked)


def carried_in(work: Work, air_c: float) -> Gate | None:
    """The run's ampacity in air of so many degrees, for who knows where it ends."""
    return ampacity_in(_need(work), work.rules, work.found(PROTECTION).overload.line_a, air_c)


def as_given(work: Work) -> Protected:
    """The same while nobody asks which run would do."""
    return _sized(work)[0]


def _idles(work: Work) -> Taken | None:
    """No-load amperes of the machine."""
    return idles(work.found(MACHINE).machine, work.circuit.machine.no_load_current_a)


def _sized(work: Work) -> tuple[Protected, Need, Laid]:
    """Size them, and put working and gates on the sheets of protection, overload and wiring; with the run's."""
    sheet, guard, rules = work.sheet("protection"), work.sheet("overload"), work.rules
    study = work.found(START)
    allowed = overload(guard, work.circuit, connected(work).rated, rules, delta=study.runs_in_delta)
    need = _need(work)
    fault_total(sheet, need)
    overload_row, over = plan_overload(guard, need, rules, allowed)
    device, band = work.step("protection: device", lambda: _device(work, need), *work.used(), *need.elsewhere)
    others = _others(need, rules, device)
    disconnect = over_kinds(
        rules.disconnect(sheet, need, band), rules, device.kind, others,
        lambda one: rules.disconnect(Sheet("protection", ""), one.need, one.band),
    )  # fmt: skip
    starter = rules.starter(sheet, need)
    given = (*work.used(), *_by_setting(work, over.line_a), *(one.band for one in others.values()))
    run = work.step("protection: run", lambda: _laid(work, need, band, over.line_a, (device.kind, others)), *given)
    _note_poles(sheet, need)
    sheet.gates += [*disconnect.gates, *device.gates, *starter.gates, *_one_device(need)]
    sheet.gates += overspeed_gate(need, rules.papers.overspeed)
    ahead = work.step(
        "protection: ahead", lambda: (*ahead_gates(need, rules), *capacitor_gates(need, _idles(work))), *work.used()
    )
    sheet.gates += [*_upstream(need, band, rules, (device.kind, others)), *ahead]
    found = Protected(
        devices=(disconnect, device, starter, overload_row, run.conductors, run.ground, *_conduit_of(run)),
        band=band,
        overload=over,
        first_a=peak_a(need),
        withstand_k_s=withstand_k_s(need, rules),
        board=need.circuit.wiring.board or "main",
        volts_v=need.job.volts_at(need.circuit.wiring.board),
        sizing_a=_adds_a(need),
        ways=ways_of(need),
        lines=need.circuit.wiring.lines if len(need.circuit.wiring.lines or "") == ways_of(need) else None,
        got_v=volts_of(need.job, need.circuit),
        stands_by=need.circuit.wiring.stands_by or (),
    )
    return found, need, run


def _conduit_of(run: Laid) -> tuple[Device, ...]:
    return (run.conduit,) if run.conduit is not None else ()


def _note_poles(sheet: Sheet, need: Need) -> None:
    if need.neutral:
        poles = "breaker and switch" if need.fed_by_one else "breaker, overload and switch"
        sheet.notes.append(f"From line to neutral: {poles} have one pole; the neutral is not opened alone.")


def _upstream(need: Need, band: Band | None, rules: RuleSet, kinds: tuple[str, Others]) -> tuple[Gate, ...]:
    """The device upstream beside this one, of each kind that it may be."""
    taken, others = kinds
    there = {name: upstream_gate(one.need, one.band) for name, one in others.items()}
    return gates_over(upstream_gate(need, band), rules.device_fact, DEVICE, taken, there)


Others = Mapping[str, Otherwise]


def _device(work: Work, need: Need) -> tuple[Device, Band | None]:
    """The short-circuit device: where a rating stands without its kind, over those that it may be of."""
    device, band = work.rules.short_circuit(work.sheet("protection"), need)
    others = _others(need, work.rules, device)
    return over_kinds(device, work.rules, device.kind, others, lambda one: one.row), band


def _others(need: Need, rules: RuleSet, device: Device) -> Others:
    """With other kinds of device: not of what is advised, that has the kind that it is advised with."""
    return otherwise(need, rules) if device.take else {}


def _adds_a(need: Need) -> float | None:
    """Amperes that it adds to its boards: what sizes it, or the larger rated input of its drive (NFPA 70:2023
    430.122(D)); None while that is not known. A by-pass may feed the motor itself.
    """
    sizing = need.sizing.value if need.sizing else None
    if sizing is None or not need.way.converts:
        return sizing
    return max(need.into_drive.value, sizing) if need.into_drive else None


def _size_of(need: Need, rules: RuleSet, runs: Device) -> str | None:
    """The run's size where this rule set tabulates it, else the one it advises."""
    size = need.circuit.wiring.size
    if size is not None and load(rules.conductors).find(size=size):
        return size
    return runs.take or None


def _one_device(need: Need) -> tuple[Gate, ...]:
    """A part-winding start needs a device and an overload for each half; said to stand elsewhere, they fail it."""
    place = need.circuit.protection.overload_place
    if need.way.windings is not Windings.HALF or need.impossible or place == "half":
        return ()
    if place is None:
        wanted = "whether its overload stands in each half winding"
        return (unknown("protection.halves", "Each half winding has its own", (wanted,)),)
    text = "Part winding with one overload for both halves: a half that fails to close is not protected."
    remedy = "An overload at half the current in each half winding, and a device at half for each."
    return (
        rule("protection.halves", "Each half winding has its own", False, text, "NFPA 70:2023 430.4", remedy=remedy),
    )


PROTECTION = Specification(key="protection", plan=_plan, sheets={"protection": "Protection", "overload": "Overload"})
