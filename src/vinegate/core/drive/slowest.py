"""What of the motor itself asks a least speed: oil that is thrown, water past it, its bearings' film."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.assumed import band_of, preset
from vinegate.core.drive.cooling import kind_of_cooling
from vinegate.core.drive.duty import Row
from vinegate.core.drive.need import Need
from vinegate.core.grade import Gate, at_least, confirm, unknown
from vinegate.core.numbers import write
from vinegate.core.turning import Taken, less

_REMEDY: Final = "A higher least speed, or its maker's word on full torque from fewer hertz."


def slowest_gates(need: Need, slowest: Row, fastest: Row) -> tuple[Gate, ...]:
    """By how it is cooled, and by its bearings; nothing of a usual motor on rolling bearings."""
    plate = need.circuit.plate
    kind = kind_of_cooling(need.facts, plate.cooling, plate.enclosure)[0]
    found = list[Gate]()
    if kind == "oil":
        found += _thrown(need, slowest, fastest)
    if kind == "submerged":
        found += _submerged(need, slowest)
    if _FILM.search(plate.bearings or "") and slowest.point.rpm < _FULL * need.rated_rpm:
        found.append(confirm("drive.film", "Oil film of its bearings", False, _sleeves(need, slowest), _MAKER))
    return tuple(found)


def _thrown(need: Need, slowest: Row, fastest: Row) -> tuple[Gate, ...]:
    """A drum motor is cooled by the oil it throws: not below about a fifth of its speed, nor far above it."""
    key, name = "drive.oil", "Oil thrown to its wall"
    if fastest.point.rpm > 1.02 * need.rated_rpm and need.facts.mechanical_rpm is None:
        return (unknown(key, name, ("greatest safe speed by plate or maker",)),)
    least = _least(need, "drive_oil_least", need.base_hz)
    text = (
        f"At its slowest it is fed {write(slowest.hz, 3)} Hz; its oil is thrown from about {write(least.value, 3)} Hz."
    )
    return (_from(key, name, slowest, least, text, "drum motors: about a fifth of rated speed, its maker's count"),)


def _submerged(need: Need, slowest: Row) -> tuple[Gate, ...]:
    """A submersible motor's thrust bearing runs on a film of water, and water that flows past takes its heat."""
    least = _least(need, "drive_thrust_least", 1.0)
    text = (
        f"At its slowest it is fed {write(slowest.hz, 3)} Hz; its thrust bearing runs on water from about "
        f"{write(least.value, 3)} Hz."
    )
    return (
        _from(
            "drive.thrust", "Thrust bearing on its film", slowest, least, text, "submersible motors: its maker's count"
        ),
        confirm("drive.jacket", "Water flows past its jacket", False, _JACKET, "submersible motors: its maker's count"),
    )


def _from(key: str, name: str, slowest: Row, least: Taken, text: str, source: str) -> Gate:
    return at_least(
        key, name, slowest.hz, least.value, sentence=text, source=source, unit="Hz", remedy=_REMEDY, rests=less(least),
        room=lambda hertz: slowest.hz - hertz,
    )  # fmt: skip


def _least(need: Need, usual: str, times: float) -> Taken:
    """Hertz by its maker, else the usual share or hertz with their band."""
    said = need.facts.full_torque_hz
    value, (low, high) = preset(usual), band_of(usual)
    if said is not None:
        value, low, high, times = said, said, said, 1.0
    return Taken(path="drive.full_torque", label="full torque from", unit="Hz", value=value * times, low=low * times,
                 high=high * times, how="" if said is not None else "assumed", given=said is not None)  # fmt: skip


def _sleeves(need: Need, slowest: Row) -> str:
    return (
        f"Sleeves: a ring lifts their oil from a speed that the maker names; at its slowest it turns at "
        f"{write(slowest.point.rpm)} {need.unit}."
    )


_JACKET: Final = (
    "At the least flow 0.15 to 0.3 m/s pass its jacket, by its maker; where the well is wide, or the water comes from "
    "above, a shroud leads it past."
)
_FILM: Final = re.compile(r"\b(?:sleeves?|journal|plain|babbitt)\b", re.I)
_FULL: Final = 0.95
_MAKER: Final = "its maker's least speed"
