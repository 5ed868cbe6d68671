"""How the machine is started, and what is asked of the start."""

from __future__ import annotations

from typing import Final

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, field, measure, one_of, whole, words
from vinegate.core.plate.kind import INDUCTION, Family
from vinegate.core.tables import load

ROTOR_DUTIES = tuple((row["duty"], row["name"]) for row in load("secondary_nec").rows)
_USUAL_UP_S: Final = 10.0  # assumed
_YES_NO = (("yes", "yes"), ("no", "no"))


def _methods() -> tuple[tuple[str, str], ...]:
    """The ways to start by their keys, as they are offered."""
    from vinegate.core.start.ways import WAYS

    return tuple((way.key, way.label) for way in WAYS)


def _read_method(text: str) -> str:
    from vinegate.core.start.ways import WAYS

    return one_of(text, _methods(), {name: way.key for way in WAYS for name in way.also})


TAPS: Final = (("50", "50 %"), ("65", "65 %"), ("80", "80 %"))
TAPS_ALSO: Final = {"0.5": "50", "0.50": "50", "0.65": "65", "0.8": "80", "0.80": "80"}


class Start(Facts):
    """The driven machine, what is asked of the start, and each method's settings. Empty settings have usual values."""

    driven: str | None = field(words("Drives", 80, example="land-drainage pump"))
    method: str | None = field(
        Fact(
            label="Starts by",
            read=_read_method,
            offers=_methods,
            help="Empty: the recommended way, or full voltage.",
        )
    )
    starts_per_hour: float | None = field(
        measure("Starts an hour", q.COUNT_PER_HOUR, "N", help="The most in any hour.")
    )
    switching: str | None = field(
        choice(
            "Switched",
            (("automatic", "automatically"), ("manual", "by hand"), ("rare", "at most twice a day")),
            help="For flicker; empty: automatically.",
        )
    )
    speed_control: str | None = field(choice("Speed control", _YES_NO))
    reversing: str | None = field(choice("Reversing", _YES_NO))
    soft_stop: str | None = field(choice("Soft stop", _YES_NO, help="Against water hammer."))
    locked_rotor_power_factor: float | None = field(
        measure(
            "Power factor at rest",
            q.POWER_FACTOR,
            "pf_LR",
            families=INDUCTION,
            label_iec="Starting power factor",
            example="0.3",
            help="From the maker's data; from the machine model where it is empty.",
        )
    )
    tap: str | None = field(choice("Autotransformer tap", TAPS, also=TAPS_ALSO))
    transition: str | None = field(
        choice("Transition", (("open", "open"), ("closed", "closed")), help="Open drops out while it changes over.")
    )
    dead_time_s: float | None = field(
        measure("Dead time", q.SECONDS, "t_0", example="50 ms", help="Open transition; empty: 50 ms.")
    )
    changeover_s: float | None = field(
        measure("Change over at", q.SECONDS, "t_x", example="2.4 s", help="Empty: as recommended.")
    )
    changeover_by: str | None = field(
        choice(
            "Changes over by",
            (("timer", "timer"), ("speed", "speed switch")),
            help="A stalled motor never turns a speed switch. Empty: timer.",
        )
    )
    series_volts_pu: float | None = field(
        measure("Volts behind resistor", q.SHARE, "k", example="65 %", help="At the motor at rest; reactor too.")
    )
    resistor_steps: int | None = field(whole("Resistor steps", 1, 3, example="1"))
    rotor_steps: int | None = field(
        whole("Rotor resistor steps", 1, 7, families=(Family.WOUND,), example="5", help="Empty: as many as it takes.")
    )
    rotor_peak_pu: float | None = field(
        measure(
            "First torque of a step",
            q.TORQUE_RATIO,
            "t_1",
            families=(Family.WOUND,),
            example="180 %",
            help="Of rated torque; empty: 180 %.",
        )
    )
    rotor_duty: str | None = field(
        choice(
            "Rotor resistor's duty",
            ROTOR_DUTIES,
            rules="nec",
            families=(Family.WOUND,),
            help="Table 430.23(C); empty: continuous.",
        )
    )
    part_winding: str | None = field(
        choice("Made for part winding", _YES_NO, help="By its diagram or its maker's word.")
    )
    part_current_pu: float | None = field(
        measure("Part-winding current", q.SHARE, "c_p", example="65 %", help="Of the full winding's.")
    )
    part_torque_pu: float | None = field(
        measure("Part-winding torque", q.SHARE, "t_p", example="45 %", help="Of the full winding's.")
    )
    part_delay_s: float | None = field(
        measure("Second half after", q.SECONDS, "t_d", example="2 s", help="Empty: 2 s.")
    )
    soft_limit: float | None = field(
        measure("Current limit", q.TIMES_CURRENT, "k_I", example="3.5", help="Times rated; empty: the least that does.")
    )
    soft_initial_pu: float | None = field(
        measure("Ramp from", q.SHARE, "u_0", example="40 %", help="Volts the ramp begins at.")
    )
    soft_ramp_s: float | None = field(
        measure("Ramp time", q.SECONDS, "t_u", example="10 s", help="To full volts; empty: 10 s.")
    )
    soft_ramp_of: str | None = field(
        choice("Ramp of", (("volts", "volts"), ("torque", "torque")), help="Torque goes with volts squared.")
    )
    kick_pu: float | None = field(
        measure("Kick", q.PULSE, "u_k", example="70 %", help="Volts of a first push; empty: none.")
    )
    kick_time_s: float | None = field(measure("Kick for", q.SECONDS, "t_k", example="0.3 s"))
    soft_stop_ramp_s: float | None = field(
        measure(
            "Soft stop over",
            q.SECONDS,
            "t_s",
            example="8 s",
            help="Ramp down of the volts; empty: 8 s where a soft stop is asked.",
        )
    )
    drive_ramp_s: float | None = field(
        measure("Drive ramp", q.SECONDS, "t_v", example="10 s", help="To full speed; empty: 10 s.")
    )
    drive_limit: float | None = field(
        measure("Drive limit", q.TIMES_CURRENT, "k_D", example="1.5", help="Times rated motor amperes; empty: 1.5.")
    )
    drive_boost: str | None = field(choice("Low-speed boost", _YES_NO, help="Makes up the stator's drop; empty: yes."))
    converter_lines: str | None = field(
        choice(
            "DC drive on",
            (("three", "three lines"), ("two", "two lines")),
            families=(Family.DC,),
            help="Empty: three lines, where the board has them.",
        )
    )
    converter_volts: float | None = field(
        measure(
            "Armature volts",
            q.VOLTAGE,
            "U_dm",
            families=(Family.DC,),
            example="500 V",
            help="The most that its drive gives on this supply at its lowest; by the drive's maker.",
        )
    )
    instantaneous_trip_a: float | None = field(
        measure("Instantaneous trip", q.CURRENT, "I_i", example="1200 A", help="Of the breaker, if any.")
    )
    on_standby: str | None = field(
        choice("On the standby too", _YES_NO, help="Where there is a standby generator: judged on it as well.")
    )
    restart: str | None = field(choice("Restarts after outage", _YES_NO, help="Empty: yes; of a standby no."))
    restart_at_s: float | None = field(
        measure("Restarts at", q.SECONDS, "t_re", example="5 s", help="Empty: as searched.")
    )

    @property
    def up_s(self) -> float:
        """A drive's ramp: as set, else a usual one."""
        return _USUAL_UP_S if self.drive_ramp_s is None else self.drive_ramp_s

    @property
    def from_drive(self) -> bool:
        """Whether a drive feeds the motor, as far as is said: by its way to start, or as its speed is to be set."""
        from vinegate.core.start.ways import way_of

        return way_of(self.method).by_frequency if self.method else self.speed_control == "yes"
