"""Every screen once more: its colours in the dark theme, and its parts as narrow as a phone."""

import pytest

from tests.browser.screens import look_at_all


@pytest.mark.parametrize(
    ("scheme", "width", "looks"), [("dark", 1280, {"parts": False}), ("light", 390, {"colours": False})]
)
def test_every_screen(enter, address, circuit, scheme, width, looks):
    page = enter(color_scheme=scheme, viewport={"width": width, "height": 800})
    look_at_all(page, address, circuit, **looks)
