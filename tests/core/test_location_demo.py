"""The demo's machines in their places, defended; what happens when a fact changes or is missing."""

import pytest

from tests.conftest import planner
from vinegate.core.facts import read_circuit, read_job
from vinegate.core.grade import Kind, Verdict
from vinegate.core.place.materials import find
from vinegate.core.place.used import Used
from vinegate.core.place.what_if import standings
from vinegate.demo import demo_job

LOCK, SKERRY = "harrowmere-lock.json", "skerry-sound.json"


SAFE = {"plate__ex_marking": "Ex eb IIB T4 Gb", "place__te": "9 s", "plate__starting_current_ratio": "7.1",
        "protection__trip_class": "5"}  # fmt: skip


def motor(file, tag, **changes):
    plan = planner(file, tag)({path.replace("__", "."): text for path, text in changes.items()})
    return plan.placed.device("motor")


def test_nothing_is_taken_as_unclassified():
    """An area without a status, and a device without an area, are unknown."""
    assert motor(LOCK, "P-11", place__motor=None).verdict is Verdict.UNKNOWN
    assert motor(LOCK, "P-11", area_1__status=None).verdict is Verdict.UNKNOWN
    plan = planner(LOCK, "P-11")({"place.motor": None})
    found = plan.gate("place.area")
    assert (found.verdict, found.kind) == (Verdict.UNKNOWN, Kind.CONFIRM)
    assert "motor" in found.sentence


@pytest.mark.parametrize("field", ["classified_by", "document", "dated"])
def test_the_classification_needs_its_document(field):
    plan = planner(LOCK, "M-41")({f"hazard.{field}": None})
    assert plan.gate("place.document").verdict is Verdict.UNKNOWN
    ordinary = planner(LOCK, "P-11")({f"hazard.{field}": None})
    assert all(gate.key != "place.document" for gate in ordinary.gates)


@pytest.mark.parametrize(
    ("field", "text", "known"),
    [
        ("document", "unknown", False), ("document", "TBD", False), ("document", "HL-EX-02", True),
        ("classified_by", "?", False), ("classified_by", "n/a", False), ("classified_by", "to be appointed", False),
        ("dated", "soon", False), ("dated", "12 March", False), ("dated", "12 March 2026", True), ("dated", "12.3.26", True),
    ],
)  # fmt: skip
def test_words_that_stand_for_nothing_are_no_document(field, text, known):
    gate = planner(LOCK, "M-41")({f"hazard.{field}": text}).gate("place.document")
    assert (gate.verdict is Verdict.PASSES) is known, gate


class TestDigesterStirrer:
    """M-41, class I division 1 group D."""

    def test_its_listing_and_code_cover_the_digester(self):
        row = motor(LOCK, "M-41")
        assert {check.name: check.verdict for check in row.checks}["Protection"] is Verdict.PASSES
        assert row.asked == "Class I, Division 1, Group D; T1"

    def test_totally_enclosed_is_not_explosion_proof(self):
        row = motor(LOCK, "M-41", plate__listing=None, plate__enclosure="TEFC")
        assert row.verdict is Verdict.FAILS
        assert "not explosion-proof" in row.why

    def test_explosion_proof_is_not_for_anywhere(self):
        unlisted = motor(LOCK, "M-41", plate__listing=None)
        assert unlisted.verdict is Verdict.UNKNOWN
        assert "which class and groups" in unlisted.why
        other = motor(LOCK, "M-41", plate__listing="CL II GP G")
        assert other.verdict is Verdict.FAILS

    def test_on_a_drive_the_listing_must_cover_drive_duty(self):
        drive = {"start__method": "drive", "place__drive": "area_1"}
        assert motor(LOCK, "M-41", **drive).verdict is Verdict.UNKNOWN
        assert motor(LOCK, "M-41", **drive, place__drive_duty="no").verdict is Verdict.FAILS
        assert motor(LOCK, "M-41", **drive, place__drive_duty="yes").verdict is Verdict.PASSES

    def test_what_is_present_must_be_what_was_classified(self):
        plan = planner(LOCK, "M-41")({"area_2.materials": "biogas, hydrogen sulfide"})
        gate = plan.gate("place.materials_area_2")
        assert gate.verdict is Verdict.FAILS
        assert "hydrogen sulfide is group C" in gate.sentence


