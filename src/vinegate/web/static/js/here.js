// Says every few seconds that a circuit is looked at; shows who else is, and fetches what they have saved.
const AGAIN_MS = 4000;

/**
 * @param {HTMLElement} root the live part; its `data-here` is where to ask
 * @param {() => void} latest fetches what others have saved
 */
export function attachHere(root, latest) {
  const address = root.dataset.here ?? "";
  const place = document.getElementById("here");
  let timer = 0;

  /** @param {boolean} left */
  function words(left) {
    const body = new FormData();
    for (const name of ["csrf_token", "page", "seen"]) {
      const field = /** @type {HTMLInputElement | null} */ (root.querySelector(`#facts [name="${name}"]`));
      body.set(name, field?.value ?? "");
    }
    if (left) body.set("left", "1");
    return body;
  }

  async function ask() {
    clearTimeout(timer);
    if (document.hidden) return; // asked again when it is looked at
    try {
      const answer = await fetch(address, { method: "POST", body: words(false), redirect: "error" });
      if (answer.ok) show(await answer.json());
    } catch {
      // no answer now, or signed out: the next save says so
    }
    timer = window.setTimeout(ask, AGAIN_MS);
  }

  /** @param {{ others: string[], behind: boolean }} answer */
  function show(answer) {
    const text = answer.others.length ? `Also here: ${answer.others.join(", ")}` : "";
    if (place && place.textContent !== text) place.textContent = text;
    if (answer.behind) latest();
  }

  document.addEventListener("visibilitychange", ask);
  window.addEventListener("pagehide", () => navigator.sendBeacon(address, words(true)));
  window.addEventListener("pageshow", (event) => { if (event.persisted) ask(); });
  ask();
}
