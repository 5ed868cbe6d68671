"""A rating without its kind of device passes only where every kind that it may be of passes, and fails likewise."""

import pytest

from tests.conftest import planner
from vinegate.core.grade import Verdict, rule
from vinegate.core.protection.unsaid_kind import gates_over

P11, R31 = planner("harrowmere-lock.json", "P-11"), planner("harrowmere-lock.json", "R-31")
H1, K5, F3 = (planner("skerry-sound.json", tag) for tag in ("H-1", "K-5", "F-3"))
NEC, IEC = "protection.device_nec", "protection.device_iec"


def unsaid(plan, path, rating, **more):
    return plan(
        {path: None, "protection.rating": rating} | {key.replace("__", "."): text for key, text in more.items()}
    )


# 96 A of the table: a time-delay fuse to 175 A, a breaker of 250 % and a fuse without delay of 300 % beyond 225 A.
@pytest.mark.parametrize(
    ("rating", "verdict"),
    [("175 A", Verdict.PASSES), ("200 A", Verdict.CHECK), ("225 A", Verdict.CHECK), ("400 A", Verdict.FAILS)],
)
def test_the_largest_rating_goes_by_its_kind(rating, verdict):
    plan = unsaid(P11, NEC, rating)
    assert plan.gate("protection.device").verdict is verdict
    assert (plan.gate("protection.device").turns is not None) is (verdict is Verdict.CHECK)


def test_what_settles_it_does_either_way():
    turns = unsaid(P11, NEC, "225 A").gate("protection.device").turns
    assert turns.path == NEC
    for text, verdict in ((turns.passes_as, Verdict.PASSES), (turns.fails_as, Verdict.FAILS)):
        assert P11({NEC: text, "protection.rating": "225 A"}).gate("protection.device").verdict is verdict


def test_a_rating_as_advised_has_the_kind_that_is_advised():
    plan = P11({NEC: None, "protection.rating": None})
    assert all(plan.gate(f"protection.{key}").verdict is Verdict.PASSES for key in ("device", "holds", "grounding"))


def test_a_fuse_holds_what_a_small_breaker_does_not():
    """80 A: a gG fuse carries the start of H-1, a breaker of type D or 13 times its rating trips at the change-over."""
    gate = unsaid(H1, IEC, "80 A").gate("protection.holds")
    assert (gate.verdict, gate.turns.path) == (Verdict.CHECK, IEC)
    assert H1({IEC: "gg", "protection.rating": "80 A"}).gate("protection.holds").verdict is Verdict.PASSES
    assert (
        H1({IEC: "motor-breaker", "protection.rating": "80 A"}).gate("protection.holds").verdict is not Verdict.PASSES
    )
    assert unsaid(H1, IEC, "160 A").gate("protection.holds").verdict is Verdict.PASSES  # whatever it is


def test_a_rating_too_small_for_any_fails():
    assert unsaid(H1, IEC, "63 A").gate("protection.device").verdict is Verdict.FAILS


def test_the_protective_conductor_goes_by_the_kind_too():
    gate = unsaid(H1, IEC, "80 A").gate("protection.loop")
    assert (gate.verdict, gate.turns.path) == (Verdict.CHECK, IEC)
    assert H1({IEC: "gg", "protection.rating": "80 A"}).gate("protection.loop").verdict is Verdict.PASSES


def test_its_row_says_what_its_gates_say():
    assert {gate.key: gate.verdict for gate in unsaid(P11, NEC, "225 A").protected.device("device").gates}[
        "protection.device"
    ] is Verdict.CHECK


def test_no_kind_is_asked_of_what_cannot_be_one():
    """No class CC fuse is larger than 30 A, no setting of an instantaneous trip is a rating."""
    small, large = unsaid(R31, NEC, "15 A"), unsaid(P11, NEC, "175 A")
    assert "class CC" not in large.gate("protection.device").sentence
    assert "protection.listed" not in {gate.key for gate in (*small.gates, *large.gates)}


def test_what_is_kept_of_other_kinds_is_of_the_same_facts():
    """One plan after the other, as pages make them: the switch of the first is not judged in the second."""
    switch = [
        unsaid(P11, NEC, "225 A", protection__disconnect=amps).gate("protection.disconnect")
        for amps in ("100 A", "400 A")
    ]
    assert [gate.verdict for gate in switch] == [Verdict.FAILS, Verdict.PASSES]


STANDBY = {"standby.generator_power": "150 kVA", "standby.transient_reactance": "22 %",
           "standby.subtransient_reactance": "15 %", "start.on_standby": "yes"}  # fmt: skip


@pytest.mark.parametrize(
    ("plan", "path", "usual", "facts"),
    [
        (P11, NEC, "time-delay", STANDBY), (H1, IEC, "gg", STANDBY), (F3, IEC, "gg", {"starter.bypass": "yes"}),
        (F3, IEC, "gg", STANDBY | {"starter.bypass": "yes"}),
    ],
)  # fmt: skip
def test_what_is_advised_here_is_of_its_kind_on_the_standby_and_past_the_drive(plan, path, usual, facts):
    """Its rating is entered there, and its kind with it: unsaid or said, each gate reads the same."""
    unsaid_one, said = (plan(facts | {path: kind, "protection.rating": None}) for kind in (None, usual))
    assert [(gate.key, gate.verdict, gate.sentence) for gate in unsaid_one.gates] == [
        (gate.key, gate.verdict, gate.sentence) for gate in said.gates
    ]


def test_a_rating_without_its_kind_is_of_no_kind_on_the_standby_either():
    facts = STANDBY | {"starter.bypass": "yes", "protection.rating": "80 A"}
    asked = {gate.turns.path for gate in F3(facts | {IEC: None}).gates if gate.turns and "standby" in gate.key}
    assert IEC in asked


def test_the_device_upstream_is_held_against_each_kind():
    """80 s at 1000 A: a time-delay fuse of 225 A opens within 53 s, a breaker within 107."""
    curve = {"protection.upstream": "400 4000\n1000 80\n1500 30\n2500 4\n5000 0.5\n12000 0.1"}
    found = {kind: P11(curve | {NEC: kind, "protection.rating": "225 A"}).gate("protection.upstream").verdict
             for kind in ("time-delay", "fuse", "inverse-time")}  # fmt: skip
    gate = unsaid(P11, NEC, "225 A", **{"protection__upstream": curve["protection.upstream"]}).gate(
        "protection.upstream"
    )
    assert len(set(found.values())) == 2
    assert (gate.verdict, gate.turns.path) == (Verdict.CHECK, NEC)


def test_what_one_kind_alone_is_asked_is_told():
    """A gate that only another word has is not asked with the word taken; what fails there is to check."""
    passes, fails = (rule("x.own", "Own", met, "Text.", "source") for met in (True, False))
    other = rule("x.other", "Other", False, "Fails so.", "source")
    found = {gate.key: gate for gate in gates_over([passes], "x.word", "word", "one", {"two": [fails, other]})}
    assert [found[key].verdict for key in ("x.own", "x.other")] == [Verdict.CHECK] * 2
    assert found["x.other"].turns.passes == "one"
    assert gates_over([fails], "x.word", "word", "one", {"two": []})[0].verdict is Verdict.CHECK
    assert gates_over([passes], "x.word", "word", "one", {"two": []})[0].verdict is Verdict.PASSES
