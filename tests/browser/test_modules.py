"""The browser's modules one by one, in a page of their own: values on scales, stops, what opens, what asks again."""

import re

import pytest
from playwright.sync_api import expect

HANDLE = """
<svg viewBox="0 0 200 100" width="200" height="100"><g role="slider" tabindex="0" id="h" data-field="out"
  transform="translate(0 50)" data-axis="x" data-from="0" data-to="200" {more}><text>0</text></g></svg>
<input id="out" value=""><p id="heard"></p>
"""


@pytest.fixture
def stage(enter, address):
    """An empty page of the application's own origin, on which no module works yet: `stage` fills it and attaches one."""
    page = enter()
    page.goto(f"{address}/")
    root = re.search(r"/s/\w+", page.content()).group()
    page.route("**/blank", lambda route: route.fulfill(body="<!doctype html><body></body>", content_type="text/html"))
    page.goto(f"{address}/blank")

    def show(html, module, attach):
        page.evaluate(
            """async ([html, address, attach]) => {
                document.body.innerHTML = html;
                window.loaded = await import(address);
                window.loaded[attach](document);
                document.addEventListener("input", (event) => {
                    const heard = document.getElementById("heard");
                    if (heard) heard.textContent += `${event.target.value};`;
                });
            }""",
            [html, f"{root}/js/{module}.js", attach],
        )
        return page

    return show


def handle(more):
    return HANDLE.format(more=more)


LINEAR = 'aria-valuemin="0" aria-valuemax="10" aria-valuenow="0" data-step="0.5" data-unit="s"'
LOG = 'aria-valuemin="1" aria-valuemax="100" aria-valuenow="1" data-step="1" data-unit="A" data-scale="log"'
STOPS = 'aria-valuemin="10" aria-valuemax="40" aria-valuenow="10" data-step="10" data-unit="A" data-stops="10 15 40"'


@pytest.mark.parametrize(
    ("more", "x", "text"),
    [
        (LINEAR, 100, "5 s"),
        (LINEAR, 102, "5 s"),  # to the nearest half
        (LINEAR, 106, "5.5 s"),
        (LINEAR, 400, "10 s"),  # no further than its end
        (LOG, 100, "10 A"),  # the middle of one to a hundred
        (STOPS, 90, "15 A"),  # only what is made
        (STOPS, 170, "40 A"),
    ],
)
def test_a_handle_writes_what_its_scale_and_stops_give(stage, more, x, text):
    page = stage(handle(more), "handles", "attachHandles")
    box = page.locator("svg").bounding_box()
    page.evaluate(
        """([x, y]) => {
            document.body.setPointerCapture = () => {};
            const at = (kind, x) => new PointerEvent(kind, { bubbles: true, cancelable: true, isPrimary: true, button: 0,
                                                            pointerId: 7, clientX: x, clientY: y });
            document.getElementById("h").dispatchEvent(at("pointerdown", x));
            document.body.dispatchEvent(at("pointermove", x));
            document.body.dispatchEvent(at("pointerup", x));
            document.body.dispatchEvent(at("pointermove", 0));  // released: it no longer follows
        }""",
        [box["x"] + x * box["width"] / 200, box["y"] + 50],
    )
    assert page.locator("#out").input_value() == text
    assert page.locator("#h").get_attribute("aria-valuetext") == text


@pytest.mark.parametrize(
    ("more", "keys", "text"),
    [
        (LINEAR, ["ArrowRight", "ArrowRight", "ArrowLeft"], "0.5 s"),
        (LINEAR, ["PageUp"], "5 s"),
        (STOPS, ["ArrowUp"], "15 A"),
        (STOPS, ["ArrowUp", "ArrowUp", "ArrowUp", "ArrowDown"], "15 A"),
    ],
)
def test_a_handle_moves_with_the_keys(stage, more, keys, text):
    page = stage(handle(more), "handles", "attachHandles")
    page.locator("#h").focus()
    for key in keys:
        page.keyboard.press(key)
    assert page.locator("#out").input_value() == text


