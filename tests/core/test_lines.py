"""Single-phase circuits on a board: amperes add where they meet on a line, and nowhere else."""

from itertools import product

import pytest

from tests.conftest import planner
from vinegate.core.facts import RuleSetName, read_job
from vinegate.core.grade import Verdict
from vinegate.core.protection.feeder import feeders
from vinegate.core.protection.lines import Seen, fullest
from vinegate.core.protection.members import Member
from vinegate.core.summary import guard_of, member_from
from vinegate.core.system_volts import read_system_volts

WYE = read_system_volts("208Y/120")


def motor(tag, amps, *, ways=3, lines="", board="main", volts=208.0, got=None):
    return Member(tag=tag, board=board, volts_v=volts, sizing_a=amps, device_a=2 * amps, ways=ways, lines=lines,
                  got_v=got or (volts / 3**0.5 if ways == 1 else volts))  # fmt: skip


def feeder_of(members, rules=RuleSetName.NEC, **facts):
    job, errors = read_job({"supply": {"volts": "208Y/120"}, **facts}, rules)
    assert not errors
    return feeders(job, members)


def gate(feeder, key):
    return next(one for one in feeder.stage.gates if one.key == f"protection.{key}")


class TestThreeToNeutral:
    """Three of 16 A from line to neutral: 52 A on one line (430.24: 1.25 · 16 + 32), 20 A with one on each."""

    def on(self, *lines, device="40 A"):
        found = feeder_of([motor(tag, 16, ways=1, lines=line) for tag, line in zip("abc", lines, strict=True)],
                          main_board={"device": device})  # fmt: skip
        return found[0]

    def test_one_on_each_line(self):
        feeder = self.on("1", "2", "3", device="20 A")
        assert feeder.need.value == pytest.approx(20)
        assert gate(feeder, "feeder_carries").verdict is Verdict.PASSES

    def test_all_on_one(self):
        feeder = self.on("2", "2", "2")
        assert feeder.need.value == pytest.approx(52)
        assert gate(feeder, "feeder_carries").verdict is Verdict.CHECK  # 48 A run together: only with an interlock

    def test_not_known_is_between_them(self):
        feeder = self.on("", "", "")
        assert feeder.need.value == pytest.approx(52)
        for rating, verdict in (("50 A", Verdict.PASSES), ("20 A", Verdict.CHECK), ("15 A", Verdict.FAILS)):
            assert gate(self.on("", "", "", device=rating), "feeder_carries").verdict is verdict
        assert "one line" in gate(self.on("", "", "", device="20 A"), "feeder_carries").sentence


def test_the_device_ahead_by_the_fullest_line():
    """430.62: of two 10 A circuits to neutral (20 A devices) 30 A on one line, 20 A with a line each."""
    members = [motor(tag, 10, ways=1) for tag in "ab"]
    for rating, verdict in (("20 A", Verdict.PASSES), ("30 A", Verdict.CHECK), ("35 A", Verdict.FAILS)):
        assert gate(feeder_of(members, main_board={"device": rating})[0], "feeder_device").verdict is verdict
    known = [motor("a", 10, ways=1, lines="1"), motor("b", 10, ways=1, lines="1")]
    assert gate(feeder_of(known, main_board={"device": "30 A"})[0], "feeder_device").verdict is Verdict.PASSES


def test_iec_adds_on_the_fullest_line_too():
    members = [motor(tag, 10, ways=1, volts=400) for tag in "abc"]
    for rating, verdict in (("32 A", Verdict.PASSES), ("16 A", Verdict.CHECK), ("6 A", Verdict.FAILS)):
        job, _ = read_job({"supply": {"volts": "400/230"}, "main_board": {"device": rating}}, RuleSetName.IEC)
        assert gate(feeders(job, members)[0], "feeder_device").verdict is verdict


def test_three_phase_circuits_are_on_every_line():
    feeder = feeder_of([motor("a", 30), motor("b", 8, ways=2, lines="12"), motor("c", 8, ways=2, lines="13")])[0]
    assert feeder.need.value == pytest.approx(1.25 * 30 + 8 + 8)  # all three meet on L1


def test_lines_that_the_board_does_not_have_are_not_taken():
    """On 120/240 there is no L3: counted as if nothing were said, never left out."""
    job, _ = read_job({"supply": {"volts": "120/240"}}, RuleSetName.NEC)
    members = [motor("a", 10, ways=1, lines="3", volts=240), motor("b", 10, ways=2, lines="23", volts=240)]
    assert feeders(job, members)[0].need.value == pytest.approx(22.5)


def test_through_a_transformer_by_what_the_motor_gets():
    """120 V, 20 A to neutral behind 480 to 208Y/120: 2.4 kVA, on two of the lines ahead 5 A, not 8.7."""
    board = {"fed_from": "main", "volts": "208Y/120", "transformer_power": "15 kVA", "transformer_impedance": "3 %"}
    found = feeder_of([motor("a", 20, ways=1, lines="1", board="board_1")], supply={"volts": "480Y/277"}, board_1=board)
    assert [one.need.value for one in found] == pytest.approx(
        [1.25 * 5, 1.25 * 5], rel=1e-3
    )  # 208 V is 120.1 to neutral


