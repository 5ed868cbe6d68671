// Settings drawn on a chart: drag a pill, or move it with the arrow keys. It writes the form field it stands for, and
// the server answers with the new drawing. From place to value is a straight line the server gave; nothing is computed.

const PAGE = 10;

/** @param {Document} page */
export function attachHandles(page) {
  let held = null;

  page.addEventListener("pointerdown", (event) => {
    const handle = event.target.closest?.('[role="slider"]');
    if (!handle) return;
    event.preventDefault();
    handle.focus();
    held = { id: handle.id, drawing: handle.ownerSVGElement };
    page.body.classList.add("dragging");
  });

  page.addEventListener("pointermove", (event) => {
    if (!held) return;
    const handle = page.getElementById(held.id);
    if (!handle) return;
    const box = handle.ownerSVGElement.getBoundingClientRect();
    const view = handle.ownerSVGElement.viewBox.baseVal;
    const along = handle.dataset.axis === "x"
      ? ((event.clientX - box.left) / box.width) * view.width
      : ((event.clientY - box.top) / box.height) * view.height;
    const [from, to] = [Number(handle.dataset.from), Number(handle.dataset.to)];
    const share = Math.min(1, Math.max(0, (along - from) / (to - from)));
    const low = Number(handle.getAttribute("aria-valuemin"));
    const high = Number(handle.getAttribute("aria-valuemax"));
    write(handle, low + share * (high - low));
  });

  page.addEventListener("pointerup", () => {
    held = null;
    page.body.classList.remove("dragging");
  });

  page.addEventListener("keydown", (event) => {
    const handle = event.target.closest?.('[role="slider"]');
    if (!handle) return;
    const step = Number(handle.dataset.step);
    const moves = { ArrowRight: step, ArrowUp: step, ArrowLeft: -step, ArrowDown: -step, PageUp: PAGE * step, PageDown: -PAGE * step };
    if (!(event.key in moves)) return;
    event.preventDefault();
    event.stopPropagation();
    write(handle, Number(handle.getAttribute("aria-valuenow")) + moves[event.key]);
  });

  function write(handle, wanted) {
    const field = page.getElementById(handle.dataset.field);
    if (!field) return;
    const step = Number(handle.dataset.step);
    const low = Number(handle.getAttribute("aria-valuemin"));
    const high = Number(handle.getAttribute("aria-valuemax"));
    const value = Math.min(high, Math.max(low, Math.round(wanted / step) * step));
    const text = String(Number(value.toFixed(3)));
    const unit = handle.dataset.unit;
    const shown = unit ? `${text} ${unit}` : text;
    if (field.value === shown) return;
    field.value = shown;
    handle.setAttribute("aria-valuenow", text);
    handle.querySelector("text").textContent = shown;
    const [from, to] = [Number(handle.dataset.from), Number(handle.dataset.to)];
    const along = from + ((value - low) / (high - low || 1)) * (to - from);
    const place = handle.transform.baseVal.getItem(0).matrix;
    const [x, y] = handle.dataset.axis === "x" ? [along, place.f] : [place.e, along];
    handle.setAttribute("transform", `translate(${x} ${y})`);
    field.dispatchEvent(new Event("input", { bubbles: true }));
  }
}
