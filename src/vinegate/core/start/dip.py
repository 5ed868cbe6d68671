"""How far the volts fall: the source, the run and the machine at rest as one complex circuit."""

from __future__ import annotations

import math

from vinegate.core.plate.kind import volt_ampere_factor
from vinegate.core.records import dataclass
from vinegate.core.rules import RunImpedance
from vinegate.core.sheet import Sheet
from vinegate.core.supply.source import Source
from vinegate.core.working import Figure, Provenance


@dataclass(frozen=True, slots=True)
class AtRest:
    """The machine at standstill as a series impedance per phase, mΩ, with its magnitude and power factor."""

    r: Figure
    x: Figure
    z: Figure
    factor: Figure


@dataclass(frozen=True, slots=True, kw_only=True)
class StartPoint:
    """The moment the contactor closes: line current, volts, and the bounds that need no angle."""

    current: Figure
    dip_board: Figure
    dip_bound: Figure
    terminals: Figure | None
    terminals_bound: Figure | None
    peak: Figure


@dataclass(frozen=True, slots=True)
class Phases:
    """What a circuit's volts are divided by for those of one conductor's loop: √3, 2 between lines, 1 to neutral."""

    divisor: float
    text: str

    @classmethod
    def of(cls, kind: str | None, *, neutral: bool = False) -> Phases:
        """By the kind of machine. A single-phase machine's impedance is counted half, a half for each line; to neutral
        the loop is one conductor's, with the neutral in the run.
        """
        if neutral:
            return cls(1.0, "1")
        return cls(3**0.5, "√3") if volt_ampere_factor(kind) > 1 else cls(2.0, "2")


def at_rest(sheet: Sheet, current: Figure, volts: Figure, power_factor: Figure, phases: Phases) -> AtRest:
    """Impedance at standstill from locked-rotor current at plate volts and power factor: `Z = U/(√3·I)`."""
    z = sheet.work(
        "motor_z",
        "Motor at rest, impedance",
        "Z_m",
        1000 * volts.value / (phases.divisor * current.value),
        "mΩ",
        formula=f"1000·{volts.symbol}/({phases.text}·{current.symbol})",
        inputs=(volts, current),
        source="definition",
    )
    r = sheet.work(
        "motor_r",
        "Motor at rest, resistance",
        "R_m",
        z.value * power_factor.value,
        "mΩ",
        formula="Z_m·pf_LR",
        inputs=(z, power_factor),
        source="definition",
    )
    x = sheet.work(
        "motor_x",
        "Motor at rest, reactance",
        "X_m",
        z.value * (1 - power_factor.value**2) ** 0.5,
        "mΩ",
        formula="Z_m·√(1−pf_LR²)",
        inputs=(z, power_factor),
        source="definition",
    )
    return AtRest(r, x, z, power_factor)


def in_wye(sheet: Sheet, delta: AtRest) -> AtRest:
    """The same windings in wye: three times the impedance per phase seen from the line."""

    def thrice(key: str, name: str, figure: Figure) -> Figure:
        return sheet.work(
            key,
            name,
            f"{figure.symbol}Y",
            3 * figure.value,
            "mΩ",
            formula=f"3·{figure.symbol}",
            inputs=(figure,),
            source="wye against delta, same windings",
        )

    return AtRest(
        thrice("wye_r", "Motor at rest in wye, resistance", delta.r),
        thrice("wye_x", "Motor at rest in wye, reactance", delta.x),
        thrice("wye_z", "Motor at rest in wye, impedance", delta.z),
        delta.factor,
    )


def neglected_run(sheet: Sheet) -> RunImpedance:
    """No run: the board's dip then reads a little high, and the terminals are not known."""

    def zero(key: str, name: str, symbol: str) -> Figure:
        source = "run left out, so the current reads a little high"
        return sheet.given(key, name, symbol, 0.0, "mΩ", provenance=Provenance.ASSUMED, source=source)

    return RunImpedance(
        zero("no_run_r", "Run resistance, left out", "R_run"), zero("no_run_x", "Run reactance, left out", "X_run")
    )


def solve_start(
    sheet: Sheet, prefix: str, source: Source, run: RunImpedance, motor: AtRest, plate_volts: Figure, *,
    has_run: bool, phases: Phases,
) -> StartPoint:  # fmt: skip
    """Solve `E = I·(Z_s + Z_run + Z_m)` and read the volts at board and terminals.

    The dip is the fall from the volts just before, which without other load are the system volts.
    `prefix` separates several solutions on one sheet. Impedances in mΩ, volts line to line.
    """
    tag = f"_{prefix}" if prefix != "full" else ""
    r = _add(sheet, f"{prefix}.r", "Loop resistance", f"R{tag}", source.r, run.r, motor.r)
    x = _add(sheet, f"{prefix}.x", "Loop reactance", f"X{tag}", source.x, run.x, motor.x)
    loop = (r.value**2 + x.value**2) ** 0.5
    current = sheet.work(f"{prefix}.current", "Line current at the first moment", f"I{tag}",
                         1000 * source.volts.value / (phases.divisor * loop), "A",
                         formula=f"1000·{source.volts.symbol}/({phases.text}·√({r.symbol}²+{x.symbol}²))",
                         inputs=(source.volts, r, x), source="Ohm's law on the loop")  # fmt: skip
    dip = _board_dip(sheet, prefix, run, motor, r, x)
    bound = sheet.work(f"{prefix}.dip_bound", "Dip at the board, whatever the angles", f"ΔU_most{tag}",
                       100 * source.z_sum.value / (source.z_sum.value + motor.z.value), "%",
                       formula=f"100·{source.z_sum.symbol}/({source.z_sum.symbol}+{motor.z.symbol})",
                       inputs=(source.z_sum, motor.z),
                       source="upper bound: all impedances in line; also S_start/(S_start + S_sc)")  # fmt: skip
    terminals = terminals_bound = None
    if has_run:
        terminals, terminals_bound = _terminals(sheet, prefix, source, run, motor, plate_volts, current, phases)
    _hand_check(sheet, prefix, source, r, x, current, phases)
    return StartPoint(
        current=current,
        dip_board=dip,
        dip_bound=bound,
        terminals=terminals,
        terminals_bound=terminals_bound,
        peak=_peak(sheet, prefix, current, r, x),
    )


