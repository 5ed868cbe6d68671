"""What was found where the motor stands: one part of the facts for each form that is filled in there."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, field, measure, words
from vinegate.core.record import quantities as read

DONE: Final = (("done", "done, and right"), ("wrong", "not right"), ("none", "not asked here"))


def _line(label: str, why: str = "") -> str | None:
    """One line of the checklist."""
    found: str | None = field(choice(label, DONE, help=why))
    return found


class Taken(Facts):
    """Base of every form: with what, when and by whom. Not measured and not known stay apart by the note."""

    instrument: str | None = field(
        words("Instrument", 120, help="Kind, range, serial number and the date it was calibrated.")
    )
    note: str | None = field(words("Note", 300, help="What was seen; what could not be measured, and why."))
    taken: str | None = field(words("Taken", 120, help="When and by whom; filled in by the program."))
    simulated: str | None = field(choice("From the simulated bench", (("yes", "yes"),)))


class Before(Taken):
    """Before it is energised: each line asked, and found."""

    locked_out: str | None = _line("Locked out and proved dead", "Tester proved, circuit tested, tester proved again.")
    plate: str | None = _line("Plate is the plan's")
    links: str | None = _line("Links set for the volts here", "By the motor's own diagram; a photo of them.")
    unused_leads: str | None = _line("Unused leads insulated singly")
    conductors: str | None = _line("Conductors and lugs as planned", "Size, and torque of the lugs.")
    grounding: str | None = _line("Protective conductor continuous", "0.1 Ω at most over the run here is usual.")
    device: str | None = _line("Device of type, rating and breaking capacity planned")
    control: str | None = _line("Control volts and transformer taps")
    interlocks: str | None = _line("Interlocks tried, motor leads off", "By the control circuit's list.")
    stop: str | None = _line("Stop and emergency stop tried")
    guards: str | None = _line("Guards in place")
    coupling: str | None = _line("Coupling or belts", "Alignment, tension, soft foot 0.05 mm or 2 mil at most.")
    bearings: str | None = _line("Grease or oil, drain plugs, end play")
    heater: str | None = _line("Space heater and thermistors", "Thermistors shorted together, never above 2.5 V.")
    air: str | None = _line("Room for its cooling air")
    drive_off: str | None = _line("Drive's leads off for the insulation test")
    run: str | None = field(
        words(
            "Run of the control circuit",
            1500,
            help="The drawing's own run that was tried at the panel, as its sheet writes it.",
        )
    )


class Installed(Taken):
    """The new motor put in: the replacement's own steps, each with how it was found, as they stood that day."""

    steps: str | None = field(
        Fact(
            label="Steps",
            read=str.strip,
            longest=6000,
            help="Each step of the replacement's list, and how it was found.",
        )
    )


def steps_in(text: str) -> tuple[tuple[str, str], ...]:
    """Each step as kept: how it was found, and its words.

    >>> steps_in("done: Lock out.\\nwrong: Align it.")
    (('done', 'Lock out.'), ('wrong', 'Align it.'))
    """
    lines = (line.partition(": ") for line in text.splitlines())
    return tuple((said, words_) for said, _, words_ in lines if said in dict(DONE) and words_)


class Insulation(Taken):
    """Insulation to ground, and the winding's resistance between leads."""

    test_v: float | None = field(measure("Test voltage, direct", q.DIRECT_VOLTS, "U_t"))
    r1_ohm: float | None = field(measure("After one minute", read.INSULATION, "R_1"))
    r10_ohm: float | None = field(measure("After ten minutes", read.INSULATION, "R_10", example="1.6 GΩ"))
    winding_at_c: float | None = field(measure("Winding at", q.TEMPERATURE, "θ", example="22 °C"))
    winding: str | None = field(
        choice("Winding", (("random", "random wound, or form wound below 1 kV"), ("form", "form wound, 1 kV and above"),
                           ("old", "wound before 1970, or a field coil"), ("dc", "direct-current armature")))
    )  # fmt: skip
    system: str | None = field(
        choice("Its insulation", (("thermosetting", "thermosetting (resin)"), ("thermoplastic", "thermoplastic")))
    )
    r12_ohm: float | None = field(measure("Between leads 1 and 2", q.OHMS, "R_12", example="0.118 Ω"))
    r23_ohm: float | None = field(measure("Between leads 2 and 3", q.OHMS, "R_23", example="0.118 Ω"))
    r31_ohm: float | None = field(measure("Between leads 3 and 1", q.OHMS, "R_31", example="0.119 Ω"))


class Rotation(Taken):
    """Which way round: only the bump of the uncoupled motor decides."""

    sequence: str | None = field(
        choice("Phases at the disconnect", (("123", "1-2-3, forward"), ("132", "1-3-2, backward")))
    )
    wanted: str | None = field(
        choice("Wanted at the shaft end", (("clockwise", "clockwise"), ("counter", "counter-clockwise")))
    )
    seen: str | None = field(
        choice("Seen when bumped, uncoupled", (("clockwise", "clockwise"), ("counter", "counter-clockwise")))
    )


class Starting(Taken):
    """One start, as meters or a recorder had it."""

    before_v: float | None = field(measure("Volts before", read.READ_VOLTS, "U_0", help="Line to line, mean of three."))
    least_v: float | None = field(measure("Least volts", read.READ_VOLTS, "U_min", example="437 V"))
    peak_a: float | None = field(measure("First peak, instantaneous", read.READ_AMPS, "Î", example="905 A"))
    plateau_a: float | None = field(
        measure("Held while starting", read.READ_AMPS, "I_st", help="True rms once the first cycles are over.")
    )
    time_s: float | None = field(measure("Time to speed", q.SECONDS, "t_st", example="5.9 s"))
    changeover_s: float | None = field(measure("Changed over at", q.SECONDS, "t_co", example="4.2 s"))
    rate: str | None = field(
        choice("Current read", (("waveform", "as a waveform"), ("fast", "50 times a second or more"),
                        ("slow", "once a second or so"), ("eye", "by eye, from a pointer or display")))
    )  # fmt: skip


