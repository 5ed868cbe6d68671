"""Gates of what is measured before it is energised: the checklist, insulation, winding, rotation, settings."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from typing import Final

from vinegate.core.grade import (
    Gate,
    Verdict,
    at_least,
    breaks,
    changes,
    check,
    confirm,
    from_answer,
    informs,
    meets,
    rule,
    ruled,
    unknown,
)
from vinegate.core.measured import AtLeast
from vinegate.core.numbers import write
from vinegate.core.plate.insulation import COPPER_K, class_letter
from vinegate.core.plate.rotation import clockwise
from vinegate.core.record.facts import OF_FORM, AsSet, Before, Installed, Insulation, Rotation, steps_in
from vinegate.core.record.found import Forms, Side
from vinegate.core.record.insulation import (
    FORM_WOUND_V,
    KINDS,
    MEANINGLESS_OHM,
    MEGOHM,
    SOURCE,
    factor_40,
    least_index,
    least_ohm,
    systems_of,
    volts_for_test,
)
from vinegate.core.sheet import Sheet
from vinegate.core.working import Figure, Provenance

_SPREAD_PCT, _LONG_LEADS_PCT = 2.0, 5.0
_EXACT: Final = 1 + 1e-9
_SAME_PU: Final = 0.03
_TRIP_BAND: Final = 0.20
_PROTECTS: Final = 1.25
"""Of what flows at full load: the most that NFPA 70:2023 430.32(A)(1) lets a relay stand at."""
_CARRIES: Final = 1.05
_CARRIES_SOURCE: Final = "IEC 60947-4-1:2018 table 2"
_NOT_YET: Final = "Dry it, clean it, test again; do not energise it."


def measured(sheet: Sheet, key: str, name: str, symbol: str, value: float, unit: str, by: str | None) -> Figure:
    """A reading as a line of the sheet; from the bench it is assumed, never measured."""
    soft = by == "yes"
    return sheet.given(
        key, name, symbol, value, unit, provenance=Provenance.ASSUMED if soft else Provenance.MEASURED,
        source="simulated bench, not measured" if soft else "read where it stands",
    )  # fmt: skip


def checklist(form: Before) -> Iterator[Gate]:
    """Every line answered is a gate; those not answered wait on the checklist."""
    for name, fact in Before.fields().items():
        said = getattr(form, name)
        if name in OF_FORM or not fact.choices or said == "none":
            continue
        key = f"record.{name}"
        if said == "wrong":
            yield rule(key, fact.label, False, "Found not right.", "found where it stands",
                       remedy="Put it right before it is energised.")  # fmt: skip
        else:
            yield confirm(key, fact.label, said == "done", fact.help or "Seen where it stands.", "")


def installed(form: Installed) -> Iterator[Gate]:
    """Every step that was ticked, as it was worded that day."""
    for number, (said, step) in enumerate(steps_in(form.steps or ""), start=1):
        key, name = f"record.step_{number}", f"Installing, step {number}"
        if said == "wrong":
            yield rule(key, name, False, f"Not right: {step}", "found where it stands", remedy="Put it right first.")
        elif said == "done":
            yield confirm(key, name, True, step, "")


def insulation(sheet: Sheet, form: Insulation, plan: Side) -> Iterator[Gate]:
    """One minute brought to 40 °C against the least of its kind of winding; the index beside it."""
    name = "Insulation resistance"
    if form.r1_ohm is None:
        if form.r10_ohm is not None or form.test_v is not None:
            yield unknown("record.insulation", name, ("the resistance after one minute",))
        return
    needs = [text for given, text in ((form.winding_at_c, "the winding's temperature"), (plan.volts_v, "rated volts"))
             if given is None]  # fmt: skip
    if needs or form.winding_at_c is None or plan.volts_v is None:
        yield unknown("record.insulation", name, tuple(needs))
        return
    one = _minutes(sheet, form, 1, form.r1_ohm)
    yield _at_40(sheet, form, plan, one)
    yield from _index(sheet, form, plan, one)
    yield from _test_volts(form.test_v, plan.volts_v)


def _minutes(sheet: Sheet, form: Insulation, after: int, ohms: float) -> Figure:
    name = f"Insulation after {'one minute' if after == 1 else 'ten minutes'}"
    if isinstance(ohms, AtLeast):
        name += ", at least: the end of the range"
    return measured(sheet, f"r{after}", name, f"R_{after}", ohms / MEGOHM, "MΩ", form.simulated)


def _at_40(sheet: Sheet, form: Insulation, plan: Side, one: Figure) -> Gate:
    """By the correction that leaves least, where its kind of insulation is open, or none is given so cold or hot."""
    key, name, celsius, volts_v = "record.insulation", "Insulation resistance", form.winding_at_c, plan.volts_v
    assert celsius is not None
    assert volts_v is not None
    at = measured(sheet, "winding_at", "Winding at", "θ", celsius, "°C", form.simulated)
    outside = not 10 <= celsius <= 85
    systems = systems_of(form.system, plan.plate.insulation_class, outside=outside)
    factor, formula = min(factor_40(celsius, system) for system in systems)
    warm = sheet.work("r40", "Insulation at 40 °C", "R_40", one.value * factor, "MΩ", formula=f"R_1·{formula}",
                      inputs=(one, at), source=f"{SOURCE} 6.3, {' or '.join(systems)}, the less")  # fmt: skip
    most = one.value * max(factor_40(celsius, system)[0] for system in systems)
    past = isinstance(form.r1_ohm, AtLeast)
    kinds = (form.winding,) if form.winding else KINDS if volts_v >= FORM_WOUND_V else ("random",)
    leasts = [least_ohm(kind, volts_v) / MEGOHM for kind in kinds]
    if past and warm.value < max(leasts):
        return unknown(key, name, ("a reading within the instrument's range, or one of a longer range",))
    if warm.value < max(leasts) and most >= min(leasts):
        asked = ((_KIND, len(kinds) > 1), (_WITHIN if outside else _SYSTEM, len(systems) > 1))
        return unknown(key, name, tuple(text for text, open_ in asked if open_))
    least = max(leasts) if warm.value >= max(leasts) else min(leasts)
    sentence = f"{'Over ' if past else ''}{write(warm.value, 3)} MΩ at 40 °C; "
    sentence += f"{write(least, 3)} MΩ is the least for this kind of winding."
    if outside:
        sentence += " Its temperature is outside 10 to 85 °C, for which the correction is given."
    return at_least(key, name, warm.value, least, sentence=sentence, source=f"{SOURCE} 12.3", remedy=_NOT_YET,
                    unit="MΩ")  # fmt: skip


_KIND: Final = "kind of winding: what is enough for one is little for another"
_SYSTEM: Final = "its insulation: resin, or thermoplastic"
_WITHIN: Final = "its resistance at 10 to 85 °C, for which the correction is given"


def _test_volts(test_v: float | None, volts_v: float) -> Iterator[Gate]:
    """Whether it was tested with the volts for such windings; an instrument's own may be a tenth off."""
    if test_v is not None:
        low, high = volts_for_test(volts_v)
        asked = f"{low:g} V" if low == high else f"{low:g} to {high:g} V"
        judged = meets if 0.9 * low <= test_v <= 1.1 * high else changes
        text = f"Tested with {write(test_v, 3)} V; {asked} is for these windings."
        yield from_answer("record.test_volts", "Test voltage", judged(text, f"{SOURCE} table 1"),
                          remedy="Test again with that.")  # fmt: skip


