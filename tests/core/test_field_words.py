"""Free text is refused past its own length, and never cut short of it; a choice is read in whose words it is written."""

import pytest

from vinegate.core.facts import JOB_STAGES, LISTED, RuleSetName, circuit_parts, keyed, model_of, read_circuit
from vinegate.core.field import one_of, words
from vinegate.core.numbers import QuantityError
from vinegate.core.start.ways import WAYS as START_WAYS
from vinegate.core.stop.ways import WAYS as STOP_WAYS
from vinegate.core.wording import dialects, spoken


@pytest.mark.parametrize("most", [60, 120, 300, 1500])
def test_all_its_characters_are_taken_and_one_more_is_told(most):
    fact = words("Note", most)
    assert fact.longest > most
    assert fact.read("x" * most) == "x" * most
    with pytest.raises(QuantityError, match=f"{most + 1} characters of {most}"):
        fact.read("x" * (most + 1))


@pytest.mark.parametrize(
    ("path", "text", "key"),
    [
        ("load.kind", "Positive displacement", "constant"),
        ("load.runs", "S1", "continuous"),
        ("protection.device_nec", "class RK5", "time-delay"),
        ("protection.device_nec", "non-time-delay", "fuse"),
        ("protection.device_iec", "D curve", "mcb-d"),
        ("wiring.method", "clipped direct", "C"),
        ("drive.front_end", "12 pulse", "12"),
        ("drive.choke", "line reactor", "ac"),
        ("drive.control", "sensorless vector", "sensorless"),
        ("drive.duty", "variable torque", "normal"),
        ("drive.filter", "LC filter", "sine"),
        ("starter.command", "3-wire", "three-wire"),
        ("stop.brake_kind", "disk", "disc"),
        ("plate.kind", "CSCR", "capacitor-start-run"),
        ("load.kind", "lift", "hoist"),
        ("start.method", "star-delta", "wye-delta"),
        ("start.method", "Wye delta", "wye-delta"),
        ("start.method", "Y/Δ", "wye-delta"),
        ("start.method", "DOL", "full-voltage"),
        ("start.method", "direct-on-line", "full-voltage"),
        ("start.method", "VFD", "drive"),
        ("start.method", "soft starter", "soft-starter"),
        ("starter.grounded", "earthed", "yes"),
        ("protection.in_sight", "TRUE", "yes"),
        ("protection.in_sight", "N", "no"),
        ("starter.grounded", "not earthed", "no"),
        ("plate.code_letter_for", "star start", "wye-start"),
        ("stop.method", "DC braking", "dc"),
        ("stop.method", "Coast to stop", "coast"),
        ("stop.method", "drive", "drive"),
        ("plate.kind", "Slip-ring", "wound"),
        ("plate.kind", "3~", "cage"),
        ("plate.kind", "capacitor start and run", "capacitor-start-run"),
        ("plate.kind", "shunt DC", "dc-shunt"),
        ("wiring.metal", "Al", "aluminium"),
        ("wiring.metal", "aluminum", "aluminium"),
        ("wiring.raceway", "EMT", "steel"),
        ("wiring.insulation", "THHN", "90"),
        ("wiring.insulation", "THWN", "75"),
        ("wiring.insulation", "75 C", "75"),
        ("wiring.insulation_iec", "EPR", "xlpe"),
        ("protection.device_nec", "MCCB", "inverse-time"),
        ("protection.device_nec", "dual-element fuse", "time-delay"),
        ("protection.device_iec", "gG", "gg"),
        ("protection.trip_class", "Class 10A", "10A"),
        ("start.method", "softstarter", "soft-starter"),
        ("start.method", "RVAT", "autotransformer"),
        ("load.kind", "hoist", "hoist"),  # a word of one alone
        ("load.kind", "mill", "crusher"),
        ("wiring.insulation", "75C", "75"),
        ("record_before.guards", "not right", "wrong"),
    ],
)
def test_a_choice_is_read_in_either_dialects_words(path, text, key):
    part, _, name = path.partition(".")
    for rules in RuleSetName:
        circuit, errors = read_circuit({part: {name: text}}, rules)
        assert not errors
        assert getattr(circuit.further.get(part) or getattr(circuit, part), name) == key


def test_one_name_of_two_things_is_refused():
    """A single-phase machine, a machine for direct current or a pump is not one of them yet."""
    for path, text in (("plate.kind", "single-phase"), ("plate.kind", "DC"), ("load.kind", "pump")):
        part, _, name = path.partition(".")
        assert read_circuit({part: {name: text}}, RuleSetName.IEC)[1]
        assert keyed(path, text) == text


def test_what_it_may_be_is_told_in_the_rule_sets_words():
    for rules, said, other in (("iec", "star-delta", "wye"), ("nec", "wye-delta", "star-")):
        (error,) = read_circuit({"start": {"method": "by hand"}}, RuleSetName(rules))[1]
        assert said in error.message
        assert other not in error.message
    (error,) = read_circuit({"start": {"method": "wye by hand"}}, RuleSetName.IEC)[1]
    assert "“wye by hand”" in error.message  # as it was typed


