"""Every screen in both themes: axe finds nothing, nothing is cut, nothing leaves the host."""

import pytest
from playwright.sync_api import expect

from tests.browser.screens import STATIONS, check, look_at_each, screens

MOST_KILOBYTES = 350


@pytest.fixture(params=["light", "dark"])
def theme(request):
    return request.param


def test_every_screen(enter, address, circuit):
    look_at_each(enter(), screens(address, circuit)[::2])


def test_sign_in_screen(browser, address, theme):
    page = browser.new_page(color_scheme=theme)
    page.goto(f"{address}/sign-in")
    check(page)
    page.close()


def test_trouble_on_screen(enter, circuit, theme):
    page = enter(color_scheme=theme)
    page.goto(f"{circuit}/plate")
    page.get_by_label("Power", exact=True).fill("75 Q")
    expect(page.locator("#about-plate-power .error")).to_be_visible()
    check(page)
    page.keyboard.press("Escape")
    page.keyboard.press("?")
    check(page)


def test_long_names_are_cut_not_spilled(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/load")
    long = "northern low-level land-drainage pump of the second basin, duty, relocated"
    page.get_by_label("Drives").fill(long)
    expect(page.locator("#line .stop.driven .name")).to_have_text(long)
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")


def test_first_visit_is_light_and_stays_on_the_host(enter, circuit, address):
    page = enter()
    session = page.context.new_cdp_session(page)
    session.send("Network.enable")
    session.send("Network.clearBrowserCache")
    received, hosts = [], set()
    session.on("Network.loadingFinished", lambda event: received.append(event["encodedDataLength"]))
    page.on("request", lambda request: hosts.add(request.url.split("/")[2]))
    page.goto(f"{circuit}/start", wait_until="networkidle")
    assert hosts == {address.split("/")[2]}
    assert sum(received) / 1024 < MOST_KILOBYTES


def test_the_theme_is_chosen_and_kept(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/start")
    page.keyboard.press("t")
    expect(page.locator("html")).to_have_attribute("data-theme", "light")
    page.wait_for_load_state("load")  # the key is the new page's once its scripts have run
    page.keyboard.press("t")
    expect(page.locator("html")).to_have_attribute("data-theme", "dark")
    page.reload()
    expect(page.locator("html")).to_have_attribute("data-theme", "dark")


def test_no_two_elements_have_one_id(enter, circuit):
    page = enter()
    for station in STATIONS:
        page.goto(f"{circuit}/{station}")
        ids = page.evaluate("[...document.querySelectorAll('[id]')].map(one => one.id)")
        assert len(ids) == len(set(ids)), (station, sorted(one for one in set(ids) if ids.count(one) > 1))


def test_line_sheet_and_answer_fit_without_scrolling(enter, circuit):
    page = enter()
    for station in STATIONS:
        page.goto(f"{circuit}/{station}")
        for part in ("#answer", "#line", "#facts"):
            box = page.locator(part).bounding_box()
            if part != "#line" and (part, station) not in [
                ("#facts", name) for name in ("start", "protection", "stop", "place", "starter")
            ]:
                assert box["y"] + box["height"] <= 800, (station, part)
        assert page.locator(".stop.driven").bounding_box()["y"] < 800
    page.goto(f"{circuit}/protection")
    chart = page.locator("svg.time-current").bounding_box()
    assert chart["y"] + chart["height"] < 820
    page.goto(f"{circuit}/starter")
    ladder = page.locator("svg.circuit-drawing").first.bounding_box()
    assert ladder["y"] + ladder["height"] < 800
    page.goto(f"{circuit}/stop")
    strip = page.locator(".strip-drawing").first.bounding_box()
    assert strip["y"] + strip["height"] < 800
    page.goto(f"{circuit}/place")
    table = page.locator(".places").bounding_box()
    assert table["y"] + table["height"] < 800
    page.goto(f"{circuit}/start")
    table, strip = (page.locator(part).first.bounding_box() for part in (".methods", ".strip-drawing"))
    assert table["y"] + table["height"] < 560
    assert strip["y"] + strip["height"] < 860  # all but the axis' own figures
