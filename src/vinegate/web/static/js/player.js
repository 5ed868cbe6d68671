// A running control circuit that goes on by itself: time passes on the server in short steps, each shown as it comes.
import { Idiomorph } from "../vendor/idiomorph-0.8.0.esm.js";

const TICK_MS = 500;

/** @param {Document} document */
export function attachPlayer(document) {
  let timer = 0;
  let busy = false;
  let held = "";
  let byPointer = false;

  const part = () => document.getElementById("run-part");
  const paces = () => /** @type {HTMLSelectElement | null} */ (document.querySelector("[data-pace]"));
  const player = () => document.querySelector("[data-play]");

  function reveal() {
    const found = player();
    found?.removeAttribute("hidden");
    found?.querySelector("[data-toggle]")?.setAttribute("aria-pressed", String(timer !== 0));
  }

  /**
   * The same run with so many seconds more.
   * @param {string} address
   * @param {number} seconds
   */
  function later(address, seconds) {
    const found = new URL(address, location.href);
    const words = (found.searchParams.get("run") ?? "").split(" ").filter(Boolean);
    const last = /^w([\d.]+)$/.exec(words.at(-1) ?? "");
    if (last) words.pop();
    words.push(`w${+(Number(last?.[1] ?? 0) + seconds).toFixed(3)}`);
    found.searchParams.set("run", words.join(" "));
    return found;
  }

  /** @param {string} address */
  async function go(address) {
    if (busy) return;
    busy = true;
    try {
      const answer = await fetch(address, { redirect: "error" });
      if (!answer.ok) throw new Error(String(answer.status));
      const fresh = new DOMParser().parseFromString(await answer.text(), "text/html").getElementById("run-part");
      const here = part();
      if (!fresh || !here) throw new Error("no run");
      const pace = paces()?.value;
      Idiomorph.morph(here, fresh.innerHTML, { morphStyle: "innerHTML", restoreFocus: true });
      history.replaceState(null, "", `${new URL(address, location.href).pathname}${new URL(address, location.href).search}`);
      const select = paces();
      if (select && pace) select.value = pace;
    } catch {
      stop(); // no answer, or signed out: a press of any button loads the page
    } finally {
      busy = false;
      reveal();
    }
  }

  /**
   * Once what is on its way has come.
   * @param {() => void} what
   */
  function after(what) {
    if (busy) setTimeout(() => after(what), 20);
    else what();
  }

  function stop() {
    clearInterval(timer);
    timer = 0;
    reveal();
  }

  function tick() {
    const pace = Number(paces()?.value ?? 1);
    const address = player()?.getAttribute("data-play");
    if (!address) stop();
    else if (!document.hidden) go(later(address, (pace * TICK_MS) / 1000).href);
  }

  document.addEventListener("click", (event) => {
    const target = /** @type {Element} */ (event.target);
    if (target.closest("[data-toggle]")) {
      if (timer) stop();
      else timer = window.setInterval(tick, TICK_MS);
      reveal();
      return;
    }
    const link = target.closest("#run-part .buttons-live a");
    if (!timer || !link || event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    if (byPointer) {
      byPointer = false; // it was held, and is let go by itself
      return;
    }
    after(() => go(/** @type {HTMLAnchorElement} */ (link).href));
  });
  // Held by pointer while time passes: a button springs back as it is let go.
  document.addEventListener("pointerdown", (event) => {
    const link = /** @type {Element} */ (event.target).closest("#run-part [data-hold]");
    if (!timer || !link || event.button !== 0 || held) return;
    held = link.getAttribute("data-hold") ?? "";
    byPointer = true;
    after(() => go(/** @type {HTMLAnchorElement} */ (link).href));
  });
  for (const ends of ["pointerup", "pointercancel"]) {
    document.addEventListener(ends, () => {
      if (!held) return;
      const tag = held;
      held = "";
      after(() => {
        const link = document.querySelector(`#run-part [data-free="${CSS.escape(tag)}"]`);
        if (link) go(/** @type {HTMLAnchorElement} */ (link).href);
      });
    });
  }
  document.addEventListener("live:shown", reveal);
  reveal();
}
