"""What is known of the machine beyond its plate: torques, inertia, stall time, a circuit, or the usual tests."""

from __future__ import annotations

from typing import Annotated

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, measure
from vinegate.core.machine.maker_curve import MakerCurve, read_curve


class MachineFacts(Facts):
    """From a data sheet or a test report. Every field may be missing."""

    locked_rotor_torque_pu: Annotated[
        float | None,
        measure("Locked-rotor torque", q.TORQUE_RATIO, "T_LR", label_iec="Starting torque", help="Of rated torque."),
    ] = None
    pull_up_torque_pu: Annotated[
        float | None,
        measure("Pull-up torque", q.TORQUE_RATIO, "T_u", help="Of rated torque: the least on the way up."),
    ] = None
    breakdown_torque_pu: Annotated[
        float | None, measure("Breakdown torque", q.TORQUE_RATIO, "T_bd", help="Of rated torque.")
    ] = None
    inertia_kgm2: Annotated[
        float | None, measure("Rotor inertia", q.INERTIA, "J_m", help="Estimated where it is empty.")
    ] = None
    stall_hot_s: Annotated[
        float | None, measure("Safe stall time, hot", q.DURATION, "t_hot", help="At locked-rotor current, from hot.")
    ] = None
    stall_cold_s: Annotated[
        float | None, measure("Safe stall time, cold", q.DURATION, "t_cold", help="The same, from cold.")
    ] = None
    r1_ohm: Annotated[float | None, measure("Stator resistance", q.OHMS, "R_1", help="Per phase of the wye.")] = None
    x1_ohm: Annotated[float | None, measure("Stator leakage", q.OHMS, "X_1")] = None
    xm_ohm: Annotated[float | None, measure("Magnetising", q.OHMS, "X_m")] = None
    rfe_ohm: Annotated[
        float | None, measure("Core resistance", q.OHMS, "R_fe", help="Empty: core loss is left out.")
    ] = None
    r2_ohm: Annotated[float | None, measure("Rotor resistance", q.OHMS, "R_2", help="Referred to the stator.")] = None
    x2_ohm: Annotated[float | None, measure("Rotor leakage", q.OHMS, "X_2")] = None
    dc_resistance_ohm: Annotated[
        float | None,
        measure(
            "DC test: between two leads",
            q.OHMS,
            "R_dc",
            help="At running temperature. Used alone too: stator loss, braking current's volts.",
        ),
    ] = None
    no_load_volts_v: Annotated[float | None, measure("No-load test: volts", q.TEST_VOLTAGE, "U_0")] = None
    no_load_current_a: Annotated[float | None, measure("No-load amperes", q.CURRENT, "I_0")] = None
    no_load_power_w: Annotated[float | None, measure("No-load power", q.TEST_POWER, "P_0")] = None
    friction_w: Annotated[
        float | None,
        measure(
            "Friction and windage", q.TEST_POWER, "P_fw", help="From no load at several volts; empty: with the core's."
        ),
    ] = None
    locked_volts_v: Annotated[float | None, measure("Locked-rotor test: volts", q.TEST_VOLTAGE, "U_L")] = None
    locked_current_a: Annotated[float | None, measure("Locked-rotor test amperes", q.CURRENT, "I_L")] = None
    locked_power_w: Annotated[float | None, measure("Locked-rotor test power", q.TEST_POWER, "P_L")] = None
    locked_frequency_hz: Annotated[
        float | None,
        measure(
            "Locked-rotor test frequency", q.FREQUENCY, "f_L", example="15 Hz", help="A quarter of rated is usual."
        ),
    ] = None
    curve: Annotated[
        MakerCurve | None,
        Fact(
            label="Maker's curve",
            read=read_curve,
            help="CSV at plate volts: speed_rpm, torque_nm, current_a, power_factor. It replaces the fitted curve.",
            example="speed_rpm, torque_nm, current_a",
            longest=20000,
        ),
    ] = None
    armature_resistance_ohm: Annotated[
        float | None,
        measure("Armature resistance", q.OHMS, "R_a", help="DC: brushes and series windings included; warm."),
    ] = None
