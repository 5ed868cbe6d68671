"""Words of plates: labels and units as they are stamped, and forms without a blank that are brought apart."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Final

from vinegate.core.codes import decode
from vinegate.core.plate.kind import KINDS_ALSO, Family, family_of
from vinegate.exchange.columns import plain

UNITS: Final = {"hp": "hp", "horsepower": "hp", "kw": "kW", "rpm": "rpm", "hz": "Hz", "v": "V", "volt": "V",
                 "volts": "V", "vdc": "VDC", "vac": "VAC", "a": "A", "amp": "A", "amps": "A", "fla": "A", "flc": "A",
                 "cycle": "Hz", "cycles": "Hz", "cy": "Hz", "cyc": "Hz"}  # fmt: skip
KEPT: Final = ("hp", "kW", "rpm", "Hz", "VDC", "VAC")
"""Units that stay beside their numbers: these fields have several, or say by them what feeds the machine."""
OTHERS: Final = {
    "frame": "fr framesize size bg", "insulation_class": "ins insclass insulation isokl isolkl isoklasse wkl thcl thkl",
    "ambient_c": "amb maxamb tamb",
    "protection": "ip", "efficiency_pu": "nomeff nomefficiency nemanomeff nemanomefficiency eff", "kind": "ph phase",
    "code_letter": "kvacode codeletter kva", "enclosure": "encl enc", "design_letter": "des design nemadesign nemades",
    "temperature_rise_k": "rise temprise", "power_factor": "cos pf", "frequency_hz": "cycle cycles cy cyc freq",
    "volts": "u un armvolts armaturevolts vdc vac",
    "full_load_current": "i in armamps armatureamps flamps flamp flcurrent ampsfl amp fla current ratedcurrent",
    "rotor_volts_v": "rotorv secvolts secondaryvolts", "rotor_current_a": "rotora rotoramps secamps secondaryamps",
    "field_current_a": "fieldamps", "field_volts_v": "fieldvolts", "starting_current_ratio": "isin iain istin ilrin",
    "service_factor_current_a": "sfamp sfloadamps maxamps maxamp maxa ampsatsf ampssf ampsatservicefactor",
    "locked_rotor_current_a": "lramp lockedrotora lockedrotorcurrent startamps startcurrent",
    "speed_rpm": "min1 rmin umin trmin", "power_w": "pn",
    "duty": "time timerating", "service_factor": "serf servf servicef",
}  # fmt: skip
FIELDS: Final = {
    "insulation": "insulation_class", "design": "design_letter", "letter": "code_letter", "frame": "frame",
    "ip": "protection", "cooling": "cooling", "mounting": "mounting", "duty": "duty", "efficiency": "efficiency_class",
    "enclosure": "enclosure", "thermal": "thermal_protection", "tcode": "temperature_code", "rotation": "rotation",
}  # fmt: skip
"""Codes that say by themselves what they are, by their kind."""
KINDS: Final = {
    plain(name): key for name, key in KINDS_ALSO.items() if isinstance(key, str) and family_of(key) is not Family.CAGE
}
"""Machines that a plate names; "3-phase" on it is a number of phases."""
PLAIN: Final = ("service_factor", "power_factor", "efficiency", "full_load_current", "locked_rotor_current")
"""Numbers without words behind them."""
NUMBER: Final = re.compile(r"[\d.,/½¼¾Δ∆λ+-]*\d[\d.,/½¼¾YDΔ∆λ+-]*")
AHEAD: Final[dict[str, Callable[[str], object]]] = {
    "ambient": re.compile(r"\d{2}\s?°?C?", re.I).fullmatch,
    "frame": lambda word: decode("frame", word),
    "service_factor": re.compile(r"1[.,]\d{1,2}").fullmatch,
}
"""What may stand ahead of its label, as numbers do of their units: 40 °C AMB, 48 FRAME."""
OF_ROTOR: Final = {"volts": "rotor_volts", "full_load_current": "rotor_current"}
OF_FIELD: Final = {"volts": "field_volts", "full_load_current": "field_current"}
OF_ARMATURE: Final = {"volts": "volts", "full_load_current": "full_load_current"}
SIDES: Final = {
    **dict.fromkeys(("rotor", "sec", "secondary"), OF_ROTOR), **dict.fromkeys(("field", "fld", "err"), OF_FIELD),
    **dict.fromkeys(("arm", "armature"), OF_ARMATURE),
}  # fmt: skip
"""Words ahead of volts and amperes that are not the stator's."""
WINDINGS: Final = re.compile(r"[ΔDYλ∆](?:/[ΔDYλ∆])*")
WORD: Final = re.compile(r"((?:[^\s:=;|,]|,(?=\d))+)\s*([:=]?)")
"""With whether a colon names it a label, whatever stands ahead: HP: 10 KW: 7.5."""
COUNTS: Final = ("1", "3")
COUNTED: Final = {"single": "1", "one": "1", "three": "3"}
"""Phases, and the words for them."""
DELTA_WYE: Final = re.compile(r"\d{3}(?:-\d{3})?[ΔD∆]/\d{3}(?:-\d{3})?[Yλ]")
TWO_WINDINGS: Final = re.compile(
    r"(?<![\d-])(\d{3}(?:-\d{3})?)\s?V?\s?([ΔD∆Yλ])\s*/\s*(\d{3}(?:-\d{3})?)\s?V?\s?([ΔD∆Yλ])(?![A-Za-z/])"
)
DEGREES: Final = r"([+−-]?\d+)\s*(?:°\s*C?)?"
_INS: Final = r"(?<!\w)(?:ins(?:ul(?:ation)?)?|isol?)\.?\s*(?:cl(?:asse?)?\.?)?\s*[:=]?"
_RISE: Final = r"(?<!\w)(?:(?:(?:temp(?:erature)?|t)\b\.?\s*)?rise|Δ\s?[Tθϑ])\s*[:=]?"
APART: Final = (
    (re.compile(r"(?<=amps)\s*@\s*(?=s\.?f)", re.I), " at "),
    (re.compile(r"([ΔDYλ∆]/[ΔDYλ∆])\s*(\d+(?:[-/]\d+)*)\s*V\b"), r"\2 V \1"),
    (re.compile(r"(\d[\d.]*\s*(?:hp|kw))\s*\(\s*\d[\d.]*\s*(?:hp|kw)\s*\)", re.I), r"\1 "),
    (re.compile(r"(?<![\w.])(\d\.\d+)(?=sf\b)", re.I), r"\1 "),
    (re.compile(r"(\d+)\s?V\s?([ΔDYλ∆])\s*[/ ]\s*(\d+)\s?V\s?([ΔDYλ∆])(?![A-Za-z])"), r"\1/\3 V \2/\4"),
    (re.compile(r"(\d[\d.,]*)\s?A\s*/\s*(\d[\d.,]*)\s?A\b"), r"\1/\2 A"),
    (re.compile(r"η"), " eff "),
    (re.compile(r"\bIEC\s+(?=\d{2,3}\s?[SMLX]\w*\b)"), "Frame "),
    (re.compile(rf"{_RISE}\s*(?:class|cl\.?)?\s*([ABEFH])(?![\w/-])", re.I), r" temprise: \1 "),
    (re.compile(r"\bclass\s+([ABEFHN])\s+ins(?:ul(?:ation)?)?\b", re.I), r"INS CL \1"),
    (re.compile(rf"{_INS}\s*([ABEFH])\s*/\s*([ABEFH])\b", re.I), r" INS: \1 temprise: \2 "),
    (re.compile(rf"{_INS}\s*([ABEFHN])(?![\w/(-])", re.I), r" INS: \1 "),
    (re.compile(r"(?<![\w.,])(\d{2,3})\s*°?\s*[KC]\s+(?:temp(?:erature)?\.?\s*)?rise\b", re.I), r" temprise: \1 K "),
    (re.compile(rf"{_RISE}\s*(\d{{2,3}})(?:\s*°?\s*[KC])?(?![\w/])", re.I), r" temprise: \1 K "),
    (re.compile(r"(?<=\d)(?:\s*(?:[rU]|tr)\s?/|\s+1\s?/|\s*/|\s*)\s?min(?:⁻¹|-1|(?<=/min))", re.I), " rpm"),
    (
        re.compile(
            r"(?<![\w./-])(?!56hz\b)(\d[\d.,/½-]*)(hp|kw|rpm|hz|volts?|vdc|vac|v|amps?|fla|a)(?![A-Za-z])", re.I
        ),
        r"\1 \2",
    ),
    (re.compile(r"\b(sf|hp|kw|rpm|hz|fr|pf|eff|amb|fla)(?=\d)", re.I), r"\1 "),
    (re.compile(r"\bIE\s+([1-5])(?![\w.,])", re.I), r"IE\1"),
    (re.compile(r"\b(IE[1-5])\s*[-–/]\s*(?=\d)", re.I), r"\1 "),
    (re.compile(r"(\d{2}(?:[.,]\d+)?)\s*%?\s*\(\s*100\s*%\s*\)"), r"\1% "),
    (re.compile(r"\bIns\.?\s?cl\.?\s*(?=\d{3})", re.I), "Th.Cl."),
    (re.compile(r"(?<![\w.])(\d[\d.,]*\s*(?:hp|kw))\s*/\s*\d[\d.,]*\s*(?:hp|kw)\b", re.I), r"\1 "),
    (re.compile(r"(?<![\w.])([13])[\s-]?(ph(?:ase)?)\b", re.I), r"\1 \2"),
    (re.compile(r"(?<![\w.])([13])\s?~\s*(?:mot(?:or)?\b\.?)?", re.I), r"\1 PH "),
    (re.compile(r"(?<![\w.,/])(63|71|80|90|100|112|132|160|180|200|225|250|280|315|355) ([SML])(?![\w.])"), r"\1\2"),
    (re.compile(r"(?<=\d)\s+%"), "%"),
    (re.compile(r"\b(?:single|one)[\s-]phase\b", re.I), "1 PH"),
    (re.compile(r"\bthree[\s-]phase\b", re.I), "3 PH"),
    (re.compile(r"\binverter[\s-]duty\b", re.I), "inverter-duty"),
    (re.compile(r"\b(hp|kw)\s*/\s*(?:hp|kw)\s*[:=]?\s*(\d[\d.]*)\s*/\s*\d[\d.]*(?:\s*(?:hp|kw)\b)?", re.I), r"\1 \2"),
    (re.compile(r"(?<=\d)\s*V\s*(?=[Δ∆λ])"), " V "),
    (re.compile(rf"{DEGREES}\s*(?:≤|<=?)\s*T\s?a(?:mb)?\.?\s*(?:≤|<=?)\s*{DEGREES}", re.I), r" AMB \1..\2°C "),
    (
        re.compile(rf"\bT\s?a(?:mb)?\.?\s*[:=]?\s*{DEGREES}\s*(?:\.{{2,3}}|…|/|to)\s*{DEGREES}", re.I),
        r" AMB \1..\2°C ",
    ),
    (re.compile(r"(?<![\w.])(\d{2})\s*°?\s*C\s+(?=amb)", re.I), r"\1C "),
    (re.compile(r"\bT\s?a\b\.?\s*[:=]?\s*(?=[+−-]?\d+\s*°)", re.I), " AMB "),
)
"""What is stamped without a blank, shaft heights apart from their letter, and speeds in turns a minute."""
