"""Free text is refused past its own length, and never cut short of it."""

import pytest

from vinegate.core.field import words
from vinegate.core.numbers import QuantityError


@pytest.mark.parametrize("most", [60, 120, 300, 1500])
def test_all_its_characters_are_taken_and_one_more_is_told(most):
    fact = words("Note", most)
    assert fact.longest > most
    assert fact.read("x" * most) == "x" * most
    with pytest.raises(QuantityError, match=f"{most + 1} characters of {most}"):
        fact.read("x" * (most + 1))
