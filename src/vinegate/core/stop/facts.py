"""What is asked of the stop, and each method's settings. Empty settings have usual values."""

from __future__ import annotations

from typing import Final

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, field, measure, one_of, whole

_YES_NO: Final = (("yes", "yes"), ("no", "no"))
_HOLD: Final = (("yes", "power off too"), ("rest", "with power on"), ("no", "no"))
_FAILURE: Final = (("stop", "must stop"), ("coast", "may coast"))
_EMERGENCY: Final = (("0", "0: cut"), ("1", "1: slow, cut"))
_KINDS: Final = (("drum", "drum, shoes"), ("disc", "disc, pads"))
_KINDS_ALSO: Final = {"shoe": "drum", "disk": "disc", "pad": "disc"}
_SIDES: Final = (("motor", "motor's shaft"), ("driven", "driven shaft"))
RELEASES: Final = (
    ("motor", "motor's leads"),
    ("contactor", "starter's contact"),
    ("running", "drive, on running"),
    ("fault", "drive, on no fault"),
)
_OF_A_DRIVE: Final = ("running", "fault")
_LEADS: Final = (("two", "two leads"), ("three", "one lead against two"))


def _methods() -> tuple[tuple[str, str], ...]:
    """The ways to stop by their keys, as they are offered."""
    from vinegate.core.stop.ways import WAYS

    return tuple((way.key, way.name) for way in WAYS)


def _read_method(text: str) -> str:
    from vinegate.core.stop.ways import WAYS

    return one_of(text, _methods(), {name: way.key for way in WAYS for name in way.also})


