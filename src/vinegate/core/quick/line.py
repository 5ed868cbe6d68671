"""Questions of the line: letter to amperes, wire, fault, the largest motor, reduced volts, overload, unbalance."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core import quantity as q
from vinegate.core.assumed_ends import ABOUT
from vinegate.core.field import Fact, Facts, choice, field, measure
from vinegate.core.grade import at_most
from vinegate.core.numbers import write
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.rated import USUAL_POWER_FACTOR
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.quick.tool import Tool, said_or
from vinegate.core.rules import RuleSet, RunFacts, RunImpedance
from vinegate.core.sheet import Sheet
from vinegate.core.supply.facts import METALS, METALS_ALSO, FaultLevel, read_fault_level
from vinegate.core.tables import load
from vinegate.core.turning import Taken
from vinegate.core.working import Figure, Provenance

_USUAL_EFFICIENCY: Final = 0.93
"""Of a motor running at its load, where nothing else is known: assumed, and said so."""
_FACTORS: Final = (0.7, 0.95)
"""Of motors at their load, where nothing else is known: a wire is taken at the one that drops most; assumed."""
_USUAL_RATIO: Final = 6.5
_SOFT_TIMES: Final = 3.5
_PHASES: Final = (("3", "three-phase"), ("1", "single-phase"))
_PHASES_ALSO: Final = {
    **dict.fromkeys(("3-phase", "3 ph", "3Ø", "3~", "three"), "3"),
    **dict.fromkeys(("1-phase", "1 ph", "1Ø", "1~", "single"), "1"),
}
_PLATE: Final = Plate.fields()


class Letter(Facts):
    """Locked-rotor amperes from a code letter."""

    letter: str | None = field(_PLATE["code_letter"])
    power_w: float | None = field(measure("Power", q.POWER, "P"))
    volts_v: float | None = field(measure("Volts", q.VOLTAGE, "U"))
    phases: str | None = field(choice("Phases", _PHASES, also=_PHASES_ALSO))


def _letter(sheet: Sheet, facts: Letter, rules: RuleSet) -> str:
    table = load("code_letter")
    row = table.find(letter=str(facts.letter))
    assert row is not None
    hp = sheet.given("power", "Power", "P", (facts.power_w or 0) / WATT_PER_HP, "hp")
    volts = sheet.given("volts", "Volts", "U", facts.volts_v or 1, "V")
    root = "" if facts.phases == "1" else "√3·"
    found = []
    for end, column in (("low", "from_kva_per_hp"), ("high", "to_kva_per_hp")):
        value = table.number(row, column)
        if value is None:
            break
        share = sheet.given(
            f"kva_{end}",
            f"kVA a horsepower, {end} end",
            f"k_{end}",
            value,
            "kVA/hp",
            provenance=Provenance.TABLE,
            source=table.cite,
        )
        amps = 1000 * value * hp.value / ((1.0 if facts.phases == "1" else math.sqrt(3)) * volts.value)
        found.append(
            sheet.work(
                f"amps_{end}",
                f"Locked-rotor current, {end} end",
                f"I_{end}",
                amps,
                "A",
                formula=f"1000·k_{end}·P/({root}U)",
                inputs=(share, hp, volts),
                source=table.cite,
            )
        )
    if len(found) < 2:
        return f"At least {found[0].shown}: V has no upper end."
    return f"{write(found[0].value, 3)} to {write(found[1].value, 3)} A at rest and full voltage."


class Wire(Facts):
    """What a run drops, and the smallest size that stays within a limit."""

    amps_a: float | None = field(measure("Amperes", q.CURRENT, "I"))
    volts_v: float | None = field(measure("Volts", q.VOLTAGE, "U"))
    length_m: float | None = field(measure("One-way length", q.LENGTH, "L"))
    limit_pu: float | None = field(measure("Drop allowed", q.DIP_LIMIT, "u", example="3 %"))
    metal: str | None = field(choice("Metal", METALS, also=METALS_ALSO))
    phases: str | None = field(choice("Phases", _PHASES, also=_PHASES_ALSO))
    factor_pu: float | None = field(
        measure("Power factor", q.POWER_FACTOR, "cosφ", help="Empty: what drops most of 0.7 to 0.95.")
    )
    hertz: float | None = field(measure("Hertz", q.FREQUENCY, "f", help="Empty: 60 Hz, or 50 Hz under IEC."))


def _worst_factor(z: RunImpedance) -> float:
    """The power factor at which a run drops most, of those that motors have: its own angle, where it lies in them."""
    least, most = _FACTORS
    return min(max(z.r.value / math.hypot(z.r.value, z.x.value), least), most)


def _first_within(
    sheet: Sheet, facts: Wire, rules: RuleSet, hertz: float, times: float, most_v: float
) -> tuple[str, RunImpedance, tuple[float, float], Sheet] | None:
    """The least size whose drop, V, is at most `most_v`: the size, its ohms, power factor and drop, and the sheet."""
    for row in load(rules.conductors).rows:
        trial = Sheet("wire", "", sources=sheet.sources)
        run = RunFacts(
            path="wire",
            mark="",
            size=row["size"],
            metal=facts.metal or "copper",
            length_m=facts.length_m,
            raceway="steel" if rules.practice.us_units else None,
            sets=1,
            temperature_c=None,
        )
        z = rules.conductor(trial, run, hertz)
        if z is None:
            continue
        factor = facts.factor_pu or _worst_factor(z)
        ohms = z.r.value * factor + z.x.value * math.sqrt(1 - factor**2)
        drop = times * (facts.amps_a or 0) * ohms / 1000
        if drop <= most_v:
            return row["size"], z, (factor, drop), trial
    return None


def _wire(sheet: Sheet, facts: Wire, rules: RuleSet) -> str:
    times = 2.0 if facts.phases == "1" else math.sqrt(3)
    hertz = facts.hertz or (60.0 if rules.practice.us_units else 50.0)
    limit = facts.limit_pu or 0.03
    first = _first_within(sheet, facts, rules, hertz, times, limit * (facts.volts_v or 1))
    if first is None:
        return "No tabulated size stays within it: more sets in parallel, or higher volts."
    size, z, (factor, drop), trial = first
    sheet.figures += trial.figures
    amps = sheet.given("amps", "Amperes", "I", facts.amps_a or 0, "A")
    cosine = sheet.given("factor", "Power factor", "c", factor, "",
                         **said_or(facts.factor_pu, "what drops most of a motor's 0.7 to 0.95"))  # fmt: skip
    both = "2" if facts.phases == "1" else "√3"
    found = sheet.work("drop", "Drop", "ΔU", drop, "V", source="I·(R·cos φ + X·sin φ), both ways",
                       formula=f"{both}·I·({z.r.symbol}·c + {z.x.symbol}·√(1 − c²))/1000",
                       inputs=(amps, z.r, z.x, cosine))  # fmt: skip
    share = 100 * drop / (facts.volts_v or 1)
    at = "" if facts.factor_pu else f" at most, of power factors from {_FACTORS[0]:g} to {_FACTORS[1]:g}"
    about = [_times(name) for name in ("amps", "length") if sheet.sources.get(f"wire.{name}") is Provenance.ASSUMED]
    sheet.gates.append(
        at_most(
            "wire.drop",
            "Drop while running",
            share,
            100 * limit,
            unit="%",
            source=rules.practice.drop_source,
            sentence=f"{write(share, 3)} % with {size}.",
            rests=about,
            room=lambda *times: 100 * limit - share * math.prod(times),
        )
    )
    return (
        f"{size} {facts.metal or 'copper'} drops {found.shown}, {write(share, 3)} %{at}. By drop alone: its "
        "ampacity, terminals and device are asked on a circuit's wiring."
    )


def _times(name: str) -> Taken:
    """How many times a fact that is only about so may be what was written: the size that was found stays."""
    return Taken(label=f"“{Wire.fields()[name].label}”, assumed", value=1.0, low=ABOUT[0], high=ABOUT[1], sense=-1)


class Fault(Facts):
    """Fault current at a board and at the end of a run."""

    kva_va: float | None = field(measure("Transformer", q.APPARENT_POWER, "S_T"))
    impedance_pu: float | None = field(measure("Impedance", q.IMPEDANCE_PERCENT, "z"))
    volts_v: float | None = field(measure("Secondary volts", q.VOLTAGE, "U"))
    upstream: FaultLevel | None = field(
        Fact(
            label="Ahead of it",
            read=read_fault_level,
            symbol="S_k",
            example="300 MVA",
            help="Empty: an endless supply, which gives the most.",
        )
    )
    ahead_v: float | None = field(measure("Volts ahead", q.PRIMARY_VOLTAGE, "U_1", help="For amperes ahead: theirs."))
    phases: str | None = field(choice("Phases", _PHASES, also=_PHASES_ALSO))
    ohms_ohm: float | None = field(
        measure("Run's impedance", q.OHMS, "Z", example="0.012 Ω", help="One way, where the fault is at its end.")
    )


def _level_unsaid(facts: Fault) -> tuple[str, ...]:
    """Amperes ahead are of their own volts: without these they say no power."""
    ahead = facts.upstream
    return () if ahead is None or ahead.power_va is not None or facts.ahead_v is not None else ("ahead_v",)


def _ahead(sheet: Sheet, facts: Fault, u: Figure) -> Figure | None:
    """What is ahead of the transformer, at its secondary; None for an endless supply."""
    if facts.upstream is None:
        return None
    name, symbol = "Ahead of it", "S_k"
    if facts.upstream.power_va is not None:
        level = sheet.given("upstream", name, symbol, facts.upstream.power_va / 1e6, "MVA")
    else:
        amps = sheet.given(
            "upstream_amps", name, "I_k", (facts.upstream.current_a or 1) / 1000, "kA", fact="fault.upstream"
        )
        at = sheet.given("ahead", "Volts ahead", "U_1", (facts.ahead_v or 1) / 1000, "kV")
        level = sheet.work("upstream", name, symbol, math.sqrt(3) * at.value * amps.value, "MVA",
                           formula="√3·U_1·I_k", inputs=(at, amps), source="definition")  # fmt: skip
    return sheet.work("z_k", name, "Z_k", u.value**2 / level.value / 1e6, "Ω", formula="U²/(1000000·S_k)",
                      inputs=(u, level), source="definition")  # fmt: skip


_TO_NEUTRAL: Final = " From a line to the neutral of a tapped winding up to two thirds as much again flows near it."
"""Half a winding has a quarter of the whole's ohms, times 1.5 of its resistance and 1.2 of its reactance (usual of
interlaced halves) at half the volts: 2/1.5 to 2/1.2 times the amperes.
"""


def _fault_work(sheet: Sheet, facts: Fault, rules: RuleSet) -> str:
    one = facts.phases == "1"
    over, ways, times = ("U/({})", "2·", 2.0) if one else ("U/(√3·({}))", "", 1.0)
    s = sheet.given("kva", "Transformer", "S_T", (facts.kva_va or 1) / 1000, "kVA")
    z = sheet.given("impedance", "Impedance", "z", facts.impedance_pu or 1, "")
    u = sheet.given("volts", "Secondary volts", "U", facts.volts_v or 1, "V")
    ohms = sheet.work("z_t", "Transformer", "Z_T", z.value * u.value**2 / s.value / 1000, "Ω",
                      formula="z·U²/(1000·S_T)", inputs=(z, u, s), source="definition")  # fmt: skip
    total, inputs, formula = ohms.value, [u, ohms], "Z_T"
    if (ahead := _ahead(sheet, facts, u)) is not None:  # across two of its lines, where it gives most
        total, inputs, formula = total + times * ahead.value, [*inputs, ahead], f"{formula} + {ways}Z_k"
    source = f"{'between its two lines' if one else 'three-phase'}, magnitudes added: on the high side by some per cent"
    by = 1.0 if one else math.sqrt(3)
    board = sheet.work("board", "At the board", "I_b", u.value / (by * total), "A",
                       formula=over.format(formula), inputs=inputs, source=source)  # fmt: skip
    said = f"{write(board.value / 1000, 3)} kA at the board"
    if facts.ohms_ohm is not None:
        run = sheet.given("run", "Run", "Z", facts.ohms_ohm, "Ω", fact="fault.ohms")
        end = sheet.work("end", "At the end of the run", "I_e", u.value / (by * (total + times * run.value)), "A",
                         formula=over.format(f"{formula} + {ways}Z"), inputs=[*inputs, run], source=source)  # fmt: skip
        said += f", {write(end.value / 1000, 3)} kA at the end of the run"
    return f"{said}, between two lines.{_TO_NEUTRAL}" if one else f"{said}."


class Largest(Facts):
    """Largest motor that a board can start across the line."""

    fault_a: float | None = field(measure("Fault at the board", q.FAULT_CURRENT, "I_k"))
    volts_v: float | None = field(measure("Volts", q.VOLTAGE, "U"))
    limit_pu: float | None = field(measure("Dip allowed", q.DIP_LIMIT, "d", example="4 %"))
    ratio: float | None = field(
        measure("LRA / FLA", q.CURRENT_RATIO, "c", label_iec="I_A/I_N", help="Empty: 6.5, assumed.")
    )
    way: str | None = field(
        choice(
            "Started",
            (
                ("1", "across the line"),
                ("0.333", "in wye, then delta"),
                ("0.4225", "on the 65 % tap"),
                ("soft", f"by a soft starter at {_SOFT_TIMES:g} × its current"),
            ),
            also={
                "DOL": "1",
                "full voltage": "1",
                "wye-delta": "0.333",
                "star-delta": "0.333",
                "YD": "0.333",
                "autotransformer": "0.4225",
            },
        )
    )


def _largest(sheet: Sheet, facts: Largest, rules: RuleSet) -> str:
    fault = sheet.given("fault", "Fault at the board", "I_k", facts.fault_a or 1, "A")
    dip = sheet.given("dip", "Dip allowed", "d", facts.limit_pu or 0.04, "", fact="largest.limit")
    ratio = sheet.given("ratio", "At rest, of rated", "c", facts.ratio or _USUAL_RATIO, "", **said_or(facts.ratio))
    drawn = min(_SOFT_TIMES / ratio.value, 1.0) if facts.way == "soft" else float(facts.way or 1)
    share = sheet.given(
        "share", "Share the way to start draws", "s", drawn, "", source="of its current at full voltage"
    )
    start = sheet.work(
        "start",
        "Starting current allowed",
        "I_s",
        dip.value / (1 - dip.value) * fault.value,
        "A",
        formula="d/(1 − d)·I_k",
        inputs=(dip, fault),
        source="source and motor alike in angle: the strictest",
    )
    rated = sheet.work(
        "rated",
        "Rated amperes allowed",
        "I_N",
        start.value / (ratio.value * share.value),
        "A",
        formula="I_s/(c·s)",
        inputs=(start, ratio, share),
        source="definition",
    )
    kw = math.sqrt(3) * (facts.volts_v or 1) * rated.value * USUAL_POWER_FACTOR * _USUAL_EFFICIENCY / 1000
    size = f"{write(kw * 1000 / WATT_PER_HP, 2)} hp" if rules.practice.us_units else f"{write(kw, 2)} kW"
    said = f"Up to {write(rated.value, 3)} A rated, some {size}, for {100 * dip.value:g} % of dip."
    if facts.ratio is None:
        said += f" At rest it is taken to draw {_USUAL_RATIO:g} times that, assumed."
    taken = f"{USUAL_POWER_FACTOR:g} and {100 * _USUAL_EFFICIENCY:g} %"
    said += f" The power is at {taken}, power factor and efficiency assumed."
    return f"{said} Its own plate and load decide on a circuit."


TOOLS: Final = (
    Tool(
        key="letter",
        title="Code letter to amperes",
        purpose="What a motor draws at rest, by the letter on its plate.",
        facts=Letter,
        needs=("letter", "power_w", "volts_v", "phases"),
        work=_letter,
    ),
    Tool(
        key="wire",
        title="Wire by load, length and drop",
        purpose="The smallest size that stays within a drop.",
        facts=Wire,
        needs=("amps_a", "volts_v", "length_m", "limit_pu", "phases"),
        work=_wire,
    ),
    Tool(
        key="fault",
        title="Fault at a board",
        purpose="From transformer, what is ahead of it, and a run.",
        facts=Fault,
        needs=("kva_va", "impedance_pu", "volts_v", "phases"),
        also=_level_unsaid,
        work=_fault_work,
    ),
    Tool(
        key="largest",
        title="Largest motor a board can start",
        purpose="For a dip that is allowed.",
        facts=Largest,
        needs=("fault_a", "volts_v", "limit_pu"),
        work=_largest,
    ),
)
