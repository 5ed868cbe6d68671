"""What to set on the drive: generic names, value, unit, why."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Final

from vinegate.core.drive.facts import CONTROLS, CURVES
from vinegate.core.numbers import write

if TYPE_CHECKING:
    from vinegate.core.drive.need import Need
    from vinegate.core.drive.stage import Driven


@dataclass(frozen=True, slots=True, kw_only=True)
class Parameter:
    """One line of the sheet. `safety` marks what touches safety; an empty value is to be chosen."""

    group: str
    name: str
    value: str
    unit: str = ""
    why: str = ""
    source: str = ""
    safety: bool = False


_PRACTICE: Final = "usual for the load"
_PLATE: Final = "plate, as strapped"


def parameters_of(need: Need, driven: Driven) -> tuple[Parameter, ...]:
    """Every line in the order in which drives ask."""
    return (
        *_motor(need, driven),
        *_control(need, driven),
        *_speeds(need, driven),
        *_limits(need, driven),
        *_faults(need, driven),
    )


def _motor(need: Need, driven: Driven) -> Iterator[Parameter]:
    plate = need.circuit.plate
    group = "Motor"
    yield Parameter(
        group=group, name="Supply volts", value=write(need.line_v), unit="V", why="the board's", source="supply"
    )
    yield Parameter(
        group=group,
        name="Motor volts",
        value=write(need.plate_v),
        unit="V",
        why="of the connection in use",
        source=_PLATE,
    )
    yield Parameter(
        group=group,
        name="Motor amperes",
        value=write(need.plate_a, 3),
        unit="A",
        why="of the connection in use",
        source=_PLATE,
        safety=True,
    )
    power = need.rated.power
    yield Parameter(
        group=group,
        name="Motor power",
        value=write(power.value) if power else "",
        unit=power.unit if power else "",
        why="of one motor",
        source="plate",
    )
    yield Parameter(
        group=group,
        name="Motor frequency",
        value=write(need.base_hz),
        unit="Hz",
        why="factory settings may be the other continent's",
        source="plate",
    )
    yield Parameter(
        group=group,
        name="Motor speed",
        value=write(need.rated_rpm),
        unit=need.unit,
        why="slip follows from it",
        source="plate",
    )
    yield Parameter(group=group, name="Poles", value=str(need.poles), why="from speed and frequency", source="120·f/n")
    factor = write(plate.power_factor) if plate.power_factor else ""
    yield Parameter(group=group, name="Power factor", value=factor, why="at rated load", source="plate")
    if need.ratio > 1:
        yield Parameter(
            group=group,
            name="Base frequency and volts",
            value=f"{write(need.top_hz, 3)} Hz, {write(need.line_v)} V",
            why="the lower connection up to the line's volts; no by-pass, never across the line so",
            source="the same volts over frequency",
            safety=True,
        )


def _control(need: Need, driven: Driven) -> Iterator[Parameter]:
    law, group = driven.supplied.law, "Control"
    yield Parameter(
        group=group,
        name="Load class",
        value="heavy" if driven.rating.heavy else "normal",
        why=_PRACTICE,
        source="NEMA ICS 7; IEC 61800-2",
    )
    yield Parameter(group=group, name="Control", value=dict(CONTROLS)[driven.control.used], why=driven.control.why)
    if not law.vector:
        yield Parameter(
            group=group,
            name="Volts by frequency",
            value=dict(CURVES)["square" if law.square else "linear"],
            why="square saves a little on pumps and fans, and halves what is there from rest",
            source=_PRACTICE,
        )
        yield Parameter(
            group=group,
            name="Boost",
            value=write(law.boost_v, 2),
            unit="V",
            why="the stator's drop at rated current",
            source="√3 times amperes times ohms, with the lead's",
        )
    slip_hz = need.slip * need.base_hz
    yield Parameter(
        group=group,
        name="Slip compensation",
        value="off" if need.motors > 1 else write(slip_hz, 2),
        unit="" if need.motors > 1 else "Hz",
        why="at rated torque; never above, it hunts",
        source="rated slip",
    )
    carrier = need.facts.carrier_hz
    yield Parameter(
        group=group,
        name="Carrier",
        value=write(carrier / 1000, 2) if carrier else "",
        unit="kHz" if carrier else "",
        why="lower: longer lead, cooler drive; higher: quieter",
    )
    yield Parameter(
        group=group,
        name="Autotune",
        value="off" if need.motors > 1 or driven.tuning is None else driven.tuning.kind,
        why="several motors: none of them can be measured" if need.motors > 1 else "with the plate as connected",
    )


def _speeds(need: Need, driven: Driven) -> Iterator[Parameter]:
    rows, ramps, group = driven.rows, driven.ramps, "Speeds and ramps"
    yield Parameter(
        group=group,
        name="Least frequency",
        value=write(rows[-1].hz, 3),
        unit="Hz",
        why="the slowest operating point",
        safety=True,
    )
    yield Parameter(
        group=group,
        name="Greatest frequency",
        value=write(rows[0].hz, 3),
        unit="Hz",
        why="the fastest operating point",
        safety=True,
    )
    yield Parameter(
        group=group,
        name="Reference at 4 mA",
        value=write(rows[-1].hz, 3),
        unit="Hz",
        why="its live zero tells a broken wire",
    )
    yield Parameter(
        group=group, name="Reference at 20 mA", value=write(rows[0].hz, 3), unit="Hz", why="the fastest point"
    )
    yield Parameter(
        group=group, name="Ramp up", value=write(ramps.up_s, 3), unit="s", why="the start's sheet", source="start"
    )
    down = write(ramps.down_s, 3) if ramps.down_s is not None else "coasts"
    yield Parameter(
        group=group,
        name="Ramp down",
        value=down,
        unit="s" if ramps.down_s is not None else "",
        why="the stop's sheet",
        source="stop",
    )
    yield Parameter(
        group=group, name="S rounding", value=write(ramps.rounding_s, 2), unit="s", why="each end, inside the ramp"
    )
    stop = _stops(need, driven)
    yield Parameter(
        group=group,
        name="Stop",
        value={"coast": "coasts", "ramp": "ramp, then off", "hold": "ramp, holds, then the brake"}[stop],
        why=_PRACTICE,
        safety=True,
    )
    for band in driven.bands:
        yield Parameter(
            group=group,
            name="Skip",
            value=f"{write(band.low_hz, 3)} to {write(band.high_hz, 3)}",
            unit="Hz",
            why=f"resonance at {write(band.rpm)} {need.unit}",
        )
    reverse = need.circuit.start.reversing == "yes"
    yield Parameter(
        group=group,
        name="Direction",
        value="both" if reverse else "locked forwards",
        why="reversing is asked" if reverse else "reversing is not asked",
        safety=True,
    )


def _stops(need: Need, driven: Driven) -> str:
    """As it is said, else by a ramp where one is set, and held where the load asks it."""
    if need.facts.stop_mode or need.preset["stop"] == "hold":
        return need.facts.stop_mode or "hold"
    return "ramp" if driven.ramps.down_s is not None else "coast"


def _limits(need: Need, driven: Driven) -> Iterator[Parameter]:
    group = "Limits and protection"
    times = driven.rating.overload
    yield Parameter(
        group=group,
        name="Current limit, motoring",
        value=write(100 * times, 3),
        unit="% of the drive",
        why="its overload",
        safety=True,
    )
    yield Parameter(
        group=group,
        name="Current limit, braking",
        value=write(100 * times, 3) if need.circuit.stop.resistor_ohm else "0",
        unit="% of the drive",
        why="as the bus can take it",
    )
    own = need.motors > 1
    yield Parameter(
        group=group,
        name="Motor overload",
        value="off: each has its own" if own else write(need.plate_a, 3),
        unit="" if own else "A",
        why="service factor 1.0 on a drive",
        source="NEMA MG 1:2021 30.2.2; IEC 61800-5-1",
        safety=True,
    )
    if not own:
        yield Parameter(
            group=group,
            name="Overload knows the speed",
            value="yes" if driven.cooling.at_rest < 1 else "no: cooled at every speed",
            why=f"cooled by {driven.cooling.kind}",
            safety=True,
        )
    yield Parameter(
        group=group,
        name="Winding sensor",
        value={"yes": "trips", "no": "none"}.get(need.circuit.protection.thermistor or "", ""),
        why="an input of its own",
        safety=True,
    )
    yield Parameter(
        group=group,
        name="Phase loss, in and out",
        value="input off, output on" if need.facts.phases == "1" else "on",
        why="off at the input only on one phase",
        safety=True,
    )
    yield Parameter(
        group=group, name="Ground fault", value="on", why="its own electronics clear a fault in the lead", safety=True
    )
    yield Parameter(
        group=group,
        name="Stall",
        value=f"{driven.rating.overload_s:g} s at the limit",
        why="no longer than its overload lasts",
    )
    yield Parameter(
        group=group,
        name="Under-load",
        value="as found when running dry or without belt",
        why=need.preset["watch"] or "none known",
    )


def _faults(need: Need, driven: Driven) -> Iterator[Parameter]:
    facts, group = need.facts, "When something fails"
    back = facts.power_back or "wait"
    yield Parameter(
        group=group,
        name="When power returns",
        value="starts by itself" if back == "auto" else "waits for a command",
        why="only where nobody can be hurt",
        source="NFPA 79:2024 7.5; IEC 60204-1:2016 7.5",
        safety=True,
    )
    yield Parameter(
        group=group,
        name="Catch a turning load",
        value={"yes": "on", "no": "off"}.get(facts.catches or "", "on where it may still turn"),
        why=f"it still turns at {100 * driven.coast.share:.0f} % when the drive is ready",
    )
    yield Parameter(
        group=group,
        name="Restart tries",
        value="3, 30 s apart" if back == "auto" else "0",
        why="a fault is looked at first",
        safety=True,
    )
    lost = {"stop": "stops", "last": "keeps its speed", "preset": "goes to a preset"}.get(
        facts.reference_lost or "", ""
    )
    yield Parameter(group=group, name="Reference lost", value=lost, why="by what the process bears", safety=True)
    yield Parameter(
        group=group,
        name="Low bus volts",
        value="trips" if facts.outage_s is None else "rides through, then catches",
        why="contactors and controls fall first",
    )
    yield Parameter(
        group=group,
        name="Network time-out",
        value="1 s, then as reference lost",
        why="where it is run over a network",
        safety=True,
    )
    yield Parameter(
        group=group,
        name="Safe torque off, tested",
        value="every 12 months, or as its safety function asks",
        why="it is no isolation",
        source="UL 61800-5-2; IEC 61800-5-2",
        safety=True,
    )
    if need.load.kind == "hoist":
        yield Parameter(
            group=group,
            name="Brake opens",
            value="at rated torque proved, 1 Hz",
            why="torque before the brake",
            source="torque proved by its current",
            safety=True,
        )
        yield Parameter(
            group=group, name="Brake closes", value="at 1 Hz, speed proved", why="held until it has closed", safety=True
        )
        yield Parameter(
            group=group,
            name="Overspeed",
            value="115",
            unit="% of the fastest",
            why="a load that runs away",
            safety=True,
        )


def groups(found: Sequence[Parameter]) -> dict[str, list[Parameter]]:
    """The lines by their groups, in order."""
    by: dict[str, list[Parameter]] = {}
    for one in found:
        by.setdefault(one.group, []).append(one)
    return by
