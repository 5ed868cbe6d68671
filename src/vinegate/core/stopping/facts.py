"""What is asked of the stop, and each method's settings. Empty settings have usual values."""

from __future__ import annotations

from typing import Annotated, Final

from vinegate.core import quantity as q
from vinegate.core.field import Facts, choice, measure

METHODS: Final = (
    ("coast", "coasting"),
    ("brake", "spring-set brake"),
    ("dc", "DC injection"),
    ("plugging", "plugging"),
    ("drive", "drive ramp"),
    ("drive-brake", "drive ramp, then brake"),
)
_YES_NO: Final = (("yes", "yes"), ("no", "no"))


class Stop(Facts):
    """Hold or slow down, how fast, how often."""

    method: Annotated[str | None, choice("Stops by", METHODS, help="Empty: the cheapest way that passes.")] = None
    hold: Annotated[
        str | None,
        choice("Must hold at rest", _YES_NO, help="A load that would turn it. Empty: yes for a hoist, else no."),
    ] = None
    within_s: Annotated[
        float | None, measure("Stop within", q.SECONDS, "t_w", example="4 s", help="Empty: no limit.")
    ] = None
    per_hour: Annotated[
        float | None, measure("Stops an hour", q.COUNT_PER_HOUR, "N_s", help="Empty: as many as starts.")
    ] = None
    brake_torque_nm: Annotated[
        float | None,
        measure("Brake torque", q.TORQUE, "T_B", help="At the motor's shaft. Empty: 1.5 × rated, 2 × for a hoist."),
    ] = None
    brake_power_w: Annotated[
        float | None,
        measure("Brake's heat rating", q.POWER, "P_B", example="250 W", help="What it sheds for ever, by its maker."),
    ] = None
    dc_current_a: Annotated[
        float | None, measure("Direct current", q.CURRENT, "I_dc", help="Empty: 2.5 × rated, through two leads.")
    ] = None
    light_pu: Annotated[
        float | None,
        measure("Lightest load", q.SHARE, "k_l", example="40 %", help="Of its torque and inertia; empty: 100 %."),
    ] = None
    plug_timer_s: Annotated[
        float | None,
        measure("Plugging timer", q.SECONDS, "t_p", example="0.6 s", help="Where no speed switch stops it."),
    ] = None
    drive_ramp_s: Annotated[
        float | None, measure("Ramp down in", q.SECONDS, "t_d", example="5 s", help="Empty: as asked, or 5 s.")
    ] = None
    bus_v: Annotated[
        float | None,
        measure(
            "Resistor switches in at", q.VOLTAGE, "U_B", example="760 V", help="Bus volts; empty: 1.6 × the line's."
        ),
    ] = None
    drive_least_ohm: Annotated[
        float | None, measure("Drive's least resistor", q.OHMS, "R_min", help="From its maker.")
    ] = None