class Running(Taken):
    """Running, at the load that is said."""

    u12_v: float | None = field(measure("Volts 1-2", read.READ_VOLTS, "U_12"))
    u23_v: float | None = field(measure("Volts 2-3", read.READ_VOLTS, "U_23"))
    u31_v: float | None = field(measure("Volts 3-1", read.READ_VOLTS, "U_31"))
    i1_a: float | None = field(measure("Amperes 1", read.READ_AMPS, "I_1"))
    i2_a: float | None = field(measure("Amperes 2", read.READ_AMPS, "I_2"))
    i3_a: float | None = field(measure("Amperes 3", read.READ_AMPS, "I_3"))
    power_w: float | None = field(measure("Power from the line", read.READ_POWER, "P_in"))
    factor_pu: float | None = field(measure("Power factor", q.POWER_FACTOR, "φ_in", help="Empty where power is read."))
    hertz: float | None = field(measure("Frequency", q.FREQUENCY, "f", help="Behind a drive: of its output."))
    speed_rpm: float | None = field(measure("Speed", q.SPEED, "n"))
    at_load: str | None = field(
        choice("Load", (("full", "its usual full load"), ("part", "part of it"), ("none", "uncoupled or idling")))
    )
    state: str | None = field(words("State of the load", 160, example="valve full open, head 14 m"))


VOLTS: Final = ("u12_v", "u23_v", "u31_v")
AMPS: Final = ("i1_a", "i2_a", "i3_a")


def three(form: Running, names: Sequence[str]) -> tuple[float, float, float] | None:
    """Three readings, where all are there and not nought."""
    values = [getattr(form, name) for name in names]
    if any(value is None for value in values) or not any(values):
        return None
    return values[0], values[1], values[2]


class Condition(Taken):
    """Warm, vibrating: after it has run long enough to settle."""

    drive_end_c: float | None = field(measure("Bearing, drive end", q.TEMPERATURE, "θ_DE", example="62 °C"))
    other_end_c: float | None = field(measure("Bearing, other end", q.TEMPERATURE, "θ_NDE", example="58 °C"))
    ambient_c: float | None = field(measure("Air temperature", q.AMBIENT, "θ_a", example="24 °C"))
    hot_ohm: float | None = field(measure("Winding, hot", q.OHMS, "R_2", help="At once after switching off."))
    cold_ohm: float | None = field(measure("Winding, cold", q.OHMS, "R_1c"))
    cold_at_c: float | None = field(measure("Cold at", q.AMBIENT, "θ_1", example="22 °C"))
    support: str | None = field(choice("It stands", (("rigid", "rigidly"), ("flexible", "on springs or a frame"))))
    vibration_h_ms: float | None = field(measure("Drive end, across", read.VIBRATION, "v_h"))
    vibration_v_ms: float | None = field(measure("Drive end, upright", read.VIBRATION, "v_v"))
    vibration_a_ms: float | None = field(measure("Drive end, along", read.VIBRATION, "v_a"))
    vibration_oh_ms: float | None = field(measure("Other end, across", read.VIBRATION, "w_h"))
    vibration_ov_ms: float | None = field(measure("Other end, upright", read.VIBRATION, "w_v"))


class AsSet(Taken):
    """What stands on the dials."""

    overload_a: float | None = field(measure("Overload, dial", q.CURRENT, "I_set", example="92 A"))
    trip_class: str | None = field(
        choice("Overload, class", tuple((one, one) for one in ("5", "10A", "10", "20", "30", "40")))
    )
    tested: str | None = field(choice("Overload trips by its test button", (("yes", "yes"), ("no", "no"))))
    instantaneous_a: float | None = field(measure("Instantaneous trip", q.CURRENT, "I_i", example="1100 A"))
    device_a: float | None = field(measure("Fuse or breaker, rating", q.CURRENT, "I_n", example="150 A"))
    changeover_s: float | None = field(measure("Change-over timer", q.SECONDS, "t_set", example="4 s"))


FORMS: Final[dict[str, type[Taken]]] = {
    "record_install": Installed,
    "record_before": Before,
    "record_insulation": Insulation,
    "record_rotation": Rotation,
    "record_set": AsSet,
    "record_start": Starting,
    "record_running": Running,
    "record_condition": Condition,
}
"""Keys of the forms in the order of the work, to their facts."""

TITLES: Final[dict[str, str]] = {
    "record_install": "Installing the new motor",
    "record_before": "Before it is energised",
    "record_insulation": "Insulation and winding",
    "record_rotation": "Rotation",
    "record_set": "As set",
    "record_start": "A start",
    "record_running": "Running",
    "record_condition": "Temperature and vibration",
}

INSTALL: Final = "record_install"
ASKED: Final = tuple(key for key in FORMS if key != INSTALL)
"""Forms that every circuit is asked for; the installing is only where a motor is replaced."""

OF_FORM: Final = ("instrument", "note", "taken", "simulated")
"""Fields every form has beside its readings."""

RETEST_DAYS: Final = {"record_insulation": 365, "record_running": 365, "record_condition": 91}
"""When a form is due again: usual of motors that matter; the works' own maintenance plan counts."""
