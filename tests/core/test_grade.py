"""How a verdict is made: a band against a limit, the fact that decides, the value of it at which the gate turns."""

import ast
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

import vinegate.core
from vinegate.core.close import once
from vinegate.core.doubt import NO_KIND, NO_PLATE, NO_SUPPLY
from vinegate.core.grade import (
    Kind,
    Verdict,
    at_least,
    at_most,
    confirm,
    doubted,
    informs,
    ordered,
    over,
    rule,
    unknown,
    worst,
)
from vinegate.core.turning import Taken, point

CORE = Path(vinegate.core.__file__).parent


def stall(low, high, **more):
    return Taken(
        path="machine.stall_hot", label="safe stall time", unit="s", value=min(12, high), low=low, high=high, **more
    )


def heat(*facts, limit=9.4):
    """A start that heats as 9.4 s at rest, against what the machine bears."""
    return at_most(
        "k", "Heat", limit, 12.0, sentence="It heats.", source="s", rests=facts, room=lambda bears: bears - limit
    )


class TestBands:
    @pytest.mark.parametrize(
        ("low", "high", "verdict"),
        [
            (9.4, 20, Verdict.PASSES),  # the edge itself passes
            (9.39, 20, Verdict.CHECK),
            (6, 9.4, Verdict.CHECK),
            (6, 9.39, Verdict.FAILS),  # even the best end does not reach
            (12, 12, Verdict.PASSES),
            (9, 9, Verdict.FAILS),
        ],
    )
    def test_every_end_passes_or_every_end_fails_or_a_fact_decides(self, low, high, verdict):
        assert heat(stall(low, high)).verdict is verdict

    def test_a_check_names_the_fact_and_its_turning_value(self):
        gate = heat(stall(6, 20, how="assumed"))
        assert gate.sentence == "It heats. Passes for any safe stall time over 9.4 s; 12 s assumed, 6 to 20."
        assert (gate.turns.path, gate.turns.passes) == ("machine.stall_hot", "over 9.4 s")
        assert float(gate.turns.passes_as.split()[0]) > 9.4 > float(gate.turns.fails_as.split()[0])

    def test_a_band_whose_end_was_taken_is_told_whole(self):
        """By a letter the upper end is taken; the lower one decides, and stands beside it."""
        gate = heat(Taken(path="p", label="current", unit="A", value=20, low=6, high=20, how="by the letter"))
        assert gate.sentence == "It heats. Passes for any current over 9.4 A; 6 to 20 A by the letter."

    def test_a_band_without_an_end_is_told_from_where_it_begins(self):
        gate = heat(Taken(path="p", label="time", unit="s", value=10, low=5, high=1e4, how="of usual ones"))
        assert gate.sentence == "It heats. Passes for any time over 9.4 s; 10 s of usual ones, 5 or more."

    def test_what_could_not_matter_is_not_mentioned(self):
        assert "assumed" not in heat(stall(10, 20, how="assumed")).sentence

    def test_the_other_facts_stand_at_their_worst(self):
        """Heat goes with inertia: with up to twice as much of it, only a stall time over 18.8 s surely passes."""
        inertia = Taken(path="load.inertia", label="load inertia", value=1, low=0.5, high=2, how="assumed")
        gate = at_most(
            "k", "Heat", 9.4, 12, sentence="", source="", rests=(stall(6, 40), inertia),
            room=lambda bears, load: bears - 9.4 * load,
        )  # fmt: skip
        assert gate.turns.passes == "over 18.8 s"

    def test_two_open_facts_settle_it_where_neither_may_alone(self):
        """Bearing 6 to 11 s, and a load of 0.7 to 2: one alone would have to be 18.8 s, or 0.638."""
        inertia = Taken(path="load.inertia", label="load inertia", value=1, low=0.7, high=2, how="assumed")
        bears, given = stall(6, 11, how="assumed"), point(1, path="s", label="starts")
        gate = at_most(
            "k", "Heat", 9.4, 12, sentence="Hot.", source="", rests=(given, bears, inertia),
            room=lambda starts, seconds, load: seconds - 9.4 * load * starts,
        )  # fmt: skip
        assert gate.sentence == "Hot. Passes for any safe stall time over 9.4 s with load inertia 1; 6 to 11 s assumed."
        assert (gate.turns.path, gate.turns.beside) == ("machine.stall_hot", (("load.inertia", "1"),))

    def test_where_not_as_taken_it_passes_at_the_better_end(self):
        """At 6.3 s and a load of 1.5, as taken, neither comes to it with the other: 0.7 needs no more than 6.58 s."""
        inertia = Taken(path="load.inertia", label="load inertia", value=1.5, low=0.7, high=2, how="assumed")
        bears = Taken(
            path="machine.stall_hot", label="safe stall time", unit="s", value=6.3, low=6, high=7, how="assumed"
        )
        gate = at_most(
            "k", "Heat", 9.4, 12, sentence="", source="", rests=(bears, inertia),
            room=lambda seconds, load: seconds - 9.4 * load,
        )  # fmt: skip
        assert (gate.turns.passes, gate.turns.beside) == (
            "over 6.58 s with load inertia 0.7",
            (("load.inertia", "0.7"),),
        )

    @given(
        bands=st.lists(st.tuples(st.floats(1, 100), st.floats(0.3, 1), st.floats(1, 3)), min_size=2, max_size=4),
        weights=st.lists(st.sampled_from((-1.0, -0.3, 0.4, 1.0)), min_size=4, max_size=4), limit=st.floats(-60, 60),
    )  # fmt: skip
    def test_what_is_said_of_several_passes_once_all_of_it_is_typed(self, bands, weights, limit):
        facts = [
            Taken(path=f"p.{n}", label=f"fact {n}", value=value, low=value * low, high=value * high, how="assumed")
            for n, (value, low, high) in enumerate(bands)
        ]

        def judged(rests):
            return at_most("k", "n", 0, 1, sentence="", source="", rests=rests, room=lambda *all_of: sum(
                weight * one for weight, one in zip(weights, all_of, strict=False)) - limit)  # fmt: skip

        gate = judged(facts)
        if gate.verdict is Verdict.CHECK and gate.turns is not None and gate.turns.passes_as:
            typed = dict(gate.turns.beside) | {gate.turns.path: gate.turns.passes_as}
            settled = [point(float(typed[one.path])) if one.path in typed else one for one in facts]
            assert judged(settled).verdict is Verdict.PASSES

    def test_a_typed_value_has_its_standards_tolerance(self):
        """A starting current may turn out a fifth higher: typed, 100 A must pass as 120 A."""
        current = Taken(path="p", label="current", unit="A", value=110, low=110, high=132, typed=(1.0, 1.2))
        gate = at_most(
            "k", "n", 110, 120, sentence="", source="", rests=(current,), room=lambda amps: 120 - amps
        )  # fmt: skip
        assert (gate.verdict, gate.turns.passes, gate.turns.fails) == (Verdict.CHECK, "under 100 A", "over 120 A")

    @pytest.mark.parametrize(
        ("holds_to", "says"), [(30, "up to 30 °C; 30 °C assumed, 20 to 50"), (29, "under 29 °C; 30 °C")]
    )
    def test_the_value_taken_is_told_where_it_is_the_last_that_holds(self, holds_to, says):
        air = Taken(path="wiring.ambient", label="ambient", unit="°C", value=30, low=20, high=50, how="assumed")
        gate = at_most("k", "n", 30, 30, sentence="", source="", rests=(air,), room=lambda degrees: holds_to - degrees)
        assert f"Passes for any ambient {says}" in gate.sentence

    def test_a_fact_outside_whose_band_nothing_can_be_decides_nothing(self):
        letter = Taken(path="p", label="current", value=100, low=90, high=100, how="by the letter", hard=True)
        other = stall(6, 20, how="assumed")
        gate = at_least(
            "k",
            "n",
            1,
            1,
            sentence="",
            source="",
            rests=(letter, other),
            room=lambda amps, bears: bears + amps / 50 - 12,
        )
        assert gate.turns.path == "machine.stall_hot"

    def test_a_models_own_tolerance_is_settled_through_the_facts_beside_it(self):
        own = Taken(label="the estimate", value=1, low=0.8, high=1.2)
        fact = point(10.0, path="start.starts_per_hour", label="starts an hour")
        gate = at_most(
            "k", "n", 95, 100, sentence="", source="", rests=(fact, own), room=lambda n, e: 100 - 9.5 * n * e
        )
        assert (gate.verdict, gate.turns.path, gate.turns.passes) == (
            Verdict.CHECK,
            "start.starts_per_hour",
            "under 8.77",
        )

    def test_counts_turn_at_whole_numbers(self):
        count = Taken(path="wiring.grouped", label="conductors", value=3, low=3, high=6, how="assumed", whole=True)
        gate = at_least("k", "n", 1, 1, sentence="", source="", rests=(count,), room=lambda n: 1.0 if n <= 3 else -1.0)
        assert (gate.turns.passes_as, gate.turns.fails_as) == ("3", "4")

    @given(
        value=st.floats(0.1, 1e4),
        low=st.floats(0.2, 1.0),
        high=st.floats(1.0, 5.0),
        limit=st.floats(0.1, 1e4),
        least=st.booleans(),
    )
    def test_both_sides_of_a_turn_settle_it(self, value, low, high, limit, least):
        one = Taken(path="p.q", label="fact", value=value, low=low * value, high=high * value, how="assumed")
        make, sign = (at_least, -1) if least else (at_most, 1)
        gate = make("k", "n", value, limit, sentence="", source="", rests=(one,), room=lambda x: sign * (limit - x))
        ends = [sign * (limit - end) for end in (low * value, high * value)]
        assert (gate.verdict is Verdict.PASSES) == (min(ends) >= -1e-8 * limit) or min(map(abs, ends)) < 1e-6 * limit
        if gate.verdict is Verdict.CHECK:
            for text, side in ((gate.turns.passes_as, 1), (gate.turns.fails_as, -1)):
                typed = float(text)
                assert side * sign * (limit - typed) > 0

    def test_without_a_value_it_names_what_it_lacks(self):
        gate = at_most("k", "n", None, 4.0, sentence="", source="", needs=("a dip limit",))
        assert (gate.verdict, gate.needs) == (Verdict.UNKNOWN, ("a dip limit",))

    @pytest.mark.parametrize("value", [float("nan"), float("inf")])
    def test_what_is_no_number_never_passes(self, value):
        gate = at_most("k", "n", 1.0, 2.0, sentence="", source="", rests=(stall(1, 1),), room=lambda _: -value)
        assert gate.verdict is Verdict.FAILS