def _index(sheet: Sheet, form: Insulation, plan: Side, one: Figure) -> Iterator[Gate]:
    if form.r10_ohm is None:
        return
    key, name, past = "record.index", "Polarization index", isinstance(form.r10_ohm, AtLeast)
    ten = _minutes(sheet, form, 10, form.r10_ohm)
    if isinstance(form.r1_ohm, AtLeast):
        lacks = informs(unknown(key, name, (f"the resistance after one minute{_WITHIN_RANGE}",)))
        past_it = rule(key, name, True, "Above 5000 MΩ it says nothing.", f"{SOURCE} 12.2.2")
        yield past_it if form.r1_ohm > MEANINGLESS_OHM else lacks
        return
    index = sheet.work("index", f"{name}{', at least' if past else ''}", "PI", ten.value / one.value, "",
                       formula="R_10/R_1", inputs=(ten, one), source=f"{SOURCE} 3")  # fmt: skip
    least, shown = least_index(class_letter(plan.plate.insulation_class)), write(index.value, 3)
    if one.value > MEANINGLESS_OHM / MEGOHM:
        text = f"{shown}: above 5000 MΩ it says nothing."
        yield rule(key, name, True, text, f"{SOURCE} 12.2.2")
    elif past and index.value < least:
        yield informs(unknown(key, name, (f"the resistance after ten minutes{_WITHIN_RANGE}",)))
    else:
        text = f"{'Over ' if past else ''}{shown}; {least:g} is the least for its class."
        yield at_least(key, name, index.value, least, source=f"{SOURCE} 12.2", remedy=_NOT_YET, sentence=text)


_WITHIN_RANGE: Final = ", within the instrument's range"


