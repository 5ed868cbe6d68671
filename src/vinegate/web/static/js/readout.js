// Reads a chart under the pointer, or with the arrow keys, from points the server sent. Computes nothing.

/** @param {Document | HTMLElement} root */
export function attachReadouts(root) {
  root.addEventListener("pointermove", (event) => {
    const figure = event.target.closest?.("[data-readout]");
    if (!figure) return;
    const box = figure.querySelector("svg").getBoundingClientRect();
    const view = figure.querySelector("svg").viewBox.baseVal.width;
    show(figure, nearest(figure, ((event.clientX - box.left) / box.width) * view));
  });
  root.addEventListener("keydown", (event) => {
    const figure = event.target.closest?.("[data-readout]");
    if (!figure || (event.key !== "ArrowLeft" && event.key !== "ArrowRight")) return;
    event.preventDefault();
    const count = JSON.parse(figure.dataset.readout).length;
    const step = event.key === "ArrowRight" ? 1 : -1;
    show(figure, Math.min(count - 1, Math.max(0, Number(figure.dataset.at ?? 0) + step)));
  });
}

// The drawn curve has one vertex a point, so the nearest vertex is the nearest point.
function nearest(figure, x) {
  const vertices = figure.querySelector(".curve").getAttribute("d").slice(1).split("L");
  let best = 0;
  vertices.forEach((vertex, index) => {
    const here = Math.abs(Number(vertex.split(" ")[0]) - x);
    if (here < Math.abs(Number(vertices[best].split(" ")[0]) - x)) best = index;
  });
  return best;
}

function show(figure, index) {
  figure.dataset.at = String(index);
  const [speed, torque, current, factor] = JSON.parse(figure.dataset.readout)[index];
  figure.querySelector(".readout").textContent =
    `${speed} ${figure.dataset.unit}: torque ${torque} %, ${current} A, power factor ${factor}`;
}