class TestKinds:
    def test_only_engineering_gates_weigh(self):
        site = confirm("s", "On site", False, "Look.", "")
        assert worst([site]) is Verdict.PASSES
        assert worst([site, rule("k", "n", True, "", "")]) is Verdict.PASSES
        assert worst([site, unknown("u", "n", ("x",))]) is Verdict.UNKNOWN

    def test_words_of_a_choice(self):
        met, broken = rule("k", "n", True, "As laid.", ""), rule("k", "n", False, "As laid.", "")
        gate = over("wiring.method", "method", "C", {"C": met, "B2": broken})
        assert (gate.verdict, gate.turns.passes_as, gate.turns.fails_as) == (Verdict.CHECK, "C", "B2")
        assert over("p", "l", "C", {"C": met, "B2": met}).verdict is Verdict.PASSES
        assert over("p", "l", "C", {"C": broken, "B2": broken}).verdict is Verdict.FAILS

    def test_one_missing_fact_is_one_not_known(self):
        named: set[str] = set()
        gates = once(
            [
                unknown("a", "a", ("the load",)),
                unknown("b", "b", ("the load",)),
                unknown("c", "c", ("the load", "leads")),
            ],
            named,
        )
        assert [gate.kind for gate in gates] == [Kind.ENGINEERING, Kind.INFORMS, Kind.ENGINEERING]
        assert once([unknown("d", "d", ("leads",))], named)[0].kind is Kind.INFORMS


