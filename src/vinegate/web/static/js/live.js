// Sends a sheet's facts as they change and swaps in what the server rendered. Computes nothing.
import { Idiomorph } from "../vendor/idiomorph-0.8.0.esm.js";
import { renewed, signInHere } from "./signin.js";
import { typedOutside } from "./typed.js";

const PAUSE_MS = 90;
const RETRY_MS = [1000, 2000, 5000, 10000];

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
  let queued = null; // a button pressed while a save was under way
  let held = null; // another form, as that which issues: sent once what was typed is kept and shown
  let sent = 0; // each save has a number of its own, also when its answer is lost
  let kept = ""; // the form as the server has it and shows it; empty where that is not certain

  const form = () => /** @type {HTMLFormElement} */ (root.querySelector("#facts"));
  const announce = (text) => { document.getElementById("announce").textContent = text; };

  const number = () => {
    const count = form().elements.namedItem("sequence");
    sent = Math.max(sent, Number(count.value)) + 1;
    count.value = String(sent);
  };
  const content = () => JSON.stringify([...new FormData(form())].filter(([name]) => name !== "sequence"));

  function schedule(delay) {
    dirty = true;
    root.setAttribute("data-unsent", "");
    clearTimeout(timer);
    timer = setTimeout(() => {
      const next = queued;
      queued = null;
      send(next);
    }, delay);
  }

  async function send(submitter) {
    clearTimeout(timer);
    if (!form()) return;
    const pressed = submitter instanceof HTMLElement && submitter.name ? [submitter.name, submitter.value] : submitter;
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
    const body = new FormData(form());
    if (Array.isArray(pressed)) body.append(...pressed);
    const address = form().getAttribute("action");
    sending = true;
    dirty = false;
    try {
      const answer = await fetch(address, { method: "POST", body, headers: { "X-Live": "1" }, redirect: "manual" });
      if (answer.type === "opaqueredirect" || answer.status === 400 || answer.status === 401) {
        lost("You are signed out. What you typed is still here.");
        signedOut(pressed);
        return;
      }
      if (!answer.ok && answer.status !== 409) throw new Error(String(answer.status));
      const html = await answer.text();
      failures = 0;
      root.classList.remove("unsaved");
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
    const [target, submitter] = held ?? [];
    held = null;
    if (target?.isConnected) target.requestSubmit(submitter?.isConnected ? submitter : undefined);
  }

  // With a token that holds again it is sent once more: renewed by itself where another tab has signed in, else asked for.
  async function signedOut(pressed) {
    if (!(await renewed()) && !(await signInHere())) return;
    queued = pressed ?? queued;
    schedule(0);
  }

  function lost(text) {
    root.classList.add("unsaved");
    const kept = root.querySelector("#kept");
    if (kept) kept.textContent = text;
    announce(text);
  }

  // The numbers are already stale, but the next save must count on from this one: what was taken as sent is now what
  // stands there. A field that another has changed keeps what its reader has seen, so that it stays contested.
  function carryOver(html, body) {
    const fresh = parse(html);
    form().elements.namedItem("seen").value = fresh.querySelector('#facts [name="seen"]').value;
    for (const from of fresh.querySelectorAll('#facts [name^="was:"]')) {
      const to = form().elements.namedItem(from.name);
      const mine = body.get(from.name.replace("was:", "f:"));
      if (to && mine !== null && mine.trim() === from.value) to.value = from.value;
    }
  }

  function show(html) {
    const before = root.querySelector("#answer")?.textContent;
    const giveBack = typedOutside(root, form());
    const open = [...root.querySelectorAll("details[open][id]")].map((part) => part.id);
    Idiomorph.morph(root, html, { morphStyle: "innerHTML", ignoreActiveValue: true, restoreFocus: true });
    giveBack();
    followServer(document.activeElement, parse(html));
    for (const id of open) root.querySelector(`#${CSS.escape(id)}`)?.setAttribute("open", "");
    const answer = root.querySelector("#answer")?.textContent;
    if (answer && answer !== before) announce(answer);
    root.dispatchEvent(new CustomEvent("live:shown", { bubbles: true }));
  }

  // The morph leaves the field in use alone; where another has changed it meanwhile, it follows.
  function followServer(field, fresh) {
    if (!(field instanceof HTMLInputElement) || field.form !== form()) return;
    const server = fresh.getElementById(field.id)?.getAttribute("value");
    if (server !== undefined && field.value.trim() !== server) field.value = server;
  }

  function parse(html) {
    return new DOMParser().parseFromString(html, "text/html");
  }

  root.addEventListener("input", (event) => {
    if (event.target.form === form()) schedule(PAUSE_MS);
  });
  root.addEventListener("change", (event) => {
    if (event.target.form === form()) schedule(0);
  });
  root.addEventListener("submit", (event) => {
    if (event.target !== form()) {
      if (!sending && !dirty) return;
      event.preventDefault();
      held = [event.target, event.submitter];
      return;
    }
    event.preventDefault();
    send(event.submitter);
  });
  window.addEventListener("pagehide", () => {
    if (!dirty || !form()) return;
    clearTimeout(timer);
    number(); // one on its way already has the number that stands there
    navigator.sendBeacon(form().getAttribute("action"), new FormData(form()));
  });
  window.addEventListener("pageshow", () => { // come back to: the beacon had no answer
    if (dirty && form()) schedule(0);
  });

  async function read() {
    const answer = await fetch(location.href, { redirect: "error" });
    if (answer.ok) show(parse(await answer.text()).getElementById(root.id).innerHTML);
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
