"""The source as seen from the board: utility and transformer in series."""

from __future__ import annotations

from typing import Final

from vinegate.core.assumed import assume, band_of
from vinegate.core.facts import Job
from vinegate.core.records import dataclass
from vinegate.core.sheet import Sheet
from vinegate.core.supply.facts import Supply
from vinegate.core.system_volts import per_line, two_wires
from vinegate.core.working import Figure, Provenance

UTILITY: Final = "utility fault level"
"""What a verdict rests on where it is not given."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Source:
    """Thévenin source at the board: line volts, series resistance and reactance per phase in mΩ.

    `z_sum` adds the magnitudes of its parts: with it, no assumption about angles is needed.
    """

    volts: Figure
    r: Figure
    x: Figure
    z_sum: Figure
    fault: Figure
    parts: tuple[tuple[Figure, Figure], ...] = ()
    """Magnitude, mΩ, and X/R of each part."""
    stiff: bool = False
    """Whether the utility is left out: currents are then the largest there can be, and the least are not known."""

    @staticmethod
    def band_of(ratio: Figure) -> tuple[float, float]:
        """Ends of an X/R that is assumed; of one that is given, itself."""
        return band_of(ratio.key.rpartition(".")[2]) if ratio.unsaid else (ratio.value, ratio.value)


def source_at_board(sheet: Sheet, job: Job) -> Source | None:
    """The source in use at the main board. None, with what is missing named, when it is not known.

    Utility `Z = U²/S_sc`, transformer `Z = z·U²/S` (IEC 60909-0:2016 6.2 and 6.3, without voltage factor).
    """
    supply = job.supply
    if supply.in_use == "standby":
        return standby_source(sheet, job)
    return utility_source(sheet, job)


_SOURCE: Final = ("supply.fault_level", "utility fault level or transformer")


def utility_source(sheet: Sheet, job: Job) -> Source | None:
    """The utility and its transformer, seen from the main board."""
    supply = job.supply
    if supply.volts_v is None:
        unfed = supply.fault_level is None and supply.transformer_power_va is None
        sheet.needs([("supply.volts", "system volts"), *([_SOURCE] if unfed else [])], "the source impedance")
        return None
    volts = sheet.given("volts", "System volts", "U", supply.volts_v, "V")
    transformer = _transformer(sheet, job, volts)
    has_transformer = behind_transformer(supply)
    if has_transformer and transformer is None:
        return None
    utility = _utility(sheet, job, volts, behind_transformer=has_transformer)
    parts = [part for part in (utility, transformer) if part is not None]
    if not parts:
        return None
    if utility is None:
        if supply.fault_level is not None:
            return None
        note = "Neglected in figures; verdicts reckon with up to half of the transformer's on dips, with all on faults."
        sheet.given(
            "utility_z",
            "Utility impedance",
            "Z_u",
            0.0,
            "mΩ",
            provenance=Provenance.ASSUMED,
            source="a stiff utility ahead of the transformer",
            note=note,
        )
        sheet.needs([("supply.fault_level", "utility fault level")], "the utility's share of the dip")
    return _series(sheet, volts, parts, stiff=utility is None, split=two_wires(job.supply.volts_v))


@dataclass(frozen=True, slots=True)
class _Part:
    z: Figure
    ratio: Figure
    r: Figure
    x: Figure


def _split(sheet: Sheet, key: str, name: str, z: Figure, ratio: Figure) -> _Part:
    """Z and X/R into R and X."""
    root = (1 + ratio.value**2) ** 0.5
    mark = z.symbol.removeprefix("Z_")
    r = sheet.work(
        f"{key}_r",
        f"{name} resistance",
        f"R_{mark}",
        z.value / root,
        "mΩ",
        formula=f"{z.symbol}/√(1+{ratio.symbol}²)",
        inputs=(z, ratio),
        source="Z² = R² + X²",
    )
    x = sheet.work(
        f"{key}_x",
        f"{name} reactance",
        f"X_{mark}",
        r.value * ratio.value,
        "mΩ",
        formula=f"{r.symbol}·{ratio.symbol}",
        inputs=(r, ratio),
        source="X = R·(X/R)",
    )
    return _Part(z, ratio, r, x)


_STATED_IN: Final = {"utility_x_over_r": "supply.fault_x_over_r", "generator_x_over_r": "standby.x_over_r"}


def _ratio(sheet: Sheet, value: float | None, key: str, name: str, symbol: str) -> Figure:
    if value is None:
        return assume(sheet, key, key, name, symbol)
    return sheet.given(key, name, symbol, value, "", fact=_STATED_IN.get(key, f"supply.{key}"))


def stated_between_lines(supply: Supply) -> bool:
    """Whether the utility's figure is that of a system of two lines: stated there, with no transformer behind it."""
    stated = supply.fault_level is not None and not behind_transformer(supply)
    at_v = supply.fault_level_volts_v or supply.volts_v
    return two_wires(supply.volts_v) and stated and at_v == supply.volts_v


