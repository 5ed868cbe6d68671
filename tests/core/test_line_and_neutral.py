"""A three-phase motor on a drive that takes a line and neutral, and single-phase starters there: drawn and fed so."""

import pytest

from tests.conftest import planner, whole
from tests.core.test_several_motors import ONE, P4
from vinegate.core.drive.facts import INPUTS_ALSO
from vinegate.core.grade import Verdict
from vinegate.core.records import replace
from vinegate.core.starter.circuits import BY_WAY
from vinegate.core.starter.hung import Hangs, hung_of
from vinegate.core.starter.machine import shorted
from vinegate.core.starter.stage import STARTER
from vinegate.core.starter.wishes import Wishes
from vinegate.core.summary import guard_of
from vinegate.drawing.power import power

DELTA = ONE | {"plate.volts": "230Δ/400Y", "plate.full_load_current": "18.4/10.6", "drive.single_phase": "24 A"}
SMALL = {"board_2.volts": "120/240", "plate.volts": "115", "plate.full_load_current": "56", "protection.coil": "120 V"}


def on(phases, facts=None):
    return planner(*P4)(DELTA | {"drive.phases": phases} | (facts or {}))


def row(plan):
    return plan.comparison.row(plan.comparison.chosen)


class TestDrive:
    def test_the_motor_is_strapped_for_the_volts_to_neutral(self):
        three, one = on("3"), on("n")
        assert [plan.figure("plate.current").value for plan in (three, one)] == [10.6, 18.4]
        assert one.gate("plate.volts").verdict is Verdict.PASSES
        assert one.figure("drive.line_v").value == 230

    def test_one_line_carries_what_three_did(self):
        """`P/U_0` is three times `P/(√3·U)`; the board's phase falls three times as far, its neutral stays stiff."""
        three, one = row(on("3")), row(on("n"))
        assert one.peak_a == pytest.approx(3 * three.peak_a, rel=0.02)
        assert one.dip_pct == pytest.approx(3 * three.dip_pct, rel=0.03)
        assert one.time_s == pytest.approx(three.time_s, rel=0.01)

    def test_its_input_is_power_over_the_volts_to_neutral(self):
        one = on("n")
        watts = one.figure("drive.line_kw").value * 1000
        assert one.figure("drive.input_a").value == pytest.approx(watts / (230 * 0.97), rel=1e-3)

    def test_its_board_sees_one_line(self):
        found = guard_of(on("n"))
        assert (found["ways"], found["got_v"]) == (1, 230)

    @pytest.mark.parametrize(("phases", "lines", "fails"), [("n", "L2", False), ("n", "L1-L2", True), ("1", "L1-L2", False),
                                                            ("1", "L3", True), ("3", "L3", False)])  # fmt: skip
    def test_it_hangs_on_as_many_lines_as_it_takes(self, phases, lines, fails):
        plan = on(phases, {"wiring.lines": lines})
        assert any(gate.key == "protection.lines" for gate in plan.gates) is fails

    def test_nothing_else_turns_its_field(self):
        found = whole(*P4)(DELTA | {"drive.phases": "n"})
        others = [one for one in found.comparison.rows if one.method != "drive"]
        assert others
        assert all(one.verdict is Verdict.FAILS and "one phase" in one.why for one in others)

    def test_without_a_drive_it_says_nothing(self):
        full = {"start.method": "full-voltage", "start.speed_control": "no"}
        three, one = on("3", full), on("n", full)
        assert three.gate("protection.drop") == one.gate("protection.drop")
        assert guard_of(three) == guard_of(one)

    @pytest.mark.parametrize(("system", "passes"), [("400/230", True), ("400 V", True), ("400 V delta, 3 wire", False)])
    def test_it_asks_a_neutral(self, system, passes):
        found = on("n", {"supply.volts": system}).gate("drive.single_phase_input")
        assert (found.verdict is Verdict.PASSES) is passes
        assert ("no neutral" in found.sentence) is not passes

    @pytest.mark.parametrize(("phases", "second"), [("1", "L2"), ("n", "N")])
    def test_two_poles_feed_it(self, phases, second):
        drawn = on(phases).of(STARTER).circuit
        first = drawn.poles[0][1]
        assert first == (("L1", "d1"), (second, "d2"))
        assert {end for _, parts in drawn.between for _, end in parts} == {"T1", "T2", "T3"}

    @pytest.mark.parametrize("word", ["1~", "single", "one phase"])
    def test_one_phase_alone_is_asked_back(self, word):
        assert set(INPUTS_ALSO[word]) == {"1", "n"}
        found = on(word)
        assert [error.path for error in found.errors] == ["drive.phases"]


class TestAcross:
    """C-71 of 115 V on the Workshop's 120/240 V."""

    @pytest.mark.parametrize(("neutral", "second"), [(True, "N"), (False, "L2")])
    def test_it_hangs_on_both_or_not_at_all(self, neutral, second):
        circuit = BY_WAY["full-voltage"](Wishes(single=True, neutral=neutral))
        assert circuit.poles == (("M", (("L1", "T1"), (second, "T4"))),)
        assert hung_of(circuit, frozenset({"M"})).how is Hangs.WHOLE
        assert hung_of(circuit, frozenset()).how is Hangs.OFF

    def test_a_line_joined_to_neutral_is_a_short(self):
        circuit = BY_WAY["full-voltage"](Wishes(single=True, neutral=True))
        bridged = replace(circuit, poles=(("M", (("L1", "T1"), ("N", "T1"))),))
        assert shorted(bridged, frozenset({"M"}))

    @pytest.mark.parametrize(("facts", "words"), [(SMALL, "M 1~"), ({"wiring.lines": "L1"}, "M 1~")])
    def test_its_sign_is_of_one_phase(self, facts, words):
        drawn = planner("harrowmere-lock.json", "C-71")(facts).of(STARTER)
        texts = [shape.text for shape in power(drawn.circuit, ansi=True).shapes if hasattr(shape, "text")]
        assert words in texts

    @pytest.mark.parametrize(
        ("coil", "volts", "transformer"),
        [("120 V", "115", False), ("120 V", "230", True), ("240 V", "230", False), ("24 V", "115", True)],
    )
    def test_coils_for_its_own_volts_need_no_transformer(self, coil, volts, transformer):
        amps = {"115": "56", "230": "28"}[volts]
        facts = SMALL | {"protection.coil": coil, "plate.volts": volts, "plate.full_load_current": amps}
        found = planner("harrowmere-lock.json", "C-71")(facts)
        assert (found.figure("starter.size_va") is not None) is transformer
        if transformer:
            assert found.figure("starter.primary_v").value == (120 if volts == "115" else 240)

    @pytest.mark.parametrize(("said", "stays"), [({}, False), ({"starter.transformer": "100 VA"}, True)])
    def test_a_transformer_that_is_there_stays(self, said, stays):
        found = planner("harrowmere-lock.json", "C-71")(SMALL | said)
        assert (found.figure("starter.rated_va") is not None) is stays

    def test_where_one_is_asked_of_large_machines_it_stays(self):
        """IEC 60204-1:2016 9.1.1: without one only a single motor of up to 3 kW."""
        small = planner(*P4)(ONE | {"start.method": "full-voltage", "start.speed_control": "no", "plate.power": "2.2 kW",
                                    "protection.coil": "400 V"})  # fmt: skip
        large = planner("skerry-sound.json", "W-2")({"protection.coil": "400 V"})
        assert small.figure("starter.size_va") is None
        assert large.figure("starter.size_va") is not None
