"""Columns of a list by their heads: which fact each is of, its unit, and whether what stands in it is of that fact."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from functools import cache
from typing import Any, Final

from vinegate.core.facts import circuit_parts, kind_of, listed_keys
from vinegate.core.field import Fact, Facts
from vinegate.core.plate.kind import KINDS, KINDS_ALSO
from vinegate.core.record.facts import FORMS

TAG_PATH: Final = "tag"
_NOT_SAID: Final = re.compile(r"[-–—?.]+|#?n\W?/?\W?a\W?|tb[acd]|unknown|not known", re.I)
"""What stands in a cell of which nobody knows the contents: it is as if it were empty."""

WORDS_OF: Final = {
    TAG_PATH: "tag tagno tagnumber motortag circuittag motor motorno motorid equipmentno equipmenttag equipno equipment"
    " item id position circuit",
    "plate.kind": "phase phases ph noofphases numberofphases",
    "start.driven": "drives driven drivenmachine drivenequipment service description equipmentdescription load"
    " application",
    "plate.power": "hp kw horsepower power rating motorhp motorkw motorpower ratedhp ratedkw ratedpower nameplatehp"
    " nameplatekw output motorrating motorsize motoroutput ratedoutput sizehp sizekw",
    "plate.volts": "v u un volt voltage volts ratedvoltage motorvoltage motorvolts vph voltageph voltagephase"
    " voltsphase vphhz voltagephasehz voltsphasehz voltagephhz voltsphhz electrical",
    "plate.full_load_current": "fla flc amps amperes a in motorcurrent nominalcurrent i fullloadamps"
    " fullloadcurrent ratedcurrent ratedamps nameplateamps nameplatefla motorfla",
    "plate.speed": "rpm speed ratedspeed motorspeed",
    "plate.frequency": "hz frequency",
    "plate.service_factor": "sf",
    "plate.code_letter": "code letter kvacode nemacode",
    "plate.design_letter": "design nemadesign",
    "plate.frame": "frame framesize frameno",
    "plate.enclosure": "enclosure encl",
    "plate.insulation_class": "insclass insulationclass ins insul",
    "plate.protection": "ip iprating",
    "plate.efficiency": "eff efficiency",
    "plate.power_factor": "pf cosphi",
    "plate.starting_current_ratio": "iain istin lrcratio startingratio",
    "plate.locked_rotor_current": "lra lrc lockedrotoramps lramps startingamps inrush inrushamps inrushcurrent"
    " lockedrotor",
    "plate.service_factor_current": "sfa sfamps sfcurrent servicefactoramps",
    "machine.no_load_current": "nla noloadamps",
    "machine.locked_rotor_torque": "lrt mamn tatn tstn mstmn tltn mlmn",
    "machine.breakdown_torque": "bdt mkmn tbtn mbmn tmaxtn mmaxmn pullouttorque",
    "wiring.length": "length run cablelength runlength wirelength circuitlength distance",
    "wiring.size": "wire size conductor cable cablesize wiresize conductorsize wires conductors wireconduit conduitwire"
    " wireandconduit conduitandwire circuitwiring circuitconductors branchcircuit branchcircuitwiring"
    " section crosssection csa cablecsa cablesection conductorsection mm2 cablemm2",
    "wiring.conduit": "conduit conduitsize conduittype racewaysize",
    "wiring.board": "board panel mcc fedfrom feedfrom feederfrom switchboard panelboard",
    "start.method": "starter method start startingmethod methodofstarting typeofstarter startertype starttype"
    " typeofstart starting",
    "start.starts_per_hour": "startsperhour startshour startsh startshr",
    "plate.leads": "leads noleads noofleads numberofleads",
    "load.kind": "loadkind loadtype typeofload",
    "load.power": "bhp brakehp brakehorsepower shaftpower absorbedpower powerabsorbed loadkw loadhp loadpower bkw"
    " absorbedkw absorbed kwabsorbed shaftkw brakekw",
    "load.inertia": "loadinertia wk2",
    "protection.starter_size": "nemasize nemastartersize startersizenema",
    "protection.disconnect": "disc disconnect disconnectswitch disconnectsize disconnectrating safetyswitch isolator"
    " isolatorrating isolatorsize localisolator",
    "protection.drive_device": "mocp maxocpd maxfuse mop",
    "wiring.ground_size": "ground gnd grd grnd egc groundwire groundsize equipmentground groundconductor pe earth cpc"
    " earthwire earthconductor pesize cpcsize earthsize",
    "place.motor": "motorarea",
    "place.starter": "starterarea",
    "wiring.method": "laying laidas installationmethod methodofinstallation referencemethod",
    "wiring.grouped": "grouping",
    "protection.coil": "coil coilvolts coilvoltage controlvoltage controlvolts controlv",
    "protection.trip_class": "tripclass overloadclass olclass",
    "protection.contactor": "contactor contactorsize contactorrating",
    "protection.thermistor": "thermistor thermistors ptc ptcthermistors",
    "machine.stall_hot": "hotstall hotstalltime stalltimehot",
    "protection.rating": "devicerating fuse breaker mccb mcb cb ocpd ocp circuitbreaker breakersize breakerrating"
    " fusesize mpcb fuserating fusecb cbfuse fusebreaker breakerfuse cbsize cbrating protectiondevice protectivedevice"
    " overcurrentdevice shortcircuitprotection",
    "protection.overload": "overload olsetting overloadsetting",
    "plate.duty": "duty",
}
_SAID: Final = {word: path for path, words in WORDS_OF.items() for word in words.split()} | {
    # as heads; on a plate a current may be that of anything, and IE a class
    **dict.fromkeys(("current", "ib", "ie"), "plate.full_load_current"),
}
_UNIT_HEAD: Final = {"hp": "hp", "kw": "kW", "rpm": "rpm", "hz": "Hz"}
_TAG_FIRST: Final = ("tag", "motortag", "tagno", "tagnumber", "equipmenttag", "circuittag")
"""Where a table numbers its rows as well, its items and circuits are not the tags."""


def paths() -> dict[str, Fact]:
    """Every fact of a circuit a column may hold, by path."""
    return _paths(tuple(circuit_parts().items()))


@cache
def _paths(parts: tuple[tuple[str, type[Facts]], ...]) -> dict[str, Fact]:
    return {f"{part}.{name}": fact for part, model in parts if part not in FORMS
            for name, fact in model.fields().items()}  # fmt: skip


def columns(table: Sequence[Sequence[str]], job: Mapping[str, Any]) -> dict[int, str]:
    """Columns to paths, as `guess`; one of boards or areas only where the job has some of those, one of phases only
    where they are counted: A, B and C are those of a board; what a head of several meanings names by what stands in it.
    """
    facts, rows = paths(), table[1:]
    kinds = {plain(word) for word in (*KINDS_ALSO, *(word for one in KINDS for word in one))}

    def known(at: int, kind: str) -> bool:
        names = {name.casefold() for name in names_in(job, kind)}
        return any(row[at].strip().casefold() in names or kind_of(_key(row[at])) == kind for row in rows)

    said = _by_path(table[0])
    found = _by_contents(guess(table[0]), table)
    return said | {
        at: path for at, path in found.items()
        if (path not in facts or not facts[path].listed or known(at, facts[path].listed))
        and (path != "plate.kind" or any(plain(row[at]) in kinds for row in rows))
    }  # fmt: skip


_EITHER: Final = {
    "insulation": "plate.insulation_class", "ie": "plate.efficiency_class", "runs": "wiring.sets",
    "ambient": "wiring.ambient", "protection": "protection.rating",
}  # fmt: skip
"""Heads of several meanings, with what else they may name."""


def _by_contents(found: Mapping[int, str], table: Sequence[Sequence[str]]) -> dict[int, str]:
    """Columns that a symbol or a word of several meanings names: of the fact that reads what stands in them, if any. A
    torque beside nothing else of the load is the motor's.
    """
    kept, facts = dict(found), paths()
    for at, head in enumerate(map(plain, table[0])):
        path, cells = found.get(at, ""), [row[at].strip() for row in table[1:] if says(row[at])]
        symbol = path in facts and head == plain(facts[path].symbol) and head not in _SAID
        if not cells or not (symbol or head in _EITHER) or (path and _reads_some(facts.get(path), cells)):
            continue
        kept.pop(at, None)
        other = _EITHER.get(head, "")
        if other and other not in kept.values() and _reads_some(facts[other], cells):
            kept[at] = other
    of_load = [path for path in kept.values() if path.startswith("load.")]
    return {at: path for at, path in kept.items() if of_load != ["load.torque"] or path != "load.torque"
            or plain(without_unit(table[0][at])[0]) != "torque"}  # fmt: skip


def _reads_some(fact: Fact | None, cells: Sequence[str]) -> bool:
    """Whether a fact reads one of these; of a column that is no fact's every cell counts."""
    return fact is None or any(map(fact.reads, cells))


