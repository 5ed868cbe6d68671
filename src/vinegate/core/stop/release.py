"""Where the brake's release coil is wired: live whenever the motor is, and dead whenever it is not."""

from __future__ import annotations

from typing import Final

from vinegate.core.grade import Answer, Gate, Verdict, breaks, depends, from_answer, lacks, meets, ruled, unknown
from vinegate.core.numbers import write
from vinegate.core.records import replace
from vinegate.core.start.ways import way_of
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.facts import RELEASES
from vinegate.core.stop.way import Way
from vinegate.core.turning import Turns
from vinegate.core.wording import inside

_KEY, _NAME = "stop.release", "Brake's release coil"
_NEAR: Final = 0.1


def release_gate(asked: Asked, way: Way, started_by: str, *, advised: bool) -> Gate:
    """Judge the coil's supply against the way it is started and stopped; of a way to start that is only `advised` what
    feeds it can be changed with it.
    """
    fed = asked.stop.release_from
    if fed is None:
        return unknown(_KEY, _NAME, ("where its coil is fed from",))
    driven = way.by_frequency or way_of(started_by).converts
    found = _behind_drive(asked, fed) if driven else _on_line(asked, fed, started_by)
    if advised and found.verdict is Verdict.FAILS and (driven or way_of(started_by).lowers_volts):
        found = _with_advice(found, fed, driven=driven)
    found = replace(found, rule="the coil follows the motor; its maker's range of volts, usually 90 to 110 %")
    remedy = "Its own supply, through a contact that follows the motor."
    return from_answer(_KEY, _NAME, found, remedy=remedy, needs=("the release coil's volts",))


def _turns(passes: str, passes_as: str, fails: str, fails_as: str) -> Turns:
    return Turns(
        path="stop.release_from", label="feed of the coil", passes=passes, fails=fails, passes_as=passes_as,
        fails_as=fails_as,
    )  # fmt: skip


def _with_advice(found: Answer, fed: str, *, driven: bool) -> Answer:
    passes, key = ("the drive's contact on running", "running") if driven else ("the starter's contact", "contactor")
    text = f"Where it starts as advised: {inside(found.text)} Passes for {passes}."
    return depends(text, _turns(passes, key, dict(RELEASES)[fed], fed))


def _behind_drive(asked: Asked, fed: str) -> Answer:
    if fed == "running":
        return meets("The drive's contact on running: it closes the brake at every stop, fault and power failure.")
    if fed == "motor":
        text = "Behind a drive the motor's leads carry other volts than the line: the coil would not release, or burn."
        return breaks(text)
    if fed == "contactor":
        return breaks("The drive's line contactor stays closed at rest: the brake would stay released.")
    text = "The contact on no fault keeps it released whenever the drive is well"
    if asked.must_hold:
        return breaks(f"{text}: at rest nothing holds the load but the drive.")
    text = (
        f"{text}: it closes at a fault or a power failure only, not at every stop. Passes for the contact on running."
    )
    return depends(text, _turns("the drive's contact on running", "running", "the motor's leads", "motor"))


def _on_line(asked: Asked, fed: str, started_by: str) -> Answer:
    if fed in ("running", "fault"):
        return breaks("There is no drive in this circuit whose contact could feed it.")
    if fed == "contactor":
        return meets("A contact of the starter: live whenever the motor is, on steady volts.")
    if way_of(started_by).lowers_volts:
        return breaks("At the motor's leads it sees reduced volts during the start, and may not release.")
    volts = asked.stop.release_v
    if volts is None:
        return lacks("At the motor's leads it needs their volts: the coil's are not known.")
    line = asked.line_v
    fits = any(abs(volts - across) <= _NEAR * across for across in (line, line / 3**0.5) if across)
    if fits and asked.must_hold:
        text = "At the motor's leads the machine's own volts keep it up for a moment: the brake closes late under load."
        text += " Passes for a contact of the starter in its circuit."
        return depends(text, _turns("the starter's contact", "contactor", "a drive's contact", "running"))
    text = "At the motor's leads: live whenever the motor is; it closes a moment late."
    return ruled(fits, text if fits else f"A coil for {write(volts)} V at motor leads of {write(line)} V.")