def least_of_all(circuits, lines="123"):
    """By trying every way to spread them."""
    ways = {1: list(lines), 2: ["12", "23", "13"], 3: ["123"]}
    best = float("inf")
    for chosen in product(*[[one.lines] if one.lines else ways[one.ways] for one in circuits]):
        on = [sum(one.sizing_a for one, at in zip(circuits, chosen, strict=True) if line in at) for line in lines]
        best = min(best, max(on))
    return best


@pytest.mark.parametrize(
    "circuits",
    [
        [(10, 1, ""), (10, 1, ""), (10, 1, "")],
        [(10, 1, ""), (4, 1, ""), (3, 2, ""), (6, 2, "")],
        [(30, 3, "123"), (10, 1, "1"), (7, 1, ""), (5, 2, "")],
        [(20, 2, ""), (1, 1, "")],
        [(9, 2, "12"), (9, 2, ""), (9, 2, ""), (2, 1, "3")],
    ],
)
def test_no_spreading_is_better_than_what_is_taken_as_best(circuits):
    seen = [Seen(float(amps), 2.0 * amps, lines, ways) for amps, ways, lines in circuits]
    here, spread = fullest(seen, WYE)
    worst = sum(one.sizing_a for one in here)
    assert worst - spread.off(spread.least) <= least_of_all(seen) + 1e-9
    assert worst >= least_of_all(seen)


class TestAsTyped:
    """C-71, 230 V on the Workshop's 120/240."""

    def test_the_plan_says_what_it_takes(self):
        c71 = planner("harrowmere-lock.json", "C-71")
        assert member_from("C-71", guard_of(c71({"wiring.lines": "L1-L2"}))).lines == "12"
        assert member_from("C-71", guard_of(c71())).ways == 2

    @pytest.mark.parametrize(
        ("volts", "lines", "neutral", "fails"),
        [
            ("115/230", "L1-L2", False, False),
            ("115/230", None, False, False),
            ("115/230", "L1", True, False),
            ("230", "L1", False, True),
            ("115", "L1-L2", True, True),
            ("115", None, True, False),
        ],
    )
    def test_the_lines_that_are_said_pick_one_of_the_plates_volts(self, volts, lines, neutral, fails):
        """Where the plate has those volts: 230 V alone does not hang on one line, nor 115 V on two."""
        amps = {"115/230": "56/28", "230": "28", "115": "56"}[volts]
        plan = planner("harrowmere-lock.json", "C-71")(
            {"board_2.volts": "120/240", "wiring.lines": lines, "plate.volts": volts, "plate.full_load_current": amps}
        )
        assert any(one.key == "protection.lines" for one in plan.gates) is fails
        assert plan.protected.lines == (None if fails or not lines else {"L1": "1", "L1-L2": "12"}[lines])
        assert guard_of(plan)["ways"] == (1 if neutral else 2)
        assert guard_of(plan)["sizing_a"] == (56 if neutral else 28)  # NFPA 70:2023 table 430.248, 5 hp

    @pytest.mark.parametrize(("plate", "fits"), [("115", True), ("200", False), ("208-230", False)])
    def test_where_line_volts_alone_are_given_there_may_be_a_neutral(self, plate, fits):
        """208 V over √3 is 120.1 V: 115 V goes there, 200 V does not."""
        plan = planner("harrowmere-lock.json", "C-71")(
            {"board_2.volts": "208 V", "plate.volts": plate, "plate.full_load_current": "40"}
        )
        assert plan.protected.got_v == pytest.approx(208 / 3**0.5 if fits else 208)

    @pytest.mark.parametrize(("lines", "volts"), [("L1", 120.0), ("L1-L3", 208.0), (None, 208.0)])
    def test_a_plate_for_both_of_a_wyes_volts_goes_where_it_is_said_to_hang(self, lines, volts):
        plan = planner("harrowmere-lock.json", "C-71")(
            {"board_2.volts": "208Y/120", "plate.volts": "115/208-230", "wiring.lines": lines}
        )
        assert plan.protected.got_v == pytest.approx(volts, abs=0.1)
        assert all(one.key != "protection.lines" for one in plan.gates)

    @pytest.mark.parametrize(
        ("volts", "lines", "said"),
        [
            ("240/120 high-leg", "L2", "208 V to neutral"),
            ("240/120 high-leg", "L1", ""),
            ("120/240", "L3", "no L3"),
            ("120/240", "L2", ""),
            ("208Y/120", "L2", ""),
        ],
    )
    def test_a_line_to_neutral_is_one_that_has_those_volts(self, volts, lines, said):
        plan = planner("harrowmere-lock.json", "C-71")(
            {"board_2.volts": volts, "plate.volts": "115", "plate.full_load_current": "56", "wiring.lines": lines}
        )
        found = [one.sentence for one in plan.gates if one.key == "protection.lines"]
        assert bool(found) is bool(said)
        assert said in "".join(found)

    def test_a_three_phase_motor_is_not_asked(self):
        plan = planner("harrowmere-lock.json", "P-11")({"wiring.lines": "L1"})
        assert all(one.key != "protection.lines" for one in plan.gates)
        assert guard_of(plan)["lines"] == ""