def test_a_second_button_and_a_second_finger_move_nothing(stage):
    page = stage(handle(LINEAR), "handles", "attachHandles")
    page.evaluate(
        """() => {
            document.body.setPointerCapture = () => {};
            for (const more of [{ button: 2, isPrimary: true }, { button: 0, isPrimary: false }]) {
                const event = { bubbles: true, pointerId: 3, clientX: 90, clientY: 50, ...more };
                document.getElementById("h").dispatchEvent(new PointerEvent("pointerdown", event));
                document.body.dispatchEvent(new PointerEvent("pointermove", event));
            }
        }"""
    )
    assert page.locator("#out").input_value() == ""


def test_a_number_opens_what_hides_its_line(stage):
    html = """<a class="to-line" href="#line-plate-current">92 A</a>
              <details id="working"><summary>Working</summary><table><tr id="line-plate-current"><td>x</td></tr></table></details>
              <details id="other"><summary>Other</summary></details>"""
    page = stage(html, "lines", "attachLines")
    page.get_by_role("link", name="92 A").click()
    assert page.locator("#working").get_attribute("open") is not None
    assert page.locator("#other").get_attribute("open") is None


def test_a_page_asks_again_only_while_rows_are_being_planned(stage):
    """It is made anew from the answer, and rests when nothing waits."""
    page = stage("<main><p data-planning>2 circuits</p></main>", "pending", "attachPending")
    asked = []
    page.route("**/*", lambda route: (asked.append(1), route.fulfill(
        body="<main><p id='there'>all there</p></main>", content_type="text/html"))[1])  # fmt: skip
    page.locator("#there").wait_for()
    assert page.locator("[data-planning]").count() == 0
    assert len(asked) == 1


def test_a_page_that_waits_for_nothing_asks_nothing(stage):
    page = stage("<main><p>all there</p></main>", "pending", "attachPending")
    timers = page.evaluate(
        """() => { let asked = 0; const real = window.setTimeout; window.setTimeout = () => { asked += 1; };
                   window.loaded.attachPending(document); window.setTimeout = real; return asked; }"""
    )
    assert timers == 0


ROWS = """
<svg viewBox="0 0 200 100" width="200" height="100"><g role="slider" tabindex="0" id="h" data-field="out" data-row="1"
  data-unit="%" transform="translate(0 50)" data-axis="x" data-from="0" data-to="200" aria-valuemin="0"
  aria-valuemax="100" aria-valuenow="60" data-step="1"><text>60 %</text></g></svg>
<textarea id="out">{text}</textarea><p id="heard"></p>
"""


@pytest.mark.parametrize(
    ("text", "after"),
    [
        ("100 %; ; 1900\n60 %; 40 %; 3400", "100 %; ; 1900\n61 %; 40 %; 3400"),
        ("speed, load\n100, 80\n60, 40", "speed, load\n100, 80\n61 %, 40"),
        ("100\n\n60", "100\n\n61 %"),
    ],
)
def test_a_handle_writes_the_first_cell_of_its_row(stage, text, after):
    """Head and blank lines are no rows, as the reader has it."""
    page = stage(ROWS.format(text=text), "handles", "attachHandles")
    page.locator("#h").focus()
    page.keyboard.press("ArrowRight")
    assert page.locator("#out").input_value() == after


def test_a_pdf_says_that_it_is_written_until_it_has_come(stage):
    page = stage('<a href="#sheet.pdf">PDF</a><a href="#sheet">Sheet</a><p id="announce"></p>', "waits", "attachWaits")
    link = page.locator("a").first
    link.click()
    for place in (link, page.locator("#announce")):
        expect(place).to_have_text("Writing the PDF …")
    expect(link).to_have_attribute("aria-busy", "true")
    page.evaluate("window.dispatchEvent(new Event('pageshow'))")
    expect(link).to_have_text("PDF")
    page.get_by_text("Sheet").click()
    expect(page.get_by_text("Sheet")).to_be_visible()
