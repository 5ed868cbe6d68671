// Settings drawn on a chart: drag a pill, or move it with the arrow keys. It writes the form field it stands for, and
// the server answers with the new drawing. From place to value is the straight or logarithmic scale the server gave;
// where it lists stops, only those are taken.

const PAGE = 10;

/** @typedef {SVGGElement & { ownerSVGElement: SVGSVGElement }} Handle */

/** @param {Document} page */
export function attachHandles(page) {
  /** @type {{ id: string, pointer: number } | null} */
  let held = null;

  page.addEventListener("pointerdown", (event) => {
    const handle = handleOf(event);
    if (!handle || held || !event.isPrimary || event.button !== 0) return;
    event.preventDefault();
    handle.focus();
    held = { id: handle.id, pointer: event.pointerId };
    // The page's body holds the pointer: the drawing is replaced while it is dragged.
    page.body.setPointerCapture(event.pointerId);
    page.body.classList.add("dragging");
  });

  page.addEventListener("pointermove", (event) => {
    if (held?.pointer !== event.pointerId) return;
    const handle = byId(held.id);
    if (!handle) return;
    const box = handle.ownerSVGElement.getBoundingClientRect();
    const view = handle.ownerSVGElement.viewBox.baseVal;
    const along = handle.dataset.axis === "x"
      ? ((event.clientX - box.left) / box.width) * view.width
      : ((event.clientY - box.top) / box.height) * view.height;
    const [from, to] = [Number(handle.dataset.from), Number(handle.dataset.to)];
    const share = Math.min(1, Math.max(0, (along - from) / (to - from)));
    write(handle, valueAt(handle, share));
  });

  for (const end of /** @type {const} */ (["pointerup", "pointercancel", "lostpointercapture"])) {
    page.addEventListener(end, (event) => {
      if (held?.pointer !== event.pointerId) return;
      held = null;
      page.body.classList.remove("dragging");
    });
  }

  page.addEventListener("keydown", (event) => {
    const handle = handleOf(event);
    if (!handle) return;
    const step = Number(handle.dataset.step);
    /** @type {Record<string, number>} */
    const moves = { ArrowRight: step, ArrowUp: step, ArrowLeft: -step, ArrowDown: -step, PageUp: PAGE * step, PageDown: -PAGE * step };
    if (!(event.key in moves)) return;
    event.preventDefault();
    event.stopPropagation();
    const now = Number(handle.getAttribute("aria-valuenow"));
    const stops = stopsOf(handle);
    if (stops.length) {
      const up = stops.find((stop) => stop > now) ?? now;
      const down = stops.filter((stop) => stop < now).at(-1) ?? now;
      write(handle, moves[event.key] > 0 ? up : down);
      return;
    }
    write(handle, now + moves[event.key]);
  });

  /** @param {Event} event */
  const handleOf = (event) =>
    /** @type {Handle | null} */ (event.target instanceof Element ? event.target.closest('[role="slider"]') : null);
  /** @param {string} id */
  const byId = (id) => /** @type {Handle | null} */ (/** @type {Element | null} */ (page.getElementById(id)));
  /** @param {Handle} handle */
  const limits = (handle) => [Number(handle.getAttribute("aria-valuemin")), Number(handle.getAttribute("aria-valuemax"))];
  /** @param {Handle} handle */
  const stopsOf = (handle) => (handle.dataset.stops ?? "").split(" ").filter(Boolean).map(Number);

  /** @param {Handle} handle @param {number} share */
  function valueAt(handle, share) {
    const [low, high] = limits(handle);
    return handle.dataset.scale === "log" ? low * (high / low) ** share : low + share * (high - low);
  }

  /** @param {Handle} handle @param {number} value */
  function shareAt(handle, value) {
    const [low, high] = limits(handle);
    if (high === low) return 0;
    return handle.dataset.scale === "log" ? Math.log(value / low) / Math.log(high / low) : (value - low) / (high - low);
  }

  /** @param {Handle} handle @param {number} wanted */
  function allowed(handle, wanted) {
    const [low, high] = limits(handle);
    const stops = stopsOf(handle);
    if (stops.length) {
      /** @param {number} stop */
      const away = (stop) => Math.abs(shareAt(handle, stop) - shareAt(handle, Math.max(wanted, low / 10)));
      return stops.reduce((best, stop) => (away(stop) < away(best) ? stop : best));
    }
    const step = Number(handle.dataset.step);
    return Math.min(high, Math.max(low, Math.round(wanted / step) * step));
  }

  // Of a field of many rows the first cell of one: rows are counted as the server does, blank ones and the head left out.
  /** @param {string} text @param {number} row @param {string} shown */
  function withRow(text, row, shown) {
    const lines = text.split("\n");
    let count = -1;
    for (const [at, line] of lines.entries()) {
      const head = count < 0 && !/^\s*[-+−\d.]/.test(line);
      if (!line.trim() || head) continue;
      count += 1;
      if (count !== row) continue;
      lines[at] = shown + line.replace(/^[^;\t,]*/, "");
    }
    return lines.join("\n");
  }

  /** @param {Handle} handle @param {number} wanted */
  function write(handle, wanted) {
    const field = /** @type {HTMLInputElement | null} */ (page.getElementById(handle.dataset.field ?? ""));
    if (!field) return;
    const value = allowed(handle, wanted);
    const text = String(Number(value.toFixed(3)));
    const unit = handle.dataset.unit;
    const shown = unit ? `${text} ${unit}` : text;
    const whole = handle.dataset.row === undefined ? shown : withRow(field.value, Number(handle.dataset.row), shown);
    if (field.value === whole) return;
    field.value = whole;
    handle.setAttribute("aria-valuenow", text);
    handle.setAttribute("aria-valuetext", shown);
    const label = handle.querySelector("text");
    if (label) label.textContent = shown;
    const [from, to] = [Number(handle.dataset.from), Number(handle.dataset.to)];
    const along = from + shareAt(handle, value) * (to - from);
    const place = handle.transform.baseVal.getItem(0).matrix;
    const [x, y] = handle.dataset.axis === "x" ? [along, place.f] : [place.e, along];
    handle.setAttribute("transform", `translate(${x} ${y})`);
    field.dispatchEvent(new Event("input", { bubbles: true }));
  }
}