def _add(sheet: Sheet, key: str, name: str, symbol: str, *figures: Figure) -> Figure:
    return sheet.work(
        key,
        name,
        symbol,
        sum(figure.value for figure in figures),
        "mΩ",
        formula="+".join(figure.symbol for figure in figures),
        inputs=figures,
        source="source, run and motor in series",
    )


def _board_dip(sheet: Sheet, prefix: str, run: RunImpedance, motor: AtRest, r: Figure, x: Figure) -> Figure:
    loop = (r.value**2 + x.value**2) ** 0.5
    board = ((run.r.value + motor.r.value) ** 2 + (run.x.value + motor.x.value) ** 2) ** 0.5
    tag = f"_{prefix}" if prefix != "full" else ""
    return sheet.work(
        f"{prefix}.dip_board",
        "Dip at the board",
        f"ΔU{tag}",
        100 * (1 - board / loop),
        "%",
        formula=(
            f"100·(1−√(({run.r.symbol}+{motor.r.symbol})²+({run.x.symbol}+{motor.x.symbol})²)"
            f"/√({r.symbol}²+{x.symbol}²))"
        ),
        inputs=(run.r, motor.r, run.x, motor.x, r, x),
        source="complex circuit; board volts over source volts",
    )


def _terminals(
    sheet: Sheet,
    prefix: str,
    source: Source,
    run: RunImpedance,
    motor: AtRest,
    plate_volts: Figure,
    current: Figure,
    phases: Phases,
) -> tuple[Figure, Figure]:
    tag = f"_{prefix}" if prefix != "full" else ""
    value = 100 * phases.divisor * current.value * motor.z.value / 1000 / plate_volts.value
    terminals = sheet.work(f"{prefix}.terminals", "Volts at the terminals, of plate volts", f"u{tag}", value, "%",
                           formula=f"{phases.text}·{current.symbol}·{motor.z.symbol}/(10·{plate_volts.symbol})",
                           inputs=(current, motor.z, plate_volts), source="Ohm's law at the motor")  # fmt: skip
    run_z = sheet.work(
        f"{prefix}.run_z",
        "Run impedance",
        "Z_run",
        (run.r.value**2 + run.x.value**2) ** 0.5,
        "mΩ",
        formula=f"√({run.r.symbol}²+{run.x.symbol}²)",
        inputs=(run.r, run.x),
        source="definition",
    )
    total = source.z_sum.value + run_z.value + motor.z.value
    bound = sheet.work(
        f"{prefix}.terminals_bound",
        "Volts at the terminals, whatever the angles",
        f"u_least{tag}",
        100 * motor.z.value / total * source.volts.value / plate_volts.value,
        "%",
        formula=(
            f"100·{source.volts.symbol}/{plate_volts.symbol}·{motor.z.symbol}"
            f"/({source.z_sum.symbol}+Z_run+{motor.z.symbol})"
        ),
        inputs=(source.volts, plate_volts, motor.z, source.z_sum, run_z),
        source="lower bound: all impedances in line",
    )
    return terminals, bound


def _hand_check(
    sheet: Sheet, prefix: str, source: Source, r: Figure, x: Figure, current: Figure, phases: Phases
) -> None:
    """`ΔU ≈ √3·I·(R·cosφ + X·sinφ)`, with the angle of the loop."""
    loop = (r.value**2 + x.value**2) ** 0.5
    tag = f"_{prefix}" if prefix != "full" else ""
    cos, sin = r.value / loop, x.value / loop
    cosine = sheet.work(
        f"{prefix}.cos",
        "Power factor of the start, seen from the source",
        f"cosφ{tag}",
        cos,
        "",
        formula=f"{r.symbol}/√({r.symbol}²+{x.symbol}²)",
        inputs=(r, x),
        source="definition",
    )
    value = (
        100 * phases.divisor * current.value * (source.r.value * cos + source.x.value * sin) / 1000 / source.volts.value
    )
    sheet.work(
        f"{prefix}.dip_by_hand",
        "Dip at the board by the hand formula",
        f"ΔU_hand{tag}",
        value,
        "%",
        formula=(
            f"{phases.text}·{current.symbol}·({source.r.symbol}·{cosine.symbol}"
            f"+{source.x.symbol}·√(1−{cosine.symbol}²))/(10·{source.volts.symbol})"
        ),
        inputs=(current, source.r, source.x, cosine, source.volts),
        source="first-order voltage drop; a check on the line above",
    )


def _peak(sheet: Sheet, prefix: str, current: Figure, r: Figure, x: Figure) -> Figure:
    tag = f"_{prefix}" if prefix != "full" else ""
    return sheet.work(
        f"{prefix}.peak",
        "First-cycle peak with full offset",
        f"i_peak{tag}",
        2**0.5 * current.value * (1 + math.exp(-math.pi * r.value / x.value)),
        "A",
        formula=f"√2·{current.symbol}·(1+e^(−π·{r.symbol}/{x.symbol}))",
        inputs=(current, r, x),
        source="asymmetrical current of an R-L loop, closed at the worst moment",
    )