def behind_transformer(supply: Supply) -> bool:
    """Whether a transformer stands between the utility and the main board: its rating or impedance is said, the fault
    level is stated at other volts, or is more than a board of low volts can have.
    """
    level, volts, at_v = supply.fault_level, supply.volts_v, supply.fault_level_volts_v
    if supply.transformer_power_va is not None or supply.transformer_impedance_pu is not None:
        return True
    if volts is None or level is None:
        return False
    if at_v is not None and not 1 / _ONE_SYSTEM <= at_v / volts <= _ONE_SYSTEM:
        return True
    power = level.power_va
    return power is not None and volts <= _LOW_VOLTS_V and power / (per_line(volts) * volts) > _MOST_LOW_A


_ONE_SYSTEM: Final = 1.25
"""Times, within which two names of volts are one system's: 380 to 415 V, 440 to 480 V; assumed."""
_LOW_VOLTS_V: Final = 1000.0
_MOST_LOW_A: Final = 100e3
"""Fault current that a board of low volts may have without a transformer of its own being left out; assumed."""


def _fault_power(sheet: Sheet, current_a: float, at_v: float, *, between: bool) -> Figure:
    kiloamps = sheet.given(
        "fault_current", "Utility fault current", "I_u", current_a / 1000, "kA", fact="supply.fault_level"
    )
    kilovolts = sheet.given("fault_volts", "stated at", "U_1", at_v / 1000, "kV", fact="supply.fault_level_volts")
    return sheet.work(
        "fault_power",
        "Utility fault level",
        "S_sc",
        (1 if between else 3**0.5) * kilovolts.value * kiloamps.value,
        "MVA",
        formula="U_1·I_u" if between else "√3·U_1·I_u",
        inputs=(kilovolts, kiloamps),
        source="definition",
    )


def _utility(sheet: Sheet, job: Job, volts: Figure, *, behind_transformer: bool) -> _Part | None:
    supply = job.supply
    level = supply.fault_level
    if level is None:
        if not behind_transformer:
            sheet.needs([_SOURCE], "the source impedance")
        return None
    if level.power_va is not None:
        power = sheet.given(
            "fault_power", "Utility fault level", "S_sc", level.power_va / 1e6, "MVA", fact="supply.fault_level"
        )
    else:
        assert level.current_a is not None
        at_v = supply.fault_level_volts_v
        if at_v is None and behind_transformer:
            sheet.needs(
                [("supply.fault_level_volts", "the volts the fault level is stated at")], "the source impedance"
            )
            return None
        power = _fault_power(sheet, level.current_a, at_v or volts.value, between=stated_between_lines(supply))
    lines = 2 if stated_between_lines(supply) else 1
    z = sheet.work(
        "utility_z",
        "Utility impedance at the board's volts" if lines == 1 else "Utility impedance, for each line",
        "Z_u",
        volts.value**2 / (1000 * power.value) / lines,
        "mΩ",
        formula="U²/(1000·S_sc)" if lines == 1 else "U²/(1000·S_sc)/2",
        inputs=(volts, power),
        source="IEC 60909-0:2016 6.2, c = 1",
    )
    ratio = _ratio(sheet, supply.fault_x_over_r, "utility_x_over_r", "Utility X/R", "x_u")
    return _split(sheet, "utility", "Utility", z, ratio)


def _transformer(sheet: Sheet, job: Job, volts: Figure) -> _Part | None:
    supply = job.supply
    rating, percent = supply.transformer_power_va, supply.transformer_impedance_pu
    if not behind_transformer(supply):
        return None
    if rating is None or percent is None:
        wanted = (("supply.transformer_power", "transformer kVA", rating),
                  ("supply.transformer_impedance", "transformer impedance in %", percent))  # fmt: skip
        sheet.needs([(path, label) for path, label, value in wanted if value is None], "the source impedance")
        if rating is None and percent is None:
            sheet.notes.append("The fault level is stated at other volts than the board's, or is more than such a "
                               "board can have: a transformer stands between.")  # fmt: skip
        return None
    kva = _together(sheet, rating / 1000, supply.transformers or 1)
    z_pct = sheet.given(
        "transformer_pct", "Transformer impedance", "z", 100 * percent, "%", fact="supply.transformer_impedance"
    )
    wires = 2 if two_wires(supply.volts_v) else 1
    z = sheet.work(
        "transformer_z",
        "Transformer impedance" if wires == 1 else "Transformer impedance, for each line",
        "Z_T",
        z_pct.value / 100 * volts.value**2 / kva.value / wires,
        "mΩ",
        formula="z/100·U²/S_T" if wires == 1 else "z/100·U²/S_T/2",
        inputs=(z_pct, volts, kva),
        source="IEC 60909-0:2016 6.3",
    )
    ratio = _ratio(sheet, supply.transformer_x_over_r, "transformer_x_over_r", "Transformer X/R", "x_T")
    return _split(sheet, "transformer", "Transformer", z, ratio)