def guess(heads: Sequence[str]) -> dict[int, str]:
    """Columns to paths, by heads in either dialect; each path once; the first column is the tag where none says so."""
    labels: dict[str, str] = {}
    for path, fact in reversed(paths().items()):
        for word in (path.partition(".")[2], fact.symbol, fact.label_iec, fact.label):
            if word and plain(word):
                labels[plain(word)] = path
    labels |= _SAID | dict.fromkeys(_WAYS_OF_HEADS, "start.method") | {plain(path): path for path in paths()}
    tag = next((at for at, head in enumerate(heads) if plain(head) in _TAG_FIRST), None)
    found = ({} if tag is None else {tag: TAG_PATH}) | _by_path(heads)
    for at, head in enumerate(heads):
        name, unit = without_unit(head)
        symbol = _SAID.get(plain(name)) if len(name) == 1 and unit else None  # I [A] is not I_a
        named = symbol or labels.get(plain(name + unit)) or labels.get(plain(name)) or labels.get(plain(head))
        fits = not named or not (_measures(named, head, unit) or _of_another(named, unit))
        if named and named not in found.values() and at not in found and fits:
            found[at] = named
    if TAG_PATH not in found.values():
        found[0] = TAG_PATH
    return found


def _by_path(heads: Sequence[str]) -> dict[int, str]:
    """Columns whose heads carry their fact's path: `Length [wiring.length]`."""
    return {at: path for at, head in enumerate(heads) if (path := path_in(head))}


