"""What is asked of a starter's control, and the parts of its logic that every circuit has."""

from __future__ import annotations

from typing import Final

from vinegate.core.records import dataclass, replace
from vinegate.core.starter.logic import (
    PHASES,
    Circuit,
    Coil,
    Device,
    Input,
    Kind,
    Logic,
    Pole,
    broken,
    either,
    make,
    series,
)

STOP, START, FORWARD, REVERSE, OL, ESTOP, SWITCH = "STOP", "START", "FWD", "REV", "OL", "E-STOP", "AUTO"
OL_LOW, SENSORS, PHASES_LOST, PURGE, PURGED = "OLl", "TH", "PHR", "PRG", "TPg"
_BLOCKED_S: Final = 0.5
"""Until a drive that is told to stop, and does not slow it, has blocked."""
JOG, HAND, PERMIT, SPEED, SPEED_BACK = "JOG", "HAND", "PERMIT", "SPf", "SPr"
JOG_FORWARD, JOG_BACK = "JOGf", "JOGr"
SLOWED, DUTY, FOLLOWS, DELAY, LIMIT, LIMIT_BACK, DELTA, BYPASS = "TC", "DTY", "SEQ", "TRr", "LSf", "LSr", "DELTA", "BYP"


@dataclass(frozen=True, slots=True, kw_only=True)
class Wishes:
    """What is asked of the control: three wires or two, an emergency stop, how long timers run, s."""

    two_wire: bool = False
    emergency: bool = False
    slows_s: float = 0.0
    """An emergency stop of category 1: power stays so long, while it is slowed; nought where it is cut at once."""
    sensors: bool = False
    """Thermistors in the winding, whose relay stands beside the overload; a drive's own input takes them instead."""
    watches_phases: bool = False
    """A relay on the line, which opens where a phase is lost or two are exchanged."""
    ramp_s: float = 0.0
    """How long its drive slows it after a stop, with a fifth to spare: what opens its lead waits so long."""
    reverses: bool = False
    closed: bool = False
    opened: bool = False
    """An open transition asked for by name, not by leaving it unsaid."""
    after_s: float = 3.0
    steps_s: tuple[float, ...] = (3.0,)
    """Of a resistor or reactor: how long each step stays in."""
    first_torque_pu: float = 1.8
    """Of each step of a wound rotor's resistor, of rated."""
    pause_s: float = 0.05
    stations: int = 1
    jog: bool = False
    repeats: bool = False
    """It jogs or plugs repeatedly, as its contactors are then made for."""
    hands: bool = False
    braking: str = ""
    brake_s: float = 3.0
    stages_s: tuple[float, ...] = ()
    """Of a resistor across an armature: how long each stage stays in that is cut out."""
    residual_s: float = 0.5
    """Before direct current: the rotor's own field dies."""
    tap: float = 0.65
    """Of an autotransformer."""
    star_share: float = 1 / 3
    """Of the rated current, what the star's contactor is chosen for."""
    changes_by: str = ""
    """What ends the star: its timer, "operator" or "speed"."""
    behind: bool = False
    """The delta's volts are behind the star's, not ahead."""
    limits: bool = False
    antiplug: bool = False
    follows: bool = False
    """Only while another circuit's contact is closed."""
    stands_by: bool = False
    """Never while the circuit it stands by for runs."""
    lamps: str = ""
    """Which color says that it runs; empty: none."""
    heater: bool = False
    restart_s: float = 0.0
    """Between power's return and a start by itself."""
    ride_s: float = 0.0
    """Through an outage so long it starts again by itself."""
    bypass: bool = False
    """Of a drive: the line past it."""
    no_bypass: bool = False
    residual_wait_s: float = 2.0
    """Between the drive's end and the line."""
    single: bool = False
    """Of one phase: two poles, and nothing that turns the field."""
    neutral: bool = False
    """On one line and neutral."""
    speeds: str = ""
    """Two of them: "separate" windings, or one for "constant" or "variable" torque or constant "power"."""
    five_poles: bool = False
    """High speed and its star by one contactor."""
    compelling: bool = False
    """High only once it has run low."""
    low_after_s: float = 0.0
    """Between high and low: it slows by itself meanwhile."""
    low_share: float = 0.0
    """Amperes of low speed over the plate's; nought where they are not known."""
    two_poles: bool = False
    """Of a soft starter that controls two phases: its by-pass has two poles."""
    drive_lines: tuple[str, ...] = PHASES
    """What feeds a drive that turns a field."""
    bridge_lines: int = 3
    """Of a direct-current machine's drive."""
    field_fed: bool = False
    """Whether its machine has a field that is fed by itself."""
    runs_on_s: float = 0.0
    """After a stop by button: what it serves stops first."""
    rests_s: float = 0.0
    """After each stop, before another start."""
    purges_s: float = 0.0
    """Ahead of each start, while its purge flows."""
    softly_s: float = 0.0
    """Of a soft starter: how long it ramps down after a stop by button, with a fifth to spare."""


