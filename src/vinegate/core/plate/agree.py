"""What a plate says twice in other words: a gate only where the two cannot both be, as one was read wrongly."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Final

from vinegate.core.grade import Gate, check, rule
from vinegate.core.numbers import write
from vinegate.core.plate.enclosed import cooling_code, enclosure_code, enclosure_row, ip_code, ip_marks
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.ie_class import ie_class
from vinegate.core.plate.insulation import AMBIENT_C, SERVICE_FACTOR_K, class_letter, rise_allowed_k
from vinegate.core.plate.kind import THREE_PHASE, Family
from vinegate.core.plate.letter import MOST_START, USUAL_START, by_letter, which_letter
from vinegate.core.plate.rated import Rated
from vinegate.core.tables.efficiency import nominal_efficiency
from vinegate.core.turning import Turns

_WITHOUT_FAN_K: Final = 5.0  # the same, of totally enclosed machines without a fan
_TOLERANCE: Final = 0.15  # IEC 60034-1:2022 table 20: of the losses, to 150 kW
_ROUNDED: Final = 5e-4  # efficiencies are stamped to a tenth of a per cent
# Starting over rated current: from the standards' code letters, designs and IEC 60034-12 for whole sizes; assumed.
_LEAST_RATIO: Final = 2.5
_LEADS_OF_ONE: Final = 3
_CLOSED_DIGIT: Final = 4  # IEC 60529: against wires of 1 mm, what "totally enclosed" has at least
_READ_AGAIN: Final = "Read both on the plate again."


def agree_gates(plate: Plate, rated: Rated) -> Iterator[Gate]:
    """Of rise and insulation, enclosure and its codes, class and efficiency, starting current, leads and volts."""
    cased = _rise(plate), _enclosed(plate), _cooled(plate)
    starts = _starting(plate, rated), _starting_twice(plate, rated)
    for gate in (*cased, _efficiency(plate, rated), *starts, _leads(plate)):
        if gate is not None:
            yield gate


def _rise(plate: Plate) -> Gate | None:
    """A rise above what the insulation's class bears at the plate's ambient."""
    allowed_k = rise_allowed_k(plate.insulation_class)
    if allowed_k is None or plate.temperature_rise_k is None:
        return None
    ambient = AMBIENT_C if plate.ambient_c is None else plate.ambient_c
    more = SERVICE_FACTOR_K if (plate.service_factor or 1.0) > 1.0 else 0.0
    if enclosure_code(plate.enclosure) == "TENV":
        more = max(more, _WITHOUT_FAN_K)
    most = allowed_k + more + AMBIENT_C - ambient
    if plate.temperature_rise_k <= most:
        return None
    text = f"{write(plate.temperature_rise_k, 3)} K of rise; class {class_letter(plate.insulation_class)} bears "
    text += f"{write(most, 3)} K above {write(ambient, 3)} °C."
    source = "NEMA MG 1:2021 12.43; IEC 60034-1:2022 table 8"
    return rule("plate.rise", "Rise goes with the insulation", False, text, source, remedy=_READ_AGAIN,
                value=plate.temperature_rise_k, limit=most, unit="K")  # fmt: skip


def _enclosed(plate: Plate) -> Gate | None:
    """Open or closed, as its enclosure, its IP code and its way of cooling say."""
    said = dict(_open_or_closed(plate))
    if len(set(said.values())) <= 1:
        return None
    text = ", ".join(f"{what} {'closed' if closed else 'open'}" for what, closed in said.items()) + ": not all are so."
    turns = Turns(path="plate.protection", label="IP code", passes="as the enclosure is built")
    source = "NEMA MG 1:2021 1.25, 1.26; IEC 60034-5:2020, IEC 60034-6:1991"
    return check("plate.enclosed", "Enclosure and its codes agree", turns, text, source, remedy=_READ_AGAIN)


def _cooled(plate: Plate) -> Gate | None:
    """Own fan, blower, the air it drives or none: closed enclosures name one, and the IC code another."""
    row = enclosure_row(plate.enclosure)
    code = cooling_code(plate.cooling)
    if row is None or code not in _CLOSED_COOLING or row["code"] not in _NAMES_COOLING or row["ic"] == code:
        return None
    turns = Turns(path="plate.cooling", label="cooling", passes=row["ic"], passes_as=row["ic"])
    text = f"{row['code']} is {row['meaning']}, {row['ic']}; {code} says otherwise. Passes for {turns.label} "
    source = "NEMA MG 1:2021 1.26; IEC 60034-6:1991"
    return check("plate.cooled", "Enclosure and cooling agree", turns, f"{text}{turns.passes}.", source,
                 remedy=_READ_AGAIN)  # fmt: skip


_CLOSED_COOLING: Final = ("IC410", "IC411", "IC416", "IC418")
_NAMES_COOLING: Final = ("TEFC", "TENV", "TEAO", "TEBC")


def _open_or_closed(plate: Plate) -> Iterator[tuple[str, bool]]:
    row = enclosure_row(plate.enclosure)
    if row is not None:
        yield f"{row['code']} is", row["open"] == "no"
    code = ip_code(plate.enclosure, plate.protection)
    if marks := ip_marks(code):
        yield f"{code} is", marks[0][0] >= _CLOSED_DIGIT
    if (cooling := cooling_code(plate.cooling))[:3] in ("IC0", "IC4"):
        yield f"{cooling} is", cooling.startswith("IC4")


def _efficiency(plate: Plate, rated: Rated) -> Gate | None:
    """An efficiency below what the class stamped beside it asks, at 50 Hz where it is tabulated."""
    stamped, given = ie_class(plate.efficiency_class), plate.efficiency_pu
    if given is None or not stamped or rated.synchronous is None or rated.frequency is None or plate.power_w is None:
        return None
    if abs(rated.frequency.value - 50) > 0.5:
        return None
    poles = round(120 * rated.frequency.value / rated.synchronous.value)
    asked = "IE3" if stamped in ("IE4", "IE5") else stamped
    nominal = nominal_efficiency(power_w=plate.power_w, poles=poles, ie_class=asked)
    if nominal is None or given >= nominal - _ROUNDED:
        return None
    key, name, source = "plate.efficiency_class", "Efficiency goes with its class", "IEC 60034-30-1:2014, 50 Hz"
    text = f"{write(100 * given, 3)} % with {stamped}, which asks {'over ' if asked != stamped else ''}"
    text += f"{write(100 * nominal, 3)} % of {poles} poles."
    if given < nominal - _TOLERANCE * (1 - nominal):
        return rule(
            key, name, False, text, source, remedy=_READ_AGAIN, value=100 * given, limit=100 * nominal, unit="%"
        )
    turns = Turns(path="plate.efficiency", label="efficiency", passes=f"from {write(100 * nominal, 3)} %",
                  passes_as=f"{write(100 * nominal + 0.05, 4)} %",
                  fails=f"below {write(100 * (nominal - _TOLERANCE * (1 - nominal)), 3)} %")  # fmt: skip
    return check(key, name, turns, text, source, remedy=_READ_AGAIN)


def _starting(plate: Plate, rated: Rated) -> Gate | None:
    """Starting current that hardly a machine draws of its rated current."""
    if rated.current is None or plate.family not in (Family.CAGE, Family.SINGLE):
        return None
    amps, ratio, band = rated.at_rest_a, plate.starting_current_ratio, by_letter(plate, rated)
    if amps is not None:
        ratio, per = amps / rated.current.value, rated.current.value
        path, label, unit = "plate.locked_rotor_current", "locked-rotor amperes", " A"
    elif ratio is not None:
        path, label, unit, per = "plate.starting_current_ratio", "starting current ratio", "", 1.0
    elif band is not None:
        ratio = band[0] if band[0] > MOST_START else min(band[1], MOST_START)
        path, label, unit, per = "plate.locked_rotor_current", "locked-rotor amperes", " A", rated.current.value
    if ratio is None or _LEAST_RATIO <= ratio <= MOST_START:
        return None
    far = ratio > MOST_START
    edge = per * (MOST_START if far else _LEAST_RATIO)
    turns = Turns(path=path, label=label, passes=f"{'up to' if far else 'from'} {write(edge, 3)}{unit}",
                  passes_as=f"{write(edge * (0.99 if far else 1.01), 3)}{unit}")  # fmt: skip
    by_wye = amps is None and plate.starting_current_ratio is None and plate.code_letter_for == "wye-start"
    if by_wye and far:
        turns = which_letter("run")
    usual = " to ".join(write(one) for one in USUAL_START)
    text = f"At rest it would draw {write(ratio, 3)} times its rated current; usual are {usual}. "
    text += f"Passes for any {turns.label} {turns.passes}."
    source = "usual of cage machines; assumed"
    return check("plate.starting", "Starting and rated current agree", turns, text, source, remedy=_READ_AGAIN)


def _starting_twice(plate: Plate, rated: Rated) -> Gate | None:
    """Locked-rotor amperes against their ratio to the rated ones: both of one machine, but for rounding."""
    amps, ratio = rated.at_rest_a, plate.starting_current_ratio
    if amps is None or ratio is None or rated.current is None:
        return None
    by_ratio = ratio * rated.current.value
    apart = max(amps, by_ratio) / min(amps, by_ratio) - 1
    if apart <= _SAME_START:
        return None
    text = f"{write(amps, 3)} A at rest; {write(ratio, 3)} times {rated.current.shown} is {write(by_ratio, 3)} A."
    key, name, source = "plate.starting_twice", "Starting current and its ratio agree", "one machine's plate says one"
    if apart > _OTHER_START:
        return rule(key, name, False, text, source, remedy=_READ_AGAIN, value=amps, limit=by_ratio, unit="A")
    turns = Turns(path="plate.locked_rotor_current", label="locked-rotor amperes",
                  passes=f"near {write(by_ratio, 3)} A", passes_as=f"{write(by_ratio, 4)} A")  # fmt: skip
    text += f" Passes for {turns.label} {turns.passes}."
    return check(key, name, turns, text, source, remedy=_READ_AGAIN)


_SAME_START: Final = 0.05  # both are rounded; assumed
_OTHER_START: Final = 0.20  # IEC 60034-1:2022 table 20: the tolerance of the starting current


def _leads(plate: Plate) -> Gate | None:
    """Two volts by two connections need more leads than three; of one phase it is not asked."""
    if plate.family not in THREE_PHASE or plate.leads != _LEADS_OF_ONE:
        return None
    if plate.volts is None or len(plate.volts.connections) < 2:
        return None
    text = f"Three leads cannot be linked in two ways: one of {plate.volts.text} V was chosen inside."
    turns = Turns(path="plate.leads", label="leads", passes="6, 9 or 12", passes_as="9")
    remedy = "Count the leads, or give the volts of the connection that was chosen."
    source = "NEMA MG 1:2021 2.60 to 2.67; IEC 60034-8:2007"
    return check("plate.leads", "Leads go with the volts", turns, text, source, remedy=remedy)
