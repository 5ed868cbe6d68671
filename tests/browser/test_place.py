"""The place as one uses it: put devices in areas by select, by key and by dragging; read what follows; ask what if."""

from playwright.sync_api import expect

from tests.browser.test_start import settled


def test_nothing_is_known_until_it_is_said(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/place")
    expect(page.locator("#answer")).to_contain_text("The motor stands in pump house, unclassified")
    page.select_option("#place-motor", "")
    expect(page.locator("#answer")).to_contain_text("nothing is taken as unclassified")
    settled(page)
    expect(page.locator(".chip.not-known")).to_have_count(1)
    expect(page.locator(".areas-sketch")).to_contain_text("not placed yet")
    page.select_option("#place-motor", "area_1")
    settled(page)
    page.locator("#more-area_1 summary").click()
    page.select_option("#area_1-status", "")
    expect(page.locator(".places")).to_contain_text("how it is classified")
    settled(page)
    expect(page.locator("#area_1-zone")).to_have_count(0)
    page.select_option("#area_1-status", "zone")
    expect(page.locator("#area_1-zone")).to_be_visible()
    settled(page)


def test_devices_move_between_areas(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/place")
    expect(page.locator("#place-motor option:checked")).to_have_text("pump house")
    chip = page.locator("#chip-place-motor")
    chip.focus()
    page.keyboard.press("ArrowRight")
    expect(page.locator("#answer")).to_contain_text("digester house, Class I Div 1, D")
    settled(page)
    expect(page.locator("#place-motor")).to_have_value("area_2")
    expect(page.locator("#chip-place-motor")).to_be_focused()
    house = page.locator('[data-region="area_2"]').bounding_box()
    box = page.locator("#chip-place-starter").bounding_box()
    page.mouse.move(box["x"] + 8, box["y"] + 8)
    page.mouse.down()
    page.mouse.move(house["x"] + 20, house["y"] + 90, steps=4)
    page.mouse.up()
    expect(page.locator("#place-starter")).to_have_value("area_2")
    settled(page)
    expect(page.locator("#chip-place-starter")).to_have_attribute("data-area", "area_2")


def test_a_chip_dropped_outside_goes_back(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/place")
    chip = page.locator("#chip-place-motor")
    place, before = chip.get_attribute("transform"), chip.bounding_box()
    page.mouse.move(before["x"] + 8, before["y"] + 8)
    page.mouse.down()
    page.mouse.move(before["x"] + 30, before["y"] - 150, steps=3)
    page.mouse.up()
    expect(chip).to_have_attribute("transform", place)
    expect(page.locator("#place-motor")).to_have_value("area_1")


def test_a_marking_is_read_and_judged(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/place")
    page.select_option("#place-motor", "area_2")
    settled(page)
    page.fill("#plate-listing", "CL I GP C")
    page.keyboard.press("Tab")
    expect(page.locator("tr.fails").first).to_contain_text("does not name group D")
    settled(page)
    page.fill("#plate-listing", "CL I GP C & D T3C")
    page.fill("#hazard-document", "")
    page.keyboard.press("Tab")
    expect(page.locator(".places")).to_contain_text("T3C, 160 °C: biogas allows 537 °C")
    settled(page)
    expect(page.locator(".mark-parts").first).to_contain_text("propane and its like")
    expect(page.locator(".gate-list")).to_contain_text("the classification's document")
    expect(page.locator("body")).to_contain_text("Nothing certified may be modified")


def test_a_material_that_is_not_in_the_library_stays_at_its_field(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/place")
    page.locator("#more-area_2 summary").click()
    page.fill("#area_2-materials", "methan")
    page.keyboard.press("Tab")
    expect(page.locator("#box-area_2-materials")).to_contain_text("Did you mean methane")
    settled(page)
    expect(page.locator("#area_2-materials")).to_have_value("methan")


def test_the_jobs_areas_and_what_if(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/place")
    page.select_option("#place-motor", "area_2")
    page.fill("#plate-listing", "CL I GP D T3")
    page.keyboard.press("Tab")
    expect(page.locator(".places")).to_contain_text("Its listing names this class")
    settled(page)
    page.goto(f"{circuit.rpartition('/')[0]}/areas")
    expect(page.locator("body")).to_contain_text("Class I Div 1, D")
    page.fill("#gained", "hydrogen")
    page.get_by_role("button", name="Ask").click()
    expect(page.locator(".answer")).to_contain_text("P-11 fails: the motor of P-11")
    page.fill("#gained", "moonlight")
    page.get_by_role("button", name="Ask").click()
    expect(page.locator("#about-gained")).to_contain_text("not in the library")
    expect(page.locator("#gained")).to_have_value("moonlight")
