"""Every screen once more: the dark theme's colours, and as narrow as a phone. Colours are the same at every width."""

from tests.browser.screens import TAGS, look_at_all

CONTRAST = "color-contrast"


def test_colours_of_the_dark_theme(enter, address, circuit):
    colours = {"type": "rule", "values": [CONTRAST]}
    look_at_all(enter(color_scheme="dark"), address, circuit, runOnly=colours)


def test_every_screen_on_a_phone(enter, address, circuit):
    page = enter(color_scheme="light", viewport={"width": 390, "height": 800})
    rules = {CONTRAST: {"enabled": False}}
    look_at_all(page, address, circuit, runOnly={"type": "tag", "values": TAGS}, rules=rules)
