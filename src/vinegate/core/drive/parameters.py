"""What to set on the drive: generic names, value, unit, why."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING, Final

from vinegate.core.drive.facts import CONTROLS, CURVES
from vinegate.core.numbers import write
from vinegate.core.records import dataclass

if TYPE_CHECKING:
    from vinegate.core.drive.need import Need
    from vinegate.core.drive.stage import Driven


@dataclass(frozen=True, slots=True)
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
        *_tuned(need, driven),
        *_speeds(need, driven),
        *_limits(need, driven),
        *_watched(need, driven),
        *_faults(need, driven),
        *(_hoist() if need.load.kind == "hoist" else ()),
    )


def _motor(need: Need, driven: Driven) -> Iterator[Parameter]:
    plate = need.circuit.plate
    group = "Motor"
    yield Parameter(group, "Supply volts", write(need.line_v), "V", "the board's", "supply")
    yield Parameter(group, "Motor volts", write(need.plate_v), "V", "of the connection in use", _PLATE)
    yield Parameter(
        group, "Motor amperes", write(need.plate_a, 3), "A", "of the connection in use", _PLATE, safety=True
    )
    power = need.rated.power
    yield Parameter(
        group, "Motor power", write(power.value) if power else "", power.unit if power else "", "of one motor", "plate"
    )
    yield Parameter(
        group, "Motor frequency", write(need.base_hz), "Hz", "factory settings may be the other continent's", "plate"
    )
    yield Parameter(group, "Motor speed", write(need.rated_rpm), need.unit, "slip follows from it", "plate")
    yield Parameter(group, "Poles", str(need.poles), why="from speed and frequency", source="120·f/n")
    factor = write(plate.power_factor) if plate.power_factor else ""
    yield Parameter(group, "Power factor", factor, why="at rated load", source="plate")
    if need.ratio > 1:
        yield Parameter(
            group,
            "Base frequency and volts",
            f"{write(need.top_hz, 3)} Hz, {write(need.line_v)} V",
            why="the lower connection up to the line's volts; no by-pass, never across the line so",
            source="the same volts over frequency",
            safety=True,
        )


def _control(need: Need, driven: Driven) -> Iterator[Parameter]:
    law, group = driven.supplied.law, "Control"
    yield Parameter(
        group,
        "Load class",
        "heavy" if driven.rating.heavy else "normal",
        why=_PRACTICE,
        source="NEMA ICS 7; IEC 61800-2",
    )
    yield Parameter(group, "Control", dict(CONTROLS)[driven.control.used], why=driven.control.why)
    if not law.vector:
        yield Parameter(
            group,
            "Volts by frequency",
            dict(CURVES)["square" if law.square else "linear"],
            why="square saves a little on pumps and fans, and halves what is there from rest",
            source=_PRACTICE,
        )
        yield Parameter(
            group,
            "Boost",
            write(law.boost_v, 2),
            "V",
            "the stator's drop at rated current",
            "√3 times amperes times ohms, with the lead's",
        )


def _tuned(need: Need, driven: Driven) -> Iterator[Parameter]:
    """What follows from the motor's slip, the carrier and what can be measured."""
    group = "Control"
    slip_hz = need.slip * need.base_hz
    yield Parameter(
        group,
        "Slip compensation",
        "off" if need.motors > 1 else write(slip_hz, 2),
        "" if need.motors > 1 else "Hz",
        "at rated torque; never above, it hunts",
        "rated slip",
    )
    carrier = need.facts.carrier_hz
    yield Parameter(
        group,
        "Carrier",
        write(carrier / 1000, 2) if carrier else "",
        "kHz" if carrier else "",
        "lower: longer lead, cooler drive; higher: quieter",
    )
    yield Parameter(
        group,
        "Autotune",
        "off" if need.motors > 1 or driven.tuning is None else driven.tuning.kind,
        why="several motors: none of them can be measured" if need.motors > 1 else "with the plate as connected",
    )


