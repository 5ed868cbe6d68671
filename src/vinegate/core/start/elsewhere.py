"""What is asked of a way to start elsewhere, while nobody has said how it starts: on the standby, and by its stop."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from vinegate.core.grade import breaks
from vinegate.core.start.trial import Lack, Trial
from vinegate.core.start.ways import WAYS
from vinegate.core.wording import inside
from vinegate.core.work import Work

HANGS_ON_SOURCE: Final = (
    "start.contactor", "start.drive", "start.heat", "start.per_hour", "start.possible", "start.sensitive",
    "start.succession", "start.terminals", "start.torque", "start.trip",
)  # fmt: skip
"""What hangs on the source. The dip and flicker that a supply contract limits are the utility's alone."""
_BY_DRIVE: Final = "By a drive it is stopped, as is said: only a drive gives that."


def stopped_by_drive(work: Work) -> bool:
    """Whether a drive is to stop it: a step of its own, as all that is said of its stop beside changes no start."""
    return work.step("start: what stops it", lambda: work.circuit.stop.by_drive)


def lacking(work: Work, tried: Callable[[Work], Trial | None]) -> dict[str, Lack]:
    """By ways what they lack: those that fail on the standby, and all but a drive where a drive is to stop it. `tried`
    are the ways on the source in use.
    """
    start, job = work.circuit.start, work.job
    if start.method is not None:
        return {}
    if stopped_by_drive(work):
        return {way.key: Lack(_BY_DRIVE) for way in WAYS if not way.converts}
    if start.on_standby != "yes" or job.on_standby or not job.standby.known:
        return {}

    def failing_on_standby(other: Work) -> dict[str, Lack]:
        trial = tried(other)
        found = _failing(trial)
        if trial is not None:
            trial.runs.release()
        return found

    return work.supposing(failing_on_standby, on_job={"supply": {"in_use": "standby"}})


def _failing(trial: Trial | None) -> dict[str, Lack]:
    """From the least dear on up to the first that does not fail; none where all do, as no other is the better then."""
    found: dict[str, Lack] = {}
    for row in trial.in_order() if trial is not None else ():
        fails = next((gate for gate in row.gates if gate.fails and gate.key in HANGS_ON_SOURCE), None)
        if row.outcome is not None and not row.lacks and fails is None:
            return found
        if fails is not None:
            text = f"Fails on the standby: {inside(fails.name)}."
            found[row.method] = Lack(text, breaks(text))
    return {}