def inputs_of(wishes: Wishes, *starts: tuple[str, str]) -> tuple[Input, ...]:
    guards = [Input(tag=OL, name="overload", kind=Kind.GUARD, stops=True, location="panel")]
    if wishes.sensors:
        guards.append(Input(tag=SENSORS, name="winding too warm", kind=Kind.GUARD, stops=True, location="panel"))
    if _phases(wishes):
        guards.append(
            Input(tag=PHASES_LOST, name="a phase lost or exchanged", kind=Kind.GUARD, stops=True, location="panel")
        )
    if wishes.emergency:
        guards.append(Input(tag=ESTOP, name="emergency stop", kind=Kind.GUARD, stops=True, slows=wishes.slows_s > 0))
    if wishes.purges_s:
        guards.append(Input(tag=PURGE, name="purge flows", kind=Kind.HELD, permits=True, location="field"))
    if wishes.follows:
        guards.append(Input(tag=FOLLOWS, name="the other runs", kind=Kind.HELD, permits=True, location="field"))
    if wishes.stands_by:
        guards.append(Input(tag=DUTY, name="the duty runs", kind=Kind.HELD, stops=True, location="field"))
    if wishes.two_wire:
        return (Input(tag=SWITCH, name="maintained contact", kind=Kind.HELD, starts=True, location="field"), *guards)
    stops = [Input(tag=tag, name="stop", stops=True) for tag in stations_of(STOP, wishes)]
    begins = [Input(tag=tag, name=name, starts=True) for tag, name in starts or start_buttons(wishes)]
    return (*stops, *begins, *guards)


def stations_of(tag: str, wishes: Wishes) -> list[str]:
    return [tag, *(f"{tag}{number}" for number in range(2, wishes.stations + 1))]


def permitted(wishes: Wishes) -> Logic:
    """`P`: everything that stops, in series ahead of the coils."""
    return series(tripping(wishes), latched(wishes), stops_and_follows(wishes))


def tripping(wishes: Wishes) -> Logic:
    """What trips by itself: the overload, relays of thermistors and of the line's phases, a purge that fails."""
    sensors, phases = broken(SENSORS) if wishes.sensors else None, broken(PHASES_LOST) if _phases(wishes) else None
    return series(broken(OL), sensors, phases, make(PURGED) if wishes.purges_s else None)


def _phases(wishes: Wishes) -> bool:
    """One phase has no order, and no other that could be lost."""
    return wishes.watches_phases and not wishes.single


def stops_and_follows(wishes: Wishes) -> Logic:
    """What of `P` stands behind its guards."""
    stops = [] if wishes.two_wire else [broken(tag) for tag in stations_of(STOP, wishes)]
    return series(*stops, make(FOLLOWS) if wishes.follows else None, broken(DUTY) if wishes.stands_by else None)


