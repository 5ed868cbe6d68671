"""What is known or wanted of the devices that guard the circuit. Empty settings are advised ones."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core import quantity as q
from vinegate.core.field import Also, Fact, Facts, choice, field, measure, whole
from vinegate.core.numbers import QuantityError
from vinegate.core.plate.kind import Family
from vinegate.core.protection.device_text import device_of
from vinegate.core.protection.upstream import DeviceCurve, read_device_curve
from vinegate.core.records import replace
from vinegate.core.supply.facts import RESIDUAL_TYPES

DEVICES_NEC: Final = (
    ("time-delay", "time-delay fuse"),
    ("fuse", "fuse without time delay"),
    ("class-cc", "class CC fuse"),
    ("inverse-time", "inverse-time breaker"),
    ("instantaneous", "instantaneous-trip breaker"),
)
DEVICES_IEC: Final = (
    ("gg", "gG fuse"),
    ("am", "aM fuse"),
    ("motor-breaker", "motor-protective breaker"),
    ("mcb-d", "breaker, type D"),
    ("mcb-c", "breaker, type C"),
    ("mcb-b", "breaker, type B"),
)
_NEC_ALSO: Final[Also] = {
    **dict.fromkeys(
        ("breaker", "circuit breaker", "MCCB", "thermal-magnetic", "thermal-magnetic breaker"), "inverse-time"
    ),
    **dict.fromkeys(
        ("dual-element fuse", "dual element", "time-delay fuse, dual-element", "RK5", "class RK5"), "time-delay"
    ),
    **dict.fromkeys(("non-time-delay", "non-time-delay fuse", "one-time fuse", "fast-acting fuse"), "fuse"),
    **dict.fromkeys(("class J", "class RK1", "RK1", "class L"), ("time-delay", "fuse")),
    **dict.fromkeys(("instantaneous breaker", "MCP", "motor circuit protector"), "instantaneous"),
    **dict.fromkeys(("CC", "class CC"), "class-cc"),
}
_IEC_ALSO: Final[Also] = {
    **dict.fromkeys(
        (
            "motor-protective switch",
            "motor circuit breaker",
            "motor protection circuit breaker",
            "motor protection breaker",
            "manual motor starter",
            "MPCB",
        ),
        "motor-breaker",
    ),
    **{
        said.format(one): f"mcb-{one.casefold()}"
        for one in "BCD"
        for said in ("type {}", "MCB type {}", "MCB {}", "curve {}", "{} curve")
    },
    **dict.fromkeys(("gL", "gL fuse"), "gg"),
    **dict.fromkeys(("circuit breaker", "breaker"), ("motor-breaker", "mcb-d", "mcb-c")),
    "MCCB": ("motor-breaker", "mcb-d"),
    "MCB": ("mcb-d", "mcb-c", "mcb-b"),
}
CLASSES: Final = (("5", "5"), ("10A", "10A"), ("10", "10"), ("20", "20"), ("30", "30"), ("40", "40"))
PLACES: Final = (
    ("line", "in the line"),
    ("delta", "inside the delta"),
    ("half", "in each half winding"),
    ("capacitor", "ahead of the motor's capacitors"),
)
HABITS: Final = (("dial", "dial in motor amperes"), ("element", "elements by trip current"))
RESETS: Final = (("manual", "manual"), ("automatic", "automatic"))
NEMA_SIZES: Final = tuple((size, size) for size in ("00", "0", "1", "2", "3", "4", "5", "6", "7", "8", "9"))
_SIZES_ALSO: Final = {
    f"{word} {size}": size for size, _ in NEMA_SIZES for word in ("NEMA", "size", "NEMA size", "NEMA sz", "SZ", "sz.")
}
YES_NO: Final = (("yes", "yes"), ("no", "no"))


def read_rating(text: str) -> float:
    """Amperes of a device. Raises QuantityError; of a text that says more than them it says where that belongs.

    >>> read_rating("50/3"), read_rating("100AF/50AT")
    (50.0, 50.0)
    """
    try:
        return q.DEVICE_CURRENT.read(text)
    except QuantityError:
        said = device_of(text)
        if said is None or not said.rating:
            raise
    apart = [f"{one} under “{label}”" for one, label in
             ((said.kind, "Short-circuit device"), (said.switch, "Disconnect")) if one]  # fmt: skip
    if not apart:
        return q.DEVICE_CURRENT.read(said.rating)
    raise QuantityError(f"“{text.strip()}”: write {said.rating} here, and {', '.join(apart)}.")


class CoilVolts(float):
    """Volts of coils that are said to be of direct current: not the same as others of so many volts."""

    def __eq__(self, other: object) -> bool:
        return isinstance(other, CoilVolts) and float(self) == float(other)

    def __ne__(self, other: object) -> bool:
        return not self == other  # a number's own would look at the volts alone

    __hash__ = float.__hash__


def read_coil(text: str) -> float:
    """Volts of a coil; those of direct current are `CoilVolts`. Raises QuantityError.

    >>> read_coil("120 V 60 Hz"), read_coil("24 VDC"), isinstance(read_coil("24 V d.c."), CoilVolts)
    (120.0, 24.0, True)
    """
    volts = q.COIL_VOLTAGE.read(_V_DIRECT.sub("V dc", text))
    return CoilVolts(volts) if _DIRECT.search(text) else volts


_V_DIRECT: Final = re.compile(r"V\s?d\.?c\.?", re.I)
_DIRECT: Final = re.compile(r"\d\s*(?:V\s?)?d\.?c\b", re.I)


class Protection(Facts):
    """Overload, short-circuit device, disconnect and starter of one circuit."""

    device_nec: str | None = field(
        choice("Short-circuit device", DEVICES_NEC, also=_NEC_ALSO, rules="nec", help="Empty: time-delay fuse.")
    )
    device_iec: str | None = field(
        choice("Short-circuit device", DEVICES_IEC, also=_IEC_ALSO, rules="iec", help="Empty: gG fuse.")
    )
    rating_a: float | None = field(
        replace(
            measure("Device rating", q.DEVICE_CURRENT, "I_n", example="150 A", help="Empty: as advised."),
            read=read_rating,
        )
    )
    exception: str | None = field(
        choice(
            "Why above the usual rating",
            (("start", "it does not hold the start"), ("adjacent", "no such standard rating")),
            rules="nec",
            help="430.52 allows more only where the usual does not let the motor start.",
        )
    )
    halves: str | None = field(
        choice(
            "Devices of a part-winding motor",
            (("each", "one for each half"), ("single", "one for both halves")),
            rules="nec",
            help="430.4; empty: one for each half.",
        )
    )
    drive_input_a: float | None = field(
        measure("Drive's rated input", q.CURRENT, "I_in", example="88 A", help="Rms with harmonics, by its plate.")
    )
    drive_device_a: float | None = field(
        measure(
            "Largest device marked",
            q.DEVICE_CURRENT,
            "I_mk",
            example="125 A",
            help="On drive, starter or overload, by its maker: never above it.",
        )
    )
    listed: str | None = field(
        choice("Listed combination", YES_NO, rules="nec", help="An instantaneous-trip breaker needs one.")
    )
    short_circuit_rating_a: float | None = field(
        measure("Short-circuit rating", q.RATED_FAULT, "I_cc", example="18 kA", help="Marked on the assembly.")
    )
    coordination: str | None = field(
        choice(
            "Coordination",
            (("1", "type 1"), ("2", "type 2")),
            rules="iec",
            help="By the maker's tested combination: type 2 leaves the starter fit for service.",
        )
    )
    holds_s: float | None = field(
        measure(
            "Carries the inrush for",
            q.CARRIED,
            "t_h",
            example="12 s",
            help="Locked-rotor current, at least so long, by its maker's curve.",
        )
    )
    clears_a: float | None = field(
        measure("Surely opens from", q.CURRENT, "I_a", example="900 A", help="Within 5 s, by its maker's curve.")
    )
    let_through_a2s: float | None = field(
        measure(
            "Its let-through I²t",
            q.LET_THROUGH,
            "I²t",
            example="0.2 kA²s",
            help="At the fault at its board, by its maker's curve.",
        )
    )
    residual_a: float | None = field(
        measure("Its residual-current device", q.RESIDUAL_CURRENT, "I_Δn", rules="iec", example="300 mA",
                help="Of this circuit. Empty: the supply's, if there is one.")
    )  # fmt: skip
    residual_type: str | None = field(choice("its type", RESIDUAL_TYPES, rules="iec", help="Behind it a drive: B."))
    upstream: DeviceCurve | None = field(
        Fact(
            label="Curve of the device upstream",
            read=read_device_curve,
            example="amperes, seconds",
            help="Two columns: amperes and its least tripping time in seconds.",
            longest=20000,
        )
    )

    selective_to_a: float | None = field(
        measure("Selective up to", q.FAULT_CURRENT, "I_s", example="4 kA", help="Empty: up to the fault at its board.")
    )
    overload_a: float | None = field(
        measure("Overload set to", q.CURRENT, "I_r", example="92 A", help="Empty: as advised.")
    )
    overload_habit: str | None = field(
        choice("Dial habit", HABITS, rules="nec", help="Empty: the dial, in motor amperes.")
    )
    overload_place: str | None = field(choice("Overload stands", PLACES, help="Empty: in the line."))
    trip_class: str | None = field(
        choice(
            "Trip class",
            CLASSES,
            also={f"{word} {key}": key for key, _ in CLASSES for word in ("class", "CL", "cl.")},
            help="Empty: the quickest that holds the start.",
        )
    )
    element_low_a: float | None = field(
        measure("Its band from", q.CURRENT, "I_1", example="80 A", help="Dial's or element's range.")
    )
    element_high_a: float | None = field(measure("Its band to", q.CURRENT, "I_2", example="104 A"))
    compensated: str | None = field(
        choice("Ambient compensated", YES_NO, help="Empty: yes. If not, give both ambients.")
    )
    relay_ambient_c: float | None = field(
        measure("Ambient at the overload", q.AMBIENT, "θ_r", example="50 °C", help="Empty: 40 °C.")
    )
    motor_ambient_c: float | None = field(
        measure("Ambient at the motor", q.AMBIENT, "θ_m", example="30 °C", help="Empty: 40 °C.")
    )
    reset: str | None = field(choice("Reset", RESETS, help="Empty: manual."))
    overspeed: str | None = field(
        choice(
            "Kept from overspeeding",
            YES_NO,
            families=(Family.DC,),
            help="By loss of field, a speed switch, or a load that a series machine cannot lose.",
        )
    )
    restart_harmless: str | None = field(
        choice("Unexpected restart harmless", YES_NO, help="Only where nobody can be hurt by the driven machine.")
    )
    thermistor: str | None = field(
        choice("Thermistors in the winding", YES_NO, help="Beside the overload; from a drive instead of it.")
    )
    motor_capacitor: float | None = field(
        measure("Capacitors at the motor", q.REACTIVE_POWER, "Q_M", help="Switched with it, behind the overload.")
    )

    disconnect_a: float | None = field(
        measure("Disconnect rating", q.SWITCH_CURRENT, "I_d", example="200 A", help="Empty: as advised.")
    )
    in_sight: str | None = field(choice("In sight of the motor", YES_NO))
    lockable: str | None = field(choice("Lockable open", YES_NO))

    starter_size: str | None = field(
        choice("Starter size, NEMA", NEMA_SIZES, also=_SIZES_ALSO, rules="nec", help="Empty: as advised.")
    )
    contactor_a: float | None = field(
        measure("Contactor, AC-3", q.DEVICE_CURRENT, "I_e", rules="iec", example="95 A", help="Empty: as advised.")
    )
    contactor_volts_v: float | None = field(
        measure("AC-3 amperes are for", q.VOLTAGE, "U_e", rules="iec", example="690 V", help="Empty: 400 V.")
    )
    electronic_a: float | None = field(
        measure("Soft starter or drive", q.CURRENT, "I_e", example="105 A", help="Rated for this start, by its maker.")
    )
    jogging: str | None = field(
        choice("Jogs or plugs", YES_NO, help="Repeatedly: more than five times a minute, or ten in ten.")
    )
    coil_v: float | None = field(
        replace(measure("Coil volts", q.COIL_VOLTAGE, "U_c", example="120 V or 24 VDC"), read=read_coil)
    )
    signals: int | None = field(
        whole("Signals wanted", 0, 12, symbol="n_s", example="2", help="Lamps and contacts to a controller.")
    )
