"""Every screen of the application, and what must hold of each."""

from collections.abc import Callable

from axe_playwright_python.base import AxeResults
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, Route

from tests.examples import nightly

AXE = Axe().axe_script

STATIONS = [
    "supply",
    "protection",
    "start",
    "drive",
    "starter",
    "overload",
    "wiring",
    "plate",
    "machine",
    "stop",
    "place",
    "load",
]
TAGS = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]
CONTRAST = {"color-contrast": "[data-look]", "link-in-text-block": "a[href][data-look]"}
"""What hangs on colours alone: they are the same at every width, and the page's parts the same in every theme."""
IN_TWO_OF_EACH = [{"id": rule, "selector": where} for rule, where in CONTRAST.items()]

# A change of theme or width fades in: colours are looked at when it has. What fades is ended, as waiting costs a third.
SETTLED = """async () => {
  await document.fonts.ready;
  for (const one of document.getAnimations()) {
    if (one.effect.getComputedTiming().endTime < Infinity) one.finish();
  }
}"""

# Contrast is looked at in two texts of each look: colours, size, weight and ground. A thousand cells of a table have one.
TWO_OF_EACH = """() => {
  const ground = (one) => {
    const under = [];
    for (let at = one; at; at = at.parentElement) {
      const { opacity, backgroundImage: image, backgroundColor: colour } = getComputedStyle(at);
      under.push(opacity, image, colour);
      if (colour.startsWith("rgb(")) break;
    }
    return under;
  };
  const seen = new Map();
  for (const one of document.querySelectorAll("[data-look]")) one.removeAttribute("data-look");
  for (const one of document.body.querySelectorAll("*")) {
    const says = [...one.childNodes].some((node) => node.nodeType === Node.TEXT_NODE && node.data.trim());
    if (!(says || one.matches("input, select, textarea, a")) || !one.checkVisibility()) continue;
    const { color, fill, fontSize, fontWeight } = getComputedStyle(one);
    const look = [one.localName, color, fill, fontSize, fontWeight, ...ground(one)].join();
    seen.set(look, (seen.get(look) ?? 0) + 1);
    if (seen.get(look) <= 2) one.setAttribute("data-look", "");
  }
}"""

# What is cut: options that would be once they are chosen, wider than their field less its arrow; what was typed; names on
# the line; words of a drawing.
CUT = """() => {
  const brush = document.createElement("canvas").getContext("2d");
  const cut = [];
  for (const one of document.querySelectorAll(".fact select")) {
    if (!one.checkVisibility()) continue;
    const { fontWeight, fontSize, fontFamily } = getComputedStyle(one);
    brush.font = `${fontWeight} ${fontSize} ${fontFamily}`;
    const room = one.clientWidth - 16;
    for (const { text } of one.options) if (brush.measureText(text).width > room) cut.push(`${one.id}: ${text}`);
  }
  for (const one of document.querySelectorAll(".fact input:not([type='hidden']), .station .name")) {
    const [wide, tall] = [one.scrollWidth - one.clientWidth, one.scrollHeight - one.clientHeight];
    if (one.checkVisibility() && (wide > 1 || tall > 4)) cut.push(one.value ?? one.textContent);
  }
  for (const one of document.querySelectorAll("svg text")) if (one.textContent.endsWith("…")) cut.push(one.textContent);
  return cut;
}"""


def check(page, *, colours=True, parts=True):
    """Axe finds nothing, and the page is no wider than its window. Its colours or its parts may have been looked at."""
    page.evaluate(SETTLED)
    if not page.evaluate("'axe' in window"):
        page.evaluate(AXE)
    if colours:
        page.evaluate(TWO_OF_EACH)
        page.evaluate("rules => axe.configure({ rules })", IN_TWO_OF_EACH)
    only = {"type": "tag", "values": TAGS} if parts else {"type": "rule", "values": list(CONTRAST)}
    left_out = {} if colours else {rule: {"enabled": False} for rule in CONTRAST}
    options = {"resultTypes": ["violations"], "runOnly": only, "rules": left_out}
    found = AxeResults(page.evaluate("options => axe.run(document, options)", options))
    assert found.violations_count == 0, found.generate_report()
    no_wider(page)


def no_wider(page):
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth"), "the page is wider than the window"


def screens(address, circuit):
    """Where each is."""
    job = circuit.rsplit("/", 1)[0]
    return [
        f"{address}/",
        job,
        f"{job}/members",
        f"{job}/restart",
        f"{job}/protection",
        f"{job}/areas?gained=hydrogen",
        f"{circuit}/rules",
        f"{job}/record/",
        f"{circuit}/record",
        f"{circuit}/record/captures",
        f"{circuit}/record/measure/record_running",
        f"{circuit}/record/report",
        f"{circuit}/replacement",
        f"{circuit}/card",
        f"{circuit}/print",
        f"{address}/quick/?plate.power=75+hp&plate.volts=460&plate.full_load_current=92&supply.volts=480",
        f"{address}/quick/plug?inertia=4.2&speed=1185&torque=600",
        f"{address}/patterns",
        f"{address}/nowhere",
        f"{address}/codes?q=256TCZ",
        *(f"{circuit}/{station}" for station in STATIONS),
    ]


def look_at_each(page, places):
    """Open each with all its parts unfolded, and check it; in turn its colours in the dark, and its parts on a phone."""
    for at, place in enumerate(places):
        page.emulate_media(color_scheme="light")
        page.set_viewport_size({"width": 1280, "height": 800})
        page.goto(place)
        page.evaluate("document.querySelectorAll('details').forEach(part => { part.open = true; })")
        check(page)
        assert page.evaluate(CUT) == []
        if nightly() or at % 2:
            page.emulate_media(color_scheme="dark")
            check(page, parts=False)
            page.emulate_media(color_scheme="light")
        page.set_viewport_size({"width": 390, "height": 800})
        if nightly() or not at % 2:
            check(page, colours=False)
        no_wider(page)


def open_ahead_of(page: Page, script: str, address: str) -> Callable[[], None]:
    """Opens a page whose script is still on its way; what is returned lets it come."""
    held: list[Route] = []

    def hold(route: Route) -> None:
        held.append(route)

    page.route(script, hold)
    with page.expect_request(script):
        page.goto(address, wait_until="commit")

    def let_come() -> None:
        held[0].continue_()

    return let_come
