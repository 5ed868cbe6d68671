"""A third rule set: a class with its own papers, and its line in the list. No line of another set's is then used."""

from dataclasses import replace
from enum import StrEnum

import pytest

from vinegate.core.facts import read_circuit, read_job
from vinegate.core.plan import plan_circuit
from vinegate.core.protection.need import Device
from vinegate.core.rules import Drives, Hazards, OverloadRange, Papers, Practice, RunImpedance, Words, dialect, sets
from vinegate.core.rules.iec import Iec
from vinegate.core.rules.nec import Nec
from vinegate.core.rules.protocol import Allowed
from vinegate.core.rules.sets import RULE_SETS
from vinegate.demo import demo_job

BOOK = "Isle of Sand wiring book"


class Name(StrEnum):
    SAND = "sand"


class Sand:
    """A set of one's own: everything by one book, sizes by a rule of thumb."""

    name = "sand"
    title = "SAND"
    words = Words(
        dialect="sand", locked_rotor="standstill", full_load_current="working amperes", locked_rotor_symbol="I_S",
        full_load_symbol="I_W", wye="star", across_the_line="Straight on", speed_unit="r/min", paper="A4",
    )  # fmt: skip
    papers = Papers(
        own=(BOOK,), duty=BOOK, overload=BOOK, reset=BOOK, stop=BOOK, emergency=BOOK, classification=BOOK, groups=BOOK,
        overspeed=BOOK, aluminium=BOOK,
        gas=BOOK, heater=BOOK, ambient=BOOK, drive_duty=BOOK,
    )  # fmt: skip
    practice = Practice(
        us_units=False, nema_leads=False, service_factor=False, by_trip_current=False, protectors=False,
        unbalance_by_deviation=True, sizes_by_setting=True, voltage_factors=False, strong_design="H", drop_pct=4.0, drop_source=BOOK,
        drop_total_pct=(5.0, 5.0), drop_total_source=BOOK, insulation_field="insulation",
        adiabatic="sand",
    )  # fmt: skip
    hazards = Hazards(
        divisions=False, listing_in_zones=False, american_marks=False, letter_codes=False, types=False, reaches=False,
        own_dust=False, unmarked_cool=False, zone_2_motors=False,
    )  # fmt: skip
    control = replace(Iec.control, series="iec", wire_source=BOOK, direct_source=BOOK, grounding=BOOK,
                      primary=lambda va, amps, both: Allowed(None, BOOK), secondary=lambda amps: Allowed(amps, BOOK),
                      colors_source=BOOK)  # fmt: skip
    drives = Drives(breakdown_times=1.2, breakdown_source=BOOK, safe_speed="safe_speed_iec", size_of=lambda plate: None)
    zone_pu = (0.06, 0.06)
    zone_source = BOOK
    frequency_zone_pu = (-0.02, 0.02)
    frequency_inner_pu = None
    deviations_together_pu = None
    conductors = "conductor_iec"
    torque_tolerance = (1.0, 1.0)
    current_tolerance = (1.0, 1.0)

    def power(self, sheet, power_w, provenance):
        return sheet.given("power", "Power", "P", power_w / 1000, "kW", provenance=provenance)

    def torque(self, sheet, power, speed):
        return sheet.work("torque", "Torque", "T", 9549.3 * power.value / speed.value, "N·m", formula="9549.3·P/n",
                          inputs=(power, speed), source=BOOK)  # fmt: skip

    def in_ground(self, method):
        return False

    def conductor(self, sheet, run, frequency_hz):
        if run.length_m is None:
            return None
        ohms = [
            sheet.given(run.key(name), f"Run {name}", run.symbol(name), run.length_m / 2, "mΩ", source=BOOK)
            for name in "rx"
        ]
        return RunImpedance(*ohms)

    def overload(self, sheet, current, service_factor, rise_k):
        normal = sheet.given("normal", "Set to", "I_OL", current.value, "A", source=BOOK)
        return OverloadRange(normal, None)

    def load_inertia(self, power_w, poles, synchronous_rpm):
        return power_w / 1e4, BOOK

    def table_current(self, sheet, plate, rated, supply_v):
        return None

    def plate_sizes(self, plate, *, two_speeds):
        return ""

    def _row(self, key, chosen):
        return Device(key=key, name=key.title(), current=None, rule=BOOK, asked="–", advised=chosen, chosen=chosen,
                      gates=())  # fmt: skip

    def short_circuit(self, sheet, need):
        return self._row("device", "as the book says"), None

    device_fact = ""

    def other_kinds(self, need):
        return {}

    def may_be(self, size, need):
        return True

    def conductors_row(self, sheet, need, overload_a):
        return self._row("conductors", "as thick as a thumb")

    def grounding(self, sheet, need, band, size):
        return self._row("grounding", "half as thick")

    def conduit(self, sheet, need, size, ground):
        return None

    def disconnect(self, sheet, need, band):
        return self._row("disconnect", "a lever")

    def starter(self, sheet, need):
        return self._row("starter", "a big one")

    def flicker_standard(self, rated_a):
        return BOOK

    def large_change_s(self, rated_a):
        return None

    def ratings(self, kind):
        return ()

    def harmonics(self, facts, side):
        return []

    def harmonic_limits(self, facts, side):
        return {}

    def feeder_ground(self, board, rating_a):
        return None

    def feeder_laid(self, board, need_a):
        return None

    def feeder(self, sheet, job, key, parts, scaled):
        raise NotImplementedError


