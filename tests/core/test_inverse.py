"""How far one fact can go: it passes there, and not one step beyond."""

import itertools

import pytest

from vinegate.core import inverse
from vinegate.core.facts import circuit_parts
from vinegate.core.grade import Verdict
from vinegate.core.grown import grown
from vinegate.core.inverse import QUESTIONS, ask_inverse
from vinegate.core.plan import Beside, plan_raw
from vinegate.core.plate import sizes
from vinegate.core.quantity import CURRENT, FORCE, INERTIA, POWER
from vinegate.core.tables import load
from vinegate.demo import demo_job


def circuit(tag):
    for name in ("harrowmere-lock.json", "skerry-sound.json"):
        found = demo_job(name)
        if tag in dict(found.circuits):
            return (
                found.rules,
                found.facts,
                {key: part for key, part in dict(found.circuits)[tag].items() if not key.startswith("record_")},
            )
    raise KeyError(tag)


def fails(tag, part, name, text):
    rules, job, facts = circuit(tag)
    own = {**facts, part: {**facts[part], name: text}}
    return [
        gate.key for gate in plan_raw(rules, job, own, beside=Beside.DOCUMENT).weighing if gate.verdict is Verdict.FAILS
    ]


@pytest.mark.parametrize(("tag", "unit", "beyond"), [("P-11", "ft", 1.03), ("H-1", "m", 1.03)])
def test_the_longest_run_passes_and_three_per_cent_more_does_not(tag, unit, beyond):
    found = ask_inverse("run", *circuit(tag))
    length = float(found.answer.split()[0])
    assert found.answer.endswith(unit)
    assert fails(tag, "wiring", "length", f"{length} {unit}") == []
    assert fails(tag, "wiring", "length", f"{beyond * length} {unit}")
    assert found.stops


def test_the_least_wire_passes_and_the_next_smaller_does_not():
    found = ask_inverse("wire", *circuit("D-61"))
    order = ["12 AWG", "10 AWG", "8 AWG", "6 AWG", "4 AWG"]
    assert fails("D-61", "wiring", "size", found.answer) == []
    assert fails("D-61", "wiring", "size", order[order.index(found.answer) - 1])


def test_what_cannot_be_read_elsewhere_answers_no_question_of_its_own():
    """It was there before, and stays: the run is still as long as what else there is bears."""
    rules, job, facts = circuit("D-61")
    unread = {**facts, "place": {**facts.get("place", {}), "brake": "?!"}}
    assert ask_inverse("run", rules, job, unread).answer == ask_inverse("run", rules, job, facts).answer


def test_a_larger_motor_or_a_smaller_transformer_is_one_that_is_made():
    motor = ask_inverse("motor", *circuit("P-11"))
    assert motor.answer.endswith("hp")
    assert float(motor.answer.split()[0]) >= 75
    transformer = ask_inverse("transformer", *circuit("D-61"))
    rules, job, facts = circuit("D-61")
    smaller = {**job, "supply": {**job["supply"], "transformer_power": transformer.answer}}
    assert not any(
        gate.verdict is Verdict.FAILS for gate in plan_raw(rules, smaller, facts, beside=Beside.DOCUMENT).weighing
    )


def test_another_motor_is_tried_with_its_own_amperes_and_loaded_as_usual(monkeypatch):
    """Amperes go with the power, on both volts, and so does the load with what turns; the old plate's frame does not."""
    tried = []

    def noted(rules, job, facts, **more):
        tried.append(facts)
        return plan_raw(rules, job, facts, **more)

    monkeypatch.setattr(inverse, "plan_raw", noted)
    ask_inverse("motor", *circuit("P-11"))
    sizes = [one for one in tried[1:] if one["plate"]["power"] != "75 hp"]
    assert len(sizes) > 2
    for one in sizes:
        horses = float(one["plate"]["power"].split()[0])
        amps = [float(text) for text in one["plate"]["full_load_current"].split("/")]
        assert amps == pytest.approx([184 * horses / 75, 92 * horses / 75], rel=1e-3)
        assert POWER.read(one["load"]["power"]) == pytest.approx(69 * 745.7 * horses / 75, rel=1e-3)
        assert INERTIA.read(one["load"]["inertia"]) == pytest.approx(3.2 * horses / 75, rel=1e-3)
        assert one["plate"]["frame"] == ""


def test_what_stops_the_largest_motor_is_said_though_it_is_the_last_that_is_made(monkeypatch):
    best = float(ask_inverse("motor", *circuit("P-11")).answer.split()[0])
    larger = min(size for size in sizes.HORSEPOWERS if size > best)
    monkeypatch.setattr(inverse, "HORSEPOWERS", tuple(size for size in sizes.HORSEPOWERS if size <= larger))
    found = ask_inverse("motor", *circuit("P-11"))
    assert (found.answer, bool(found.stops)) == (f"{best:g} hp", True)
    assert (larger, False) in found.tried