def made_outside(tree):
    """Verdicts named, and gates or answers made with one, other than in comparisons."""
    compared = {id(part) for node in ast.walk(tree) if isinstance(node, ast.Compare) for part in ast.walk(node)}
    ranks = {id(key) for node in ast.walk(tree) if isinstance(node, ast.Dict) for key in node.keys if key}
    inside = {id(part) for key in ast.walk(tree) if id(key) in ranks for part in ast.walk(key)}
    for node in ast.walk(tree):
        named = isinstance(node, ast.Attribute) and getattr(node.value, "id", "") == "Verdict" and node.attr.isupper()
        if named and id(node) not in compared | inside:
            yield node.lineno
        if isinstance(node, ast.Call) and getattr(node.func, "id", "") == "Gate":
            yield node.lineno


def test_grade_is_the_only_place_that_makes_a_verdict():
    found = [
        f"{path.relative_to(CORE)}:{line}"
        for path in sorted(CORE.rglob("*.py"))
        if path.name != "grade.py" and ("Verdict." in (text := path.read_text()) or "Gate(" in text)
        for line in made_outside(ast.parse(text))
    ]
    assert found == []


def test_the_reader_of_the_code_sees_what_is_made_elsewhere():
    assert list(made_outside(ast.parse("x = Verdict.FAILS if a else Verdict.PASSES\ny = Gate(key='k')"))) == [2, 1, 1]
    assert list(made_outside(ast.parse("if gate.verdict is Verdict.FAILS: pass"))) == []


