// Chips on a sketch of areas: drag one into another area, or move it with the arrow keys. It writes the form field it
// stands for, and the server answers with the new sketch.

/** @typedef {SVGGElement & { ownerSVGElement: SVGSVGElement }} Chip */

/** @param {Document} page */
export function attachAreas(page) {
  /** @type {{ chip: Chip, from: [number, number], at: [number, number] } | null} */
  let held = null;

  page.addEventListener("pointerdown", (event) => {
    const chip = chipOf(event);
    if (!chip || !fieldOf(chip)) return;
    event.preventDefault();
    chip.focus();
    const { e, f } = chip.transform.baseVal.getItem(0).matrix;
    held = { chip, from: [event.clientX, event.clientY], at: [e, f] };
    page.body.classList.add("dragging");
  });

  page.addEventListener("pointermove", (event) => {
    if (!held) return;
    const drawing = held.chip.ownerSVGElement;
    const scale = drawing.viewBox.baseVal.width / drawing.getBoundingClientRect().width;
    const x = held.at[0] + (event.clientX - held.from[0]) * scale;
    const y = held.at[1] + (event.clientY - held.from[1]) * scale;
    held.chip.setAttribute("transform", `translate(${x} ${y})`);
  });

  page.addEventListener("pointerup", (event) => {
    if (!held) return;
    const { chip, at } = held;
    held = null;
    page.body.classList.remove("dragging");
    const region = regionsOf(chip).find((one) => inside(one.getBoundingClientRect(), event));
    if (region && region.dataset.region !== chip.dataset.area) move(chip, region.dataset.region);
    else chip.setAttribute("transform", `translate(${at[0]} ${at[1]})`);
  });

  page.addEventListener("pointercancel", () => {
    if (held) held.chip.setAttribute("transform", `translate(${held.at[0]} ${held.at[1]})`);
    held = null;
    page.body.classList.remove("dragging");
  });

  page.addEventListener("keydown", (event) => {
    const chip = chipOf(event);
    const step = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    if (!chip || !step || !fieldOf(chip)) return;
    event.preventDefault();
    event.stopPropagation();
    const keys = regionsOf(chip).map((one) => one.dataset.region);
    const next = keys.indexOf(chip.dataset.area) + step;
    if (next >= 0 && next < keys.length) move(chip, keys[next]);
  });

  /** @param {Event} event */
  const chipOf = (event) =>
    /** @type {Chip | null} */ (event.target instanceof Element ? event.target.closest("[data-chip]") : null);
  /** @param {Chip} chip */
  const fieldOf = (chip) => {
    const field = /** @type {HTMLSelectElement | null} */ (page.getElementById(chip.dataset.chip ?? ""));
    return field && !field.disabled ? field : null;
  };
  /** @param {Chip} chip */
  const regionsOf = (chip) =>
    /** @type {SVGElement[]} */ ([...chip.ownerSVGElement.querySelectorAll("[data-region]")]);
  /** @param {DOMRect} box @param {PointerEvent} event */
  const inside = (box, { clientX: x, clientY: y }) => x >= box.left && x <= box.right && y >= box.top && y <= box.bottom;

  /** @param {Chip} chip @param {string | undefined} key */
  function move(chip, key) {
    const field = fieldOf(chip);
    if (!field || key === undefined) return;
    field.value = key;
    chip.dataset.area = key;
    field.dispatchEvent(new Event("change", { bubbles: true }));
  }
}