class TestBooster:
    """B-42, class I division 2."""

    def test_a_cage_machine_without_arcing_parts_needs_no_listing(self):
        row = motor(LOCK, "B-42")
        assert row.verdict is Verdict.PASSES
        assert row.decides == "hydrogen sulfide"

    @pytest.mark.parametrize(
        ("kind", "verdict"),
        [
            ("capacitor-start", Verdict.FAILS),
            ("split-phase", Verdict.FAILS),
            ("permanent-split", Verdict.PASSES),
            ("wound", Verdict.FAILS),
            ("dc-shunt", Verdict.FAILS),
        ],
    )
    def test_arcing_parts_do(self, kind, verdict):
        row = motor(LOCK, "B-42", plate__kind=kind)
        found = next(check for check in row.checks if check.name == "Protection")
        assert found.verdict is verdict

    def test_so_do_the_contacts_of_a_thermal_protector(self):
        assert motor(LOCK, "B-42", plate__thermal_protection="AUTO").verdict is Verdict.FAILS

    @pytest.mark.parametrize(
        ("said", "verdict"),
        [
            ("Automatic reset", Verdict.FAILS), ("THERMALLY PROTECTED (manual)", Verdict.FAILS),
            ("TP", Verdict.CHECK), ("as ordered", Verdict.CHECK), ("3 PTC", Verdict.PASSES), ("no", Verdict.PASSES),
        ],
    )  # fmt: skip
    def test_contacts_are_seen_however_its_plate_writes_them(self, said, verdict):
        assert motor(LOCK, "B-42", plate__thermal_protection=said).verdict is verdict

    def test_a_protector_that_is_not_spoken_of_leaves_it_ajar(self):
        row = motor(LOCK, "B-42", plate__thermal_protection=None)
        assert row.verdict is Verdict.CHECK
        assert "thermal protector" in row.why

    def test_zone_2_under_nfpa_70_is_like_it(self):
        zone = {"area_3__status": "zone", "area_3__zone": "2", "area_3__group": "IIB"}
        assert motor(LOCK, "B-42", **zone).verdict is Verdict.PASSES
        assert motor(LOCK, "B-42", **zone, plate__kind="capacitor-start").verdict is Verdict.FAILS
        assert motor(LOCK, "B-42", **zone | {"area_3__zone": "1"}).verdict is Verdict.FAILS

    def test_without_a_code_its_maker_is_asked(self):
        row = motor(LOCK, "B-42", plate__temperature_code=None)
        assert row.verdict is Verdict.CHECK
        assert "ask its maker" in row.why

    @pytest.mark.parametrize(
        ("surface", "verdict"), [("208 °C", Verdict.PASSES), ("209 °C", Verdict.FAILS), (None, Verdict.UNKNOWN)]
    )
    def test_a_space_heater_stays_below_four_fifths_of_ignition(self, surface, verdict):
        """Hydrogen sulfide ignites at 260 °C: 208."""
        plan = planner(LOCK, "B-42")({"place.heater": "area_3", "place.heater_surface": surface})
        assert plan.gate("place.heater").verdict is verdict


class TestDryer:
    """D-61, class II division 2 group G."""

    def test_totally_enclosed_and_cool_enough(self):
        row = motor(LOCK, "D-61")
        assert row.verdict is Verdict.PASSES
        assert row.most_c == 165

    def test_an_open_machine_or_a_hot_one_is_not(self):
        assert motor(LOCK, "D-61", plate__enclosure="ODP").verdict is Verdict.FAILS
        assert motor(LOCK, "D-61", plate__temperature_code="T3A").verdict is Verdict.FAILS  # 180 against 165
        assert motor(LOCK, "D-61", plate__temperature_code="T3B").verdict is Verdict.PASSES  # 165 itself

    def test_its_starter_must_be_dust_tight(self):
        loose = planner(LOCK, "D-61")({"place.starter_enclosure": "type 1"})
        assert loose.gate("place.starter").verdict is Verdict.FAILS
        first = planner(LOCK, "D-61")({"area_4.division": "1"})
        assert first.gate("place.motor").verdict is Verdict.FAILS


