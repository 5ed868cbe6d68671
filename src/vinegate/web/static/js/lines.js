// A number leads to its line of working: what hides the line is opened before the browser goes there.

/** @param {Document} page */
export function attachLines(page) {
  page.addEventListener("click", (event) => {
    const link = event.target instanceof Element ? event.target.closest('a[href^="#line-"]') : null;
    if (link) open(page, link.getAttribute("href"));
  });
  open(page, location.hash);
}

/**
 * @param {Document} page
 * @param {string | null} hash
 */
function open(page, hash) {
  if (!hash?.startsWith("#line-")) return;
  const line = page.getElementById(decodeURIComponent(hash.slice(1)));
  const hidden = line?.closest("details:not([open])");
  if (!line || !hidden) return;
  hidden.setAttribute("open", "");
  line.scrollIntoView({ block: "center" });
}