def _speeds(need: Need, driven: Driven) -> Iterator[Parameter]:
    rows, ramps, group = driven.rows, driven.ramps, "Speeds and ramps"
    yield Parameter(group, "Least frequency", write(rows[-1].hz, 3), "Hz", "the slowest operating point", safety=True)
    yield Parameter(group, "Greatest frequency", write(rows[0].hz, 3), "Hz", "the fastest operating point", safety=True)
    yield Parameter(group, "Reference at 4 mA", write(rows[-1].hz, 3), "Hz", "its live zero tells a broken wire")
    yield Parameter(group, "Reference at 20 mA", write(rows[0].hz, 3), "Hz", "the fastest point")
    yield Parameter(group, "Ramp up", write(ramps.up_s, 3), "s", "the start's sheet", "start")
    down = write(ramps.down_s, 3) if ramps.down_s is not None else "coasts"
    yield Parameter(group, "Ramp down", down, "s" if ramps.down_s is not None else "", "the stop's sheet", "stop")
    yield Parameter(group, "S rounding", write(ramps.rounding_s, 2), "s", "each end, inside the ramp")
    stop = _stops(need, driven)
    yield Parameter(
        group,
        "Stop",
        {"coast": "coasts", "ramp": "ramp, then off", "hold": "ramp, holds, then the brake"}[stop],
        why=_PRACTICE,
        safety=True,
    )
    for band in driven.bands:
        yield Parameter(
            group,
            "Skip",
            f"{write(band.low_hz, 3)} to {write(band.high_hz, 3)}",
            "Hz",
            f"resonance at {write(band.rpm)} {need.unit}",
        )
    reverse = need.circuit.start.reversing == "yes"
    yield Parameter(
        group,
        "Direction",
        "both" if reverse else "locked forwards",
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
        group, "Current limit, motoring", write(100 * times, 3), "% of the drive", "its overload", safety=True
    )
    yield Parameter(
        group,
        "Current limit, braking",
        write(100 * times, 3) if need.circuit.stop.resistor_ohm else "0",
        "% of the drive",
        "as the bus can take it",
    )
    own = need.motors > 1
    yield Parameter(
        group,
        "Motor overload",
        "off: each has its own" if own else write(need.plate_a, 3),
        "" if own else "A",
        "service factor 1.0 on a drive",
        "NEMA MG 1:2021 30.2.2; IEC 61800-5-1",
        safety=True,
    )
    if not own:
        yield Parameter(
            group,
            "Overload knows the speed",
            "yes" if driven.cooling.at_rest < 1 else "no: cooled at every speed",
            why=f"cooled by {driven.cooling.kind}",
            safety=True,
        )


def _watched(need: Need, driven: Driven) -> Iterator[Parameter]:
    """What the drive watches beside the current."""
    group = "Limits and protection"
    yield Parameter(
        group,
        "Winding sensor",
        {"yes": "trips", "no": "none"}.get(need.circuit.protection.thermistor or "", ""),
        why="an input of its own",
        safety=True,
    )
    yield Parameter(
        group,
        "Phase loss, in and out",
        "input off, output on" if need.facts.one_phase else "on",
        why="off at the input only on one phase",
        safety=True,
    )
    yield Parameter(group, "Ground fault", "on", why="its own electronics clear a fault in the lead", safety=True)
    yield Parameter(
        group, "Stall", f"{driven.rating.overload_s:g} s at the limit", why="no longer than its overload lasts"
    )
    yield Parameter(
        group, "Under-load", "as found when running dry or without belt", why=need.preset["watch"] or "none known"
    )


_LOST = {"stop": "stops", "last": "keeps its speed", "preset": "goes to a preset"}


def _faults(need: Need, driven: Driven) -> Iterator[Parameter]:
    facts, group = need.facts, "When something fails"
    back = facts.power_back or "wait"
    yield Parameter(
        group,
        "When power returns",
        "starts by itself" if back == "auto" else "waits for a command",
        why="only where nobody can be hurt",
        source="NFPA 79:2024 7.5; IEC 60204-1:2016 7.5",
        safety=True,
    )
    yield Parameter(
        group,
        "Catch a turning load",
        {"yes": "on", "no": "off"}.get(facts.catches or "", "on where it may still turn"),
        why=f"it still turns at {100 * driven.coast.share:.0f} % when the drive is ready",
    )
    tries = "3, 30 s apart" if back == "auto" else "0"
    yield Parameter(group, "Restart tries", tries, why="a fault is looked at first", safety=True)
    lost = _LOST.get(facts.reference_lost or "", "")
    yield Parameter(group, "Reference lost", lost, why="by what the process bears", safety=True)
    yield Parameter(
        group,
        "Low bus volts",
        "trips" if facts.outage_s is None else "rides through, then catches",
        why="contactors and controls fall first",
    )
    yield Parameter(
        group, "Network time-out", "1 s, then as reference lost", why="where it is run over a network", safety=True
    )
    yield Parameter(
        group,
        "Safe torque off, tested",
        "every 12 months, or as its safety function asks",
        why="it is no isolation",
        source="UL 61800-5-2; IEC 61800-5-2",
        safety=True,
    )


def _hoist() -> Iterator[Parameter]:
    """What holds a load that would fall."""
    group = "When something fails"
    yield Parameter(
        group,
        "Brake opens",
        "at rated torque proved, 1 Hz",
        why="torque before the brake",
        source="torque proved by its current",
        safety=True,
    )
    yield Parameter(group, "Brake closes", "at 1 Hz, speed proved", why="held until it has closed", safety=True)
    yield Parameter(group, "Overspeed", "115", "% of the fastest", "a load that runs away", safety=True)


def groups(found: Sequence[Parameter]) -> dict[str, list[Parameter]]:
    """The lines by their groups, in order."""
    by: dict[str, list[Parameter]] = {}
    for one in found:
        by.setdefault(one.group, []).append(one)
    return by
