"""The protection sheet as one uses it: drag a dial, key a class and a rating, take a size, change the rule set."""

import pytest
from playwright.sync_api import expect

from tests.browser.test_start import settled


@pytest.fixture
def sheet(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/protection")
    return page


def pill(page, name):
    return page.get_by_role("slider", name=name)


def test_the_dial_is_dragged_and_the_gate_follows(sheet):
    expect(sheet.locator("#line")).to_contain_text("92 A")
    box = pill(sheet, "Overload set to").bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    sheet.mouse.move(x, y)
    sheet.mouse.down()
    sheet.mouse.move(x + 60, y, steps=6)
    sheet.mouse.up()
    settled(sheet)
    moved = float(sheet.locator("#protection-overload").input_value().removesuffix(" A"))
    assert moved > 105
    expect(sheet.locator("table.devices")).to_contain_text("above the ceiling of 129 A")
    expect(sheet.locator("#answer")).to_contain_text("above the ceiling")


def test_class_and_rating_are_moved_by_keys_from_stop_to_stop(sheet):
    pill(sheet, "Trip class").focus()
    sheet.keyboard.press("ArrowUp")
    settled(sheet)
    expect(sheet.locator("#protection-trip_class")).to_have_value("20")
    expect(sheet.locator("table.devices")).to_contain_text("Overload, class 20")
    pill(sheet, "Rating of the short-circuit device").focus()
    sheet.keyboard.press("ArrowRight")
    settled(sheet)
    expect(sheet.locator("#protection-rating")).to_have_value("200 A")
    expect(sheet.locator("table.devices")).to_contain_text("Rated 200 A, above the usual 175 A")
    sheet.keyboard.press("ArrowLeft")
    settled(sheet)
    expect(sheet.locator("#protection-rating")).to_have_value("175 A")


def test_a_size_is_taken_with_one_click(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/wiring")
    page.get_by_label("Conductor size").fill("4 AWG")
    expect(page.locator("#facts .gate-list")).to_contain_text("4 AWG carries 85 A as laid")
    settled(page)
    page.get_by_role("button", name="take 1 AWG").click()
    expect(page.get_by_label("Conductor size")).to_have_value("1 AWG")
    expect(page.locator("#facts .gate-list")).to_contain_text("1 AWG carries 130 A as laid")
    page.reload()
    expect(page.get_by_label("Conductor size")).to_have_value("1 AWG")


def test_the_rule_set_is_changed_and_what_differs_is_shown(sheet):
    sheet.get_by_role("link", name="Under both rule sets").click()
    expect(sheet.get_by_role("table")).to_contain_text("gG fuse")
    sheet.get_by_role("button", name="Plan the whole job to IEC").click()
    expect(sheet.get_by_role("button", name="Plan the whole job to NEC")).to_be_visible()
    sheet.get_by_role("link", name="P-11").click()
    expect(sheet.locator("#answer")).to_contain_text("gG fuse")
    expect(sheet.locator(".chip")).to_have_text("IEC")


def test_another_kind_of_device_redraws_its_band(sheet):
    before = sheet.locator("svg.time-current").get_attribute("aria-label")
    sheet.select_option("#protection-device_nec", "inverse-time")
    expect(sheet.locator("svg.time-current")).not_to_have_attribute("aria-label", before)
    expect(sheet.locator("svg.time-current")).to_contain_text("250 A inverse-time breaker, generic")
