// A PDF is written while one waits: its link says so until it has come.

const LONGEST_MS = 30_000;

/** @param {ParentNode} root */
export function attachWaits(root) {
  for (const link of root.querySelectorAll('a[href*=".pdf"]')) {
    if (!(link instanceof HTMLElement)) continue;
    const said = link.textContent;
    const come = () => {
      link.textContent = said;
      link.removeAttribute("aria-busy");
    };
    link.addEventListener("click", () => {
      link.textContent = "Writing the PDF …";
      link.setAttribute("aria-busy", "true");
      const place = document.getElementById("announce");
      if (place) place.textContent = link.textContent;
      setTimeout(come, LONGEST_MS);
    });
    window.addEventListener("pageshow", come);
    window.addEventListener("blur", come); // a viewer of its own has taken over
  }
}