def path_in(head: str) -> str:
    """The fact whose path stands in a head; empty where none does."""
    match = re.search(r"\[([a-z_]+\.[a-z_]+)\]\s*$", head)
    return match[1] if match is not None and match[1] in paths() else ""


def _of_another(path: str, unit: str) -> bool:
    """Whether a head's unit is none of its fact's: Cable m is no size."""
    fact = paths().get(path)
    coded = fact is not None and bool(fact.read_us is not None or fact.code)  # a conductor's size, a frame
    if fact is None or not (unit.casefold() in _LENGTHS or (coded and _MEASURE.fullmatch(unit))):
        return False
    return fact.quantity is None or not fact.reads(f"10 {unit}")


_LENGTHS: Final = ("m", "ft", "metres", "meters", "feet")


def _measures(path: str, head: str, unit: str) -> bool:
    """Whether a head that would name words has a unit: Load (A), % Load."""
    fact = paths().get(path)
    return (path == "start.driven" or (fact is not None and bool(fact.offered or fact.listed))) and bool(
        "%" in head or _MEASURE.fullmatch(unit)
    )


_MEASURE: Final = re.compile(r"[kM]?(?:VA|A|W|V)|amps?|hp|h(?:/d(?:ay)?)?|hours?|rpm|kg.*|N\W?m|lb\W?ft|°[CF]", re.I)


def _key(text: str) -> str:
    """A part's key as people write it: `Board 1`."""
    return text.strip().casefold().replace(" ", "_")


def plain(text: str) -> str:
    return re.sub(r"[^a-z0-9]", "", text.lower().replace("φ", "phi").replace("η", "eta").replace("²", "2"))


_BREAKERS: Final = ("breaker", "cb", "circuitbreaker", "breakersize", "breakerrating", "cbsize", "cbrating")
_KINDS_OF_HEADS: Final = {**dict.fromkeys(_BREAKERS, "breaker"), "mccb": "MCCB", "mcb": "MCB", "mpcb": "MPCB"}


_WAYS_OF_HEADS: Final = {
    **dict.fromkeys(("vfd", "vfdyn", "vsd", "vsdyn", "drive", "afd", "asd"), "drive"),
    **dict.fromkeys(("softstarter", "softstart", "softstarteryn", "rvss", "rvssyn"), "soft starter"),
}


def way_of_head(head: str) -> str:
    """The way to start that a column of yes and no is of; empty where its head is none.

    >>> way_of_head("VFD (Y/N)"), way_of_head("Starter")
    ('drive', '')
    """
    return _WAYS_OF_HEADS.get(plain(head), "")


def kind_of_head(head: str) -> str:
    """The kind of device that a column of ratings is of, in its field's words; empty where its head does not say.

    >>> kind_of_head("Breaker (A)"), kind_of_head("Fuse")
    ('breaker', '')
    """
    return _KINDS_OF_HEADS.get(plain(without_unit(head)[0]), "")


def without_unit(head: str) -> tuple[str, str]:
    """A head's name and its unit: `Power [kW]`, `Length (ft)`, `Speed, rpm`, `HP`; a fact's path is none.

    >>> without_unit("Power [kW]"), without_unit("Length (ft)"), without_unit("HP"), without_unit("Motor kW")
    (('Power', 'kW'), ('Length', 'ft'), ('HP', 'hp'), ('Motor', 'kW'))
    """
    match = re.match(r"^\s*(.*?)\s*(?:\[([^\]]+)\]|\(([^)]+)\)|,\s*([A-Za-z%°²·/]+))\s*$", head)
    if match and path_in(head):
        return match.group(1), ""
    if match and match.group(1):
        return match.group(1), next(one for one in match.groups()[1:] if one)
    behind = re.match(r"^\s*(\S.*?)\s+(hp|kw|rpm|hz|awg|mm²|mm2|ft|m|m³/h|m3/h|gpm|kva)\.?\s*$", head, re.I)
    if behind:
        return behind.group(1), _UNIT_HEAD.get(behind.group(2).lower(), behind.group(2))
    return head.strip(), _UNIT_HEAD.get(plain(head), "")


def says(cell: str) -> bool:
    return bool(cell.strip()) and _NOT_SAID.fullmatch(cell.strip()) is None


def names_in(job: Mapping[str, Any], kind: str) -> dict[str, str]:
    """The job's boards or areas by their names, with their keys; the main board too."""
    keys = [*(["main_board"] if kind == "board" else []), *listed_keys(job, kind)]
    found = {str((job.get(key) or {}).get("name") or "").strip(): key for key in keys}
    return {name: "main" if key == "main_board" else key for name, key in found.items() if name}
