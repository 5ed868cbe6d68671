"""How a run is laid by IEC 60364-5-52, its factors, and what it carries whichever way is not said."""

from __future__ import annotations

from collections.abc import Callable
from itertools import product
from typing import Final

from vinegate.core.grade import Gate, over
from vinegate.core.protection.metals import metals, over_metals
from vinegate.core.protection.need import Need
from vinegate.core.protection.sizing import largest
from vinegate.core.records import dataclass, replace
from vinegate.core.rules.iec.sizes import area_mm2
from vinegate.core.sheet import Sheet
from vinegate.core.tables import load
from vinegate.core.turning import Taken
from vinegate.core.wiring.facts import Wiring
from vinegate.core.working import Provenance

BULK: Final = {"pvc": "PVC", "xlpe": "XLPE"}
_METHODS: Final = ("B2", "A2", "B1", "C", "E")


@dataclass(frozen=True, slots=True, kw_only=True)
class Laid:
    """How the run is laid, and the factors that follow."""

    metal: str
    insulation: str
    method: str
    ambient: float
    grouping: float
    sets: int
    soil: float = 1.0

    def ampacity(self, size: str) -> float | None:
        """Tabulated amperes with both factors, all sets."""
        found = load("ampacity_iec")
        row = found.find(insulation=self.insulation, metal=self.metal, size=size)
        value = found.number(row, self.method) if row else None
        return None if value is None else self.sets * value * self.ambient * self.grouping * self.soil

    def least(self, amperes: float) -> str | None:
        """The least size that carries so many amperes."""
        for row in load("ampacity_iec").rows:
            if row["insulation"] == self.insulation and row["metal"] == self.metal:
                carries = self.ampacity(row["size"])
                if carries is not None and carries >= amperes - 1e-9:
                    return row["size"]
        return None

    @property
    def in_ground(self) -> bool:
        return in_ground(self.method)

    @property
    def k(self) -> float:
        """A·√s/mm² of the adiabatic equation."""
        row = load("adiabatic_k").find(rules="iec", insulation=self.insulation)
        assert row is not None
        return float(row[self.metal])


def in_ground(method: str) -> bool:
    """Reference methods D1 and D2 of 60364-5-52."""
    return method.startswith("D")


def laid(sheet: Sheet, need: Need) -> Laid | None:
    """The run's factors on the sheet. None where ambient or grouping go past their tables."""
    wiring = need.circuit.wiring
    method = wiring.method or "B2"
    buried = in_ground(method)
    degrees = wiring.ambient_c if wiring.ambient_c is not None else (20.0 if buried else 30.0)
    medium = "ground" if buried else "air"
    factors = {word: load("ambient_iec").step("upto_c", f"{medium}_{word}", degrees) for word in BULK}
    bears = [word for word, factor in factors.items() if factor is not None]
    insulation = wiring.insulation_iec or next(
        iter(bears), "pvc"
    )  # PVC where it bears the ambient, as cables usually are
    ambient = factors[insulation]
    together = together_of(wiring)
    grouping = load("grouping_iec").step("upto", "factor", together)
    soil = _soil(wiring.soil_kmw, method) if buried else 1.0
    if ambient is None or grouping is None or soil is None:
        return None
    air = f"{load('ambient_iec').cite}, {degrees:g} °C"
    beside = f"{load('grouping_iec').cite}, {together}{sets_apart(wiring)}"
    for key, name, symbol, value, said, source in (
        ("ambient", "Factor for ambient", "k_a", ambient, wiring.ambient_c, air),
        ("grouping", "Factor for circuits together", "k_g", grouping, wiring.grouped, beside),
    ):
        provenance = Provenance.ASSUMED if said is None else Provenance.TABLE
        sheet.given(key, name, symbol, value, "", provenance=provenance, source=source)
    return Laid(
        metal=wiring.metal or "copper",
        insulation=insulation,
        method=method,
        ambient=ambient,
        grouping=grouping,
        sets=wiring.sets or 1,
        soil=soil,
    )


