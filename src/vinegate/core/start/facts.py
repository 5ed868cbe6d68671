"""How the machine is started, and what is asked of the start."""

from __future__ import annotations

from typing import Annotated

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, measure, one_of, whole, words
from vinegate.core.plate.kind import Family
from vinegate.core.tables import load

ROTOR_DUTIES = tuple((row["duty"], row["name"]) for row in load("secondary_nec").rows)
_YES_NO = (("yes", "yes"), ("no", "no"))


def _methods() -> tuple[tuple[str, str], ...]:
    """The ways to start by their keys, as they are offered."""
    from vinegate.core.start.ways import WAYS

    return tuple((way.key, way.label) for way in WAYS)


def _read_method(text: str) -> str:
    return one_of(text, _methods())


class Start(Facts):
    """The driven machine, what is asked of the start, and each method's settings. Empty settings have usual values."""

    driven: Annotated[str | None, words("Drives", 80, example="land-drainage pump")] = None
    method: Annotated[
        str | None,
        Fact(
            label="Starts by",
            read=_read_method,
            offers=_methods,
            help="Empty: the recommended way, or full voltage.",
        ),
    ] = None
    starts_per_hour: Annotated[
        float | None, measure("Starts an hour", q.COUNT_PER_HOUR, "N", help="The most in any hour.")
    ] = None
    switching: Annotated[
        str | None,
        choice(
            "Switched",
            (("automatic", "automatically"), ("manual", "by hand"), ("rare", "at most twice a day")),
            help="For flicker; empty: automatically.",
        ),
    ] = None
    speed_control: Annotated[str | None, choice("Speed control", _YES_NO)] = None
    reversing: Annotated[str | None, choice("Reversing", _YES_NO)] = None
    soft_stop: Annotated[str | None, choice("Soft stop", _YES_NO, help="Against water hammer.")] = None
    locked_rotor_power_factor: Annotated[
        float | None,
        measure(
            "Locked-rotor power factor",
            q.POWER_FACTOR,
            "pf_LR",
            label_iec="Starting power factor",
            example="0.3",
            help="From the maker's data; from the machine model where it is empty.",
        ),
    ] = None
    tap: Annotated[str | None, choice("Autotransformer tap", (("50", "50 %"), ("65", "65 %"), ("80", "80 %")))] = None
    transition: Annotated[
        str | None,
        choice("Transition", (("open", "open"), ("closed", "closed")), help="Open drops out while it changes over."),
    ] = None
    dead_time_s: Annotated[
        float | None, measure("Dead time", q.SECONDS, "t_0", example="50 ms", help="Open transition; empty: 50 ms.")
    ] = None
    changeover_s: Annotated[
        float | None, measure("Change over at", q.SECONDS, "t_x", example="2.4 s", help="Empty: as recommended.")
    ] = None
    changeover_by: Annotated[
        str | None,
        choice(
            "Changes over by",
            (("timer", "timer"), ("speed", "speed switch")),
            help="A stalled motor never turns a speed switch. Empty: timer.",
        ),
    ] = None
    series_volts_pu: Annotated[
        float | None,
        measure("Volts behind resistor", q.SHARE, "k", example="65 %", help="At the motor at rest; reactor too."),
    ] = None
    resistor_steps: Annotated[int | None, whole("Resistor steps", 1, 3, example="1")] = None
    rotor_steps: Annotated[
        int | None,
        whole("Rotor resistor steps", 1, 7, families=(Family.WOUND,), example="5", help="Empty: as many as it takes."),
    ] = None
    rotor_peak_pu: Annotated[
        float | None,
        measure(
            "First torque of a step",
            q.TORQUE_RATIO,
            "t_1",
            families=(Family.WOUND,),
            example="180 %",
            help="Of rated torque; empty: 180 %.",
        ),
    ] = None
    rotor_duty: Annotated[
        str | None,
        choice(
            "Rotor resistor's duty",
            ROTOR_DUTIES,
            rules="nec",
            families=(Family.WOUND,),
            help="Table 430.23(C); empty: continuous.",
        ),
    ] = None
    part_winding: Annotated[
        str | None, choice("Made for part winding", _YES_NO, help="By its diagram or its maker's word.")
    ] = None
    part_current_pu: Annotated[
        float | None, measure("Part-winding current", q.SHARE, "c_p", example="65 %", help="Of the full winding's.")
    ] = None
    part_torque_pu: Annotated[
        float | None, measure("Part-winding torque", q.SHARE, "t_p", example="45 %", help="Of the full winding's.")
    ] = None
    part_delay_s: Annotated[
        float | None, measure("Second half after", q.SECONDS, "t_d", example="2 s", help="Empty: 2 s.")
    ] = None
    soft_limit: Annotated[
        float | None,
        measure(
            "Current limit", q.TIMES_CURRENT, "k_I", example="3.5", help="Times rated; empty: the least that does."
        ),
    ] = None
    soft_initial_pu: Annotated[
        float | None, measure("Ramp from", q.SHARE, "u_0", example="40 %", help="Volts the ramp begins at.")
    ] = None
    soft_ramp_s: Annotated[
        float | None, measure("Ramp time", q.SECONDS, "t_u", example="10 s", help="To full volts; empty: 10 s.")
    ] = None
    soft_ramp_of: Annotated[
        str | None,
        choice("Ramp of", (("volts", "volts"), ("torque", "torque")), help="Torque goes with volts squared."),
    ] = None
    kick_pu: Annotated[
        float | None, measure("Kick", q.PULSE, "u_k", example="70 %", help="Volts of a first push; empty: none.")
    ] = None
    kick_time_s: Annotated[float | None, measure("Kick for", q.SECONDS, "t_k", example="0.3 s")] = None
    soft_stop_ramp_s: Annotated[
        float | None,
        measure(
            "Soft stop over",
            q.SECONDS,
            "t_s",
            example="8 s",
            help="Ramp down of the volts; empty: 8 s where a soft stop is asked.",
        ),
    ] = None
    drive_ramp_s: Annotated[
        float | None, measure("Drive ramp", q.SECONDS, "t_v", example="10 s", help="To full speed; empty: 10 s.")
    ] = None
    drive_limit: Annotated[
        float | None,
        measure("Drive limit", q.TIMES_CURRENT, "k_D", example="1.5", help="Times rated motor amperes; empty: 1.5."),
    ] = None
    drive_boost: Annotated[
        str | None, choice("Low-speed boost", _YES_NO, help="Makes up the stator's drop; empty: yes.")
    ] = None
    instantaneous_trip_a: Annotated[
        float | None, measure("Instantaneous trip", q.CURRENT, "I_i", example="1200 A", help="Of the breaker, if any.")
    ] = None
    restart: Annotated[str | None, choice("Restarts after an outage", _YES_NO, help="Empty: yes.")] = None
    restart_at_s: Annotated[
        float | None, measure("Restarts at", q.SECONDS, "t_re", example="5 s", help="Empty: as searched.")
    ] = None