@pytest.fixture
def sand(monkeypatch):
    """The set in the list; those of others may not be asked anything."""
    monkeypatch.setitem(RULE_SETS, "sand", Sand())
    for caches in (dialect._dialect, dialect._papers, dialect.say, dialect.cite):
        caches.cache_clear()
    for other in (Nec, Iec):
        for name in [name for name in vars(other) if not name.startswith("_")]:
            if callable(getattr(other, name)):
                monkeypatch.setattr(other, name, _not_asked(other, name))
    yield
    for caches in (dialect._dialect, dialect._papers, dialect.say, dialect.cite):
        caches.cache_clear()


def _not_asked(other, name):
    def asked(*args, **more):
        raise AssertionError(f"{other.__name__}.{name} is asked")

    return asked


def planned(tag, rules=Name.SAND):
    demo = demo_job("skerry-sound.json")
    job, _ = read_job(demo.facts, rules)
    circuit, _ = read_circuit(dict(demo.circuits)[tag], rules)
    return plan_circuit(job, circuit)


@pytest.mark.parametrize("tag", ["H-1", "W-2", "F-3", "P-4", "K-5"])
def test_a_circuit_is_planned_by_the_third_set_alone(sand, tag):
    plan = planned(tag)
    assert plan.protected.device("conductors").chosen == "as thick as a thumb"
    assert plan.figure("plate.torque").source == BOOK
    assert plan.comparison is None or plan.comparison.rows
    cited = {gate.source for gate in plan.gates if gate.key in ("protection.setting", "protection.reset")}
    assert cited == {BOOK}


def test_its_words_are_said(sand):
    assert "Straight on" in "".join(piece.text for piece in planned("H-1").answer)


def test_a_set_that_is_not_listed_is_none():
    with pytest.raises(KeyError):
        sets.rule_set("sand")


def test_what_a_set_decides_turns_with_it_alone(monkeypatch):
    """The same set with one practice changed changes what hangs on that, and nothing of the start."""
    demo = demo_job("skerry-sound.json")
    job, _ = read_job(demo.facts, demo.rules)
    circuit, _ = read_circuit(dict(demo.circuits)["H-1"], demo.rules)
    before = plan_circuit(job, circuit)
    monkeypatch.setattr(Iec, "practice", replace(Iec.practice, drop_pct=0.1))
    after = plan_circuit(job, circuit)
    assert after.gate("protection.drop").limit == 0.1
    assert after.comparison.recommended == before.comparison.recommended