class Stop(Facts):
    """Hold or slow down, how fast, how often; then each way's own settings."""

    method: str | None = field(
        Fact(label="Stops by", read=_read_method, offers=_methods, help="Empty: the cheapest way that passes.")
    )
    hold: str | None = field(
        choice(
            "Must hold at rest", _HOLD, help="A load that would turn it. Empty: with power off for a hoist, else no."
        )
    )
    overhauls: str | None = field(
        choice("Load drives it", _YES_NO, help="Lowering, downhill, wind. Empty: yes for a hoist, else no.")
    )
    within_s: float | None = field(measure("Stop within", q.SECONDS, "t_w", example="4 s", help="Empty: no limit."))
    within_turns: float | None = field(
        measure("Within angle", q.TURNS, "φ_w", help="Of the driven shaft: turns or degrees.")
    )
    distance_m: float | None = field(
        measure("Within distance", q.LENGTH, "s_w", example="0.1 m", help="Along the load's line speed.")
    )
    per_hour: float | None = field(measure("Stops an hour", q.COUNT_PER_HOUR, "N_s", help="Empty: as many as starts."))
    power_failure: str | None = field(
        choice("If power fails", _FAILURE, help="Empty: it must stop where it must hold, else it may coast.")
    )
    emergency: str | None = field(
        choice(
            "Emergency stop",
            _EMERGENCY,
            help="By its risk assessment: 0 cuts power at once, 1 slows it first.",
        )
    )
    people: str | None = field(choice("People reach it", _YES_NO, help="While it turns, or when a guard is opened."))
    light_pu: float | None = field(
        measure("Lightest load", q.SHARE, "k_l", example="40 %", help="Of its torque and inertia; empty: 100 %.")
    )
    friction_pu: float | None = field(
        measure("Friction, ±", q.SHARE, "k_f", example="20 %", help="Of the load's torque, either way.")
    )
    brake_torque_nm: float | None = field(
        measure("Brake torque", q.TORQUE, "T_B", help="At its own shaft. Empty: 1.5 × rated, 2 × for a hoist.")
    )
    brake_kind: str | None = field(choice("Brake", _KINDS, also=_KINDS_ALSO))
    brake_side: str | None = field(
        choice("Brake sits on", _SIDES, help="Ahead of the gear or behind it. Empty: the motor's shaft.")
    )
    hold_factor: float | None = field(
        measure("Holding factor", q.HOLDING_FACTOR, "k_B", example="1.5", help="Brake over load torque. Empty: 1.5.")
    )
    lining_pu: float | None = field(
        measure("Lining, at its worst", q.SHARE, "k_μ", example="70 %", help="Hot, worn or damp. Empty: 100 %.")
    )
    brake_delay_s: float | None = field(
        measure("Brake closes after", q.SECONDS, "t_c", example="0.1 s", help="By its maker. Empty: 0.")
    )
    brake_power_w: float | None = field(
        measure(
            "Brake's heat rating", q.TEST_POWER, "P_B", example="250 W", help="What it sheds for ever, by its maker."
        )
    )
    brake_stop_j: float | None = field(
        measure("Most heat a stop", q.WORK, "E_B", example="12 kJ", help="Of the brake, by its maker.")
    )
    lining_work_j: float | None = field(
        measure("Lining's work", q.WORK, "W_B", example="400 MJ", help="Until it is worn out, by its maker.")
    )
    release_v: float | None = field(measure("Release coil", q.COIL_VOLTAGE, "U_c", example="460 V"))
    release_from: str | None = field(choice("Coil is fed from", RELEASES))
    dc_current_a: float | None = field(
        measure("Direct current", q.CURRENT, "I_dc", help="Empty: what the time asks, or 2.5 × rated.")
    )
    dc_leads: str | None = field(choice("It flows through", _LEADS, help="Empty: two leads."))
    dc_delay_s: float | None = field(
        measure("After a delay of", q.SECONDS, "t_0", help="Empty: three rotor time constants.")
    )
    dc_time_s: float | None = field(measure("DC timer", q.SECONDS, "t_dc", help="Empty: the slowest stop and a fifth."))
    dc_supply_v: float | None = field(
        measure(
            "Secondary volts", q.TEST_VOLTAGE, "U_2", example="48 V", help="Of the transformer ahead of the bridge."
        )
    )
    plug_timer_s: float | None = field(
        measure("Plugging timer", q.SECONDS, "t_p", example="0.6 s", help="Where no speed switch stops it.")
    )
    drive_ramp_s: float | None = field(
        measure("Ramp down in", q.SECONDS, "t_d", example="5 s", help="Empty: as asked, or 5 s.")
    )
    brake_at_s: float | None = field(
        measure(
            "Brake closes at", q.SECONDS, "t_b", example="4 s", help="Into the ramp. Empty: at a twentieth of speed."
        )
    )
    bus_v: float | None = field(
        measure(
            "Resistor cuts in at", q.BUS_VOLTAGE, "U_B", example="760 V", help="Bus volts; empty: 1.6 × the line's."
        )
    )
    drive_least_ohm: float | None = field(measure("Drive's least resistor", q.OHMS, "R_min", help="From its maker."))
    resistor_ohm: float | None = field(measure("Braking resistor", q.OHMS, "R_D", example="30 Ω"))
    resistor_power_w: float | None = field(measure("Resistor, continuous", q.TEST_POWER, "P_D", example="1.5 kW"))
    lowering_pu: float | None = field(
        measure("Lowers, of the time", q.SHARE, "d_l", example="40 %", help="At most, of ten minutes. Empty: always.")
    )
    armature_first: float | None = field(
        measure("First current", q.TIMES_CURRENT, "k_1", example="2", help="Times rated. Empty: twice.")
    )
    armature_stages: int | None = field(
        whole("Braking stages", 1, 5, symbol="m", example="2", help="Of the resistor. Empty: one.")
    )

    @property
    def by_drive(self) -> bool:
        """Whether a drive slows it or lets its brake go, as is said."""
        from vinegate.core.stop.ways import way_of

        return self.release_from in _OF_A_DRIVE or (self.method is not None and way_of(self.method).by_frequency)
