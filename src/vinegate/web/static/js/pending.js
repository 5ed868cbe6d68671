// A page whose rows are still being planned is asked for again until they are there. Computes nothing.
import { Idiomorph } from "../vendor/idiomorph-0.8.0.esm.js";
import { typedIn } from "./typed.js";

const AGAIN_MS = 1000;

/** @param {Document} page */
export function attachPending(page) {
  const waits = () => page.querySelector("[data-planning]");
  if (!waits()) return;

  async function again() {
    try {
      const answer = await fetch(location.href, { redirect: "error" });
      if (answer.ok) show(new DOMParser().parseFromString(await answer.text(), "text/html"));
    } catch {
      // no answer now: it is asked again
    }
    if (waits()) setTimeout(again, AGAIN_MS);
  }

  /** @param {Document} fresh */
  function show(fresh) {
    const [now, then] = [page.querySelector("main"), fresh.querySelector("main")];
    if (now && then) Idiomorph.morph(now, then.innerHTML, { morphStyle: "innerHTML", ignoreActiveValue: typedIn(), restoreFocus: true });
  }

  setTimeout(again, AGAIN_MS);
}