class TestFuelPump:
    """K-5, zone 1, one product with a low ignition temperature."""

    def test_the_ether_decides_the_code(self):
        row = motor(SKERRY, "K-5")
        assert (row.verdict, row.decides, row.most_c) == (Verdict.PASSES, "diethyl ether", 160)
        assert (
            motor(SKERRY, "K-5", plate__ex_marking="Ex db IIB T3 Gb", plate__temperature_code=None).verdict
            is Verdict.FAILS
        )
        without = {"area_3__materials": "diesel, petrol", "plate__temperature_code": None}
        assert motor(SKERRY, "K-5", plate__ex_marking="Ex db IIB T3 Gb", **without).verdict is Verdict.PASSES

    @pytest.mark.parametrize(
        ("marking", "verdict"),
        [
            ("Ex db IIA T4 Gb", Verdict.FAILS),
            ("Ex db IIC T4 Gb", Verdict.PASSES),
            ("Ex eb IIC T4 Gb", Verdict.UNKNOWN),  # without t_E
            ("Ex eb db IIC T4 Gb", Verdict.UNKNOWN),
            ("Ex db eb IIC T4 Gb", Verdict.PASSES),  # flameproof with an increased-safety terminal box
            ("Ex pxb eb IIC T4 Gb", Verdict.PASSES),
            ("Ex h IIC T4 Gb", Verdict.FAILS),  # a gear's
            ("Ex db h IIC T4 Gb", Verdict.PASSES),
            ("Ex ia IIC T4 Ga", Verdict.UNKNOWN),  # no machine's type
            ("Ex IIC T4 Gb", Verdict.UNKNOWN),
            ("Ex db T4 Gb", Verdict.UNKNOWN),  # no group
            ("EEXD IIB T4", Verdict.PASSES),
            ("Ex ec IIC T4 Gc", Verdict.FAILS),
            ("Ex tb IIIC T135 °C Db", Verdict.FAILS),
            ("CL I DIV 1 GP C D T4", Verdict.FAILS),
            ("Ex db IIB T4 Gb X", Verdict.PASSES),
            ("Ex db IIB T4 Gb U", Verdict.FAILS),
            (None, Verdict.UNKNOWN),
        ],
    )
    def test_markings_in_the_store(self, marking, verdict):
        assert motor(SKERRY, "K-5", plate__ex_marking=marking).verdict is verdict

    @pytest.mark.parametrize(
        ("changes", "verdict"),
        [
            ({}, Verdict.PASSES),
            ({"place__te": None}, Verdict.UNKNOWN),
            ({"place__te": "4 s"}, Verdict.FAILS),  # below the least of 5 s
            ({"protection__trip_class": "20"}, Verdict.FAILS),  # opens after t_E
            ({"plate__duty": "S3"}, Verdict.FAILS),
            ({"plate__duty": "S10"}, Verdict.FAILS),
            ({"plate__duty": "S1 CONT"}, Verdict.PASSES),
            ({"plate__duty": "as ordered"}, Verdict.UNKNOWN),
            ({"start__method": "soft-starter"}, Verdict.UNKNOWN),
            ({"start__method": "soft-starter", "place__drive_duty": "yes"}, Verdict.PASSES),
            ({"protection__jogging": "yes"}, Verdict.FAILS),
            ({"plate__ex_marking": "Ex db IIB T4 Gb", "place__te": None}, Verdict.PASSES),  # flameproof asks none
            (
                {"plate__ex_marking": "Ex db eb IIB T4 Gb", "protection__trip_class": "20"},
                Verdict.FAILS,
            ),  # t_E is stamped
        ],
    )
    def test_increased_safety_asks_t_e(self, changes, verdict):
        assert motor(SKERRY, "K-5", **(SAFE | changes)).verdict is verdict

    def test_a_terminal_box_of_increased_safety_is_confirmed_on_site(self):
        row = motor(SKERRY, "K-5", plate__ex_marking="Ex db eb IIB T4 Gb", place__te=None)
        found = next(check for check in row.checks if check.name == "Increased safety")
        assert (found.kind, "terminal box" in found.text) == (Kind.CONFIRM, True)

    def test_conditions_of_use_are_confirmed_on_site_or_fail(self):
        certified = {"plate.ex_marking": "Ex db IIB T4 Gb X"}
        plan = planner(SKERRY, "K-5")
        assert plan(certified).gate("place.motor_conditions").kind is Kind.CONFIRM
        unmet = plan(certified | {"place.conditions": "no"})
        assert unmet.gate("place.motor").verdict is Verdict.FAILS

    def test_of_two_markings_the_hottest_counts(self):
        both = "Ex db IIA T6 Gb / Ex db IIC T2 Gb"
        assert motor(SKERRY, "K-5", plate__ex_marking=both, plate__temperature_code=None).verdict is Verdict.FAILS

    def test_a_code_that_is_not_the_markings(self):
        row = motor(SKERRY, "K-5", plate__temperature_code="T5")
        assert row.verdict is Verdict.CHECK
        assert "read the plate again" in row.why

    def test_totally_enclosed_is_not_flameproof(self):
        row = motor(SKERRY, "K-5", plate__ex_marking=None, plate__enclosure="TEFC")
        assert row.verdict is Verdict.FAILS
        assert "not flameproof" in row.why

    def test_warmer_air_than_its_certificate(self):
        assert motor(SKERRY, "K-5", area_3__ambient_high="45 °C").verdict is Verdict.FAILS
        wide = "Ex db IIB T4 Gb −20 °C ≤ Ta ≤ +50 °C"
        marked = motor(SKERRY, "K-5", area_3__ambient_high="45 °C", plate__ex_marking=wide)
        assert next(check for check in marked.checks if check.name == "Ambient").verdict is Verdict.PASSES

    @pytest.mark.parametrize(
        ("low", "high", "verdict"),
        [("-20 °C", "40 °C", Verdict.PASSES), ("-21 °C", "40 °C", Verdict.FAILS), ("-20 °C", "41 °C", Verdict.FAILS),
         (None, "30 °C", Verdict.UNKNOWN), ("-10 °C", None, Verdict.UNKNOWN), (None, "41 °C", Verdict.FAILS)],
    )  # fmt: skip
    def test_air_at_both_ends_of_what_a_certificate_is_for(self, low, high, verdict):
        found = motor(SKERRY, "K-5", area_3__ambient_low=low, area_3__ambient_high=high)
        assert next(check for check in found.checks if check.name == "Ambient").verdict is verdict

    def test_a_motors_plate_says_what_air_it_is_for_and_not_its_starters(self):
        """M-41 is listed, its plate without a range: 40 °C but for what is stamped on the motor itself."""
        hot = {"area_2.ambient_high": "50 °C", "place.starter": "area_2"}
        hot |= {"place.starter_marking": "Class I Div 1 Group D T3C"}
        for stamped, verdict in (("50 °C", Verdict.PASSES), (None, Verdict.FAILS)):
            placed = planner(LOCK, "M-41")(hot | {"plate.ambient": stamped}).placed
            air = [next(check for check in placed.device(key).checks if check.name == "Ambient").verdict
                   for key in ("motor", "starter")]  # fmt: skip
            assert air == [verdict, Verdict.FAILS]

    def test_a_letter_code_is_said_with_its_degrees_and_degrees_alone(self):
        """NFPA 70 table 500.8(C)(4): T3C is 160 °C; a dust's marking is the degrees themselves."""
        division = {"area_1__status": "division", "area_1__hazard_class": "I", "area_1__division": "1"}
        marked = {"plate__ex_marking": "Class I Div 1 Group D T3C", "plate__temperature_code": "T3C"}
        row = motor(LOCK, "C-71", **division, area_1__groups="D", area_1__materials="gasoline", **marked)
        text = {check.name: check.text for check in row.checks}["Temperature"]
        assert text == "T3C, 160 °C: gasoline allows 250 °C."
        dust = {"area_3__status": "zone", "area_3__zone": "21", "area_3__group": "IIIC", "area_3__materials": "flour"}
        marked = {"plate__ex_marking": "Ex tb IIIC T170°C Db", "plate__temperature_code": None}
        text = {check.name: check.text for check in motor(SKERRY, "K-5", **dust, **marked).checks}["Temperature"]
        assert text == "T170 °C: wheat flour allows 253 °C."  # two thirds of the cloud's 380 °C

    def test_divisions_are_not_iecs(self):
        row = motor(
            SKERRY, "K-5", area_3__status="division", area_3__hazard_class="I", area_3__division="1", area_3__groups="D"
        )
        assert row.verdict is Verdict.FAILS


