"""Can the plate's power come from its volts and amperes?"""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, check, rule, unknown
from vinegate.core.numbers import write
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.kind import Family, volt_ampere_factor
from vinegate.core.plate.rated import Rated
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.turning import Turns
from vinegate.core.wording import inside
from vinegate.core.working import Figure

SMALL_W: Final = 2000.0
# Watts up to which, and efficiency × power factor that no machine passes or stays below: bounds round the nominal
# efficiencies of IEC 60034-30-1 (IE1 less a tenth to IE5) times the power factors of two to twelve poles; estimated.
_MOST_ETA_PF: Final = ((750.0, 0.86), (7500.0, 0.92), (75e3, 0.95), (math.inf, 0.97))
_LEAST_ETA_PF: Final = ((750.0, 0.15), (7500.0, 0.35), (75e3, 0.50), (math.inf, 0.58))
_MOST_ETA_DC: Final = 0.97
_LEAST_SINGLE: Final = 0.08  # a shaded-pole machine turns most of what it takes into heat
_LEAST_SINGLE_LARGE: Final = 0.35
# Of efficiency and power factor each alone: as above, power factors from those of many poles up to near one; estimated.
_MOST_ETA: Final = 0.985
_MOST_PF: Final = 0.97
_LEAST_ETA: Final = ((750.0, 0.25), (7500.0, 0.50), (75e3, 0.70), (math.inf, 0.80))
_LEAST_PF: Final = ((750.0, 0.30), (7500.0, 0.45), (75e3, 0.55), (math.inf, 0.60))
_AGREES: Final = 0.05
_DISAGREES: Final = 0.12


def power_gate(sheet: Sheet, circuit: Circuit, rated: Rated, rules: RuleSet) -> Gate:
    """Efficiency × power factor implied by power, volts and amperes, against what a machine of its size can have."""
    key, name = "plate.power", "Power, volts and amperes agree"
    plate = circuit.plate
    missing = tuple(
        label
        for _, label in rated.lacking(
            ("plate.power", "power", rated.power),
            ("plate.volts", "volts", rated.volts),
            ("plate.full_load_current", rules.words.full_load_current, rated.current),
        )
    )
    if rated.power is None or rated.volts is None or rated.current is None:
        return unknown(key, name, missing)
    implied = _implied(sheet, plate, rated.power, rated.volts, rated.current)
    source = _power_law(plate)
    remedy = "Read power, volts and amperes on the plate again; check which volts the amperes are for."
    product = rated.current.value * implied.value
    most, least = _most_eta_pf(circuit), _least_eta_pf(circuit)
    if implied.value > most or implied.value < least:
        text = (
            f"{rated.power.shown} from {rated.current.shown} at {rated.volts.shown}: {_ratio(plate).lower()} would "
            f"be {implied.value:.2f}; a machine of this size has {least:.2f} to {most:.2f}."
        )
        if plate.kind is None and implied.value < least <= (single := math.sqrt(3) * implied.value) <= most:
            remedy = f"A single-phase motor's would be {single:.2f}: choose its kind. {remedy}"
        return rule(key, name, False, text, source, remedy=remedy, value=implied.value, limit=most)
    if (stamped := _stamped(plate)) is not None:
        apart = abs(implied.value / stamped - 1)
        text = f"{_ratio(plate)}: {implied.value:.3f} from power, volts and amperes, {stamped:.3f} as given."
        if _AGREES < apart <= _DISAGREES:
            return _apart(key, name, text, product, stamped, rated.current, source, remedy)
        met = apart <= _AGREES
        return rule(key, name, met, text, source, remedy=remedy, value=implied.value, limit=stamped)
    if (alone := _alone(key, name, plate, implied.value, source, remedy)) is not None:
        return alone
    text = f"{_ratio(plate)} comes to {implied.value:.2f}, which a motor can have."
    return rule(key, name, True, text, source, value=implied.value, limit=most, margin=most - implied.value)


def _ratio(plate: Plate) -> str:
    return "Efficiency" if plate.family is Family.DC else "Efficiency × power factor"


def _power_law(plate: Plate) -> str:
    if plate.family is Family.DC:
        return "P = U·I·η"
    return "P = √3·U·I·η·pf" if volt_ampere_factor(plate.kind) > 1 else "P = U·I·η·pf"