def winding(sheet: Sheet, form: Insulation) -> Iterator[Gate]:
    """The three resistances between leads agree."""
    three = (form.r12_ohm, form.r23_ohm, form.r31_ohm)
    if all(one is None for one in three):
        return
    if any(one is None for one in three):
        yield unknown("record.winding", "Winding resistance", ("all three between leads",))
        return
    figures = [measured(sheet, f"r_{pair}", f"Winding, leads {pair[0]} and {pair[1]}", f"R_{pair}", value or 0.0, "Ω",
                        form.simulated) for pair, value in zip(("12", "23", "31"), three, strict=True)]  # fmt: skip
    values = [figure.value for figure in figures]
    mean = sum(values) / 3
    if form.winding_at_c is not None:
        _at_25(sheet, form, mean, figures)
    spread = 100 * max(abs(one - mean) for one in values) / mean
    text, source = f"The three differ by {write(spread, 2)} % from their mean", "usual of windings that are whole"
    if spread <= _SPREAD_PCT * _EXACT:
        answer = meets(f"{text}; {_SPREAD_PCT:g} % is usual.", source)
    elif spread <= _LONG_LEADS_PCT * _EXACT:
        answer = changes(f"{text}: as through long leads or a worn lug, up to {_LONG_LEADS_PCT:g} %.", source)
    else:
        answer = breaks(f"{text}: {_SPREAD_PCT:g} % is usual, {_LONG_LEADS_PCT:g} % on long leads.", source)
    yield from_answer("record.winding", "Winding resistance", answer, remedy="Measure at the motor's own leads; look "
                      "for a loose lug, then a shorted or open turn.")  # fmt: skip


def _at_25(sheet: Sheet, form: Insulation, mean: float, three: list[Figure]) -> None:
    """As one reads it next time, however warm the winding is then: copper."""
    there = (figure for figure in sheet.figures if figure.key == "record.winding_at")
    at = next(there, None) or measured(sheet, "winding_at", "Winding at", "θ", form.winding_at_c or 0.0, "°C",
                                       form.simulated)  # fmt: skip
    names = "+".join(figure.symbol for figure in three)
    cool = mean * (COPPER_K + 25) / (COPPER_K + at.value)
    sheet.work("winding_ohms", "Between leads at 25 °C, mean", "R_25", cool, "Ω",
               formula=f"({names})/3·{COPPER_K + 25:g}/({COPPER_K:g} + θ)", inputs=(*three, at),
               source="IEEE 112:2017 5.2: copper, 234.5; 225 of aluminium")  # fmt: skip


def rotation(form: Rotation, stamped: str, *, ran: bool) -> Iterator[Gate]:
    """Only the bump decides; running without it is refused. `stamped` is the plate's own word for it."""
    name, source = "Rotation", "IEC 60034-8:2007; NEMA MG 1:2021 2.24"
    made = clockwise(stamped)
    if made is not None and form.wanted is not None and made is not (form.wanted == "clockwise"):
        text = f"Wanted against its plate, {stamped}: a fan, a seal or a bearing may be made for that way."
        yield confirm("record.rotation_made", "Made to turn so", False, text, source)
    if form.seen is not None and form.wanted is not None:
        good = form.seen == form.wanted
        text = "It turned as wanted when bumped." if good else "It turned the wrong way when bumped."
        yield rule("record.rotation", name, good, text, source, remedy="Exchange two leads, and bump it again.")
    elif ran and form.seen is None:
        yield rule("record.rotation", name, False, "It has run, and no bump of it uncoupled is recorded.", source,
                   remedy="Record which way it turned.")  # fmt: skip
    elif form.sequence is not None or form.wanted is not None or form.seen is not None:
        lacks = (("which way it turned when bumped", form.seen), ("which way is wanted", form.wanted))
        yield unknown("record.rotation", name, tuple(label for label, said in lacks if said is None))


def settings(form: AsSet, plan: Side, forms: Forms) -> Iterator[Gate]:
    """What stands on the dials: against what is planned, and by the rules that the plan itself is judged by."""
    planned = plan.overload.setting.value if plan.overload.setting is not None else None
    if form.overload_a is not None:
        yield _as_planned("record.set_overload", "Overload as planned", form.overload_a, planned, "A",
                          "the overload's setting")  # fmt: skip
        yield from _protects(form.overload_a, plan, forms)
    if form.trip_class is not None:
        same = form.trip_class == plan.overload.trip
        text = f"Class {form.trip_class} is set, {plan.overload.trip} planned."
        yield from_answer("record.set_class", "Overload class as planned",
                          ruled(True, text) if same else changes(text), remedy="Set it, or plan with it.")  # fmt: skip
    if form.overload_a is not None or form.trip_class is not None:
        yield from _by_rule("record.overload_rule", "Overload, as it is set", {"overload"}, plan)
    if form.tested is not None:
        yield rule("record.set_tested", "Overload trips when tested", form.tested == "yes",
                   "Tried by its test button." if form.tested == "yes" else "It did not trip.",
                   "tried where it stands", remedy="Replace it.")  # fmt: skip
    yield from _device(form, plan)
    if form.changeover_s is not None:
        at = plan.start.row.last_change_s if plan.start.row is not None else None
        yield _as_planned("record.set_timer", "Change-over timer as planned", form.changeover_s, at, "s",
                          "the change-over", slack=0.15)  # fmt: skip


