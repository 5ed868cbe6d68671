"""The first moment of a start by hand formulas: full voltage and wye-delta, with the source, feed and run in series."""

from __future__ import annotations

from vinegate.core.assumed import assume, band_of
from vinegate.core.facts import Circuit
from vinegate.core.fed import Fed
from vinegate.core.machine.describe import Machine
from vinegate.core.plate.kind import Family
from vinegate.core.plate.locked_rotor import LockedRotor
from vinegate.core.plate.rated import Rated
from vinegate.core.records import dataclass, replace
from vinegate.core.rectifier import Armature
from vinegate.core.rules import RuleSet, RunImpedance
from vinegate.core.sheet import Sheet
from vinegate.core.start.dip import AtRest, Phases, StartPoint, at_rest, in_wye, neglected_run, solve_start
from vinegate.core.start.on_bridge import at_first
from vinegate.core.start.on_rings import on_first_step
from vinegate.core.start.sag import Sag, angles_of, current_taken, factor_taken, left_out_of, own_mva
from vinegate.core.supply.source import Source
from vinegate.core.supply.tree import Feed
from vinegate.core.working import Figure


@dataclass(frozen=True, slots=True, kw_only=True)
class Moment:
    """Both ways at the first moment; None for what the facts do not give."""

    motor: AtRest | None
    full: StartPoint | None
    wye: StartPoint | None
    sag: Sag | None = None


def first_moment(
    sheet: Sheet,
    circuit: Circuit,
    rules: RuleSet,
    *,
    rated: Rated,
    source: Source | None,
    feed: Feed | None,
    run: RunImpedance | None,
    inrush: LockedRotor | None,
    machine: Machine | None,
    wye_possible: bool,
    way: Fed | None,
) -> Moment:
    """Solve the loop with the highest locked-rotor current the facts allow."""
    neutral = way is not None and way.neutral
    phases = Phases.of(circuit.plate.kind, neutral=neutral)
    motor = _motor(sheet, circuit, rated, rules, inrush, machine, phases)
    if source is None or feed is None or not feed.known or rated.volts is None:
        return Moment(motor=motor, full=None, wye=None)
    if motor is None:
        sag = _of_rings(sheet, circuit, rated, source, feed, run, machine, way)
        return Moment(motor=None, full=None, wye=None, sag=sag)
    seen = _at_circuit_volts(sheet, source, feed)
    joined = _with_feed(sheet, run or neglected_run(sheet), feed)
    if way is not None and neutral:
        seen, joined = _to_neutral(sheet, seen, way), _there_and_back(sheet, joined)

    def solved(prefix: str, at_rest: AtRest) -> StartPoint:
        assert rated.volts is not None
        return solve_start(sheet, prefix, seen, joined, at_rest, rated.volts, has_run=run is not None, phases=phases)

    full = solved("full", motor)
    sag = _sag(circuit, rules, rated, source, feed, joined, inrush, machine, motor, phases, way)
    if not wye_possible:
        return Moment(motor=motor, full=full, wye=None, sag=sag)
    wye = solved("wye", in_wye(sheet, motor))
    _wye_torque(sheet, wye, rules)
    return Moment(motor=motor, full=full, wye=wye, sag=sag)


def behind_bridge(
    sheet: Sheet, circuit: Circuit, rated: Rated, armature: Armature, source: Source | None, feed: Feed | None
) -> Moment:
    """A direct-current machine's first moment: its bridge on the board, as the run lies behind that."""
    if source is None or feed is None or not feed.known:
        return Moment(motor=None, full=None, wye=None)
    assert rated.current is not None
    amps, factor = at_first(sheet, circuit, rated.current, armature, feed.volts_v)
    path = feed.run
    sag = Sag(
        volts_v=feed.volts_v,
        plate_v=feed.volts_v,
        divisor=3**0.5 if armature.bridge.three else 1.0,
        run_ohm=complex(path.r.value, path.x.value) / 1000 if path else 0j,
        current=amps,
        factor=factor,
        angles=angles_of(source, (feed.volts_v / source.volts.value) ** 2),
        left_out=left_out_of(source),
        own_mva=own_mva(source),
    )
    return Moment(motor=None, full=None, wye=None, sag=sag)


def _of_rings(
    sheet: Sheet, circuit: Circuit, rated: Rated, source: Source, feed: Feed, run: RunImpedance | None,
    machine: Machine | None, way: Fed | None,
) -> Sag | None:  # fmt: skip
    """A wound rotor's loop in the first step of its resistor; None for any other machine."""
    if circuit.plate.family is not Family.WOUND or machine is None or run is None:
        return None
    assert rated.volts is not None
    found = on_first_step(sheet, circuit, rated, machine)
    if found is None:
        return None
    joined = _with_feed(sheet, run, feed)
    return Sag(
        volts_v=way.volts_v if way else feed.volts_v,
        plate_v=rated.volts.value,
        divisor=Phases.of(circuit.plate.kind, neutral=False).divisor,
        run_ohm=complex(joined.r.value, joined.x.value) / 1000,
        current=found[0],
        factor=found[1],
        angles=angles_of(source, (feed.volts_v / source.volts.value) ** 2),
        left_out=left_out_of(source),
        own_mva=own_mva(source),
    )