def together_of(wiring: Wiring) -> int:
    """Circuits together: as said; else its own sets, which usually lie side by side."""
    return wiring.grouped or wiring.sets or 1


def sets_apart(wiring: Wiring) -> str:
    """Fewer together than it has sets: some of them lie elsewhere, and that is worth saying again."""
    return ": its sets apart, as stated" if wiring.grouped and wiring.grouped < (wiring.sets or 1) else ""


def _soil(resistivity: float | None, method: str) -> float | None:
    """Factor for the soil; 1 where nothing is said, None past the table."""
    return 1.0 if resistivity is None else load("soil_iec").step("upto", method, resistivity)


_BAND_C: Final = {"air": (20.0, 40.0), "ground": (10.0, 25.0)}
_TOGETHER: Final = (1.0, 4.0)


def unsaid_of(need: Need, found: Laid) -> tuple[tuple[Taken, ...], Callable[..., Laid]]:
    """Ambient and circuits together, with the bands in which they may lie where they are not said; the run so laid."""
    wiring = need.circuit.wiring
    medium = "ground" if found.in_ground else "air"
    usual = 20.0 if found.in_ground else 30.0
    given = wiring.ambient_c is not None
    degrees = usual if wiring.ambient_c is None else wiring.ambient_c
    low, high = (degrees, degrees) if given else _BAND_C[medium]
    together = float(together_of(wiring))
    few, many = (together, together) if wiring.grouped else (_TOGETHER[0], max(_TOGETHER[1], together))
    taken = (
        Taken(path="wiring.ambient", label="ambient", unit="°C", value=degrees, low=low, high=high,
              how="" if given else "assumed", given=given),
        Taken(path="wiring.grouped", label="circuits together", whole=True, value=together, low=few, high=many,
              how="" if wiring.grouped else "assumed", given=wiring.grouped is not None),
    )  # fmt: skip

    def laid_so(ambient_c: float, circuits: float) -> Laid:
        ambient = load("ambient_iec").step("upto_c", f"{medium}_{found.insulation}", ambient_c)
        grouping = load("grouping_iec").step("upto", "factor", circuits)
        return replace(found, ambient=ambient or 0.0, grouping=grouping or 0.0)

    return taken, laid_so


def least_at_worst(need: Need, found: Laid, amperes: float) -> str | None:
    """The least size that carries so many amperes however it is laid, as far as that is not said."""
    wiring, sizes = need.circuit.wiring, []
    methods = _METHODS if wiring.method is None else (found.method,)
    words = BULK if wiring.insulation_iec is None else (found.insulation,)
    for metal, method, word in product(metals(wiring.metal), methods, words):
        taken, laid_so = unsaid_of(need, replace(found, metal=metal, method=method, insulation=word))
        sizes.append(laid_so(*(one.high for one in taken)).least(amperes))
    return largest(sizes, area_mm2)


def over_ways(need: Need, found: Laid, gate_of: Callable[[Laid], Gate]) -> Gate:
    """A gate over every way the run may be laid in, where metal, method or insulation is not said."""
    wiring = need.circuit.wiring

    def gates_of(metal: str) -> tuple[Gate, ...]:
        laid_so = replace(found, metal=metal)
        return (_over_lying(wiring, laid_so, gate_of),) if laid_so.ampacity(wiring.size or "") is not None else ()

    return over_metals("wiring.metal", wiring.metal, gates_of)[0]


def _over_lying(wiring: Wiring, found: Laid, gate_of: Callable[[Laid], Gate]) -> Gate:
    if wiring.method is not None:
        return _over_insulation(wiring, found, gate_of)
    gates = {word: _over_insulation(wiring, replace(found, method=word), gate_of) for word in _METHODS}
    return over("wiring.method", "method", found.method, gates)


def _over_insulation(wiring: Wiring, found: Laid, gate_of: Callable[[Laid], Gate]) -> Gate:
    if wiring.insulation_iec is not None:
        return gate_of(found)
    gates = {word: gate_of(replace(found, insulation=word)) for word in BULK}
    return over("wiring.insulation_iec", "insulation", found.insulation, gates)
