"""Where a comparison turns: the nearest value that surely holds, found of rooms that run smoothly, jump or have no end."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vinegate.core.deciding import decider
from vinegate.core.notebook import Notebook, noted
from vinegate.core.records import dataclass
from vinegate.core.turning import Taken, turning

_CLOSE = 1e-5
ROOMS = {
    "straight": lambda x, at: x - at,
    "steep": lambda x, at: (x / at) ** 12 - 1,
    "flat before it": lambda x, at: math.exp(min(x / at - 1, 50.0)) - 1,
    "a jump": lambda x, at: 1.0 if x >= at else -3.0,
    "no end": lambda x, at: math.inf if x >= at else -at / x,
    "a jump within": lambda x, at: x - at - (5 * at if x < 1.5 * at else 0),
}
AT = {"a jump within": 1.5}


def fact(value=2.0, low=1.0, high=4.0, **more):
    return Taken(path="a.b", label="it", value=value, low=low, high=high, how="assumed", **more)


@pytest.mark.parametrize("passing", [True, False])
@pytest.mark.parametrize("sense", [1, -1])
@pytest.mark.parametrize("room", ROOMS)
@given(at=st.floats(0.05, 80))
def test_it_holds_there_and_no_nearer(room, sense, passing, at):
    """Within the band and beyond either end of it, whichever way it leaves more."""

    def left(x):
        return ROOMS[room](x if sense > 0 else 1 / x, at if sense > 0 else 1 / at)

    edge = at * AT.get(room, 1.0) ** sense
    found = turning(left, [fact(sense=sense)], 0, passing=passing)
    assert found is not None
    value, way = found
    assert way == (sense if passing else -sense)
    assert left(value) + 1e-9 >= 0 if passing else left(value) < 0
    assert value == pytest.approx(edge, rel=_CLOSE)


@given(at=st.floats(1.1, 3.9), tries=st.just(14))
def test_a_smooth_room_is_not_tried_often(at, tries):
    seen = []

    def left(x):
        seen.append(x)
        return x**2 - at**2

    turning(left, [fact(sense=1)], 0, passing=True)
    assert len(seen) <= tries


@pytest.mark.parametrize(("low", "high", "found"), [(1.0, 1.9, None), (1.0, 4.0, 3.0)])
def test_a_value_that_cannot_be_typed_is_none(low, high, found):
    got = turning(lambda x: x - 3.0, [fact(sense=1, possible=(low, high))], 0, passing=True)
    assert got is None if found is None else got[0] == pytest.approx(found, rel=_CLOSE)


def test_one_that_always_holds_holds_as_it_is_taken_and_one_that_never_does_nowhere():
    assert turning(lambda _: 1.0, [fact(sense=1)], 0, passing=True) == (2.0, 1)
    assert turning(lambda _: -1.0, [fact(sense=1)], 0, passing=True) is None


class TestWhichFact:
    """The cheapest to settle, wherever it stands: what nobody gave before what is given, within its band before beyond
    it. Those that cannot be the cheapest are not sought."""

    @pytest.mark.parametrize("first", [True, False])
    def test_an_open_fact_before_a_given_one(self, first):
        given_one = Taken(path="c.d", label="given", value=2.0, low=1.8, high=2.2, given=True, sense=1)
        facts = [given_one, fact(sense=1)] if first else [fact(sense=1), given_one]
        turns = decider(lambda a, b: a + b - 4.5, facts)
        assert turns.path == "a.b"

    @pytest.mark.parametrize("first", [True, False])
    def test_one_within_its_band_before_one_beyond_it(self, first):
        narrow = Taken(path="c.d", label="narrow", value=2.0, low=1.99, high=2.01, how="assumed", sense=1)
        facts = [narrow, fact(sense=1)] if first else [fact(sense=1), narrow]
        turns = decider(lambda a, b: a + b - 4.5, facts)
        assert turns.path == "a.b"
        assert float(turns.passes.split()[1]) == pytest.approx(2.51, abs=0.01)  # the narrow one at its worst

    def test_what_cannot_settle_it_is_not_sought(self):
        """A given fact takes no room of its own once an open one settles it."""
        tried = []

        def left(a, b):
            tried.append(b)
            return a + b - 4.5

        sure = Taken(path="c.d", label="given", value=2.0, low=2.0, high=2.0, given=True)
        decider(left, [fact(sense=1), sure])
        assert set(tried) == {2.0}


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Read:
    notebook: Notebook | None
    times: list

    @noted
    def twice(self, by):
        self.times.append(by)
        if self.notebook is not None:
            self.notebook.reads.add(("part", "fact"))
        return 2 * by


class TestNoted:
    def test_it_is_worked_once_and_what_it_read_is_noted_each_time(self):
        book = Notebook()
        one, by = Read(notebook=book, times=[]), 21
        for _ in range(2):
            book.reads = set()
            assert one.twice(by) == 42
            assert book.reads == {("part", "fact")}
        assert one.times == [21]

    def test_of_another_one_it_is_worked_anew(self):
        book = Notebook()
        first, other = (Read(notebook=book, times=[]) for _ in range(2))
        assert first.twice(1) == other.twice(1) == 2
        assert len(first.times) == len(other.times) == 1

    def test_without_a_notebook_it_is_the_plain_function(self):
        plain = Read(notebook=None, times=[])
        assert plain.twice(1) == plain.twice(1) == 2
        assert len(plain.times) == 2

    def test_what_was_read_before_it_failed_is_noted(self):
        book = Notebook()

        def fails():
            book.reads.add(("part", "fact"))
            raise KeyError

        with pytest.raises(KeyError):
            book.once(("it",), fails, None)
        assert book.reads == {("part", "fact")}
        assert not book.known
