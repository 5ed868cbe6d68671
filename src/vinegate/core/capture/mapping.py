"""Channels in their roles: line volts and currents over one time."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.capture.recording import CaptureError, Channel, Recording
from vinegate.core.capture.roles import roles_of
from vinegate.core.records import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Use:
    """A channel's role, and by what its values are multiplied (ratio, polarity)."""

    role: str
    times: float = 1.0


def guess(found: Recording) -> dict[str, Use]:
    """By channel name; each role once."""
    return {name: Use(role=role) for name, role in roles_of(found.channels).items()}


@dataclass(frozen=True, slots=True, kw_only=True)
class Mapped:
    """Line volts and currents over one time, whatever of them is there; speed in rpm, power in W."""

    time_s: Array
    volts: dict[str, Array]
    amps: dict[str, Array]
    speed_rpm: Array | None
    power_w: Array | None
    hertz: float | None
    doubts: tuple[str, ...] = ()
    by_neutral: bool = False
    """Whether line volts were taken as √3 times readings to neutral, so that they tell nothing of unbalance."""


def mapped(found: Recording, uses: Mapping[str, Use]) -> Mapped:
    """Channels as said. Line-to-neutral volts become line to line; each channel's skew is taken out.

    Raises CaptureError where no current and no volts are among them.
    """
    by: dict[str, Array] = {}
    for channel in found.channels:
        use = uses.get(channel.name, Use(role=""))
        if use.role:
            by[use.role] = _in_time(found.time_s, channel) * use.times
    volts: dict[str, Array] = {role: by[role] for role in ("u12", "u23", "u31") if role in by}
    star: dict[str, Array] = {role: by[role] for role in ("u1", "u2", "u3") if role in by and not volts}
    by_neutral = len(star) > 1 and not all(is_wave(values) for values in star.values())  # one may be of one phase
    volts |= {_LINE[role]: math.sqrt(3) * values for role, values in star.items()} if by_neutral else _across(star)
    if len(volts) == 2 and not by_neutral:  # two of three: they sum to nought where they are waves
        volts |= _third(volts, ("u12", "u23", "u31"))
    amps: dict[str, Array] = {role: by[role] for role in ("i1", "i2", "i3") if role in by}
    if not volts and not amps:
        raise CaptureError("no channel is said to be amperes or volts: say which is which.")
    return Mapped(time_s=found.time_s, volts=volts, amps=amps, speed_rpm=by.get("n"), power_w=by.get("p"),
                  hertz=found.hertz, doubts=tuple(_doubts(amps, by_neutral)), by_neutral=by_neutral)  # fmt: skip


_LINE: Final = {"u1": "u12", "u2": "u23", "u3": "u31"}


def _across(star: dict[str, Array]) -> dict[str, Array]:
    """Line volts as differences of three waves to neutral; none where one lacks."""
    if len(star) < len(_LINE):
        return {}
    one, two, three = (star[role] for role in _LINE)
    return {"u12": one - two, "u23": two - three, "u31": three - one}


def _in_time(time: Array, channel: Channel) -> Array:
    if not channel.skew_s:
        return channel.values
    known = np.isfinite(channel.values)
    if known.sum() < 2:
        return channel.values
    shifted: Array = np.interp(time, time[known] + channel.skew_s, channel.values[known])
    return shifted


def is_wave(values: Array) -> bool:
    """Whether it changes sign as a wave does, rather than being rms already."""
    known = values[np.isfinite(values)]
    if known.size < 8:
        return False
    return bool(np.mean(known < 0) > 0.2)


def _third(volts: dict[str, Array], roles: tuple[str, ...]) -> dict[str, Array]:
    if not all(is_wave(values) for values in volts.values()):
        return {}
    lacking = next(role for role in roles if role not in volts)
    return {lacking: -sum(volts.values(), start=np.zeros(next(iter(volts.values())).size))}


def _doubts(amps: dict[str, Array], by_neutral: bool) -> list[str]:
    """What does not look right: a sum of currents that is not small; line volts that were not read as such."""
    found = []
    if by_neutral:
        found.append("Line volts are taken as √3 times the readings to neutral: how unequal they are is not told.")
    if len(amps) == 3 and all(is_wave(one) for one in amps.values()):
        total = np.nansum(np.stack(list(amps.values())), axis=0)
        one = float(np.nanmedian(np.abs(np.stack(list(amps.values())))))
        if float(np.nanmedian(np.abs(total))) > 0.5 * one:
            turned = _turned(amps)
            found.append(
                f"The three currents do not sum to nought: {turned} seems reversed."
                if turned
                else "The three currents do not sum to nought: one is of another ratio, or reversed."
            )
    return found


def _turned(amps: dict[str, Array]) -> str:
    """The one current whose turning makes the sum small."""
    stack = {role: np.nan_to_num(values) for role, values in amps.items()}
    for role, own in stack.items():
        rest = sum((-values if one == role else values for one, values in stack.items()),
                   start=np.zeros(own.size))  # fmt: skip
        if float(np.median(np.abs(rest))) < 0.2 * float(np.median(np.abs(own))):
            return role.upper()
    return ""