def test_heat_and_height_reach_load_overload_and_conductors():
    pump = planner(LOCK, "P-11")
    cool = pump()
    assert all(gate.key != "place.derated" for gate in cool.gates)
    worse = {"area_1.ambient_high": "55 °C", "plate.insulation_class": "F", "wiring.ambient": None}
    hot = pump(worse)
    # 105 − 15 = 90 of 105 K: (1.5·0.857 − 0.5)^½ = 0.886 of 75 hp
    assert hot.figure("place.share").value == pytest.approx(88.6, abs=0.1)
    assert hot.gate("place.derated").verdict is Verdict.CHECK  # 69 hp asked, about 66 left by an estimate
    assert pump(worse | {"load.power": "75 hp"}).gate("place.derated").verdict is Verdict.FAILS
    assert pump(worse | {"load.power": "55 hp"}).gate("place.derated").verdict is Verdict.PASSES
    assert hot.gate("place.overload").verdict is not Verdict.PASSES
    high = pump({"area_1.altitude": "3000 m", "plate.insulation_class": "F"})
    assert high.figure("place.share").value == pytest.approx(100 * (1.5 * 0.8 - 0.5) ** 0.5, abs=0.1)
    unclassed = pump({"area_1.altitude": "3000 m", "plate.insulation_class": None})
    assert unclassed.gate("place.derated").verdict is Verdict.UNKNOWN
    cooler = pump({"wiring.ambient": None}).protected.device("conductors").advised
    assert cooler != hot.protected.device("conductors").advised