def begins(wishes: Wishes, seal: Logic) -> Logic:
    """`START + seal`, or the maintained contact of two wires."""
    if wishes.two_wire:
        return by_switch(wishes)
    return either(*(make(tag) for tag in stations_of(START, wishes)), seal)


def run_by(wishes: Wishes, seal: Logic) -> Logic:
    """As `begins`; with a selector `HAND·(START + seal) + /HAND·AUTO·PERMIT`: off breaks both."""
    if not wishes.hands or wishes.two_wire:
        return begins(wishes, seal)
    by_hand = series(make(HAND), either(begins_only(wishes), seal))
    return either(by_hand, series(broken(HAND), by_switch(wishes), make(PERMIT)))


def with_selector(circuit: Circuit) -> Circuit:
    """The same with the selector and the controller that `run_by` asks for."""
    further = (
        Input(tag=HAND, name="selector in hand", kind=Kind.HELD),
        Input(tag=SWITCH, name="selector in auto", kind=Kind.HELD),
        Input(tag=PERMIT, name="controller's command", kind=Kind.HELD, location="field"),
    )
    return replace(
        circuit, name=f"{circuit.name}, hand-off-auto", inputs=(*circuit.inputs, *further),
        setup=(*circuit.setup, HAND), automatic=(SWITCH, PERMIT), grants=(*circuit.grants, "hands", "restart_s"),
    )  # fmt: skip


def proven(wishes: Wishes, first: str, own: str) -> Logic:
    """`START·first + own`: `own` comes in only through `first`. A maintained contact stands ahead of both."""
    if wishes.two_wire:
        return series(by_switch(wishes), either(make(first), make(own)))
    return either(series(begins_only(wishes), make(first)), make(own))


def by_switch(wishes: Wishes) -> Logic:
    """The maintained contact, and its delay after an outage where one is asked for."""
    return series(make(SWITCH), make(DELAY)) if wishes.restart_s else make(SWITCH)


def start_buttons(wishes: Wishes) -> tuple[tuple[str, str], ...]:
    return tuple((tag, "start") for tag in stations_of(START, wishes))


def changes(tag: str, name: str, of: str, after_s: float) -> Device:
    """The timer that ends a connection of the start, begun by a contactor."""
    return Device(tag=tag, name=name, logic=make(of), coil=Coil.TIMER, delay_s=after_s, transition=True, motor=False)


def latched(wishes: Wishes) -> Logic | None:
    return broken(ESTOP) if wishes.emergency else None


def guarded(wishes: Wishes) -> Logic:
    """What puts a brake out as well; an emergency stop of category 1 leaves it while it slows (IEC 60204-1 9.2.2)."""
    return series(tripping(wishes), None if wishes.slows_s else latched(wishes))


def at_once(wishes: Wishes) -> Logic | None:
    """What an emergency stop of category 1 opens at once, where `guarded` leaves it: whatever drives the motor."""
    return latched(wishes) if wishes.slows_s else None


def blocked_s(wishes: Wishes) -> float:
    """From a drive's stop until its lead may open."""
    return max(_BLOCKED_S, wishes.ramp_s)


def powered(wishes: Wishes) -> Logic:
    """What a drive keeps its power by: after an emergency stop of category 1 until its timer has run."""
    return series(tripping(wishes), make(SLOWED)) if wishes.slows_s else guarded(wishes)


def slowed(wishes: Wishes) -> tuple[Device, ...]:
    """The timer that cuts a drive's power once it has slowed."""
    if not wishes.slows_s:
        return ()
    timer = Device(tag=SLOWED, name="power off once it stands", logic=series(latched(wishes)), coil=Coil.TIMER,
                   delay_s=wishes.slows_s, lasts=True, motor=False)  # fmt: skip
    return (timer,)


def begins_only(wishes: Wishes) -> Logic:
    return by_switch(wishes) if wishes.two_wire else either(*(make(tag) for tag in stations_of(START, wishes)))


