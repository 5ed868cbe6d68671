"""One dialect a sheet, and nothing advised from a plate that cannot be."""

import re

import pytest

from tests.conftest import planner
from vinegate.core.grade import Kind, Verdict
from vinegate.core.plan import plan_raw
from vinegate.core.rules.dialect import cite, say
from vinegate.demo import demo_job

LOCK, SOUND = "harrowmere-lock.json", "skerry-sound.json"
# What belongs to the other side of the water. Of IEC's clauses on an NEC sheet only the efficiency classes stand, which
# have no formula in NEMA MG 1; IEEE 620, the thermal limit curve, has no counterpart in IEC.
FOREIGN = {
    SOUND: re.compile(
        r"NEMA|NFPA|\bUL \d|\bAWG|\bhp\b|\binch|\bft\b|\blb|\b\d{3}\.\d+\(|\bwye|locked-rotor|design [ABCD]\b|type (?:3R|4X|12)\b",
        re.I,
    ),
    LOCK: re.compile(r"\bIEC (?!60034-30)|\bstar\b|\bkW\b.*hp|design [NH]\b|mm²"),
}


def texts(plan):
    """Everything a sheet says in words."""
    for stage in plan.stages:
        for figure in stage.figures:
            yield f"{figure.name} | {figure.source} | {figure.note}"
        yield from stage.notes
    for gate in plan.gates:
        yield f"{gate.name} | {gate.sentence} | {gate.source} | {gate.remedy}"
    yield "".join(piece.text for piece in plan.answer)
    for device in plan.protected.devices:
        yield f"{device.name} | {device.rule} | {device.asked} | {device.advised}"
    for row in plan.comparison.rows if plan.comparison else ():
        yield row.why
        yield from (f"{gate.sentence} | {gate.source if row.chosen else ''}" for gate in row.gates)
    for row in plan.stopping.rows if plan.stopping else ():
        yield f"{row.why} {row.caution} {' '.join(row.steps)}"
    for row in plan.placed.devices:
        yield f"{row.why} {row.asked} {row.enclosure_asked} " + " ".join(f"{c.text} {c.rule}" for c in row.checks)


@pytest.mark.parametrize(("file", "tag"), [(f, tag) for f in (LOCK, SOUND) for tag, _ in demo_job(f).circuits])
def test_each_sheet_keeps_to_its_own_papers_and_words(file, tag):
    job = demo_job(file)
    plan = plan_raw(job.rules, job.facts, dict(job.circuits)[tag])
    found = [(match.group(0), text[:120]) for text in texts(plan) if (match := FOREIGN[file].search(text))]
    assert found == []


def test_words_and_citations():
    assert (
        say("Wye-delta draws a third of the locked-rotor current.", "iec")
        == "Star-delta draws a third of the starting current."
    )
    assert say("Wye-delta", "nec") == "Wye-delta"
    assert cite("IEC 60204-1:2016 7.3.1; NFPA 70:2023 430.43", "iec") == "IEC 60204-1:2016 7.3.1"
    assert cite("definition; NFPA 70:2023 430.43", "nec") == "definition; NFPA 70:2023 430.43"


ODD, UNFIT = "The plate does not add up", "The motor does not fit its supply"
WRONG = {
    "more than a machine can": ({"plate.full_load_current": "40/20"}, ODD),
    "the speed of no pole number": ({"plate.speed": "1820 rpm"}, ODD),
    "equal amperes": ({"plate.full_load_current": "92/92"}, ODD),
    "of another country's volts": ({"plate.volts": "400", "plate.full_load_current": "106"}, UNFIT),
    "for half the hertz": ({"plate.frequency": "25 Hz", "plate.speed": "495 rpm"}, UNFIT),
    "both: what it says of itself comes first": ({"plate.volts": "575", "plate.speed": "1820 rpm"}, ODD),
}


@pytest.mark.parametrize("name", WRONG)
def test_nothing_is_advised_from_a_plate_that_cannot_be(name):
    """The plate leads the answer; no gate elsewhere passes, no way is recommended, no device's row passes."""
    facts, opens = WRONG[name]
    plan = planner(LOCK, "P-11")(facts)
    assert "".join(piece.text for piece in plan.answer).startswith(opens)
    elsewhere = [gate for stage in plan.stages if stage.key != "plate" for gate in stage.gates]
    assert not any(gate.verdict is Verdict.PASSES for gate in elsewhere if gate.kind is Kind.ENGINEERING)
    assert plan.comparison is None or plan.comparison.recommended is None
    rows = [gate for device in plan.protected.devices for gate in device.gates if gate.kind is Kind.ENGINEERING]
    assert not any(gate.verdict is Verdict.PASSES for gate in rows)


@pytest.mark.parametrize(
    ("volts", "amps", "verdict"),
    [
        ("400Δ/690Y", "55/55", "fails"), ("400Δ/690Y", "55/32", "passes"), ("230/460", "92/184", "fails"),
        ("230/460", "184/92", "passes"), ("208-230/460", "30.8-28/14", "passes"),
    ],
)  # fmt: skip
def test_amperes_go_inversely_with_volts(volts, amps, verdict):
    plate = {"power": "22 kW", "volts": volts, "full_load_current": amps, "frequency": "50 Hz", "speed": "1465 r/min"}
    plan = plan_raw(demo_job(SOUND).rules, {"supply": {"volts": "400/230 V", "frequency": "50 Hz"}}, {"plate": plate})
    gate = plan.gate("plate.amps")
    assert gate.verdict == verdict
    if amps == "55/55":
        assert "31.9 A at 690 V" in gate.sentence
