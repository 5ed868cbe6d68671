// The quick page answers as one types: the same address is asked for, and its answer put in. Computes nothing.
import { typedAhead } from "./typed.js";

const PAUSE_MS = 90;

/** @param {Document} page */
export function attachQuick(page) {
  const found = /** @type {HTMLFormElement | null} */ (page.querySelector("form[data-quick]"));
  if (!found) return;
  const form = found;
  let timer = 0;
  let asked = 0;

  form.addEventListener("input", soon);
  if (typedAhead(form)) soon();

  function soon() {
    clearTimeout(timer);
    timer = window.setTimeout(answer, PAUSE_MS);
  }

  async function answer() {
    const mine = ++asked;
    const place = new URL(location.href);
    const facts = new FormData(form);
    facts.delete("pasted"); // read when that is asked for
    place.search = new URLSearchParams(/** @type {any} */ (facts)).toString();
    try {
      const got = await fetch(place, { redirect: "error" });
      const fresh = new DOMParser().parseFromString(await got.text(), "text/html");
      if (mine !== asked || !got.ok) return;
      const [shown, newest] = [page.getElementById("quick-answer"), fresh.getElementById("quick-answer")];
      if (shown && newest) shown.replaceWith(newest);
      for (const said of form.querySelectorAll(".about, .echo")) {
        said.innerHTML = fresh.getElementById(said.id)?.innerHTML ?? "";
        said.closest(".fact")?.classList.toggle("wrong", Boolean(said.closest(".fact")?.querySelector(".error")));
      }
      history.replaceState(null, "", place);
    } catch {
      // no answer now: what is typed stays, and the next letter asks again
    }
  }
}