ACROSS: Final[tuple[Pole, ...]] = (("L1", "T1"), ("L2", "T2"), ("L3", "T3"))
TURNED: Final[tuple[Pole, ...]] = (("L1", "T3"), ("L2", "T2"), ("L3", "T1"))

_REASONS: Final = (
    ("reverses", "Reversing", "it is drawn for one speed and three phases, of a drive with buttons"),
    ("closed", "A closed transition", "it is drawn for wye-delta and the autotransformer"),
    ("hands", "Hand, off, auto", "it is drawn one way round, with buttons and one speed, and no brake of contactors"),
    ("limits", "Limits", "they are drawn for two directions without plugging"),
    ("antiplug", "Anti-plugging", "it is drawn for two directions of contactors without plugging"),
    (
        "changes_by", "Another end of the star",
        "it is drawn for the open transition of wye-delta, one way round with buttons and no selector",
    ),
    ("restart_s", "A delay after an outage", "buttons start nothing by themselves: it is drawn for two wires and auto"),
    (
        "ride_s",
        "Undervoltage ride-through",
        "it is drawn across the line, one way round, with buttons, without a brake and behind no other",
    ),
    ("bypass", "A by-pass", "it is drawn around a soft starter, and around a drive one way round with buttons"),
    ("speeds", "Two speeds", "they are drawn across the line, one way round, without a brake, selector or jog"),
    ("two_poles", "A by-pass of two poles", "it is drawn for a soft starter"),
    ("runs_on_s", "Running on after a stop", "it is drawn across the line, one way round, with buttons and no brake"),
    ("softly_s", "A soft stop", "it is drawn one way round"),
    (
        "rests_s",
        "A rest after a stop",
        "it is drawn one way round at one speed, without jog, brake of contactors, ride or by-pass by selector",
    ),
    ("jog", "Jog", "it is drawn across the line and of a drive one way round, with buttons, no brake and no selector"),
)  # fmt: skip


_OTHERWISE: Final = {
    ("dc-drive", "reverses"): "a bridge for both directions turns it, or its field's contactors, as its maker wires it",
    ("dc-drive", "bypass"): "nothing else feeds it with direct current",
}


@dataclass(frozen=True, slots=True)
class LeftOut:
    """What was wished and is not in the drawing, and why."""

    name: str
    why: str


def left_out(wishes: Wishes, circuit: Circuit) -> tuple[LeftOut, ...]:
    """What this circuit does not grant of what was wished."""
    asked = [one for one in _REASONS if getattr(wishes, one[0]) and one[0] not in circuit.grants]
    found = [LeftOut(name, _OTHERWISE.get((circuit.key, key), why)) for key, name, why in asked]
    if wishes.opened and "closed" in circuit.grants:
        found.append(LeftOut("An open transition", "with an autotransformer the closed one is drawn"))
    if wishes.no_bypass and "bypass" in circuit.grants:
        why = "it is drawn with one, which carries the motor once it runs"
        found.append(LeftOut("A soft starter without by-pass", why))
    if wishes.compelling and wishes.two_wire and "speeds" in circuit.grants:
        why = "it is drawn with buttons; whoever closes held contacts goes through low"
        found.append(LeftOut("Only through low", why))
    if wishes.watches_phases and wishes.single:
        found.append(LeftOut("A phase relay", "one phase has no order"))
    if wishes.two_wire and wishes.stations > 1:
        found.append(LeftOut("Further stations", "they are drawn with buttons; a held contact is one"))
    return tuple(found)


def duty_of(wishes: Wishes, *, plugs: bool = False) -> str:
    """Of what jogs, plugs or turns it: AC-3 bears that now and then, AC-4 repeatedly (IEC 60947-4-1 table 1)."""
    return "AC-4" if wishes.repeats or plugs else "AC-3"


def across(wishes: Wishes) -> tuple[Pole, ...]:
    """The poles that put the motor on the line."""
    return (("L1", "T1"), ("N" if wishes.neutral else "L2", "T4")) if wishes.single else ACROSS
