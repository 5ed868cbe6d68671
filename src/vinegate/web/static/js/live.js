// Sends a sheet's facts as they change and swaps in what the server rendered. Computes nothing.
import { Idiomorph } from "../vendor/idiomorph-0.8.0.esm.js";
import { renewed, signInHere } from "./signin.js";
import { keptInSight, typedAhead, typedIn, typedOutside } from "./typed.js";

const PAUSE_MS = 90;
const RETRY_MS = [1000, 2000, 5000, 10000];

/** @typedef {[string, string] | Element | null | undefined} Pressed a button: its name and value, or itself */

/**
 * One send at a time, so that saves arrive in the order they were typed. What is typed meanwhile makes the answer
 * stale: it is not shown, and the newest state is sent next.
 * @param {HTMLElement} root the element whose content the server renders
 * @returns {() => void} asks for what others have saved meanwhile
 */
export function attachLive(root) {
  let timer = 0;
  let sending = false;
  let dirty = false;
  let failures = 0;
  /** @type {Pressed} */
  let queued = null; // a button pressed while a save was under way
  /** @type {[HTMLFormElement, HTMLElement | null] | null} */
  let held = null; // another form, as that which issues: sent once what was typed is kept and shown
  let sent = 0; // each save has a number of its own, also when its answer is lost
  let kept = ""; // the form as the server has it and shows it; empty where that is not certain
  let flying = ""; // the form as it was sent last: leaving a field says "change" of what is on its way already

  const form = () => /** @type {HTMLFormElement} */ (root.querySelector("#facts"));
  const address = () => form().getAttribute("action") ?? "";
  /** @param {string} name */
  const field = (name) => /** @type {HTMLInputElement} */ (form().elements.namedItem(name));
  /** @param {string} text */
  const announce = (text) => {
    const place = document.getElementById("announce");
    if (place) place.textContent = text;
  };

  const number = () => {
    const count = field("sequence");
    sent = Math.max(sent, Number(count.value)) + 1;
    count.value = String(sent);
  };
  const content = () => JSON.stringify([...new FormData(form())].filter(([name]) => name !== "sequence"));

  /** @param {number} delay */
  function schedule(delay) {
    dirty = true;
    root.setAttribute("data-unsent", "");
    clearTimeout(timer);
    timer = window.setTimeout(() => {
      const next = queued;
      queued = null;
      send(next);
    }, delay);
  }

  /** @param {Pressed} submitter */
  async function send(submitter) {
    clearTimeout(timer);
    if (!form()) return;
    /** @type {Pressed} */
    const pressed = submitter instanceof HTMLButtonElement && submitter.name ? [submitter.name, submitter.value] : submitter;
    if (sending) {
      queued = pressed ?? queued;
      dirty = true;
      return;
    }
    if (!pressed && kept === content()) { // leaving a field whose text is kept already
      dirty = false;
      root.removeAttribute("data-unsent");
      release();
      return;
    }
    kept = "";
    number();
    flying = content();
    const body = new FormData(form());
    if (Array.isArray(pressed)) body.append(pressed[0], pressed[1]);
    sending = true;
    dirty = false;
    try {
      const answer = await fetch(address(), { method: "POST", body, headers: { "X-Live": "1" }, redirect: "manual" });
      if (answer.type === "opaqueredirect" || answer.status === 400 || answer.status === 401) {
        lost("You are signed out. What you typed is still here.");
        signedOut(pressed);
        return;
      }
      if (!answer.ok && answer.status !== 409) throw new Error(String(answer.status));
      const html = await answer.text();
      failures = 0;
      root.classList.remove("unsaved");
      dirty = dirty && (queued !== null || content() !== flying);
      if (dirty) {
        carryOver(html, body);
      } else {
        show(html);
        if (answer.ok) kept = content();
        else held = null; // a question first: another was there before
      }
    } catch {
      const wait = RETRY_MS[Math.min(failures, RETRY_MS.length - 1)];
      failures += 1;
      lost("Not kept yet: the server does not answer. Trying again.");
      queued = pressed ?? queued;
      schedule(wait);
    } finally {
      sending = false;
    }
    if (failures === 0 && queued) {
      const next = queued;
      queued = null;
      send(next);
      return;
    }
    if (dirty && failures === 0) schedule(0);
    root.toggleAttribute("data-unsent", dirty);
    if (!dirty && failures === 0) release();
  }

  function release() {
    const waits = held;
    held = null;
    if (waits?.[0].isConnected) waits[0].requestSubmit(waits[1]?.isConnected ? waits[1] : undefined);
  }

  // With a token that holds again it is sent once more: renewed by itself where another tab has signed in, else asked for.
  /** @param {Pressed} pressed */
  async function signedOut(pressed) {
    if (!(await renewed()) && !(await signInHere())) return;
    queued = pressed ?? queued;
    schedule(0);
  }

  /** @param {string} text */
  function lost(text) {
    root.classList.add("unsaved");
    const kept = root.querySelector("#kept");
    if (kept) kept.textContent = text;
    announce(text);
  }

  // The numbers are already stale, but the next save must count on from this one: what was taken as sent is now what
  // stands there. A field that another has changed keeps what its reader has seen, so that it stays contested.
  /** @param {string} html @param {FormData} body */
  function carryOver(html, body) {
    const fresh = parse(html);
    /** @type {NodeListOf<HTMLInputElement>} */
    const given = fresh.querySelectorAll('#facts [name="seen"], #facts [name^="was:"]');
    for (const from of given) {
      const to = field(from.name);
      if (from.name === "seen") {
        to.value = from.value;
        continue;
      }
      const mine = body.get(from.name.replace("was:", "f:"));
      if (to && typeof mine === "string" && mine.trim() === from.value) to.value = from.value;
    }
  }

  /** @param {string} html */
  function show(html) {
    const before = root.querySelector("#answer")?.textContent;
    const giveBack = typedOutside(root, form());
    const bringBack = keptInSight();
    const open = [...root.querySelectorAll("details[open][id]")].map((part) => part.id);
    Idiomorph.morph(root, html, { morphStyle: "innerHTML", ignoreActiveValue: typedIn(), restoreFocus: true });
    giveBack();
    followServer(document.activeElement, parse(html));
    for (const id of open) root.querySelector(`#${CSS.escape(id)}`)?.setAttribute("open", "");
    bringBack();
    const answer = root.querySelector("#answer")?.textContent;
    if (answer && answer !== before) announce(answer);
    root.dispatchEvent(new CustomEvent("live:shown", { bubbles: true }));
  }

  // The morph leaves the field in use alone; where another has changed it meanwhile, it follows.
  /** @param {Element | null} field @param {Document} fresh */
  function followServer(field, fresh) {
    if (!(field instanceof HTMLInputElement) || field.form !== form()) return;
    const server = fresh.getElementById(field.id)?.getAttribute("value");
    if (server != null && field.value.trim() !== server) field.value = server;
  }

  /** @param {string} html */
  function parse(html) {
    return new DOMParser().parseFromString(html, "text/html");
  }

  /** @param {Event} event */
  const mine = (event) => /** @type {HTMLInputElement} */ (event.target).form === form();
  root.addEventListener("input", (event) => {
    if (mine(event)) schedule(PAUSE_MS);
  });
  root.addEventListener("change", (event) => {
    if (mine(event)) schedule(0);
  });
  root.addEventListener("submit", (event) => {
    if (event.target !== form()) {
      if (!sending && !dirty) return;
      event.preventDefault();
      held = [/** @type {HTMLFormElement} */ (event.target), event.submitter];
      return;
    }
    event.preventDefault();
    send(event.submitter);
  });
  window.addEventListener("pagehide", () => {
    if (!dirty || !form()) return;
    clearTimeout(timer);
    number(); // one on its way already has the number that stands there
    navigator.sendBeacon(address(), new FormData(form()));
  });
  window.addEventListener("pageshow", () => { // come back to: the beacon had no answer
    if (dirty && form()) schedule(0);
  });

  if (form() && typedAhead(form())) schedule(0);

  async function read() {
    const answer = await fetch(location.href, { redirect: "error" });
    if (answer.ok) show(parse(await answer.text()).getElementById(root.id)?.innerHTML ?? root.innerHTML);
  }

  return () => {
    if (sending || dirty || !form()) return; // its own answer tells
    if (root.hasAttribute("data-read")) {
      read().catch(() => {}); // no answer now: asked again
      return;
    }
    kept = "";
    schedule(0); // a save without a change brings what others have changed, and says who
  };
}
