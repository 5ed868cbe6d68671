"""The starters, each by its equations and poles, in the usual form of NEMA ICS 2 and IEC 60947-4-1."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

from vinegate.core.starter.logic import (
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
_ACROSS: Final[tuple[Pole, ...]] = (("L1", "T1"), ("L2", "T2"), ("L3", "T3"))
_TURNED: Final[tuple[Pole, ...]] = (("L1", "T3"), ("L2", "T2"), ("L3", "T1"))
_LATE: Final = True


@dataclass(frozen=True, slots=True, kw_only=True)
class Wishes:
    """What is asked of the control: three wires or two, an emergency stop, how long timers run, s."""

    two_wire: bool = False
    emergency: bool = False
    reverses: bool = False
    closed: bool = False
    after_s: float = 3.0
    pause_s: float = 0.05
    stations: int = 1
    interlocked: bool = True


def _inputs(wishes: Wishes, *starts: tuple[str, str]) -> tuple[Input, ...]:
    guards = [Input(tag=OL, name="overload", kind=Kind.GUARD, stops=True, location="panel")]
    if wishes.emergency:
        guards.append(Input(tag=ESTOP, name="emergency stop", kind=Kind.GUARD, stops=True))
    if wishes.two_wire:
        return (Input(tag=SWITCH, name="maintained contact", kind=Kind.HELD, starts=True, location="field"), *guards)
    stops = [Input(tag=tag, name="stop", stops=True) for tag in _stations(STOP, wishes)]
    begins = [Input(tag=tag, name=name, starts=True) for tag, name in starts]
    return (*stops, *begins, *guards)


def _stations(tag: str, wishes: Wishes) -> list[str]:
    return [tag, *(f"{tag}{number}" for number in range(2, wishes.stations + 1))]


def _permit(wishes: Wishes) -> Logic:
    """`P`: everything that stops, in series ahead of the coils."""
    guards = [broken(ESTOP)] if wishes.emergency else []
    stops = [] if wishes.two_wire else [broken(tag) for tag in _stations(STOP, wishes)]
    return series(broken(OL), *guards, *stops)


def _begins(wishes: Wishes, seal: Logic) -> Logic:
    """`START + seal`, or the maintained contact of two wires."""
    if wishes.two_wire:
        return make(SWITCH)
    return either(*(make(tag) for tag in _stations(START, wishes)), seal)


def _starts(wishes: Wishes) -> tuple[tuple[str, str], ...]:
    return tuple((tag, "start") for tag in _stations(START, wishes))


def full_voltage(wishes: Wishes) -> Circuit:
    """`M = P·(START + M)`, or turned both ways."""
    if wishes.reverses:
        return _reversing(wishes)
    main = Device(tag="M", name="main", logic=series(_permit(wishes), _begins(wishes, make("M"))))
    return Circuit(
        key="full-voltage", name="across the line", inputs=_inputs(wishes, *_starts(wishes)), devices=(main,),
        poles=(("M", _ACROSS),), restarts=wishes.two_wire, wanted=("M",),
    )  # fmt: skip


def _reversing(wishes: Wishes) -> Circuit:
    """`F = P·/R·(FWD·/REV + F)`, R likewise: interlocked by contacts, by the buttons and by a lock."""
    permit = _permit(wishes)

    def way(own: str, other: str, button: str, against: str) -> Device:
        return Device(
            tag=own, name="forward" if own == "F" else "reverse", duty="AC-4",
            logic=series(permit, broken(other), either(series(make(button), broken(against)), make(own))),
        )  # fmt: skip

    buttons = ((FORWARD, "forward"), (REVERSE, "reverse"))
    return Circuit(
        key="reversing", name="reversing", inputs=_inputs(wishes, *buttons),
        devices=(way("F", "R", FORWARD, REVERSE), way("R", "F", REVERSE, FORWARD)),
        poles=(("F", _ACROSS), ("R", _TURNED)), apart=(("F", "R"),), mechanical=(("F", "R"),), wanted=("F",),
    )  # fmt: skip


_STAR: Final[tuple[Pole, ...]] = (("T4", "T5"), ("T5", "T6"))
_DELTA: Final[tuple[Pole, ...]] = (("T1", "T6"), ("T2", "T4"), ("T3", "T5"))
_RESISTED: Final[tuple[Pole, ...]] = (("T1", "r1"), ("T2", "r2"), ("T3", "r3"))


def wye_delta(wishes: Wishes) -> Circuit:
    """Open: S, 1M in; the timer puts S out; after a pause 2M. 1M comes in only through S: the star is proven."""
    if wishes.closed:
        return _wye_delta_closed(wishes)
    permit = _permit(wishes)
    star = series(permit, _begins(wishes, make("1M")), broken("TR"), broken("2M"))
    line = series(permit, either(series(_begins_only(wishes), make("S")), make("1M")))
    if wishes.two_wire:
        line = series(permit, make(SWITCH), either(make("S"), make("1M")))
    devices = (
        Device(tag="S", name="star point", logic=star, share=1 / 3),
        Device(tag="1M", name="line", logic=line, share=3**-0.5),
        Device(tag="TR", name="star time", logic=make("1M"), coil=Coil.TIMER, delay_s=wishes.after_s, motor=False),
        Device(tag="TRp", name="pause", logic=make("TR"), coil=Coil.TIMER, delay_s=wishes.pause_s, motor=False),
        Device(tag="2M", name="delta", logic=series(permit, make("1M"), make("TRp"), broken("S")), share=3**-0.5),
    )
    return Circuit(
        key="wye-delta", name="wye-delta, open transition", inputs=_inputs(wishes, *_starts(wishes)), devices=devices,
        poles=(("1M", _ACROSS), ("S", _STAR), ("2M", _DELTA)), apart=(("S", "2M"),), mechanical=(("S", "2M"),),
        restarts=wishes.two_wire, wanted=("1M", "2M"), pause_s=wishes.pause_s,
    )  # fmt: skip


def _begins_only(wishes: Wishes) -> Logic:
    return make(SWITCH) if wishes.two_wire else either(*(make(tag) for tag in _stations(START, wishes)))


def _wye_delta_closed(wishes: Wishes) -> Circuit:
    """The resistors carry the current over: A comes in with S still in, and 2M with A; late breaks where a race is."""
    permit = _permit(wishes)
    devices = (
        Device(tag="S", name="star point", share=1 / 3,
               logic=series(permit, _begins(wishes, make("1M")), broken("A", late=_LATE), broken("2M"))),
        Device(tag="1M", name="line", share=3**-0.5,
               logic=series(permit, either(series(_begins_only(wishes), make("S")), make("1M")))),
        Device(tag="TR", name="star time", logic=make("1M"), coil=Coil.TIMER, delay_s=wishes.after_s, motor=False),
        Device(tag="A", name="resistors", share=3**-0.5, duty="AC-1",
               logic=series(permit, make("1M"), make("TR"), broken("2M", late=_LATE))),
        Device(tag="2M", name="delta", share=3**-0.5,
               logic=series(permit, make("1M"), either(series(make("A"), broken("S")), make("2M")))),
    )  # fmt: skip
    return Circuit(
        key="wye-delta", name="wye-delta, closed transition", inputs=_inputs(wishes, *_starts(wishes)), devices=devices,
        poles=(("1M", _ACROSS), ("S", _STAR), ("A", _RESISTED), ("2M", _DELTA)), apart=(("S", "2M"),),
        mechanical=(("S", "2M"),), wanted=("1M", "2M"),
    )  # fmt: skip


def autotransformer(wishes: Wishes) -> Circuit:
    """Korndörfer: 1S makes the star point of the winding, 2S feeds it; 1S out, a reactor then; R; 2S out."""
    permit = _permit(wishes)
    devices = (
        Device(
            tag="1S",
            name="star point of the winding",
            share=0.25,
            logic=series(permit, _begins(wishes, make("2S")), broken("TR"), broken("R")),
        ),
        Device(
            tag="2S",
            name="feeds the winding",
            share=0.65,
            logic=series(permit, either(series(_begins_only(wishes), make("1S")), make("2S")), broken("R", late=_LATE)),
        ),
        Device(tag="TR", name="tap time", logic=make("2S"), coil=Coil.TIMER, delay_s=wishes.after_s, motor=False),
        Device(
            tag="R", name="run", logic=series(permit, either(series(make("TR"), make("2S")), make("R")), broken("1S"))
        ),
    )
    winding: tuple[Pole, ...] = (("L1", "a1"), ("L2", "a2"), ("L3", "a3"))
    return Circuit(
        key="autotransformer", name="autotransformer, closed transition", inputs=_inputs(wishes, *_starts(wishes)),
        devices=devices, poles=(("2S", winding), ("1S", (("n1", "n2"), ("n2", "n3"))), ("R", _ACROSS)),
        apart=(("1S", "R"),), mechanical=(("1S", "R"),), wanted=("R",),
    )  # fmt: skip


def part_winding(wishes: Wishes) -> Circuit:
    """`2M = P·T(1M)`: the second half of the winding after a second or so."""
    permit = _permit(wishes)
    devices = (
        Device(tag="1M", name="first half", logic=series(permit, _begins(wishes, make("1M"))), share=0.5),
        Device(
            tag="TR", name="second half after", logic=make("1M"), coil=Coil.TIMER, delay_s=wishes.after_s, motor=False
        ),
        Device(tag="2M", name="second half", logic=series(permit, make("1M"), make("TR")), share=0.5),
    )
    second: tuple[Pole, ...] = (("L1", "T7"), ("L2", "T8"), ("L3", "T9"))
    return Circuit(
        key="part-winding", name="part winding", inputs=_inputs(wishes, *_starts(wishes)), devices=devices,
        poles=(("1M", _ACROSS), ("2M", second)), restarts=wishes.two_wire, wanted=("1M", "2M"),
    )  # fmt: skip


def series_element(wishes: Wishes) -> Circuit:
    """Resistor or reactor in the line, shorted by A when the timer has run."""
    permit = _permit(wishes)
    devices = (
        Device(tag="M", name="main", logic=series(permit, _begins(wishes, make("M")))),
        Device(tag="TR", name="step time", logic=make("M"), coil=Coil.TIMER, delay_s=wishes.after_s, motor=False),
        Device(tag="A", name="shorts it", logic=series(permit, make("M"), make("TR"))),
    )
    first: tuple[Pole, ...] = (("L1", "z1"), ("L2", "z2"), ("L3", "z3"))
    shorted: tuple[Pole, ...] = (("z1", "T1"), ("z2", "T2"), ("z3", "T3"))
    return Circuit(
        key="series", name="impedance in the line", inputs=_inputs(wishes, *_starts(wishes)), devices=devices,
        poles=(("M", first), ("A", shorted)), restarts=wishes.two_wire, wanted=("M", "A"),
    )  # fmt: skip


def soft_starter(wishes: Wishes) -> Circuit:
    """K isolates; the device runs while K is in; BP by-passes it at the top of its ramp, told by its relay."""
    permit = _permit(wishes)
    devices = (
        Device(tag="K", name="isolates", logic=series(permit, _begins(wishes, make("K"))), duty="AC-1"),
        Device(tag="TOR", name="top of the ramp, its relay", logic=make("K"), coil=Coil.TIMER, delay_s=wishes.after_s,
               motor=False),
        Device(tag="BP", name="by-pass", logic=series(permit, make("K"), make("TOR"))),
    )  # fmt: skip
    into: tuple[Pole, ...] = (("L1", "d1"), ("L2", "d2"), ("L3", "d3"))
    around: tuple[Pole, ...] = (("d1", "T1"), ("d2", "T2"), ("d3", "T3"))
    return Circuit(
        key="soft-starter", name="soft starter with by-pass", inputs=_inputs(wishes, *_starts(wishes)), devices=devices,
        poles=(("K", into), ("BP", around)), restarts=wishes.two_wire, wanted=("K", "BP"),
    )  # fmt: skip


def drive(wishes: Wishes) -> Circuit:
    """K1 feeds the drive; CR is its run command, held by three wires; no contactor opens in its lead."""
    permit = _permit(wishes)
    devices = (
        Device(tag="K1", name="feeds the drive", logic=series(broken(OL), broken(ESTOP) if wishes.emergency else None),
               duty="AC-1", motor=False),
        Device(tag="CR", name="run command", logic=series(permit, make("K1"), _begins(wishes, make("CR"))),
               coil=Coil.RELAY, motor=True),
    )  # fmt: skip
    return Circuit(
        key="drive", name="drive, run command held", inputs=_inputs(wishes, *_starts(wishes)), devices=devices,
        poles=(("K1", (("L1", "d1"), ("L2", "d2"), ("L3", "d3"))),), restarts=wishes.two_wire, wanted=("K1", "CR"),
    )  # fmt: skip


BY_WAY: Final[dict[str, Callable[[Wishes], Circuit]]] = {
    "full-voltage": full_voltage,
    "wye-delta": wye_delta,
    "autotransformer": autotransformer,
    "resistor": series_element,
    "reactor": series_element,
    "part-winding": part_winding,
    "soft-starter": soft_starter,
    "soft-ramp": soft_starter,
    "drive": drive,
}
