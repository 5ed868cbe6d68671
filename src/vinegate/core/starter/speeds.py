"""Two speeds across the line: two windings, or one whose poles are joined otherwise.

The outside connections are those of NEMA ICS 2 and IEC 60034-8: low on T1 to T3, high on T4 to T6 with T1 to T3 joined
(constant or variable torque), or with T1 to T3 open and T4 to T6 joined at low speed (constant power). A second winding
is T11 to T13.
"""

from __future__ import annotations

from typing import Final

from vinegate.core.records import replace
from vinegate.core.starter.logic import (
    Circuit,
    Coil,
    Contact,
    Device,
    Input,
    Kind,
    Pole,
    Series,
    Winding,
    broken,
    either,
    make,
    series,
)
from vinegate.core.starter.wishes import ACROSS, OL_LOW, SWITCH, Wishes, inputs_of, permitted

LOW, HIGH = "LOW", "HIGH"
_HIGH_LINE: Final[tuple[Pole, ...]] = (("L1", "T6"), ("L2", "T4"), ("L3", "T5"))
_NEAR: Final[tuple[Pole, ...]] = (("T1", "T2"), ("T2", "T3"))
_FAR: Final[tuple[Pole, ...]] = (("T4", "T5"), ("T5", "T6"))
_SECOND: Final[tuple[Pole, ...]] = (("L1", "T11"), ("L2", "T12"), ("L3", "T13"))
NAMES: Final = {
    "separate": "two windings",
    "constant": "constant torque",
    "variable": "variable torque",
    "power": "constant power",
}


def two_speeds(wishes: Wishes) -> Circuit:
    """`CRl = P·/HIGH·(LOW + CRl)`, `CRh` likewise; `LO = CRl·/HI·/TL`, `HI = CRh·/LO`; each overload stands in P.

    Compelling, by buttons: `CRc = P·(LO + CRc)` stands in the start of high. TL waits after high, that low does not
    brake it hard.
    """
    wishes = replace(wishes, compelling=wishes.compelling and not wishes.two_wire)
    permit = series(permitted(wishes), broken(OL_LOW))
    low = series(make("CRl"), broken("HI"), broken("HS") if _star(wishes) else None, _waits(wishes))
    devices = [
        _command("CRl", "low wanted", LOW, HIGH, wishes),
        _command("CRh", "high wanted", HIGH, LOW, wishes),
        Device(tag="LO", name="low speed", logic=series(permit, low), share=wishes.low_share),
        *_high(wishes, permit),
    ]
    if wishes.compelling:
        devices.append(Device(tag="CRc", name="has run low", coil=Coil.RELAY, motor=False,
                              logic=series(permit, either(make("LO"), make("CRc")))))  # fmt: skip
    if wishes.low_after_s:
        devices.append(Device(tag="TL", name="slows before low", logic=make("HI"), coil=Coil.TIMER, lasts=True,
                              delay_s=wishes.low_after_s, motor=False))  # fmt: skip
    star = ("HS",) if _star(wishes) else ()
    return Circuit(
        key="two-speed", name=f"two speeds, {NAMES[wishes.speeds]}", inputs=_inputs(wishes), devices=tuple(devices),
        poles=_poles(wishes), apart=(("LO", "HI"), *(("LO", one) for one in star)),
        restarts=wishes.two_wire, wanted=("HI",) if wishes.compelling else ("LO",),
        then=(HIGH,) if wishes.compelling else (), windings=_windings(wishes), heaters=("LO", "HI"),
        grants=("speeds",),
    )  # fmt: skip


def _star(wishes: Wishes) -> bool:
    """Whether the star of high speed has a contactor of its own."""
    return wishes.speeds in ("constant", "variable") and not wishes.five_poles


def _waits(wishes: Wishes) -> Contact | None:
    return broken("TL") if wishes.low_after_s else None


def _command(own: str, name: str, button: str, other: str, wishes: Wishes) -> Device:
    permit = series(permitted(wishes), broken(OL_LOW))
    if wishes.two_wire:
        logic = series(permit, broken(other), make(button))
    else:
        first = make("CRc") if wishes.compelling and own == "CRh" else None
        logic = series(permit, broken(other), either(series(make(button), first) if first else make(button), make(own)))
    return Device(tag=own, name=name, logic=logic, coil=Coil.RELAY, motor=False)


def _high(wishes: Wishes, permit: Series) -> list[Device]:
    """One contactor; or its star first, and the line through it: the star is proven."""
    if not _star(wishes):
        return [Device(tag="HI", name="high speed", logic=series(permit, make("CRh"), broken("LO")))]
    return [
        Device(tag="HS", name="star of high speed", logic=series(permit, make("CRh"), broken("LO")), share=0.5),
        Device(tag="HI", name="high speed", logic=series(permit, make("CRh"), broken("LO"), make("HS"))),
    ]


def _inputs(wishes: Wishes) -> tuple[Input, ...]:
    overload = Input(tag=OL_LOW, name="overload, low speed", kind=Kind.GUARD, stops=True, location="panel")
    buttons = ((LOW, "low"), (HIGH, "high"))
    inputs = (*inputs_of(wishes, *buttons), overload)
    if wishes.two_wire:
        held = tuple(Input(tag=tag, name=f"selector {name}", kind=Kind.HELD, starts=True) for tag, name in buttons)
        return (*held, *(one for one in inputs if one.tag != SWITCH))
    if wishes.compelling:  # from rest its button does nothing
        return tuple(Input(tag=HIGH, name="high") if one.tag == HIGH else one for one in inputs)
    return inputs


def _poles(wishes: Wishes) -> tuple[tuple[str, tuple[Pole, ...]], ...]:
    if wishes.speeds == "separate":
        return (("LO", ACROSS), ("HI", _SECOND))
    if wishes.speeds == "power":
        return (("LO", (*ACROSS, *_FAR)), ("HI", _HIGH_LINE))
    if _star(wishes):
        return (("LO", ACROSS), ("HS", _NEAR), ("HI", _HIGH_LINE))
    return (("LO", ACROSS), ("HI", (*_HIGH_LINE, *_NEAR)))


def _windings(wishes: Wishes) -> tuple[Winding, ...]:
    near, far = ("T1", "T2", "T3"), ("T6", "T4", "T5")
    high = ("T11", "T12", "T13") if wishes.speeds == "separate" else far
    return (
        Winding(words="at low speed", leads=near, star=far if wishes.speeds == "power" else (), slow=True),
        Winding(words="at high speed", leads=high, star=near if wishes.speeds in ("constant", "variable") else ()),
    )
