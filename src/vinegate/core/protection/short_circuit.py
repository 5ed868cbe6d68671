"""The fault at the motor's end of its run: what a short-circuit device there has to notice."""

from __future__ import annotations

from vinegate.core.rules.protocol import RunImpedance
from vinegate.core.sheet import Sheet
from vinegate.core.supply.source import Source
from vinegate.core.supply.tree import Feed
from vinegate.core.tables import load
from vinegate.core.working import Figure, Provenance


def far_fault(
    sheet: Sheet,
    source: Source | None,
    feed: Feed | None,
    run: RunImpedance | None,
    least: float = 1.0,
    *,
    neutral: bool = False,
) -> Figure | None:
    """Three-phase fault at the motor's terminals, kA: source, feeders and run in series at the circuit's volts.

    From line to neutral the fault between those two, back through neutrals of the lines' size. `least` is the voltage
    factor c_min of the least current, one where the rule set has none.
    """
    if source is None or feed is None or run is None or not feed.known:
        return None
    r, x, text, inputs = _series(sheet, source, feed, run, neutral=neutral)
    factor = ""
    if least != 1:
        cite = f"{load('voltage_factor').cite}; conductors warm"
        inputs.append(sheet.given("c_min", "Voltage factor, least current", "c_min", least, "",
                                  provenance=Provenance.TABLE, source=cite))  # fmt: skip
        factor = "c_min·"
    fault = "line-to-neutral fault at the motor" if neutral else "three-phase fault at the motor"
    name = f"Least {fault}, for disconnection" if factor else fault[0].upper() + fault[1:]
    how = "IEC 60909-0:2016 7.2" if factor else "U/√3/Z"
    way = "back through a neutral of the line's size" if neutral else "between two lines √3/2 of it"
    return sheet.work(
        "far_fault", name, "I_f", least * feed.volts_v / (3 * (r * r + x * x)) ** 0.5, "kA",
        formula=f"{factor}U_c/√3/√({text})", inputs=inputs, source=f"{how}; {way}",
    )  # fmt: skip


def _series(
    sheet: Sheet, source: Source, feed: Feed, run: RunImpedance, *, neutral: bool
) -> tuple[float, float, str, list[Figure]]:
    """Resistance and reactance in series, mΩ at the circuit's volts, their squares' sum as a formula, its inputs."""
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
    if neutral:
        back = feed.run
        r, x = r + run.r.value + (back.r.value if back else 0.0), x + run.x.value + (back.x.value if back else 0.0)
        text_r = f"{text_r}+{run.r.symbol}{f'+{back.r.symbol}' if back else ''}"
        text_x = f"{text_x}+{run.x.symbol}{f'+{back.x.symbol}' if back else ''}"
    return r, x, f"({text_r}+{run.r.symbol})²+({text_x}+{run.x.symbol})²", inputs
