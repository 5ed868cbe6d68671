"""What a run must carry by NFPA 70: the share of which amperes, by which clause."""

from __future__ import annotations

from typing import Final

from vinegate.core.plate.duty import read_duty
from vinegate.core.protection.need import Need
from vinegate.core.protection.sizing import table
from vinegate.core.records import dataclass
from vinegate.core.sheet import Sheet
from vinegate.core.tables import load
from vinegate.core.working import Figure

RULE: Final = "NFPA 70:2023 430.22"
_SEVERAL: Final = "NFPA 70:2023 430.24"
_AHEAD: Final = "NFPA 70:2023 430.122(A)"
_LONGEST_MIN: Final = 60.0
_INTO_DRIVE: Final = 125.0
_FULL_WAVE: Final = 150.0  # 430.22(A)(2): between a full-wave single-phase rectifier and the motor


def asked_of_run(sheet: Sheet, need: Need) -> tuple[Figure, str]:
    """What sizes the run, and by which rule: a duty that is not continuous asks no less of what a drive takes, nor of
    what a single-phase rectifier gives.
    """
    assert need.sizing
    rectified = need.way.rectifies and need.fed_by_one
    share, clause = (_FULL_WAVE, f"{RULE}(A)(2)") if rectified else (125.0, RULE)
    if need.motors > 1:  # alike: 125 % of one of them and all of the others
        share, clause = 100.0 + 25.0 / need.motors, _SEVERAL
    asked = _Asked(need.sizing, share, clause, "the current that sizes them")
    by_duty, given_in = _by_duty(need), need.circuit.protection.drive_input_a
    if by_duty is not None and (not rectified or by_duty.value > asked.value):
        asked = by_duty
    if need.way.converts and given_in is not None and _INTO_DRIVE * given_in > asked.value:
        amps = sheet.given("drive_input", "Drive's rated input", "I_in", given_in, "A", fact="protection.drive_input")
        asked = _Asked(amps, _INTO_DRIVE, f"{RULE}(A)" if need.way.rectifies else _AHEAD, "the drive's input")
    percent = table(sheet, "need_pct", f"Conductors, of {asked.of}", "k_c", asked.share, "%", asked.clause)
    figure = sheet.percent("need", "Conductors carry at least", "I_c", percent, asked.amps)
    return figure, f"{asked.clause}{asked.said}: {asked.share:g} %"


@dataclass(frozen=True, slots=True)
class _Asked:
    """A share, per cent, of amperes, by a clause; what else is said of it."""

    amps: Figure
    share: float
    clause: str
    of: str
    said: str = ""

    @property
    def value(self) -> float:
        return self.amps.value * self.share


def _by_duty(need: Need) -> _Asked | None:
    """430.22(E): a share of the plates' amperes by the duty of the run and the motor's own time rating."""
    duty, cells = need.circuit.wiring.duty, load("duty_nec")
    row = cells.find(duty=duty) if duty else None
    share = cells.number(row, rated_for(need)) if row else None
    if share is None or need.stamped is None:
        return None
    return _Asked(need.stamped, share, f"{RULE}(E)", "the plate's current", f", {duty} duty")


def rated_for(need: Need) -> str:
    """Column of the duty table: the motor's own time rating."""
    duty = read_duty(need.circuit.plate.duty)
    if duty is None or duty.kind != "S2" or duty.minutes is None or duty.minutes > _LONGEST_MIN:
        return "continuous"
    return "min_5" if duty.minutes <= 5 else "min_15" if duty.minutes <= 15 else "min_30_60"
