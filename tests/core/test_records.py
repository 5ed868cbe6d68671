"""The quick copy of a record is the one of the standard library."""

import dataclasses
from functools import cached_property

import numpy as np
import pytest

from vinegate.core.alike import alike
from vinegate.core.grade import unknown
from vinegate.core.records import replace


@dataclasses.dataclass(frozen=True, kw_only=True)
class Unslotted:
    number: float

    @cached_property
    def twice(self):
        return 2 * self.number


@dataclasses.dataclass(frozen=True, slots=True, kw_only=True)
class Lower:
    one: str
    two: str = "b"


@dataclasses.dataclass(frozen=True, slots=True, kw_only=True)
class Upper(Lower):
    three: str = "c"


@pytest.mark.parametrize(
    ("record", "changes"),
    [
        (unknown("a.b", "A gate", ("volts",)), {"sentence": "Otherwise.", "remedy": ""}),
        (Upper(one="a"), {"one": "x", "three": "z"}),
        (Upper(one="a"), {}),
    ],
)
def test_as_the_standard_library_copies(record, changes):
    assert replace(record, **changes) == dataclasses.replace(record, **changes)
    assert type(replace(record, **changes)) is type(record)


def test_what_was_worked_out_of_the_old_is_not_taken_over():
    one = Unslotted(number=2.0)
    assert one.twice == 4.0
    assert replace(one, number=3.0).twice == 6.0


@pytest.mark.parametrize("record", [Upper(one="a"), Unslotted(number=1.0)])
def test_a_field_that_is_not_there_is_refused(record):
    with pytest.raises(TypeError):
        replace(record, other=1)


def test_the_old_one_stays_as_it_was():
    one = Upper(one="a")
    replace(one, one="b")
    assert one.one == "a"


@pytest.mark.parametrize(
    ("one", "other", "same"),
    [
        ((np.ones(2), 1.0), (np.ones(2), 1.0), True),
        ((np.ones(2), 1.0), (np.ones(2), 2.0), False),
        ((np.ones(2),), (np.ones(2), 1.0), False),
        ((np.ones(2),), (np.ones(3),), False),
        ([np.ones(2)], (np.ones(2),), False),
        ({"a": np.ones(2)}, {"a": np.ones(2)}, True),
        ({"a": np.ones(2)}, {"b": np.ones(2)}, False),
        ({"a": np.ones(2)}, {"a": np.zeros(2)}, False),
        (Upper(one=np.ones(2)), Upper(one=np.ones(2)), True),
        (Upper(one=np.ones(2)), Upper(one=np.ones(2), two="c"), False),
    ],
)
def test_findings_are_alike_where_every_part_is(one, other, same):
    assert alike(one, other) is same
