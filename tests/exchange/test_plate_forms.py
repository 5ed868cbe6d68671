"""Whole plates pasted as makers stamp them: every field comes back, whatever its form, its neighbours and their order."""

from random import Random

import pytest

from vinegate.core.facts import RuleSetName
from vinegate.core.field import read_facts
from vinegate.core.plate.facts import Plate
from vinegate.exchange.plate_text import read_plate

# By field what may be stamped, the forms of it (# is what is stamped), and what is put behind it as it is typed.
NEC = {
    "power": ("1/2 3/4 1 1-1/2 3 7-1/2 10 75 200", "# HP|HP #|HP: #|H.P. #|#HP", " hp"),
    "speed": ("3451 1761 1185 879 1727", "# RPM|RPM #|RPM: #|R.P.M. #|#RPM|# min-1", ""),
    "volts": ("460 230/460 208-230/460 575 200", "# V|VOLTS #|VOLTS: #|VOLTAGE #|#V|V #", ""),
    "code_letter": ("F G H J K L", "CODE #|KVA CODE #|CODE: #|KVA #|CODE LETTER #", ""),
    "service_factor": ("1.0 1.15 1.25", "SF #|S.F. #|SF: #|SF#|SERVICE FACTOR #|SER.F. #", ""),
    "design_letter": ("A B C", "DES #|DESIGN #|NEMA DES #|DESIGN: #", ""),
    "insulation_class": ("B F H", "INS #|INS CL #|INSUL CLASS #|INSULATION CLASS: #|CLASS # INS", ""),
    "frame": ("56 143T 184T 256T 326TS 445TC", "FR #|FRAME #|FRAME: #|FRAME SIZE #", ""),
    "efficiency": ("86.5 91.7 95.4", "EFF #|NOM EFF #|NEMA NOM. EFF. #%|EFF: #%", "%"),
    "power_factor": ("76.5 84 88.9", "PF #|P.F. #|PF: #|PF #%|POWER FACTOR #", "%"),
    "temperature_rise": ("40 80 90", "RISE #C|TEMP RISE # C|#C RISE|# K RISE|TEMP. RISE: #", ""),
    "frequency": ("60 50", "HZ #|# HZ|#HZ|HZ: #|FREQ #|CY #", ""),
}
IEC = {
    "power": ("0.37 1.1 7.5 11 75 200", "# kW|P # kW|kW #|#kW|P = # kW|PN # kW", " kW"),
    "speed": ("2931 1461 1480 721", "# min-1|# r/min|n # min-1|# 1/min|#/min|min-1 #|n = # r/min|# min⁻¹", ""),
    "volts": ("400Δ/690Y 230Δ/400Y 380-420Δ/660-690Y 400 690", "# V|U # V|V #", ""),
    "power_factor": ("0.78 0.86 0.91", "cosφ #|cos φ #|PF #|cosφ = #|cosφ: #", ""),
    "efficiency_class": ("IE2 IE3 IE4", "#", ""),
    "efficiency": ("86.5 91.7 95.4", "η #%|EFF #%|η = # %|Eff. # %", "%"),
    "protection": ("IP54 IP55 IP65", "#", ""),
    "frame": ("90L 132S 160M 280S", "#|Frame #|IEC #|Size #|BG #", ""),
    "mounting": ("IM B3|IM B35|IM V1", "#", ""),
    "duty": ("S1|S3-40%|S2 30 min", "#|Duty #", ""),
    "insulation_class": ("F", "Th.Cl. #|Ins. cl. #|Iso. Kl. #|Isol.Kl. #|INS #", ""),
    "temperature_rise": ("B F 80", "Rise #|Temp. rise: #|T. rise #|ΔT #", ""),
    "starting_current_ratio": ("5.4 6.9 8.1", "IA/IN #|Is/In #|Ia/In = #", ""),
    "frequency": ("50", "# Hz|f # Hz|Hz #|#Hz", ""),
}
AMPS = ("# A|AMPS #|FLA #|F.L.A. #|#A|AMPS: #|# FLA", "# A|I # A|A #|#A|IN # A|I = # A")
AHEAD = {RuleSetName.NEC: ("", "PH 3", "3 PH", "3PH"), RuleSetName.IEC: ("", "3~", "3~ Mot.")}


def plate(random, rules):
    """What is stamped by field, and the plate; amperes for each of its volts, so that both go together."""
    fields, stamped, parts = (NEC, IEC)[rules is RuleSetName.IEC], {}, []
    for name in random.sample(list(fields), random.randint(4, len(fields))):
        values, forms, behind = fields[name]
        value = random.choice(values.split("|" if "|" in values else " "))
        stamped[name] = value + behind
        parts.append(random.choice(forms.split("|")).replace("#", value))
    amps = "/".join(f"{random.uniform(1, 300):.1f}" for _ in range(1 + stamped.get("volts", "").count("/")))
    stamped["full_load_current"] = amps
    parts += [random.choice(AMPS[rules is RuleSetName.IEC].split("|")).replace("#", amps)]
    parts += [random.choice(AHEAD[rules])]
    random.shuffle(parts)
    apart = (" ", "  ", "\n", ", ", " | ", " / ")[: 6 if rules is RuleSetName.NEC else 3]
    return stamped, random.choice(apart).join(part for part in parts if part)


def read(texts, name, rules):
    facts, errors = read_facts(Plate, {name: texts.get(name, "")}, "plate", us=rules is RuleSetName.NEC)
    assert not errors, (name, texts)
    value = next(iter(facts.model_dump(exclude_none=True).values()), None)
    text = value["text"] if isinstance(value, dict) else value
    return text.removeprefix("Th.Cl. ").removeprefix("IM ") if isinstance(text, str) else text


@pytest.mark.parametrize("rules", list(RuleSetName))
def test_every_field_of_any_plate_comes_back(rules):
    random = Random(7)
    for _ in range(400):
        stamped, text = plate(random, rules)
        texts = read_plate(text, rules).texts
        for name in stamped:
            mine, own = read(texts, name, rules), read(stamped, name, rules)
            assert mine == pytest.approx(own) if isinstance(own, float) else mine == own, (name, text)