def _sag(
    circuit: Circuit,
    rules: RuleSet,
    rated: Rated,
    source: Source,
    feed: Feed,
    joined: RunImpedance,
    inrush: LockedRotor | None,
    machine: Machine | None,
    motor: AtRest,
    phases: Phases,
    way: Fed | None,
) -> Sag:
    """The same loop as a function of the facts behind it."""
    assert rated.volts is not None
    assert inrush is not None
    label = f"{rules.words.locked_rotor} power factor"
    stated = circuit.start.locked_rotor_power_factor is not None
    band = machine.factor_band if machine is not None else band_of("locked_rotor_power_factor")
    scale = (feed.volts_v / source.volts.value) ** 2
    return Sag(
        volts_v=way.volts_v if way else feed.volts_v,
        plate_v=rated.volts.value,
        divisor=phases.divisor,
        run_ohm=complex(joined.r.value, joined.x.value) / 1000,
        current=current_taken(inrush, f"{rules.words.locked_rotor} current", rules.current_tolerance),
        factor=factor_taken(motor.factor, band, label, stated=stated),
        angles=angles_of(source, scale),
        left_out=left_out_of(source),
        own_mva=own_mva(source),
    )


def _motor(
    sheet: Sheet,
    circuit: Circuit,
    rated: Rated,
    rules: RuleSet,
    inrush: LockedRotor | None,
    machine: Machine | None,
    phases: Phases,
) -> AtRest | None:
    if inrush is None or inrush.high is None or rated.volts is None:
        return None
    stated = circuit.start.locked_rotor_power_factor
    name = f"{rules.words.locked_rotor.capitalize()} power factor"
    if stated is not None:
        source = circuit.source_of("start.locked_rotor_power_factor")
        power_factor = sheet.given("pf", name, "pf_LR", stated, "", provenance=source)
    elif machine is not None and machine.locked_rotor_power_factor is not None:
        power_factor = machine.locked_rotor_power_factor
        sheet.refer(power_factor)
    else:
        power_factor = assume(sheet, "locked_rotor_power_factor", "pf", name, "pf_LR")
    sheet.refer(rated.volts)
    return at_rest(sheet, inrush.high, rated.volts, power_factor, phases)


def _at_circuit_volts(sheet: Sheet, source: Source, feed: Feed) -> Source:
    """The source referred to the circuit's volts where a transformer stands between, `Z·(U_c/U)²`."""
    if abs(feed.volts_v / source.volts.value - 1) < 1e-9:
        return source
    volts = sheet.given("circuit_volts", "Volts of the circuit's board", "U_c", feed.volts_v, "V")

    def over(key: str, figure: Figure) -> Figure:
        return sheet.work(
            key,
            f"{figure.name}, at the circuit's volts",
            f"{figure.symbol}c",
            figure.value * (volts.value / source.volts.value) ** 2,
            "mΩ",
            formula=f"{figure.symbol}·(U_c/U)²",
            inputs=(figure, volts, source.volts),
            source="ohms go with the square of the volts across a transformer",
        )

    return Source(
        volts=volts,
        r=over("source_r_c", source.r),
        x=over("source_x_c", source.x),
        z_sum=over("source_z_c", source.z_sum),
        fault=source.fault,
        parts=source.parts,
    )


def _to_neutral(sheet: Sheet, source: Source, way: Fed) -> Source:
    """The same source as one phase sees it: its own ohms, and the volts to neutral."""
    volts = sheet.given("neutral_volts", "Volts to neutral at the circuit's board", "U_0", way.volts_v, "V")
    return replace(source, volts=volts)


def _there_and_back(sheet: Sheet, run: RunImpedance) -> RunImpedance:
    """Line and neutral of the same size in series."""

    def twice(key: str, figure: Figure) -> Figure:
        return sheet.work(
            key, f"{figure.name}, line and neutral", f"{figure.symbol}n", 2 * figure.value, "mΩ",
            formula=f"2·{figure.symbol}", inputs=(figure,), source="a neutral of the line's size comes back beside it",
        )  # fmt: skip

    return RunImpedance(twice("loop_r", run.r), twice("loop_x", run.x))


def _with_feed(sheet: Sheet, run: RunImpedance, feed: Feed) -> RunImpedance:
    """Feeders between main board and circuit in series with the run."""
    if feed.run is None:
        return run

    def both(key: str, name: str, symbol: str, a: Figure, b: Figure) -> Figure:
        return sheet.work(
            key,
            name,
            symbol,
            a.value + b.value,
            "mΩ",
            formula=f"{a.symbol}+{b.symbol}",
            inputs=(a, b),
            source="feed and run in series",
        )

    return RunImpedance(
        both("path_r", "Feed and run, resistance", "R_path", feed.run.r, run.r),
        both("path_x", "Feed and run, reactance", "X_path", feed.run.x, run.x),
    )


def _wye_torque(sheet: Sheet, wye: StartPoint, rules: RuleSet) -> None:
    if wye.terminals is None:
        return
    sheet.work(
        "wye.torque",
        f"Starting torque in {rules.words.wye}, of full voltage at plate volts",
        "T_wye",
        100 / 3 * (wye.terminals.value / 100) ** 2,
        "%",
        formula=f"100/3·({wye.terminals.symbol}/100)²",
        inputs=(wye.terminals,),
        source="torque goes with volts squared; 1/√3 of the volts on each winding",
    )