def _stamped(plate: Plate) -> float | None:
    """Efficiency × power factor where the plate gives both; direct current asks for the first alone."""
    if plate.efficiency_pu and plate.family is Family.DC:
        return plate.efficiency_pu
    return plate.efficiency_pu * plate.power_factor if plate.efficiency_pu and plate.power_factor else None


def _alone(key: str, name: str, plate: Plate, implied: float, source: str, remedy: str) -> Gate | None:
    """One of efficiency and power factor given, where the other could then hardly be; None where it can."""
    watts, three = plate.power_w or 0.0, volt_ampere_factor(plate.kind) > 1
    if plate.power_factor:
        path, label, other, given = "plate.power_factor", "power factor", "efficiency", plate.power_factor
        least, most = _upto(_LEAST_ETA, watts) if three else _LEAST_SINGLE, _MOST_ETA
    elif plate.efficiency_pu:
        path, label, other, given = "plate.efficiency", "efficiency", "power factor", plate.efficiency_pu
        least, most = _upto(_LEAST_PF, watts), _MOST_PF if three else 1.0
    else:
        return None
    rest = implied / given
    if least <= rest <= most:
        return None
    text = f"Efficiency × power factor comes to {implied:.2f}; with {write(given, 3)} as {label} the {other} would be "
    text += f"{rest:.2f}."
    if rest > most * (1 + _DISAGREES):
        return rule(key, name, False, text, source, remedy=remedy, value=rest, limit=most)
    low, high = math.ceil(100 * implied / most) / 100, math.floor(100 * min(implied / least, 1.0)) / 100
    turns = Turns(
        path=path,
        label=label,
        passes=f"between {write(low, 2)} and {write(high, 2)}",
        passes_as=write(math.sqrt(low * high), 2),
        fails=f"below {write(implied / most / (1 + _DISAGREES), 2)}",
        fails_as=write(implied / most / (1 + _DISAGREES) * 0.95, 2),
    )
    text += f" Passes for any {label} {turns.passes}."
    return check(key, name, turns, text, source, remedy=remedy)


def _upto(rows: tuple[tuple[float, float], ...], watts: float) -> float:
    return next(value for upto, value in rows if watts <= upto)


def _apart(
    key: str, name: str, text: str, product: float, stamped: float, current: Figure, source: str, remedy: str
) -> Gate:
    """Plate and its own efficiency and power factor a little apart: the amperes decide."""
    fits, worse = product / stamped, product / stamped / (1 + 1.5 * _DISAGREES)
    turns = Turns(
        path="plate.full_load_current",
        label=inside(current.name),
        passes=f"near {write(fits, 3)} A",
        fails=f"below {write(product / stamped / (1 + _DISAGREES), 3)} A",
        passes_as=f"{write(fits, 4)} A",
        fails_as=f"{write(worse, 4)} A",
    )
    text += f" Passes for {turns.label} {turns.passes}; {current.shown} given."
    return check(key, name, turns, text, source, remedy=remedy)


def _most_eta_pf(circuit: Circuit) -> float:
    """No machine gives more of its volt-amperes: 0.97, less for small ones (losses grow as size falls)."""
    if circuit.plate.family is Family.DC:
        return _MOST_ETA_DC
    watts = circuit.plate.power_w or 0.0
    return _upto(_MOST_ETA_PF, watts)


def _least_eta_pf(circuit: Circuit) -> float:
    watts = circuit.plate.power_w or 0.0
    if circuit.plate.family is Family.SINGLE:
        return _LEAST_SINGLE if watts < SMALL_W else _LEAST_SINGLE_LARGE
    return _upto(_LEAST_ETA_PF, watts)


def _implied(sheet: Sheet, plate: Plate, power: Figure, volts: Figure, current: Figure) -> Figure:
    factor = volt_ampere_factor(plate.kind)
    three = factor > 1
    watts_per = WATT_PER_HP if power.unit == "hp" else 1000.0
    per_text = "745.7" if power.unit == "hp" else "1000"
    return sheet.work(
        "eta_pf",
        f"{_ratio(plate)}, implied",
        "η" if plate.family is Family.DC else "ηpf",
        power.value * watts_per / (factor * volts.value * current.value),
        "",
        formula=f"{per_text}·P/({'√3·' if three else ''}U_N·{current.symbol})",
        inputs=(power, volts, current),
        source=_power_law(plate),
    )