@pytest.mark.parametrize("value", [3.0, 4.0, 7.5])
def test_a_margin_is_what_is_left_in_the_gates_own_unit(value):
    """Of a largest value the limit less it, of a least one it less the limit; with facts behind it or a band or neither."""
    words = {"sentence": "", "source": "", "unit": "A"}
    for more in ({}, {"band": (0.9 * value, 1.1 * value)}):
        assert at_most("k", "k", value, 4.0, **words, **more).margin == pytest.approx(4.0 - value)
        assert at_least("k", "k", value, 4.0, **words, **more).margin == pytest.approx(value - 4.0)


def test_a_plate_that_does_not_add_up_takes_approvals_back_and_nothing_else():
    passing, failing = (rule("x", "X", met, "Said.", "rule") for met in (True, False))
    for why, path, said in ((NO_PLATE, "plate.power", "From a plate"), (NO_SUPPLY, "plate.volts", "Of a motor")):
        doubt = doubted(passing, why)
        assert (doubt.verdict, doubt.turns.path, doubt.doubted) == (Verdict.CHECK, path, True)
        assert doubt.sentence.startswith(f"Said. {said}")
    for gate in (failing, unknown("x", "X", ("power",)), informs(passing), confirm("x", "X", True, "Seen.", "")):
        assert doubted(gate, NO_PLATE) == gate
    lifted = doubted(failing, NO_KIND)
    assert (lifted.verdict, lifted.turns.passes) == (Verdict.CHECK, "another")  # as another machine it may pass
    assert doubted(passing, NO_KIND).turns.passes == "a three-phase cage"
    assert doubted(unknown("x", "X", ("power",)), NO_KIND).verdict is Verdict.UNKNOWN


def test_two_facts_out_of_order_fail_by_as_much_as_they_cross():
    """20 s from hot and 12 s from cold: eight seconds the wrong way round; alike or in order there is no gate."""
    said = {"sentence": "x", "source": "y", "unit": "s", "remedy": "z"}
    (gate,) = ordered("machine.stalls", "Stall times", 20.0, 12.0, **said)
    assert (gate.verdict, gate.value, gate.limit, gate.margin) == (Verdict.FAILS, 12.0, 20.0, -8.0)
    for low, high in ((12.0, 12.0), (12.0, 20.0), (None, 20.0), (12.0, None)):
        assert ordered("machine.stalls", "Stall times", low, high, **said) == ()
