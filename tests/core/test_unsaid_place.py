"""An overload set without its place or its kind of amperes: neither passes nor fails by what is taken for them alone."""

import pytest

from tests.conftest import planner
from vinegate.core.grade import Verdict

P11, X51 = planner("harrowmere-lock.json", "P-11"), planner("harrowmere-lock.json", "X-51")
H1 = planner("skerry-sound.json", "H-1")
PLACE, HABIT, SET = "protection.overload_place", "protection.overload_habit", "protection.overload"


def setting(plan, amps, **more):
    said = {SET: amps, PLACE: None, HABIT: None} | {f"protection.overload_{key}": text for key, text in more.items()}
    return plan(said).gate("protection.setting")


# 92 A with a service factor of 1.15 trip at 115 A at most: a dial of 92 A, or elements of 115 A.
@pytest.mark.parametrize(
    ("amps", "habit", "verdict"),
    [
        ("92 A", None, "passes"), ("115 A", None, "check"), ("120 A", None, "fails"), ("60 A", None, "fails"),
        ("88 A", None, "passes"), ("100 A", None, "fails"), ("102 A", None, "check"),  # no elements below 110 % of 92 A
        ("115 A", "element", "passes"), ("115 A", "dial", "fails"), ("92 A", "dial", "passes"),
    ],
)  # fmt: skip
def test_amperes_of_a_dial_or_of_elements(amps, habit, verdict):
    gate = setting(P11, amps, habit=habit)
    assert gate.verdict is Verdict(verdict)
    assert (gate.turns is not None and gate.turns.path == HABIT) is (verdict == "check")


def test_the_words_that_settle_the_amperes_do():
    turns = setting(P11, "115 A").turns
    assert P11({SET: "115 A", HABIT: turns.passes_as}).gate("protection.setting").verdict is Verdict.PASSES
    assert P11({SET: "115 A", HABIT: turns.fails_as}).gate("protection.setting").verdict is Verdict.FAILS


# 81 A in the line are 46.8 A inside the delta.
@pytest.mark.parametrize(
    ("amps", "place", "verdict"),
    [
        ("46.5 A", None, "check"), ("46.5 A", "delta", "passes"), ("46.5 A", "line", "fails"),
        ("81 A", None, "passes"), ("20 A", None, "fails"), ("140 A", None, "fails"),
        ("63 A", None, "check"), ("79 A", None, "passes"),
    ],
)  # fmt: skip
def test_in_the_line_or_inside_the_delta(amps, place, verdict):
    gate = setting(H1, amps, place=place)
    assert gate.verdict is Verdict(verdict)
    assert (gate.turns is not None and gate.turns.path == PLACE) is (verdict == "check")


def test_a_machine_that_starts_otherwise_has_no_delta_to_stand_in():
    gate = H1({SET: "46.5 A", PLACE: None, "start.method": "soft-starter"}).gate("protection.setting")
    assert gate.verdict is Verdict.FAILS


def test_place_and_amperes_both_unsaid_are_asked_one_after_the_other():
    """71 A: a dial of 71 A in the line, 41 A in the delta, elements of 51.2 A there."""
    first = setting(X51, "51.2 A")
    assert first.verdict is Verdict.CHECK
    settled = setting(X51, "51.2 A", place="delta", habit="element")
    assert settled.verdict is Verdict.PASSES
    assert setting(X51, "51.2 A", place="delta").turns.path == HABIT


def test_the_band_of_a_relay_tells_where_it_may_stand():
    """A relay of 40 to 57 A holds the 46.8 A of the delta, not the 81 A of the line; one of 63 to 90 A the line's."""
    small = H1({SET: None, PLACE: None, "protection.element_low": "40 A", "protection.element_high": "57 A"})
    assert small.gate("protection.band").turns.path == PLACE
    line = {PLACE: "line", "protection.element_low": "40 A", "protection.element_high": "57 A"}
    assert H1(line).gate("protection.band").verdict is Verdict.FAILS
    assert H1(line | {PLACE: "delta"}).gate("protection.band").verdict is Verdict.PASSES
    large = H1({SET: None, PLACE: None, "protection.element_low": "63 A", "protection.element_high": "90 A"})
    assert large.gate("protection.band").verdict is Verdict.PASSES


# Half of 92 A in each half winding: 46 A there, which would open in the line; a setting near all of it is the line's.
@pytest.mark.parametrize(
    ("amps", "place", "verdict"),
    [("46 A", None, "check"), ("46 A", "half", "passes"), ("46 A", "line", "fails"), ("57.5 A", None, "fails"),
     ("80 A", None, "passes")],
)  # fmt: skip
def test_in_the_line_or_in_each_half_winding(amps, place, verdict):
    said = {"start.method": "part-winding", "plate.leads": "6", SET: amps, PLACE: place, HABIT: "dial"}
    gate = P11(said).gate("protection.setting")
    assert gate.verdict is Verdict(verdict)
    assert (gate.turns is not None and gate.turns.path == PLACE) is (verdict == "check")
