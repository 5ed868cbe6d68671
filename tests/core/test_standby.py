"""Circuits that never run together: of what stands by and what it stands by for, a feeder counts one."""

import pytest

from tests.conftest import planner
from vinegate.core.facts import read_job
from vinegate.core.grade import Kind
from vinegate.core.numbers import QuantityError
from vinegate.core.protection.feeder import feeders
from vinegate.core.protection.members import Member, Unsized, together
from vinegate.core.summary import guard_of, member_from
from vinegate.core.wiring.facts import read_tags
from vinegate.demo import demo_job

LOCK, SOUND = "harrowmere-lock.json", "skerry-sound.json"


def motor(tag, amps, *stands_by, board="main", volts=480):
    return Member(tag=tag, board=board, volts_v=volts, sizing_a=amps, device_a=2 * amps, stands_by=stands_by)


@pytest.mark.parametrize(
    ("members", "counted"),
    [
        ([motor("a", 96), motor("b", 96, "a")], "a"),
        ([motor("a", 96), motor("b", 40, "a"), motor("c", 10)], "ac"),
        ([motor("a", 40), motor("b", 96, "a")], "b"),  # the larger, whichever stands by
        ([motor("a", 96, "b"), motor("b", 96, "a")], "b"),  # said on both sheets, one of them is left
        ([motor("a", 96), motor("b", 50), motor("c", 60, "a", "b")], "ac"),  # two of three: it takes the least's place
        ([motor("a", 96), motor("b", 50, "a"), motor("c", 60, "a")], "a"),  # two stand by for one
        ([motor("a", 96, "a"), motor("b", 50, "x")], "ab"),  # itself, or what is not here, counts out nothing
        ([motor("a", 100), motor("b", 150, "a", volts=240)], "a"),  # by what they take, not by their amperes
    ],
)
def test_of_each_pair_the_one_that_takes_more(members, counted):
    assert "".join(sorted(one.tag for one in together(members)[0])) == counted


def feeder(file, members, key="main", unsized=()):
    demo = demo_job(file)
    return next(one for one in feeders(read_job(demo.facts, demo.rules)[0], members, unsized) if one.key == key)


class TestOnTheSchedule:
    def test_by_430_24_a_standby_adds_nothing(self):
        """1.25·96 + 52, other load 54.13 A and a quarter of it; without its word 96 A more."""
        beside = [motor("a", 96), motor("b", 52)]
        other = 1.25 * 45e3 / 3**0.5 / 480
        alone = feeder(LOCK, [*beside, motor("c", 96, "a")])
        assert alone.need.value == pytest.approx(1.25 * 96 + 52 + other)
        assert feeder(LOCK, [*beside, motor("c", 96)]).need.value == pytest.approx(1.25 * 96 + 52 + 96 + other)
        assert alone.tags == ("a", "b", "c")
        interlock = next(gate for gate in alone.stage.gates if gate.key == "protection.feeder_interlock")
        assert (interlock.kind, interlock.verdict) == (Kind.CONFIRM, "not known")
        assert "c never runs beside a" in interlock.sentence

    def test_on_a_board_where_it_stands_alone_it_counts(self):
        members = [motor("a", 96), motor("c", 96, "a", board="board_1")]
        assert feeder(LOCK, members, "board_1").need.value > 1.25 * 96
        assert not [g for g in feeder(LOCK, members, "board_1").stage.gates if g.key == "protection.feeder_interlock"]

    def test_by_the_iec_source_and_device_count_one(self):
        both = [motor("a", 300, volts=400), motor("b", 300, "a", volts=400)]
        verdicts = {gate.key: gate.verdict for gate in feeder(SOUND, both).stage.gates}
        assert (verdicts["protection.feeder_source"], verdicts["protection.feeder_device"]) == ("passes", "passes")
        apart = [both[0], motor("b", 300, volts=400)]
        verdicts = {gate.key: gate.verdict for gate in feeder(SOUND, apart).stage.gates}
        assert (verdicts["protection.feeder_source"], verdicts["protection.feeder_device"]) == ("check", "fails")

    def test_what_is_not_sized_leaves_the_interlock_a_thing_to_try(self):
        board = feeder(LOCK, [motor("a", 96), motor("c", 96, "a")], unsized=[Unsized(tag="z", board="main")])
        assert [g.kind for g in board.stage.gates if g.key == "protection.feeder_interlock"] == [Kind.CONFIRM]

    @pytest.mark.parametrize(("served", "told"), [("a", False), ("z", False), ("A", True), ("c", True)])
    def test_a_tag_that_the_job_has_not_is_told(self, served, told):
        """Mistyped, or its own: counted in full, and nothing of the board's verdict turns on it."""
        board = feeder(LOCK, [motor("a", 96), motor("c", 96, served)], unsized=[Unsized(tag="z", board="board_1")])
        found = [gate for gate in board.stage.gates if gate.key == "protection.feeder_standby"]
        assert [served in gate.remedy and not gate.weighs for gate in found] == [True] * told


def test_a_circuits_own_word_reaches_its_feeder():
    plan = planner(LOCK, "P-12")({"wiring.stands_by": "P-11, P-13"})
    assert member_from("P-12", guard_of(plan)).stands_by == ("P-11", "P-13")
    assert member_from("P-11", guard_of(planner(LOCK, "P-11")())).stands_by == ()


@pytest.mark.parametrize("text", ["", " , ", "P-11, ?", "x" * 25])
def test_what_is_no_tag_is_told(text):
    with pytest.raises(QuantityError, match="P-11"):
        read_tags(text)


def device(members, rating, **board):
    """The device ahead of a board against 430.62."""
    demo = demo_job(LOCK)
    key = "board_1" if board else "main_board"
    facts = demo.facts | {key: demo.facts[key] | board | {"device": rating}}
    job = read_job(facts, demo.rules)[0]
    found = next(one for one in feeders(job, members) if one.key == ("board_1" if board else "main"))
    return next(gate for gate in found.stage.gates if gate.key == "protection.feeder_device")


@pytest.mark.parametrize(("rating", "verdict"), [("300 A", "passes"), ("350 A", "fails")])
def test_a_standby_counts_for_the_largest_device(rating, verdict):
    """430.62(A): a device of 192 A, 96 A and 54 A of other load beside it; without it no more than 225 A."""
    assert device([motor("a", 96), motor("c", 96, "a")], rating).verdict == verdict


@pytest.mark.parametrize(
    ("size", "rating", "verdict", "clause"),
    [
        # a device of 40 A, 14 A and 54 A of other load beside it: 100 A by (A)
        ("3/0 AWG", "90 A", "passes", "(B)"),
        ("3/0 AWG", "175 A", "passes", "(B)"),  # 200 A as tabulated, four fifths of it for sure, and the next size up
        ("3/0 AWG", "200 A", "fails", "(B)"),
        ("3 AWG", "90 A", "passes", "(A)"),  # 85 A at 60 °C, as up to 100 A: less than 430.24 asks
        ("3 AWG", "110 A", "fails", "(A)"),
    ],
)
def test_conductors_that_carry_more_than_is_asked_may_have_a_larger_device(size, rating, verdict, clause):
    gate = device([motor("a", 20, board="board_1"), motor("b", 14, board="board_1")], rating, size=size)
    assert (gate.verdict, gate.source.removeprefix("NFPA 70:2023 430.62")[:3]) == (verdict, clause)
