"""Gates of what is read while it runs: volts, hertz and amperes, each against the plate, the plan and each other."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from typing import Final

from vinegate.core.grade import Gate, breaks, changes, from_answer, meets, unknown
from vinegate.core.numbers import write
from vinegate.core.plate.kind import THREE_PHASE, Family
from vinegate.core.record.dead import measured
from vinegate.core.record.facts import AMPS, VOLTS, Running, three
from vinegate.core.record.found import Side
from vinegate.core.record.unbalance import (
    DERATING_SOURCE,
    DEVIATION_SOURCE,
    EVEN_OUT,
    NEGATIVE_SOURCE,
    borne,
    deviation_pct,
    negative_pct,
    one_is_dead,
)
from vinegate.core.sheet import Sheet
from vinegate.core.working import Provenance

_NEVER_PCT: Final = 50.0
_IDLING_PCT: Final = 20.0
"""Small machines that idle may show so much; usual."""
_FLUX: Final = 0.10
"""Either way of the rated volts by hertz: as the rated volts themselves may be off."""
_SAME: Final = 5e-4


def volts(sheet: Sheet, form: Running, plan: Side) -> Iterator[Gate]:
    """Within the machine's zone, and how unequal."""
    found = three(form, VOLTS)
    if found is None:
        if plan.plate.family not in THREE_PHASE and form.u12_v:
            one = measured(sheet, "volts", "Volts while running", "U_m", form.u12_v, "V", form.simulated)
            yield _within(one.value, form.hertz, plan)
        elif any(getattr(form, name) is not None for name in VOLTS):
            yield unknown("record.volts", "Volts while running", ("all three line-to-line volts",))
        return
    u = [measured(sheet, f"u_{pair}", f"Volts {pair[0]}-{pair[1]}", f"U_{pair}", value, "V", form.simulated)
         for pair, value in zip(("12", "23", "31"), found, strict=True)]  # fmt: skip
    mean = sheet.work("volts", "Mean volts", "U_m", sum(found) / 3, "V", formula="(U_12 + U_23 + U_31)/3", inputs=u,
                      source="definition")  # fmt: skip
    yield _within(mean.value, form.hertz, plan)
    yield _unequal(sheet, found, plan)


def _within(volts: float, hertz: float | None, plan: Side) -> Gate:
    """Inside the zone in which the machine works as rated; to check in the outer one. Behind a drive, by its hertz."""
    key, name = "record.volts", "Volts while running"
    if plan.volts_v is None:
        return unknown(key, name, ("rated volts",))
    off, (inner, outer) = volts / plan.volts_v - 1, plan.rules.zone_pu
    if plan.plate.family is Family.DC and off < 0:
        text = f"{write(volts, 3)} V of {write(plan.volts_v, 3)} V rated: its rectifier sets them by the speed."
        return from_answer(key, name, meets(text, "armature volts go with speed"))
    if plan.driven and (hertz is not None or abs(off) > inner):
        return _by_hertz(volts, hertz, plan.volts_v, plan)
    text = f"{write(volts, 3)} V is {_off(off)} the rated {write(plan.volts_v, 3)} V."
    judged = meets if abs(off) <= inner else changes if abs(off) <= outer else breaks
    return from_answer(key, name, judged(text, plan.rules.zone_source),
                       remedy="Another tap, or the supply looked after.")  # fmt: skip


def _off(share: float) -> str:
    return f"{100 * abs(share):.1f} % {'above' if share > 0 else 'below'}" if abs(share) >= _SAME else "just"


def _by_hertz(volts: float, hertz: float | None, rated_v: float, plan: Side) -> Gate:
    """A drive keeps the rated volts by hertz, as far as its line lets it; less where its curve is square."""
    key, name, own = "record.volts", "Volts while running", plan.rated.frequency
    if hertz is None or own is None:
        return unknown(key, name, ("the frequency at which they were read" if own else "plate frequency",))
    asked, most = rated_v * hertz / own.value, plan.supply_v or math.inf
    planned = min(asked, most)
    text = f"{write(volts, 3)} V at {write(hertz, 3)} Hz; {write(planned, 3)} V keep the rated flux there"
    text += "." if asked <= most else ", as far as the line lets its drive."
    source, remedy = "rated volts by rated hertz: the same flux", "Base volts and hertz, boost and curve of its drive."
    if volts > planned * (1 + _FLUX):
        more = " A meter that is not made for a drive's output reads its carrier too."
        return from_answer(key, name, changes(f"{text} It is more.{more}", source), remedy=remedy)
    if volts < planned * (1 - _FLUX):
        return from_answer(key, name, changes(f"{text} It is less, as on a square curve.", source), remedy=remedy)
    return from_answer(key, name, meets(text, source))


