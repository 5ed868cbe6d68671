"""What a drive is chosen by: where it runs, the motor's fitness for it, the drive's own plate, its lead, its wishes."""

from __future__ import annotations

from typing import Final

from vinegate.core import quantity as q
from vinegate.core.drive import quantities as d
from vinegate.core.drive.made import CarrierPoints, LossPoints, read_carrier_points, read_loss_points
from vinegate.core.drive.points import (
    OperatingPoints,
    Speed,
    read_cycle,
    read_operating_points,
    read_speed,
    read_speeds,
)
from vinegate.core.field import Also, Fact, Facts, choice, field, measure, whole

_YES_NO: Final = (("yes", "yes"), ("no", "no"))
COOLINGS: Final = (
    ("fan", "own fan"),
    ("blower", "own blower"),
    ("none", "none, by its surface"),
    ("open", "open, own fan"),
    ("oil", "oil-filled"),
    ("liquid", "liquid"),
    ("submerged", "submersible, by its water"),
)
COOLINGS_ALSO: Final = {
    "IC411": "fan", "TEFC": "fan", "fan-cooled": "fan", "self-ventilated": "fan", "shaft-mounted fan": "fan",
    "IC416": "blower", "TEBC": "blower", "forced ventilation": "blower", "separately ventilated": "blower",
    "IC410": "none", "TENV": "none", "non-ventilated": "none", "IC01": "open", "ODP": "open", "DP": "open",
    "IC71W": "liquid", "water": "liquid", "water-cooled": "liquid", "water jacket": "liquid",
    "submersible": "submerged", "submersible pump": "submerged", "borehole": "submerged", "well": "submerged",
}  # fmt: skip
"""By the codes of IEC 60034-6 and of NEMA, and as people say it."""
WINDINGS: Final = (
    ("general", "general purpose"),
    ("mg1-31", "MG 1 part 31"),
    ("ivic-a", "IVIC A"),
    ("ivic-b", "IVIC B"),
    ("ivic-c", "IVIC C"),
    ("ivic-d", "IVIC D"),
)
FRONT_ENDS: Final = (
    ("6", "six-pulse"),
    ("6-back", "six-pulse, returns"),
    ("12", "twelve-pulse"),
    ("18", "eighteen-pulse"),
    ("active", "active"),
)
FRONT_ENDS_ALSO: Final[Also] = {
    **dict.fromkeys(("6-pulse", "diode", "diode bridge", "diode rectifier"), "6"), "12-pulse": "12", "18-pulse": "18",
    **dict.fromkeys(("AFE", "active front end"), "active"), "regenerative": ("6-back", "active"),
}  # fmt: skip
TWO_LINES: Final = "1"
LINE_AND_NEUTRAL: Final = "n"
INPUTS: Final = (
    ("3", "three-phase"),
    (TWO_LINES, "single-phase, two lines"),
    (LINE_AND_NEUTRAL, "single-phase, line and neutral"),
)
INPUTS_ALSO: Final[Also] = {
    **dict.fromkeys(("3-phase", "3 ph", "3Ø", "3~", "three"), "3"), "single-phase": TWO_LINES,
    **dict.fromkeys(("1-phase", "1 ph", "1Ø", "1~", "single", "one phase"), (TWO_LINES, LINE_AND_NEUTRAL)),
    **dict.fromkeys(("L-L", "line to line", "between lines"), TWO_LINES),
    **dict.fromkeys(("L-N", "L/N", "1/N", "1N", "line to neutral", "to neutral"), LINE_AND_NEUTRAL),
}  # fmt: skip
CHOKES: Final = (("none", "none"), ("ac", "ahead, ac"), ("dc", "in the dc bus"))
CHOKES_ALSO: Final[Also] = {
    **dict.fromkeys(("DC choke", "DC link choke", "DC reactor", "bus choke"), "dc"),
    **dict.fromkeys(("AC choke", "AC reactor", "line choke", "line reactor", "input reactor"), "ac"),
}
FILTERS_ALSO: Final[Also] = {
    **dict.fromkeys(("sinus", "sinus filter", "sine-wave filter", "LC", "LC filter"), "sine"),
    **dict.fromkeys(("load reactor", "motor choke", "output choke"), "output-reactor"),
    **dict.fromkeys(("du/dt", "du/dt filter"), "dvdt"),
}
FILTERS: Final = (
    ("none", "none"),
    ("output-reactor", "output reactor"),
    ("dvdt", "dv/dt filter"),
    ("sine", "sine filter"),
    ("terminator", "terminator at the motor"),
)
DUTIES_ALSO: Final[Also] = {
    **dict.fromkeys(("ND", "light", "light duty", "VT", "variable torque"), "normal"),
    **dict.fromkeys(("HD", "CT", "constant torque"), "heavy"),
}
CONTROLS: Final = (
    ("scalar", "scalar, V/Hz"),
    ("sensorless", "vector, no encoder"),
    ("encoder", "vector, encoder"),
)
CONTROLS_ALSO: Final[Also] = {
    **dict.fromkeys(("V/f", "U/f", "volts per hertz"), "scalar"),
    **dict.fromkeys(("sensorless", "sensorless vector", "SVC", "open-loop vector"), "sensorless"),
    **dict.fromkeys(("closed loop", "closed-loop vector", "vector with encoder"), "encoder"),
}
CURVES: Final = (("linear", "straight"), ("square", "square"))
CONTROLLED: Final = (
    ("none", "full speed always"),
    ("throttle", "throttle valve"),
    ("damper", "outlet damper"),
    ("vanes", "inlet vanes"),
    ("bypass", "by-pass"),
    ("on-off", "on and off"),
)


