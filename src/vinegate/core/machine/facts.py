"""What is known of the machine beyond its plate: torques, inertia, stall time, a circuit, or the usual tests."""

from __future__ import annotations

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, field, measure
from vinegate.core.machine.maker_curve import MakerCurve, read_curve
from vinegate.core.plate.kind import INDUCTION


class MachineFacts(Facts):
    """From a data sheet or a test report. Every field may be missing."""

    locked_rotor_torque_pu: float | None = field(
        measure(
            "Locked-rotor torque",
            q.TORQUE_RATIO,
            "T_LR",
            families=INDUCTION,
            label_iec="Starting torque",
            help="Of rated torque.",
        )
    )
    pull_up_torque_pu: float | None = field(
        measure(
            "Pull-up torque",
            q.TORQUE_RATIO,
            "T_u",
            families=INDUCTION,
            help="Of rated torque: the least on the way up.",
        )
    )
    breakdown_torque_pu: float | None = field(
        measure("Breakdown torque", q.TORQUE_RATIO, "T_bd", families=INDUCTION, help="Of rated torque.")
    )
    inertia_kgm2: float | None = field(measure("Rotor inertia", q.INERTIA, "J_m", help="Estimated where it is empty."))
    load_inertia_kgm2: float | None = field(
        measure("Load inertia allowed", q.INERTIA, "J_max", help="At its shaft, by its maker; empty: the standard's.")
    )
    starts_per_hour: float | None = field(
        measure("Starts an hour allowed", q.COUNT_PER_HOUR, "N_max", families=INDUCTION,
                help="At full voltage with that inertia, by its maker.")
    )  # fmt: skip
    stall_hot_s: float | None = field(
        measure(
            "Safe stall time, hot",
            q.DURATION,
            "t_hot",
            families=INDUCTION,
            help="At locked-rotor current, from hot.",
        )
    )
    stall_cold_s: float | None = field(
        measure("Safe stall time, cold", q.DURATION, "t_cold", families=INDUCTION, help="The same, from cold.")
    )
    r1_ohm: float | None = field(measure("Stator resistance", q.OHMS, "R_1", help="Per phase of the wye."))
    x1_ohm: float | None = field(measure("Stator leakage", q.OHMS, "X_1"))
    xm_ohm: float | None = field(measure("Magnetising", q.OHMS, "X_m"))
    rfe_ohm: float | None = field(measure("Core resistance", q.OHMS, "R_fe", help="Empty: core loss is left out."))
    r2_ohm: float | None = field(measure("Rotor resistance", q.OHMS, "R_2", help="Referred to the stator."))
    x2_ohm: float | None = field(measure("Rotor leakage", q.OHMS, "X_2"))
    dc_resistance_ohm: float | None = field(
        measure(
            "DC test: between two leads",
            q.OHMS,
            "R_dc",
            help="At running temperature. Used alone too: stator loss, braking current's volts.",
        )
    )
    no_load_volts_v: float | None = field(measure("No-load test: volts", q.TEST_VOLTAGE, "U_0"))
    no_load_current_a: float | None = field(measure("No-load amperes", q.CURRENT, "I_0"))
    no_load_power_w: float | None = field(measure("No-load power", q.TEST_POWER, "P_0"))
    friction_w: float | None = field(
        measure(
            "Friction and windage", q.TEST_POWER, "P_fw", help="From no load at several volts; empty: with the core's."
        )
    )
    locked_volts_v: float | None = field(measure("Locked-rotor test: volts", q.TEST_VOLTAGE, "U_L"))
    locked_current_a: float | None = field(measure("Locked-rotor test amperes", q.CURRENT, "I_L"))
    locked_power_w: float | None = field(measure("Locked-rotor test power", q.TEST_POWER, "P_L"))
    locked_frequency_hz: float | None = field(
        measure("Locked-rotor test frequency", q.FREQUENCY, "f_L", example="15 Hz", help="A quarter of rated is usual.")
    )
    curve: MakerCurve | None = field(
        Fact(
            label="Maker's curve",
            read=read_curve,
            help="CSV at plate volts: speed_rpm, torque_nm, current_a, power_factor. It replaces the fitted curve.",
            example="speed_rpm, torque_nm, current_a",
            longest=20000,
        )
    )
    armature_resistance_ohm: float | None = field(
        measure("Armature resistance", q.OHMS, "R_a", help="DC: brushes and series windings included; warm.")
    )
