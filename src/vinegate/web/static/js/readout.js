// Reads a chart under the pointer, or with the arrow keys, from points the server sent. Computes nothing.

/** @param {Document} root */
export function attachReadouts(root) {
  root.addEventListener("pointermove", (event) => {
    const figure = figureOf(event);
    const drawing = figure?.querySelector("svg");
    if (!figure || !drawing) return;
    const box = drawing.getBoundingClientRect();
    const view = drawing.viewBox.baseVal.width;
    show(figure, nearest(figure, ((event.clientX - box.left) / box.width) * view));
  });
  root.addEventListener("keydown", (event) => {
    const figure = figureOf(event);
    if (!figure || (event.key !== "ArrowLeft" && event.key !== "ArrowRight")) return;
    event.preventDefault();
    const count = JSON.parse(figure.dataset.readout ?? "[]").length;
    const step = event.key === "ArrowRight" ? 1 : -1;
    show(figure, Math.min(count - 1, Math.max(0, Number(figure.dataset.at ?? 0) + step)));
  });
}

/** @param {Event} event */
function figureOf(event) {
  return /** @type {HTMLElement | null} */ (event.target instanceof Element ? event.target.closest("[data-readout]") : null);
}

// The drawn curve has one vertex a point, so the nearest vertex is the nearest point.
/** @param {HTMLElement} figure @param {number} x */
function nearest(figure, x) {
  const vertices = (figure.querySelector(".curve")?.getAttribute("d") ?? "").slice(1).split("L");
  let best = 0;
  vertices.forEach((vertex, index) => {
    const here = Math.abs(Number(vertex.split(" ")[0]) - x);
    if (here < Math.abs(Number(vertices[best].split(" ")[0]) - x)) best = index;
  });
  return best;
}

/** @param {HTMLElement} figure @param {number} index */
function show(figure, index) {
  figure.dataset.at = String(index);
  const [speed, torque, current, factor] = JSON.parse(figure.dataset.readout ?? "[]")[index];
  const place = figure.querySelector(".readout");
  if (place) place.textContent = `${speed} ${figure.dataset.unit}: torque ${torque} %, ${current} A, power factor ${factor}`;
}
