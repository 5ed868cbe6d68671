"""The drive's sheet as one uses it: type points, drag one, change the control, switch the rule set, print."""

from playwright.sync_api import expect

from tests.browser.test_start import settled

POINTS = "100 %; ; 1900\n70 %; ; 3400"


def typed(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/drive")
    expect(page.locator(".empty").first).to_contain_text("Give its operating points")
    page.fill("#drive-points", POINTS)
    page.keyboard.press("Tab")
    expect(page.locator(".points tbody tr")).to_have_count(2)
    settled(page)
    return page


def test_a_point_is_moved_by_keys_and_by_dragging(enter, circuit):
    page = typed(enter, circuit)
    handle = page.get_by_role("slider", name="Speed of operating point 2")
    expect(handle).to_have_attribute("aria-valuetext", "70 %")
    handle.focus()
    page.keyboard.press("ArrowRight")
    expect(page.locator("#drive-points")).to_have_value("100 %; ; 1900\n71 %; ; 3400")
    settled(page)
    box = page.get_by_role("slider", name="Speed of operating point 2").bounding_box()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] - 60, box["y"] + box["height"] / 2, steps=4)
    page.mouse.up()
    expect(page.locator("#drive-points")).not_to_have_value("100 %; ; 1900\n71 %; ; 3400")
    settled(page)
    first, second = page.locator("#drive-points").input_value().split("\n")
    assert first == "100 %; ; 1900"
    assert float(second.split()[0]) < 70
    assert second.endswith("; ; 3400")


def test_the_control_changes_the_law_of_volts(enter, circuit):
    page = typed(enter, circuit)
    expect(page.get_by_role("img", name="Volts and amperes against frequency")).to_contain_text("as set")
    page.select_option("#drive-control", "sensorless")
    expect(page.get_by_role("img", name="Volts and amperes against frequency")).not_to_contain_text("as set")
    page.get_by_role("link", name="harmonics").click()
    expect(page.get_by_role("img", name="Harmonics of the input current")).to_be_visible()
    page.fill("#drive-rated", "110 A")
    page.keyboard.press("Tab")
    settled(page)
    expect(page.get_by_role("img", name="Harmonics of the input current")).to_be_visible()  # the picture chosen stays


def test_what_cannot_be_read_stays_at_its_field(enter, circuit):
    page = typed(enter, circuit)
    page.fill("#drive-points", "150; ; 1900")
    page.keyboard.press("Tab")
    expect(page.locator("#about-drive-points")).to_contain_text("write its unit")
    expect(page.locator("#drive-points")).to_have_value("150; ; 1900")


def test_the_sheet_is_printed_with_a_blank_for_what_was_set(enter, circuit):
    page = typed(enter, circuit)
    page.goto(f"{circuit}/print")
    expect(page.get_by_role("heading", name="Drive: operating points")).to_be_visible()
    expect(page.get_by_role("columnheader", name="As set")).to_be_visible()


def test_the_other_rule_set_keeps_the_points_and_asks_by_its_own_standards(enter, circuit):
    """NEC bounds its harmonics by IEEE 519, IEC by the 61000 series; what was typed stays."""
    page = typed(enter, circuit)
    expect(page.locator("#facts")).to_contain_text("IEEE 519:2022")
    page.goto(f"{circuit}/rules")
    page.get_by_role("button", name="Plan the whole job to IEC").click()
    expect(page.get_by_role("button", name="Plan the whole job to NEC")).to_be_visible()
    page.goto(f"{circuit}/drive")
    expect(page.locator("#drive-points")).to_have_value(POINTS)
    expect(page.locator(".points tbody tr")).to_have_count(2)
    expect(page.locator("#facts")).to_contain_text("IEC 61000-2-4")
    expect(page.locator("#facts")).not_to_contain_text("IEEE 519")
