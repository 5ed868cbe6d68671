"""The stop's sheet as one uses it: ask to hold, choose a way, drag what it is set to."""

import pytest
from playwright.sync_api import expect

from tests.browser.test_start import settled


def test_a_load_to_be_held_leaves_only_the_brake(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/stop")
    expect(page.locator("tr.chosen")).to_contain_text("coasting")
    page.select_option("#stop-hold", "yes")
    expect(page.locator("tr.chosen")).to_contain_text("spring-set brake")
    expect(page.locator("#answer")).to_contain_text("only a spring-set brake does")
    expect(page.locator("tr.fails")).to_have_count(5)  # all but the brake, alone or behind a ramp
    page.select_option("#stop-release_from", "running")
    expect(page.locator(".gate-list")).to_contain_text("The drive's contact on running")
    page.select_option("#stop-method", "drive-brake")
    expect(page.locator(".gate-list")).to_contain_text("closes the brake at every stop, fault and power failure")
    settled(page)


@pytest.mark.parametrize(
    ("method", "name", "field"),
    [
        ("drive", "Ramp down in", "drive_ramp"),
        ("drive-brake", "Brake closes at", "brake_at"),
        ("plugging", "Plugging timer", "plug_timer"),
        ("dc", "DC timer", "dc_time"),
        ("dc", "Direct current", "dc_current"),
        ("brake", "Brake closes after", "brake_delay"),
    ],
)
def test_each_setting_is_a_handle(enter, circuit, method, name, field):
    page = enter()
    page.goto(f"{circuit}/stop")
    page.select_option("#stop-method", method)
    handle = page.get_by_role("slider", name=name, exact=True)
    expect(handle).to_be_visible()
    settled(page)
    expect(page.locator(f"#stop-{field}")).to_have_value("")
    before = float(handle.get_attribute("aria-valuenow"))
    handle.focus()
    page.keyboard.press("PageUp")
    expect(page.locator(f"#stop-{field}")).not_to_have_value("")
    settled(page)
    assert float(page.locator(f"#stop-{field}").input_value().split()[0]) > before


def test_bands_lanes_and_the_order_of_its_contactors_are_shown(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/stop")
    page.select_option("#stop-method", "dc")
    page.fill("#stop-friction", "30 %")
    page.keyboard.press("Tab")
    expect(page.locator(".strip-drawing.stop .may")).to_have_count(1)
    settled(page)
    expect(page.locator(".strip-drawing.stop").first).to_contain_text("Speed, % of running")
    for lane in ("Braking torque, N·m", "Amperes, rms", "Heat so far, kJ"):
        expect(page.locator(".strip-drawing.stop").last).to_contain_text(lane)
    expect(page.locator(".steps")).to_contain_text("the DC contactor closes")


def test_what_cannot_be_read_stays_at_its_field(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/stop")
    page.fill("#stop-within", "quick")
    page.keyboard.press("Tab")
    expect(page.locator("#stop-within")).to_have_value("quick")
    expect(page.locator("body")).to_contain_text("does not begin with a number")
    expect(page.locator("tr.chosen")).to_contain_text("coasting")
