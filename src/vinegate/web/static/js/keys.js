// The keyboard: every action has a key, shown on "?". Single letters can be switched off (they are off in fields anyway).
const OFF = "vinegate-keys-off";

/** @param {Document} page */
export function attachKeys(page) {
  const help = /** @type {HTMLDialogElement} */ (page.getElementById("help"));
  const on = /** @type {HTMLInputElement} */ (page.getElementById("keys-on"));
  on.checked = !remembered();
  on.addEventListener("change", () => remember(!on.checked));

  page.addEventListener("keydown", (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey || help.open) return;
    if (event.key === "Escape") return backToLine(page, event);
    if (typing(event.target)) return;
    if (event.key === "ArrowUp" || event.key === "ArrowDown") return walk(page, event);
    if (!on.checked && event.key.length === 1) return;
    if (event.key === "?") { event.preventDefault(); help.showModal(); return; }
    if (event.key === "f") return toFirstField(page, event);
    if (event.key === "e") return toFirstEmpty(page, event);
    if (event.key >= "1" && event.key <= "9") return toStation(page, event);
    const target = event.key.length === 1 ? page.querySelector(`[data-key="${CSS.escape(event.key)}"]`) : null;
    if (target instanceof HTMLElement) press(target, event);
  });
}

// A browser may refuse storage: then the choice holds for this page alone.
function remembered() {
  try {
    return localStorage.getItem(OFF) !== null;
  } catch {
    return false;
  }
}

/** @param {boolean} off */
function remember(off) {
  try {
    if (off) localStorage.setItem(OFF, "1");
    else localStorage.removeItem(OFF);
  } catch {
    // not kept
  }
}

/** @param {EventTarget | null} target */
function typing(target) {
  return target instanceof HTMLElement && target.matches("input:not([type=checkbox]), select, textarea");
}

/** @param {HTMLElement} target @param {KeyboardEvent} event */
function press(target, event) {
  event.preventDefault();
  if (target instanceof HTMLDetailsElement) {
    target.open = !target.open;
    if (target.open) target.scrollIntoView({ block: "nearest" });
  } else if (target.matches("input")) {
    target.focus();
  } else {
    target.click();
  }
}

/** @param {Document} page @param {KeyboardEvent} event */
function toFirstField(page, event) {
  const field = /** @type {HTMLElement | null} */ (page.querySelector("#facts input:not([type=hidden]), #facts select"));
  if (field) { event.preventDefault(); field.focus(); }
}

// Of the fields that the sheet says it lacks the first; else the first that is empty.
/** @param {Document} page @param {KeyboardEvent} event */
function toFirstEmpty(page, event) {
  const lacking = [...page.querySelectorAll("[data-lacks]")].map((link) => page.getElementById(link.getAttribute("data-lacks") ?? ""));
  const every = page.querySelectorAll("#facts input:not([type=hidden], [type=checkbox], [type=file]), #facts select");
  const fields = /** @type {(HTMLInputElement | null)[]} */ ([...lacking, ...every]);
  const field = fields.find((one) => one && !one.value && one.offsetParent !== null);
  if (field) { event.preventDefault(); field.focus(); }
}

/** @param {Document} page @param {KeyboardEvent} event */
function toStation(page, event) {
  /** @type {NodeListOf<HTMLElement>} */
  const stops = page.querySelectorAll("#line a.station");
  const stop = stops[Number(event.key) - 1];
  if (stop) press(stop, event);
}

/** @param {Document} page @param {KeyboardEvent} event */
function backToLine(page, event) {
  const here = /** @type {HTMLElement | null} */ (page.querySelector("#line .here"));
  if (here) { event.preventDefault(); here.focus(); }
}

// Up and down move along the stations; the sheet follows on Enter, as links do.
/** @param {Document} page @param {KeyboardEvent} event */
function walk(page, event) {
  const stops = /** @type {(Element | null)[]} */ ([...page.querySelectorAll("#line a.station")]);
  const place = stops.indexOf(page.activeElement);
  if (place < 0) return;
  event.preventDefault();
  const next = stops[place + (event.key === "ArrowDown" ? 1 : -1)];
  if (next instanceof HTMLElement) next.focus();
}
