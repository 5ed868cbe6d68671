"""The code letter: its band of amperes, for what connection it is, and whether it agrees with what else is stamped."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.grade import Gate, check, rule
from vinegate.core.numbers import write
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.kind import Family, volt_ampere_factor
from vinegate.core.plate.rated import Rated
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.tables import load
from vinegate.core.turning import Turns

USUAL_START: Final = (4.0, 10.0)
"""Starting over rated current of usual cage machines; assumed."""
MOST_START: Final = 12.0
"""Starting over rated current that hardly a cage machine draws; assumed."""

_WYE: Final = 3.0  # a delta draws three times its wye
_EDGE: Final = 0.05  # so far outside its band is rounding; assumed
_TABLE_HZ: Final = 60.0
_NEITHER: Final = (1.0, 1.0)


def letter_times(plate: Plate, rated: Rated) -> tuple[float, float]:
    """How many times the letter's amperes full voltage draws at the low and the high end of its band: as it runs, or
    three times where it is of the wye start (NFPA 70:2023 430.7(B)). Of a letter of which no more is said it may be
    either, where it is little for a machine as it runs and usual for one that starts in wye.
    """
    if plate.code_letter_for == "wye-start":
        return _WYE, _WYE
    ends = _as_it_runs(plate, rated)
    if ends is None or not may_be_of_wye(plate):
        return _NEITHER
    little, usual = ends[1] <= USUAL_START[0], _WYE * ends[0] <= min(USUAL_START[1], _most_by_design(plate, rated))
    return (1.0, _WYE) if little and usual else _NEITHER


def may_be_of_wye(plate: Plate) -> bool:
    """Whether its letter, of which no more is said, may be that of a start in wye."""
    return plate.code_letter_for is None and plate.family is Family.CAGE and plate.leads in (None, 6, 12)


def by_letter(plate: Plate, rated: Rated) -> tuple[float, float] | None:
    """Ends of full voltage's current by the code letter over the rated; None where the plate lacks what it takes."""
    ends = _as_it_runs(plate, rated)
    if ends is None:
        return None
    low, high = letter_times(plate, rated)
    return low * ends[0], high * ends[1]


def _as_it_runs(plate: Plate, rated: Rated) -> tuple[float, float] | None:
    row = load("code_letter").find(letter=plate.code_letter or "")
    if row is None or rated.volts is None or rated.current is None or plate.power_w is None:
        return None
    per_kva = 1000 * plate.power_w / WATT_PER_HP / (
        volt_ampere_factor(plate.kind) * rated.volts.value * rated.current.value
    )  # fmt: skip
    ends = (float(row[f"{end}_kva_per_hp"] or math.inf) for end in ("from", "to"))
    low, high = (end * per_kva for end in ends)
    return low, high


def letter_drawing(plate: Plate, rated: Rated, ratio: float) -> str:
    """The letter whose band holds so many times rated current, of what it is said to be for, else as it runs; empty
    where the plate lacks what it takes.
    """
    times = _WYE if plate.code_letter_for == "wye-start" else 1.0
    for row in load("code_letter").rows:
        ends = _as_it_runs(plate.model_copy(update={"code_letter": row["letter"]}), rated)
        if ends is not None and times * ends[0] <= ratio < times * ends[1]:
            return row["letter"]
    return ""


def design_row(plate: Plate, rated: Rated) -> dict[str, str] | None:
    """The row of NEMA MG 1:2021 12.35.1 for this plate: designs B, C and D, three-phase, 60 Hz; a power between two
    rows has the larger one's.
    """
    if plate.design_letter not in ("B", "C", "D") or plate.power_w is None or rated.frequency is None:
        return None
    if abs(rated.frequency.value - _TABLE_HZ) > 1 or volt_ampere_factor(plate.kind) == 1:
        return None
    hp = plate.power_w / WATT_PER_HP
    return next((row for row in load("locked_rotor_nema").rows if float(row["hp"]) >= 0.99 * hp), None)


def _most_by_design(plate: Plate, rated: Rated) -> float:
    """The design's most over rated current; without end where there is none."""
    row = design_row(plate, rated)
    if row is None or rated.volts is None or rated.current is None:
        return math.inf
    return float(row["amps_230"]) * 230 / rated.volts.value / rated.current.value


def letter_gate(plate: Plate, rated: Rated) -> Gate | None:
    """Code letter against stamped locked-rotor amperes, or their ratio; a letter of the wye against a third of them."""
    amps, of_ratio = rated.at_rest_a, False
    if amps is None and plate.starting_current_ratio is not None and rated.current is not None:
        amps, of_ratio = plate.starting_current_ratio * rated.current.value, True
    if plate.code_letter is None or amps is None or plate.power_w is None or not rated.volts:
        return None
    table = load("code_letter")
    row = table.find(letter=plate.code_letter)
    assert row is not None
    of_wye = plate.code_letter_for == "wye-start"
    share = volt_ampere_factor(plate.kind) / (_WYE if of_wye else 1)
    per_hp = share * rated.volts.value * amps / 1000 / (plate.power_w / WATT_PER_HP)
    low, high = table.number(row, "from_kva_per_hp") or 0.0, table.number(row, "to_kva_per_hp") or math.inf
    key, name = "plate.letter", "Code letter and locked-rotor amperes agree"
    said = f"{write(amps, 3 if of_ratio else 6)} A is {write(per_hp, 3)} kVA/hp{' in wye' if of_wye else ''}"
    if low <= per_hp < high:
        return rule(key, name, True, f"{said}, within letter {plate.code_letter}.", table.cite)
    text = f"{said}, outside letter {plate.code_letter}: code letter and locked-rotor amperes disagree."
    remedy = "Read both again."
    if low * (1 - _EDGE) <= per_hp < high * (1 + _EDGE):
        turns = _within(per_hp, low, high, amps / per_hp)
        text += f" Passes for {turns.label} {turns.passes}."
        return check(key, name, turns, text, table.cite, remedy=remedy)
    if may_be_of_wye(plate) and low <= per_hp / _WYE < high:
        text += " A third is within it, as of a letter that is of the wye start."
        return check(key, name, which_letter("wye-start"), text, table.cite, remedy=remedy)
    return rule(key, name, False, text, table.cite, remedy=remedy)


def _within(per_hp: float, low: float, high: float, per_kva: float) -> Turns:
    """The amperes at the near end of the letter's band."""
    inside = min(max(per_hp, low * 1.002), high * 0.998) * per_kva
    outside = (low * (1 - 1.5 * _EDGE) if per_hp < low else high * (1 + 1.5 * _EDGE)) * per_kva
    return Turns(
        path="plate.locked_rotor_current",
        label="locked-rotor amperes",
        passes=f"{'from' if per_hp < low else 'up to'} {write(inside, 3)} A",
        fails=f"{'below' if per_hp < low else 'above'} {write(outside, 3)} A",
        passes_as=f"{write(inside, 4)} A",
        fails_as=f"{write(outside, 4)} A",
    )


_WORDS: Final = {"wye-start": "of the wye start", "run": "as it runs"}


def which_letter(passes: str) -> Turns:
    """For what connection the letter is."""
    fails = next(key for key in _WORDS if key != passes)
    return Turns(path="plate.code_letter_for", label="code letter", passes=_WORDS[passes], passes_as=passes,
                 fails=_WORDS[fails], fails_as=fails)  # fmt: skip