@pytest.mark.parametrize(
    ("high", "verdict"),
    # 1/0 AWG, 150 A of 75 °C: 0.82 of it up to 45 °C, 0.75 up to 50 °C (table 310.15(B)(1)(1)); 120 A are asked
    [("30 °C", None), ("31 °C", "passes"), ("45 °C", "passes"), ("46 °C", "fails")],
)
def test_conductors_sized_for_cooler_air_than_an_area_they_end_in(high, verdict):
    pump = planner(LOCK, "P-11")

    def air(facts):
        return next(
            (g.verdict for g in pump({"area_1.ambient_high": high} | facts).gates if g.key == "place.ambient"), None
        )

    assert air({}) == verdict
    assert air({"wiring.ambient": None}) is None
    # A method of the IEC's, left from before under the NEC, buries nothing there.
    assert air({"wiring.method": "D1"}) == verdict
    buried = planner(SKERRY, "K-5")({"area_3.ambient_high": "40 °C"})  # 20 °C is the soil's
    assert all(gate.key != "place.ambient" for gate in buried.gates)


def test_the_systems_are_said_not_to_be_equal_where_it_matters():
    notes = planner(LOCK, "M-41")().stage("place").notes
    assert any("not equal" in note for note in notes)
    assert not planner(LOCK, "P-11")().stage("place").notes


def _as_said(file):
    read = [(tag, read_circuit(facts, file.rules)[0]) for tag, facts in file.circuits]
    return [(tag, circuit, Used.said(circuit)) for tag, circuit in read]


def test_what_fails_if_the_yard_gained_hydrogen():
    """Group B is in no listing there; the cage machine in division 2 needs none."""
    file = demo_job(LOCK)
    job, _ = read_job(file.facts, file.rules)
    circuits = _as_said(file)
    everywhere = {(row.tag, row.device.key) for row in standings(job, circuits, find("hydrogen")) if row.fails}
    assert everywhere == {("M-41", "motor"), ("M-41", "buttons"), ("B-42", "buttons")}
    yard = {row.tag for row in standings(job, circuits, find("hydrogen"), "area_3") if row.fails}
    assert yard == {"B-42"}
    assert not any(row.fails for row in standings(job, circuits, find("propane")))
    dust = {(row.tag, row.device.key) for row in standings(job, circuits, find("magnesium dust")) if row.fails}
    assert dust == set()  # closed machines and dust-tight boxes in division 2: no listing is asked
    assert all(row.then is None for row in standings(job, circuits))


def test_the_store_gaining_carbon_disulfide():
    file = demo_job(SKERRY)
    job, _ = read_job(file.facts, file.rules)
    circuits = _as_said(file)
    failing = {
        (row.tag, row.device.key): row.then.why
        for row in standings(job, circuits, find("carbon disulfide"))
        if row.fails
    }
    assert set(failing) == {("K-5", "motor")}  # the buttons are IIC T6
