"""Which control does: by the load, the range of speeds, the motors on it and the encoder at hand."""

from __future__ import annotations

from typing import Final

from vinegate.core.drive.facts import CONTROLS
from vinegate.core.drive.need import Need
from vinegate.core.grade import Gate, confirm, rule
from vinegate.core.records import dataclass, replace

RANGES: Final = {"scalar": 10.0, "sensorless": 75.0, "encoder": 1000.0}
"""Speeds over which rated torque is there, greatest over least: usual, IEC 61800-2's terms."""
_ORDER: Final = tuple(RANGES)
_SOURCE: Final = "Leonhard, Control of Electrical Drives, 3rd ed., 12.2 to 12.4; ranges usual, its maker's count"


@dataclass(frozen=True, slots=True, kw_only=True)
class Control:
    """The one used, the least that does, and why."""

    used: str
    least: str
    why: str
    scalar_too: bool = False
    """Whether its speeds would allow a scalar one too."""


def control_of(need: Need, least_rpm: float, most_rpm: float) -> Control:
    """The least that does: what the load asks, raised until the range of speeds is reached."""
    asked = need.preset["control"]
    why = f"usual for {dict(_LOADS)[asked]}"
    span = most_rpm / least_rpm if least_rpm > 0 else float("inf")
    if need.motors > 1:
        asked, why = "scalar", f"{need.motors} motors on one drive: it cannot model one of them"
    elif span > RANGES[asked]:
        asked = next((name for name in _ORDER if span <= RANGES[name]), _ORDER[-1])
        why = "it works down to rest" if least_rpm <= 0 else f"its speeds range over {span:.0f} : 1"
    return Control(
        used=need.facts.control or asked, least=asked, why=why, scalar_too=need.motors == 1 and span <= RANGES["scalar"]
    )


_LOADS: Final = (("scalar", "pumps and fans"), ("sensorless", "loads of steady torque"), ("encoder", "such a load"))


def control_gate(need: Need, control: Control) -> Gate:
    """The one used against the least that does; with an encoder only where there is one."""
    names = dict(CONTROLS)
    key, name = "drive.control", "Control that the load asks"
    if control.used == "encoder" and need.facts.encoder == "no":
        text = "Vector control with encoder is asked, and the motor has none."
        return rule(key, name, False, text, _SOURCE, remedy="An encoder on the shaft, insulated.")
    if need.motors > 1 and control.used != "scalar":
        text = f"{need.motors} motors on one drive: only scalar control, with tuning off, serves them all."
        return rule(key, name, False, text, _SOURCE, remedy="Scalar control, or a drive for each.")
    if need.motors > 1 and need.preset["control"] == "encoder":
        text = f"{need.motors} motors on one drive are scalar: such a load asks each held by its own, at rest too."
        return rule(key, name, False, text, _SOURCE, remedy="A drive for each motor, with its encoder.")
    met = _ORDER.index(control.used) >= _ORDER.index(control.least)
    text = f"{names[control.used][:1].upper()}{names[control.used][1:]}: {control.why}."
    if not met:
        text = (
            f"{names[control.used][:1].upper()}{names[control.used][1:]} is set; {control.why}: {names[control.least]}."
        )
        if (
            control.scalar_too and control.least == "sensorless"
        ):  # what it gives at rest and at each point is judged there
            text += " With a scalar one the boost is set for breakaway, and its speed falls with load."
            return replace(confirm(key, name, False, text, _SOURCE), remedy="Its maker's word, or vector control.")
    return rule(key, name, met, text, _SOURCE, remedy=f"{names[control.least][:1].upper()}{names[control.least][1:]}.")