def hertz(form: Running, plan: Side) -> Iterator[Gate]:
    """On the line: within what the machine works at, alone and with the volts. A drive makes its own."""
    key, name, planned = "record.hertz", "Frequency while running", plan.line_hz
    if form.hertz is None or plan.driven:
        return
    if planned is None:
        yield unknown(key, name, ("system frequency",))
        return
    off, (down, up), inner = form.hertz / planned - 1, plan.rules.frequency_zone_pu, plan.rules.frequency_inner_pu
    text = f"{write(form.hertz, 4)} Hz is {_off(off)} the {write(planned, 3)} Hz planned."
    text = text if abs(off) >= _SAME else f"{write(form.hertz, 4)} Hz, as planned."
    source, remedy = plan.rules.zone_source, "The governor of what feeds it; or the reading."
    found, together = three(form, VOLTS), plan.rules.deviations_together_pu
    if not down - 1e-9 <= off <= up + 1e-9:
        answer = breaks(text, source)
    elif inner is not None and abs(off) > inner + 1e-9:
        answer = changes(f"{text} That is for a while, not for ever.", source)
    elif together is not None and found is not None and plan.volts_v is not None and (
        abs(off) + abs(sum(found) / 3 / plan.volts_v - 1) > together + 1e-9
    ):  # fmt: skip
        answer = changes(f"{text} With its volts' deviation it is more than {100 * together:g} %.", source)
    else:
        answer = meets(text, source)
    yield from_answer(key, name, answer, remedy=remedy)


def _unequal(sheet: Sheet, found: tuple[float, float, float], plan: Side) -> Gate:
    """Both definitions on the sheet; the rule set's own decides."""
    name, practice = "Unbalance of volts", plan.rules.practice
    deviation = sheet.given("deviation", "Unbalance by largest deviation", "u_d", deviation_pct(*found), "%",
                            provenance=Provenance.MEASURED, source=DEVIATION_SOURCE)  # fmt: skip
    negative = negative_pct(*found)
    if negative is None:
        text = "These three close no triangle: they are not line-to-line volts of one moment."
        return from_answer(
            "record.unbalance_u", name, breaks(text, NEGATIVE_SOURCE), remedy="Read them again, line to line."
        )
    sheet.given("negative", "Unbalance by negative sequence", "u_n", negative, "%", provenance=Provenance.MEASURED,
                source=NEGATIVE_SOURCE)  # fmt: skip
    answer = borne(deviation.value, negative, by_deviation=practice.unbalance_by_deviation)
    return from_answer("record.unbalance_u", name, answer, remedy=EVEN_OUT)


def amperes(sheet: Sheet, form: Running, plan: Side) -> Iterator[Gate]:
    """Against the plate, the plan at these volts, and each other."""
    given = [value for value in (getattr(form, name) for name in AMPS) if value is not None]
    if not given:
        return
    single = plan.plate.family not in THREE_PHASE
    if len(given) < (1 if single else 3):
        yield unknown("record.current", "Amperes while running", ("all three amperes",))
        return
    worst = max(given)
    measured(sheet, "current", "Amperes while running, the largest", "I_r", worst, "A", form.simulated)
    rated, service = plan.current_a, plan.plate.service_factor or 1.0
    if rated is None:
        yield unknown("record.current", "Amperes while running", (plan.rules.words.full_load_current,))
    else:
        text = f"{write(worst, 3)} A of {write(rated, 3)} A rated"
        runs = plan.runs
        text += f"; {write(runs.amps, 3)} A planned at these volts." if runs else "."
        if worst <= rated * 1.005:
            answer = meets(text, "plate")
        elif worst <= rated * service and plan.rules.practice.service_factor:
            answer = changes(f"{text} It runs in its service factor.", "NEMA MG 1:2021 14.37")
        else:
            answer = breaks(text, "plate")
        yield from_answer("record.current", "Amperes while running", answer, remedy="Less load, or a larger motor.")
    if not single:
        yield _amps_apart(sheet, form, given)


def _amps_apart(sheet: Sheet, form: Running, given: Sequence[float]) -> Gate:
    apart = deviation_pct(given[0], given[1], given[2])
    sheet.given("apart", "Unbalance of amperes", "i_d", apart, "%", provenance=Provenance.MEASURED,
                source=DEVIATION_SOURCE)  # fmt: skip
    name, text = "Unbalance of amperes", f"{write(apart, 2)} % from their mean."
    if one_is_dead(given[0], given[1], given[2]):
        return from_answer("record.unbalance_i", name, breaks(f"{text} One phase carries nothing."),
                           remedy="Stop it: a fuse, contact or lead is open.")  # fmt: skip
    if apart > _NEVER_PCT:
        return from_answer("record.unbalance_i", name, breaks(
            f"{text} Ten times the 5 % of volts above which it is not to run.", DERATING_SOURCE),
            remedy="Stop it: a joint, contact, fuse or winding is going.")  # fmt: skip
    if form.at_load in ("none", "part") and apart <= _IDLING_PCT:
        return from_answer("record.unbalance_i", name, meets(f"{text} Only full load counts; it was not."))
    found = three(form, VOLTS)
    of_volts = deviation_pct(*found) if found else None
    if apart <= 10:
        return from_answer("record.unbalance_i", name, meets(f"{text} 10 % is usual at full load."))
    if of_volts is not None and apart <= 10 * of_volts:
        return from_answer("record.unbalance_i", name, changes(
            f"{text} Volts {write(of_volts, 2)} % apart make six to ten times that in amperes."),
            remedy="Rotate all three leads: what stays with the line is the supply's.")  # fmt: skip
    return from_answer("record.unbalance_i", name, changes(f"{text} More than the volts explain."),
                       remedy="Rotate all three leads: what moves with a lead is the motor's.")  # fmt: skip
