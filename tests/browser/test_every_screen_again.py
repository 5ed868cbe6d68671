"""Every screen, the other half of them: in a file of its own, so that both halves are looked at side by side."""

from tests.browser.screens import look_at_each, screens


def test_every_other_screen(enter, address, circuit):
    look_at_each(enter(), screens(address, circuit)[1::2])