def _together(sheet: Sheet, each_kva: float, count: int) -> Figure:
    """Rating of all that stand in parallel: alike, they share what they feed."""
    if count == 1:
        return sheet.given("transformer_kva", "Transformer", "S_T", each_kva, "kVA", fact="supply.transformer_power")
    each = sheet.given(
        "transformer_each_kva", "Each transformer", "S_1", each_kva, "kVA", fact="supply.transformer_power"
    )
    number = sheet.given("transformers", "Transformers in parallel", "n_T", float(count), "")
    sheet.notes.append(
        "With one of the transformers out of service volts dip deeper and faults are smaller: plan that too, with as "
        "many as are left."
    )
    return sheet.work(
        "transformer_kva", "Transformers together", "S_T", number.value * each.value, "kVA", formula="n_T·S_1",
        inputs=(number, each), source="alike: the same volts, group and impedance; in parallel",
    )  # fmt: skip


def _series(sheet: Sheet, volts: Figure, parts: list[_Part], *, stiff: bool, split: bool = False) -> Source:
    soft = Provenance.ASSUMED if stiff else None

    def add(key: str, name: str, symbol: str, figures: list[Figure]) -> Figure:
        return sheet.work(
            key,
            name,
            symbol,
            sum(figure.value for figure in figures),
            "mΩ",
            formula="+".join(figure.symbol for figure in figures),
            inputs=figures,
            source="in series",
            provenance=soft,
        )

    r = add("source_r", "Source resistance", "R_s", [part.r for part in parts])
    x = add("source_x", "Source reactance", "X_s", [part.x for part in parts])
    z_sum = add("source_z_sum", "Source impedance, magnitudes added", "Z_s", [part.z for part in parts])
    fault = sheet.work(
        "fault_at_board",
        f"{'Fault between lines' if split else 'Three-phase fault'} at the board, without factors",
        "I_sc",
        volts.value / ((2 if split else 3**0.5) * (r.value**2 + x.value**2) ** 0.5),
        "kA",
        formula=f"U/({'2' if split else '√3'}·√(R_s²+X_s²))",
        inputs=(volts, r, x),
        source="U/(√3·Z): what the dip is worked with; motors not included",
    )
    return Source(
        volts=volts,
        r=r,
        x=x,
        z_sum=z_sum,
        fault=fault,
        parts=tuple((part.z, part.ratio) for part in parts),
        stiff=stiff,
    )


def standby_source(sheet: Sheet, job: Job) -> Source | None:
    """The generator behind its transient reactance, `Z = x_d·U²/S` (IEEE 3002.7:2018 section 8)."""
    standby = job.standby
    absent = (
        ("supply.volts", "system volts", job.supply.volts_v),
        ("standby.generator_power", "generator kVA", standby.generator_power_va),
        ("standby.transient_reactance", "the generator's X'd", standby.transient_reactance_pu),
    )
    missing = [(path, label) for path, label, value in absent if value is None]
    if missing:
        sheet.needs(missing, "the generator's impedance")
        return None
    assert job.supply.volts_v and standby.generator_power_va and standby.transient_reactance_pu  # noqa: PT018
    volts = sheet.given("volts", "System volts", "U", job.supply.volts_v, "V")
    kva = sheet.given(
        "generator_kva", "Generator", "S_G", standby.generator_power_va / 1000, "kVA", fact="standby.generator_power"
    )
    x_d = sheet.given(
        "generator_x_pu", "Transient reactance", "x_d", standby.transient_reactance_pu, "",
        fact="standby.transient_reactance",
    )  # fmt: skip
    split = two_wires(job.supply.volts_v)
    z = sheet.work(
        "generator_z", f"Generator impedance, transient{', for each line' if split else ''}", "Z_G",
        x_d.value * volts.value**2 / kva.value / (2 if split else 1), "mΩ",
        formula=f"x_d·U²/S_G{'/2' if split else ''}", inputs=(x_d, volts, kva), source="IEEE 3002.7:2018 section 8",
    )  # fmt: skip
    ratio = _ratio(sheet, standby.x_over_r, "generator_x_over_r", "Generator X/R", "x_G")
    sheet.notes.append(
        "The generator stands behind its transient reactance through the whole start, without help from its regulator: "
        "the dip is that of the first second, and a start that outlasts the regulator is quicker than shown."
    )
    return _series(sheet, volts, [_split(sheet, "generator", "Generator", z, ratio)], stiff=False, split=split)


def softest(*figures: Figure) -> Provenance:
    """Estimated when anything it rests on is assumed or estimated."""
    return Provenance.ESTIMATED if any(figure.soft for figure in figures) else Provenance.STATED