def test_transformers_are_tried_in_the_sizes_of_their_country():
    """300 and 225 kVA under the NEC; 315 and 250 of the R10 series under the IEC."""
    for tag in ("D-61", "F-3"):
        tried = dict(ask_inverse("transformer", *circuit(tag)).tried)
        assert all(kva in (inverse._KVA_US if tag == "D-61" else inverse._KVA_IEC) for kva in tried)
    ratio = [round(b / a, 2) for a, b in itertools.pairwise(inverse._KVA_IEC)]
    assert all(1.24 <= one <= 1.28 for one in ratio)  # ten steps a decade
    assert {112.5, 150, 225}.isdisjoint(inverse._KVA_IEC)


def test_what_is_not_given_is_no_question():
    rules, job, facts = circuit("P-11")
    bare = {key: part for key, part in facts.items() if key != "wiring"}
    assert ask_inverse("run", rules, job, bare) is None
    assert ask_inverse("wire", rules, job, bare) is None
    assert ask_inverse("tap", rules, job, facts) is None
    unread, other_words = (
        {**facts, "start": {**facts.get("start", {}), "method": text}} for text in ("as ever", "RVAT")
    )
    assert ask_inverse("tap", rules, job, unread) is None
    assert ask_inverse("tap", rules, job, other_words) is not None
    assert ask_inverse("motor", rules, job, {}) is None
    with pytest.raises(KeyError):
        ask_inverse("nothing", rules, job, facts)
    assert len(QUESTIONS) == 5


def test_sizes_are_those_that_are_made():
    """A second time: the hp of NFPA 70 table 430.250, R10 of ISO 3 for IEC transformers, C57.12.00's of the States."""
    table = [float(one["hp"]) for one in load("full_load_current_3ph").rows]
    assert list(sizes.HORSEPOWERS) == [hp for hp in table if 1 <= hp <= 500]
    for place, kva in enumerate(inverse._KVA_IEC):
        assert kva == pytest.approx(25 * 10 ** (place / 10), rel=0.016)
    for kva in inverse._KVA_US:
        assert (kva / 3) in (5, 10, 15, 25, 37.5, 50, 75, 100) or kva % 250 == 0  # three of the single-phase sizes
    assert tuple(sorted({*inverse._KVA_US})) == inverse._KVA_US
    for one, other in zip((*sizes.KILOWATTS, 450), sizes.KILOWATTS[1:], strict=False):
        assert 1.1 <= other / one <= 1.5


def test_stamped_amperes_at_rest_grow_too():
    """Said as a letter, as a ratio or in amperes, it is the same machine: the largest of its kind is one."""
    rules, job, facts = circuit("H-1")
    other = ("starting_current_ratio", "locked_rotor_current")
    plate = {key: text for key, text in facts["plate"].items() if key not in other}
    said = ({"starting_current_ratio": "7"}, {"locked_rotor_current": f"{7 * 81} A"})
    by_ratio, by_amperes = (ask_inverse("motor", rules, job, {**facts, "plate": plate | more}) for more in said)
    assert by_ratio.answer == by_amperes.answer


def test_alike_in_all_it_is_as_far_as_it_was():
    """A circuit grown by nothing is itself; twice as large, torque and inertia and amperes are twice."""
    _, _, facts = circuit("G-21")
    twice = grown(facts, 2.0, us=True)
    assert FORCE.read(twice["load"]["force"]) == pytest.approx(42e3)
    assert "line_speed" not in twice["load"]
    for part, changed in grown(facts, 1.0, us=True).items():
        for name, text in changed.items():
            fact = circuit_parts()[part].fields()[name]
            assert not text or fact.read(text) == pytest.approx(fact.reader(us=True)(facts[part][name]), rel=1e-5)


def test_every_ampere_of_the_machine_grows_or_is_its_own():
    """What is fed beside it, or guards it and is chosen anew, does not."""
    beside = {"drive.reserve", "drive.others", "drive.coupling_load"}
    amperes = {
        f"{part}.{name}": "40 A"
        for part in ("plate", "machine", "start", "stop", "drive")
        for name, fact in circuit_parts()[part].fields().items()
        if fact.quantity is CURRENT or (part, name) == ("plate", "rotor_current")
    }
    facts = {}
    for path, text in amperes.items():
        part, _, name = path.partition(".")
        facts.setdefault(part, {})[name] = text
    twice = grown(facts, 2.0, us=False)
    left = {path for path in amperes if path.partition(".")[2] not in twice.get(path.partition(".")[0], {})}
    assert left == beside
    assert CURRENT.read(twice["plate"]["service_factor_current"]) == pytest.approx(80)


def test_a_range_of_amperes_grows_at_both_ends():
    assert inverse._amps("28-26/13 A", 28.0, 2.0) == "56-52/26"
    assert inverse._amps("by drawing", 28.0, 2.0) == "56"
