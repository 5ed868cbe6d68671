"""Where the brake's release coil is wired: live whenever the motor is, and dead whenever it is not."""

from __future__ import annotations

from typing import Final

from vinegate.core.gate import Gate, Verdict, unknown
from vinegate.core.quantity import write
from vinegate.core.stopping.asked import Asked

_KEY, _NAME = "brake.release", "Brake's release coil"
_REDUCED: Final = ("wye-delta", "autotransformer", "resistor", "reactor", "soft-starter", "soft-ramp")
_NEAR: Final = 0.1


def release_gate(asked: Asked, method: str, started_by: str) -> Gate:
    """Judge the coil's supply against the way it is started and stopped."""
    fed = asked.stop.release_from
    if fed is None:
        return unknown(_KEY, _NAME, ("where its coil is fed from",))
    driven = method == "drive-brake" or started_by == "drive"
    verdict, text = _behind_drive(asked, fed) if driven else _on_line(asked, fed, started_by)
    return Gate(
        key=_KEY,
        name=_NAME,
        verdict=verdict,
        sentence=text,
        source="the coil follows the motor; its maker's range of volts, usually 90 to 110 %",
        needs=("the release coil's volts",) if verdict is Verdict.UNKNOWN else (),
        remedy="" if verdict is Verdict.OPEN else "Its own supply, through a contact that follows the motor.",
    )


def _behind_drive(asked: Asked, fed: str) -> tuple[Verdict, str]:
    if fed == "running":
        return (
            Verdict.OPEN,
            "The drive's contact on running: it closes the brake at every stop, fault and power failure.",
        )
    if fed == "motor":
        return (
            Verdict.SHUT,
            "Behind a drive the motor's leads carry other volts and hertz: the coil would not release, or burn.",
        )
    if fed == "contactor":
        return Verdict.SHUT, "The drive's line contactor stays closed at rest: the brake would stay released."
    text = "The contact on no fault keeps it released whenever the drive is well"
    if asked.must_hold:
        return Verdict.SHUT, f"{text}: at rest nothing holds the load but the drive."
    return Verdict.AJAR, f"{text}: it closes at a fault or a power failure only, not at every stop."


def _on_line(asked: Asked, fed: str, started_by: str) -> tuple[Verdict, str]:
    if fed in ("running", "fault"):
        return Verdict.SHUT, "There is no drive in this circuit whose contact could feed it."
    if fed == "contactor":
        return Verdict.OPEN, "A contact of the starter: live whenever the motor is, on steady volts."
    if started_by in _REDUCED:
        return Verdict.SHUT, "At the motor's leads it sees reduced volts during the start, and may not release."
    volts = asked.stop.release_v
    if volts is None:
        return Verdict.UNKNOWN, "At the motor's leads it needs their volts: the coil's are not known."
    line = asked.line_v
    fits = any(abs(volts - across) <= _NEAR * across for across in (line, line / 3**0.5) if across)
    if not fits:
        return Verdict.SHUT, f"A coil for {write(volts)} V at motor leads of {write(line)} V."
    if asked.must_hold:
        text = "At the motor's leads the machine's own volts keep it up for a moment: the brake closes late under load."
        return Verdict.AJAR, f"{text} Break its circuit by a contact as well."
    return Verdict.OPEN, "At the motor's leads: live whenever the motor is; it closes a moment late."
