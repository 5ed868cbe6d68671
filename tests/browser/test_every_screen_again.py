"""Every screen once more: in the dark theme, and as narrow as a phone. Colours are the same at every width."""

import pytest

from tests.browser.screens import look_at_all


@pytest.mark.parametrize(("scheme", "width"), [("dark", 1280), ("light", 390)])
def test_every_screen(enter, address, circuit, scheme, width):
    look_at_all(enter(color_scheme=scheme, viewport={"width": width, "height": 800}), address, circuit)
