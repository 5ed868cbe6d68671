"""Formulas on a page: set low where they are, broken behind a sign, never within a number."""

import re

import pytest

from vinegate.web.display import formula


@pytest.mark.parametrize(
    ("text", "pieces"),
    [
        ("1000·0.055·60/60", ["1000·", "0.055·", "60/", "60"]),
        ("R_run·l/m", ["R<sub>run</sub>·", "l/", "m"]),
        ("1+0.2·x", ["1+", "0.2·", "x"]),
        ("a<b", ["a&lt;b"]),
        ("12345.678", ["12345.678"]),
    ],
)
def test_it_breaks_behind_signs_alone(text, pieces):
    assert re.split("<wbr>", str(formula(text))) == pieces