def test_no_two_choices_of_a_field_have_one_name():
    """In no dialect, and among no other names of the ways to start."""
    models = [*circuit_parts().values(), *JOB_STAGES.values(), *LISTED.values()]
    for fact in (fact for model in models for fact in model.fields().values()):
        for shown in (key for pair in fact.offered for key in pair):
            named = {spoken(shown, dialect) for dialect in dialects()}
            assert len({one_of(text, fact.offered) for text in named}) == 1
    starts = [(name, way.key) for way in START_WAYS for name in (way.key, way.label, *way.also)]
    stops = [(name, way.key) for way in STOP_WAYS for name in (way.key, way.name, *way.also)]
    for named in (starts, stops):
        assert all(one_of(name, (), dict(named)) == key for name, key in named)


@pytest.mark.parametrize(
    ("path", "text", "words"),
    [
        ("load.kind", "pump", "may be one of these, say which: centrifugal pump, open valve; centrifugal pump, closed"),
        ("load.kind", "fan", "say which: fan, open damper; fan, closed damper"),
        ("record_before.guards", "asked here", "is none of"),  # "not asked here" denies it
        ("protection.exception", "standard rating", "is none of"),
        ("load.kind", "or", "is none of"),
        ("load.kind", "toaster", "is none of"),
        ("protection.device_iec", "MCCB", "say which: motor-protective breaker; breaker, type D"),
        ("protection.device_nec", "class J", "say which: time-delay fuse; fuse without time delay"),
        ("drive.front_end", "regenerative", "say which: six-pulse, returns; active"),
        ("plate.kind", "DC", "say which: DC, shunt; DC, series"),
        ("wiring.method", "cable tray", "say which: E, cable in free air; F"),
        ("load.kind", "Air compressor", "say which: constant torque; started unloaded"),
        ("load.kind", "blower", "say which: constant torque; fan, open damper; fan, closed damper"),
        ("load.kind", "band-saw", "say which: constant torque; started unloaded"),
    ],
)
def test_a_word_that_several_have_is_asked_back_and_one_that_is_denied_is_not_taken(path, text, words):
    part, _, name = path.partition(".")
    fact = circuit_parts()[part].fields()[name]
    with pytest.raises(QuantityError, match=words):
        fact.read(text)


@pytest.mark.parametrize(
    ("path", "text", "value"),
    [
        ("protection.rating", "100AT/125AF", 100), ("protection.rating", "60A-3P", 60),
        ("protection.disconnect", "60AS/45AF", 60), ("protection.disconnect", "30A non-fused", 30),
        ("protection.disconnect", "60 A NF", 60), ("protection.short_circuit_rating", "65,000 A", 65000),
        ("protection.short_circuit_rating", "10k AIC", 10000), ("protection.starter_size", "NEMA size 3", "3"),
        ("protection.starter_size", "SZ 00", "00"), ("protection.trip_class", "CL 30", "30"),
        ("protection.coil", "120 V 60 Hz", 120), ("protection.coil", "24 VDC", 24),
        ("start.starts_per_hour", "2 per day", 1 / 12), ("start.starts_per_hour", "6 starts/day", 0.25),
        ("plate.efficiency", "93.6 NOM", 0.936), ("plate.ambient", "-20..+60 °C", 60), ("plate.ambient", "-4/+104 F", 40),
        ("start.tap", "0.65", "65"), ("plate.speed", "n=1460", 1460), ("load.kind", "screw conveyor", "constant"),
        ("wiring.grouped", "2 circuits", 2), ("wiring.grouped", "6 CCC", 6),
    ],
)  # fmt: skip
@pytest.mark.parametrize("us", [True, False])
def test_words_that_say_what_a_number_is_of(path, text, value, us):
    part, _, name = path.partition(".")
    read = circuit_parts()[part].fields()[name].reader(us=us)
    found = read(text)
    assert found == value if isinstance(value, str) else float(found) == pytest.approx(value)


@pytest.mark.parametrize(
    ("path", "text", "said"),
    [
        ("protection.rating", "63 A gG", "gG under “Short-circuit device”"), ("protection.rating", "200A frame", "not a unit"),
        ("plate.ambient", "+60..-20 °C", "lower end stands first"), ("wiring.grouped", "2 circuits touching", "whole number"),
        ("protection.short_circuit_rating", "65 A", "outside"),
    ],
)  # fmt: skip
def test_words_that_say_more_are_asked_where_they_belong(path, text, said):
    part, _, name = path.partition(".")
    with pytest.raises(QuantityError, match=said):
        circuit_parts()[part].fields()[name].reader(us=True)(text)


@pytest.mark.parametrize(
    ("path", "text", "value"),
    [
        ("supply.volts", "400V TPN", 400), ("supply.volts", "415/240 V TP&N", 415), ("supply.earthing", "PME", "tn-c-s"),
        ("supply.transformer_power", "1 x 500 kVA", 5e5), ("supply.transformer_power", "1500 kVA ONAN", 1.5e6),
        ("limits.dip", "15 % max", 0.15),
    ],
)  # fmt: skip
def test_words_of_supplies(path, text, value):
    part, _, name = path.partition(".")
    found = model_of(part).fields()[name].reader(us=False)(text)
    assert found == value if isinstance(value, str) else float(found) == pytest.approx(value)


@pytest.mark.parametrize(
    ("part", "text", "said"),
    [
        ("supply", "2x1000 kVA", "write 1000 kVA here, and 2 under “Alike in parallel”"),
        ("supply", "3 x 50 kVA", "one of 150 kVA"),
        ("board_1", "2 x 45 kVA", "rated together"),
    ],
)
def test_several_transformers_are_not_taken_for_one(part, text, said):
    with pytest.raises(QuantityError, match=said):
        model_of(part).fields()["transformer_power"].read(text)
