"""The fault at the motor's end of its run: what a short-circuit device there has to notice."""

from __future__ import annotations

from vinegate.core.rules.protocol import RunImpedance
from vinegate.core.sheet import Sheet
from vinegate.core.supply.source import Source
from vinegate.core.supply.tree import Feed
from vinegate.core.working import Figure


def far_fault(sheet: Sheet, source: Source | None, feed: Feed | None, run: RunImpedance | None) -> Figure | None:
    """Three-phase fault at the motor's terminals, kA: source, feeders and run in series at the circuit's volts."""
    if source is None or feed is None or run is None or not feed.known:
        return None
    u = sheet.given("volts", "Volts of the circuit", "U_c", feed.volts_v, "V")
    text_r, text_x = source.r.symbol, source.x.symbol
    inputs = [source.r, source.x, run.r, run.x, u]
    scale = (u.value / source.volts.value) ** 2
    r, x = source.r.value * scale + run.r.value, source.x.value * scale + run.x.value
    if scale != 1:
        text_r, text_x = f"{text_r}·(U_c/U)²", f"{text_x}·(U_c/U)²"
        inputs.append(source.volts)
    if feed.run is not None:
        r, x = r + feed.run.r.value, x + feed.run.x.value
        text_r, text_x = f"{text_r}+{feed.run.r.symbol}", f"{text_x}+{feed.run.x.symbol}"
        inputs += [feed.run.r, feed.run.x]
    return sheet.work(
        "far_fault",
        "Three-phase fault current at the motor",
        "I_f",
        u.value / (3 * (r * r + x * x)) ** 0.5,
        "kA",
        formula=f"U_c/√3/√(({text_r}+{run.r.symbol})²+({text_x}+{run.x.symbol})²)",
        inputs=inputs,
        source="IEC 60909-0:2016 7.2, c = 1; between two lines √3/2 of it",
    )
