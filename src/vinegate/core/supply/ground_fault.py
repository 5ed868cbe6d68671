"""Faults from a line to ground, at the main board and at those behind it."""

from __future__ import annotations

from vinegate.core.facts import Job, number_of
from vinegate.core.rules import RunImpedance
from vinegate.core.sheet import Sheet
from vinegate.core.supply.source import Source, softest
from vinegate.core.working import Figure


def ground_fault(sheet: Sheet, job: Job, source: Source) -> None:
    """Line-to-ground fault at the main board behind a delta-wye transformer: `√3·U/|2·Z_1 + Z_0|`.

    Zero-sequence current does not pass the transformer's delta, so Z_0 is the transformer's own (IEC 60909-0:2016 7.5).
    """
    supply = job.supply
    if supply.transformer_zero_pu is None or supply.transformer_power_va is None or supply.in_use == "standby":
        return
    u, rating = source.volts, supply.transformer_power_va * (supply.transformers or 1) / 1000
    kva = sheet.given(
        "zero_kva", "Transformer" + "s" * ((supply.transformers or 1) > 1), "S_T", rating, "kVA",
        fact="supply.transformer_power",
    )  # fmt: skip
    pct = sheet.given(
        "zero_pct", "Transformer, zero sequence", "z_0", 100 * supply.transformer_zero_pu, "%",
        fact="supply.transformer_zero",
    )  # fmt: skip
    positive = next(figure for figure in sheet.figures if figure.key == "supply.transformer_x_over_r")
    ratio = positive.value
    z_0 = pct.value / 100 * u.value**2 / kva.value
    k = sheet.given("zero_ratio", "Transformer X/R, zero sequence", "x_0", ratio, "", provenance=positive.provenance,
                    source="as positive sequence")  # fmt: skip
    r_0 = sheet.work(
        "zero_r", "Zero-sequence resistance", "R_0", z_0 / (1 + ratio**2) ** 0.5, "mΩ",
        formula="z_0/100·U²/S_T/√(1+x_0²)", inputs=(pct, u, kva, k), source="IEC 60909-0:2016 6.3",
    )  # fmt: skip
    x_0 = sheet.work("zero_x", "Zero-sequence reactance", "X_0", r_0.value * ratio, "mΩ", formula="R_0·x_0",
                     inputs=(r_0, k), source="X = R·(X/R)")  # fmt: skip
    loop = ((2 * source.r.value + r_0.value) ** 2 + (2 * source.x.value + x_0.value) ** 2) ** 0.5
    sheet.work("fault_to_ground", "Line-to-ground fault current at the main board", "I_k1", 3**0.5 * u.value / loop,
               "kA", formula="√3·U/√((2·R_s+R_0)²+(2·X_s+X_0)²)", inputs=(u, source.r, r_0, source.x, x_0),
               source="IEC 60909-0:2016 7.5, c = 1; bolted")  # fmt: skip


def ground_fault_at_boards(sheet: Sheet, way: list[tuple[str, str, float | None, RunImpedance]]) -> None:
    """Line-to-ground fault at boards on the way, where each feeder's Z0/Z1 is given: the sums of the loop with them.

    `way` is (key, name, Z0/Z1, feeder) from the main board outwards; it ends where a ratio or the main board's own
    zero sequence is missing.
    """
    known = {figure.key: figure for figure in sheet.figures}
    parts = [known.get(f"supply.{key}") for key in ("source_r", "source_x", "zero_r", "zero_x", "volts")]
    r, x, r_0, x_0, u = parts
    if r is None or x is None or r_0 is None or x_0 is None or u is None:
        return
    sum_r, sum_x = 2 * r.value + r_0.value, 2 * x.value + x_0.value
    passed: list[Figure] = []
    for key, name, ratio, run in way:
        if ratio is None:
            return
        sum_r, sum_x = sum_r + (2 + ratio) * run.r.value, sum_x + (2 + ratio) * run.x.value
        passed += [run.r, run.x]
        sheet.given(
            f"fault_to_ground_{key}",
            f"Line-to-ground fault current at {name}",
            f"I_k1{number_of(key)}",
            3**0.5 * u.value / (sum_r**2 + sum_x**2) ** 0.5,
            "kA",
            provenance=softest(r, x, r_0, x_0, *passed),
            source="√3·U/|ΣZ_1+ΣZ_2+ΣZ_0| over all on the way; IEC 60909-0:2016 7.5, c = 1, bolted",
        )