def _device(form: AsSet, plan: Side) -> Iterator[Gate]:
    """The fuse or breaker that is there."""
    if plan.as_set is not None and (form.device_a is not None or plan.magnetic):
        there, asked = plan.as_set.device("device").chosen, plan.protected.device("device").chosen
        text = f"{there} is there, {asked} planned."
        yield from_answer("record.set_device", "Fuse or breaker as planned", ruled(True, text) if there == asked
                          else changes(text), remedy="Fit it, or plan with it.")  # fmt: skip
        rows = {row.key for row in plan.as_set.devices} - {"overload"}
        yield from _by_rule("record.device_rule", "Fuse or breaker, as it is there", rows, plan)
    first = plan.protected.first_a
    if form.instantaneous_a is None or plan.magnetic:
        return
    if first is None:
        yield unknown("record.set_instantaneous", "Instantaneous trip", ("the first peak of the start",))
        return
    low = (1 - _TRIP_BAND) * form.instantaneous_a
    text = f"Set to {write(form.instantaneous_a, 3)} A it may trip from {write(low, 3)} A; the first peak is "
    yield at_least("record.set_instantaneous", "Instantaneous trip", low, first, unit="A",
                   sentence=f"{text}{write(first, 3)} A, as rms.", source="IEC 60947-2:2016 8.3.3.1.2: ± 20 %",
                   remedy="Set it higher, within what still clears the least fault.")  # fmt: skip


def _by_rule(key: str, name: str, rows: Collection[str], plan: Side) -> Iterator[Gate]:
    """What the plan's own gates say of these rows were they planned so: what is worse then than in the plan itself.

    What is no worse, and does not plainly pass, is said once, by the plan's own gate.
    """
    if plan.as_set is None:
        return
    before = {gate.key: gate.verdict.rank for row in plan.protected.devices for gate in row.gates}
    gates = [gate for row in plan.as_set.devices if row.key in rows for gate in row.gates]
    worse = [gate for gate in gates if gate.verdict.rank > before.get(gate.key, 0)]
    fails = next((gate for gate in worse if gate.verdict is Verdict.FAILS), None)
    unclear = next((gate for gate in worse if gate.verdict is Verdict.UNKNOWN), None)
    hangs = next((gate for gate in worse if gate.verdict is Verdict.CHECK and gate.turns is not None), None)
    if fails is not None:
        yield from_answer(key, name, breaks(fails.sentence, fails.source), remedy="Set it as planned.")
    elif unclear is not None:
        yield unknown(key, name, unclear.needs or (unclear.name,))
    elif hangs is not None and hangs.turns is not None:
        yield check(key, name, hangs.turns, hangs.sentence, hangs.source, remedy="Set it as planned.")
    elif {gate.verdict for gate in gates if gate.weighs} == {Verdict.PASSES}:
        yield from_answer(key, name, meets("Nothing that is asked of it fails so.", "the plan's own gates"))


def _as_planned(
    key: str, name: str, set_: float, planned: float | None, unit: str, needs: str, slack: float = _SAME_PU
) -> Gate:
    if planned is None:
        return unknown(key, name, (needs,))
    text = f"{write(set_, 3)} {unit} set, {write(planned, 3)} {unit} planned."
    same = abs(set_ - planned) <= slack * planned
    return from_answer(key, name, ruled(True, text) if same else changes(text), remedy="Set it, or plan with it.")


def _protects(set_a: float, plan: Side, forms: Forms) -> Iterator[Gate]:
    """A setting far above what really flows protects little; below it, it trips. Counted where the relay stands."""
    amps = [one for one in (forms.running.i1_a, forms.running.i2_a, forms.running.i3_a) if one]
    if not amps or forms.running.at_load != "full":
        return
    over, place = plan.overload, ""
    in_line = set_a
    if over.setting is not None and over.line_a is not None and abs(over.line_a.value / over.setting.value - 1) > 1e-6:
        in_line = set_a * over.line_a.value / over.setting.value
        place = f", {write(in_line, 3)} A in the line,"
    times = in_line / max(amps)
    text = f"{write(set_a, 3)} A{place} is {100 * times:.0f} % of the {write(max(amps), 3)} A that flows at full load."
    answer, remedy = ruled(True, text), "Set it lower, within what the plate and the rule allow."
    if times > _PROTECTS:
        answer = changes(f"{text} It protects little.")
    elif times * _CARRIES < 1:
        answer = changes(f"{text} It trips: it carries {_CARRIES:g} times its setting, no more.", _CARRIES_SOURCE)
        remedy = "Less load; or set it as far up as the rule allows, where the machine bears it."
    yield from_answer("record.protects", "Overload against what flows", answer, remedy=remedy)