def _speed(label: str, symbol: str, example: str, about: str) -> Fact:
    return Fact(label=label, read=read_speed, symbol=symbol, example=example, help=about, unit=d.TURNING.unit)


class Drive(Facts):
    """Every field may be missing; what lacks is named. Speeds are the motor shaft's."""

    points: OperatingPoints | None = field(
        Fact(
            label="Operating points",
            read=read_operating_points,
            example="100 %; ; 1900\n80 %; ; 3400\n60 %; ; 2100",
            help="A row each: speed; torque or power at the motor, empty by the load's curve; hours a year.",
            longest=2000,
        )
    )
    cycle: OperatingPoints | None = field(
        Fact(
            label="Repeated cycle",
            read=read_cycle,
            example="100 %; 160 %; 20\n30 %; 40 %; 100",
            help="A row each: speed; torque or power at the motor; seconds. Empty: each point for ever.",
            longest=2000,
        )
    )
    least: Speed | None = field(_speed("Least speed", "n_min", "20 Hz", "While it works: hertz, rpm or per cent."))
    most: Speed | None = field(_speed("Greatest speed", "n_max", "2955 rpm", "The same; of the motor's shaft."))
    heaviest_pu: float | None = field(
        measure("Heaviest load", d.OVERLOAD, "k_h", example="120 %", help="Of that asked; empty: 100 %.")
    )
    cooling: str | None = field(
        choice("Motor cooled by", COOLINGS, also=COOLINGS_ALSO, help="Empty: by the plate's code, else own fan.")
    )
    winding: str | None = field(
        choice("Winding made for", WINDINGS, help="Its maker's statement: MG 1 30 or 31, IEC 60034-18-41.")
    )
    peak_v: float | None = field(
        measure("or bears a peak of", d.PEAK, "Û_w", help="Peak at its terminals, by its maker.")
    )
    full_torque_hz: float | None = field(
        measure("Full torque from", d.OUTPUT, "f_c", example="6 Hz", help="By its plate: 10:1 at 60 Hz is 6 Hz.")
    )
    mechanical_rpm: float | None = field(
        measure("Greatest safe speed", d.TURNING, "n_mech", example="4500 rpm", help="By plate or maker.")
    )
    fast: str | None = field(
        choice("So fast by its maker", _YES_NO, help="Base frequency above the plate's: its core and fan bear it.")
    )
    encoder: str | None = field(choice("Encoder", _YES_NO))
    speed_aware: str | None = field(
        choice("Overload by speed", _YES_NO, help="Its motor overload knows the speed and keeps memory.")
    )
    bearings: str | None = field(
        choice("Bearing currents", (("none", "nothing"), ("insulated", "one insulated"), ("ring", "shaft ring"),
               ("both", "both and a filter")))
    )  # fmt: skip
    rated_a: float | None = field(measure("Rated, normal", q.CURRENT, "I_D", example="61 A"))
    heavy_a: float | None = field(measure("Rated, heavy", q.CURRENT, "I_H", example="52 A"))
    overload_pu: float | None = field(measure("Overload, normal", d.OVERLOAD, "o", example="110 %"))
    heavy_overload_pu: float | None = field(measure("Overload, heavy", d.OVERLOAD, "o_H", example="150 %"))
    overload_time_s: float | None = field(measure("Overload for", q.DURATION, "t_o", example="60 s"))
    period_s: float | None = field(measure("Overload, once in", q.DURATION, "t_p", example="600 s"))
    duty: str | None = field(
        choice("Duty class", (("normal", "normal"), ("heavy", "heavy")), also=DUTIES_ALSO, help="Empty: by the load.")
    )
    phases: str | None = field(choice("Drive's input", INPUTS, also=INPUTS_ALSO))
    single_phase_a: float | None = field(
        measure("Output on one phase", q.CURRENT, "I_1ph", help="By its maker; empty: about half is taken.")
    )
    front_end: str | None = field(
        choice(
            "Front end",
            FRONT_ENDS,
            also=FRONT_ENDS_ALSO,
            help="Empty: six-pulse. Returns: with a bridge that feeds back.",
        )
    )
    choke: str | None = field(choice("Choke", CHOKES, also=CHOKES_ALSO))
    choke_size_pu: float | None = field(
        measure("Choke's size", d.REACTANCE, "x_c", help="On the drive's own rating. Empty: 3 %, of 2 to 5 %.")
    )
    carrier_hz: float | None = field(measure("Carrier", d.CARRIER, "f_c"))
    carrier_rated_hz: float | None = field(
        measure("Rated up to", d.CARRIER, "f_c0", help="Carrier up to which its amperes hold, by its maker.")
    )
    carrier_points: CarrierPoints | None = field(
        Fact(
            label="Amperes by carrier",
            read=read_carrier_points,
            example="4 kHz; 61 A\n8 kHz; 52 A",
            help="A row each, rising, by its maker; past the last nothing is promised.",
            longest=500,
        )
    )
    ambient_rated_c: float | None = field(
        measure("Rated in air of", q.AMBIENT, "θ_D", help="Warmest air its amperes are for; empty: 40 °C.")
    )
    output_most_hz: float | None = field(measure("Greatest output", d.OUTPUT, "f_max", example="100 Hz"))
    loss_w: float | None = field(measure("Loss at rating", d.LOSS, "P_D", help="By its maker, at rated output."))
    loss_points: LossPoints | None = field(
        Fact(
            label="Loss points",
            read=read_loss_points,
            example="90; 100; 1900\n50; 50; 900\n0; 25; 500",
            help="A row each: per cent of frequency, of torque current, watts (IEC 61800-9-2).",
            longest=800,
        )
    )
    capacity: float | None = field(measure("Bus capacitance", d.CAPACITY, "C"))
    discharge_s: float | None = field(
        measure("Bus discharged in", q.STRETCH, "t_dis", example="5 min", help="From the drive's own plate.")
    )
    control: str | None = field(choice("Control", CONTROLS, also=CONTROLS_ALSO, help="Empty: the least that does."))
    curve: str | None = field(choice("Volts by frequency", CURVES, help="Scalar control; empty: straight."))
    boost_pu: float | None = field(
        measure("Boost", q.MARGIN, "u_b", example="4 %", help="Of plate volts, at rest; empty: made to fit.")
    )
    base_hz: float | None = field(
        measure("Base frequency", d.OUTPUT, "f_b", example="87 Hz", help="Where the volts end; empty: the plate's.")
    )
    lead_m: float | None = field(measure("Lead to the motor", q.LENGTH, "l", help="Empty: the run's length."))
    lead_kind: str | None = field(
        choice("Lead", (("screened", "symmetric screen"), ("armoured", "armored"), ("single", "single wires")))
    )
    rise_s: float | None = field(measure("Pulse rise", d.RISE, "t_r", help="Of the drive; empty: 0.05 to 0.2 µs."))
    emc: str | None = field(
        choice("EMC category", (("c1", "C1"), ("c2", "C2"), ("c3", "C3"), ("c4", "C4")), help="IEC 61800-3, as stated.")
    )
    filter: str | None = field(choice("At its output", FILTERS, also=FILTERS_ALSO))
    contactor: str | None = field(
        choice("Contactor in it", (("none", "none"), ("blocked", "drive off first"), ("free", "opens freely")))
    )  # fmt: skip
    motors: int | None = field(whole("Motors on it", 1, 60, example="3", help="Alike, at the same frequency."))
    own_overloads: str | None = field(choice("Own overloads", _YES_NO))
    joins: str | None = field(choice("One joins running", _YES_NO))
    reserve_a: float | None = field(
        measure("Instantaneous limit", q.CURRENT, "I_max", help="By its maker; empty: 1.5 to 2 × its rating.")
    )
    coupling_fault_a: float | None = field(
        measure("Fault at coupling", q.FAULT_CURRENT, "I_sc", help="Where the public supply serves others.")
    )
    coupling_load_a: float | None = field(
        measure("Demand there", q.CURRENT, "I_L", help="Greatest monthly demand, at this circuit's volts.")
    )
    others_a: float | None = field(
        measure("Other drives there", q.CURRENT, "ΣI", help="Fundamental input amperes of other six-pulse drives.")
    )
    capacitors: float | None = field(
        measure(
            "Capacitors on it",
            q.REACTIVE_POWER,
            "Q_c",
            help="Without reactors: 0 where they have some. Empty: as on the supply sheet.",
        )
    )
    rounding_s: float | None = field(measure("S ramp, rounding", q.SECONDS, "t_j", example="2 s", help="Each end."))
    stop_mode: str | None = field(
        choice("Stops by", (("coast", "coasting"), ("ramp", "a ramp, then off"), ("hold", "a ramp, and holds")))
    )
    power_back: str | None = field(choice("Power returns", (("wait", "waits"), ("auto", "starts itself"))))
    catches: str | None = field(choice("Catches it turning", _YES_NO))
    outage_s: float | None = field(measure("Outage to ride", q.SECONDS, "t_out", example="2 s"))
    kinetic: str | None = field(
        choice("Load feeds its bus", _YES_NO, help="In an outage the drive brakes just enough to keep its bus up.")
    )
    control_held: str | None = field(
        choice("Control power", (("line", "from the line"), ("held", "held, buffered")),
               help="Contactors, run command and reference: held by a battery, dc or off-delay, or gone with the line.")
    )  # fmt: skip
    windmills: str | None = field(choice("Turned by its medium", _YES_NO, help="Wind, gravity, back flow: either way."))
    reference_lost: str | None = field(
        choice("Reference lost", (("stop", "stops"), ("last", "keeps its speed"), ("preset", "goes to a preset")))
    )
    skip: tuple[Speed, ...] | None = field(
        Fact(label="Speeds to avoid", read=read_speeds, example="1180, 1720", help="Resonances: rpm or hertz, listed.")
    )
    now: str | None = field(choice("Flow set now by", CONTROLLED, help="What the drive is compared with."))
    cost: float | None = field(measure("Cost of the drive", d.COST, "K", help="Above what it replaces."))
    coupled: str | None = field(
        choice("While it is tuned", (("coupled", "load coupled"), ("free", "shaft free")), help="Autotune.")
    )
    tuned_r_ohm: float | None = field(measure("Found resistance", q.OHMS, "R_s", help="Phase of the wye, with lead."))
    tuned_leak: float | None = field(measure("Found leakage", d.HENRY, "L_σ", help="Phase of the wye."))
    tuned_idle_a: float | None = field(measure("Found no-load", q.CURRENT, "I_0"))
    tuned_rotor_s: float | None = field(measure("Found rotor time", q.SECONDS, "T_r", example="0.35 s"))
    tuned_at_c: float | None = field(measure("Winding then at", q.CONDUCTOR_TEMPERATURE, "θ_s", example="25 °C"))

    @property
    def one_phase(self) -> bool:
        """Whether its input is one phase: two lines, or a line and neutral."""
        return self.phases in (TWO_LINES, LINE_AND_NEUTRAL)

    @property
    def feeds_back(self) -> bool:
        """Whether what the motor gives back goes into the line."""
        return self.front_end in ("6-back", "active")
