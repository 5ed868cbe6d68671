// Entries taken where there is no network: kept in this browser until the server has them, each under a name of its
// own, so that sending it twice makes one. Computes nothing.

/** @typedef {{ uid: string, url: string, token: string, person: string, at: string, fields: [string, string][], files: File[] }} Entry */

const STORE = "entries";
const AGAIN_MS = 4000;

/** @returns {Promise<IDBDatabase>} */
function open() {
  return new Promise((done, fail) => {
    const asked = indexedDB.open("vinegate-record", 1);
    asked.onupgradeneeded = () => asked.result.createObjectStore(STORE, { keyPath: "uid" });
    asked.onsuccess = () => done(asked.result);
    asked.onerror = () => fail(asked.error);
  });
}

/**
 * @param {"readonly" | "readwrite"} mode
 * @param {(store: IDBObjectStore) => IDBRequest} ask
 * @returns {Promise<any>}
 */
async function within(mode, ask) {
  const base = await open();
  try {
    return await new Promise((done, fail) => {
      const change = base.transaction(STORE, mode, { durability: "strict" });
      const asked = ask(change.objectStore(STORE));
      change.oncomplete = () => done(asked.result);
      change.onerror = () => fail(change.error);
      change.onabort = () => fail(change.error);
    });
  } finally {
    base.close();
  }
}

/** A name no other entry has. */
export function freshName() {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (one) => one.toString(16).padStart(2, "0")).join("");
}

/** @param {Document} page */
export function attachQueue(page) {
  const found = /** @type {HTMLFormElement | null} */ (page.querySelector("form[data-queue]"));
  if (!found || !("indexedDB" in window)) return;
  const form = found;
  const person = form.dataset.person ?? "";
  let busy = false;
  let timer = 0;

  form.addEventListener("submit", async (event) => {
    event.preventDefault();
    const data = new FormData(form);
    /** @type {Entry} */
    const entry = { uid: freshName(), url: form.action, token: form.dataset.token ?? "", person, at: new Date().toISOString(), fields: [], files: [] };
    for (const [name, value] of data) {
      if (value instanceof File) {
        if (value.size) entry.files.push(value);
      } else if (!["csrf_token", "uid", "taken_at"].includes(name)) entry.fields.push([name, value]);
    }
    try {
      await within("readwrite", (store) => store.put(entry));
    } catch {
      form.submit(); // this browser keeps nothing: an ordinary form then
      return;
    }
    await flush(entry.uid);
  });

  /** @param {string} [mine] the entry that this page has just put in, and still shows */
  async function flush(mine) {
    if (busy) return;
    busy = true;
    clearTimeout(timer);
    try {
      const waiting = (await within("readonly", (store) => store.getAll())).filter((/** @type {Entry} */ one) => one.person === person);
      waiting.sort((/** @type {Entry} */ a, /** @type {Entry} */ b) => (a.at < b.at ? -1 : 1));
      for (const entry of waiting) {
        const answer = await send(entry);
        if (!answer) break;
        await within("readwrite", (store) => store.delete(entry.uid));
        tell(answer, entry.uid === mine);
      }
    } finally {
      busy = false;
      await count(mine);
    }
  }

  /**
   * @param {Entry} entry
   * @returns {Promise<any>} what the server said; null where it has not got the entry
   */
  async function send(entry) {
    try {
      const pass = await fetch(entry.token, { redirect: "error", cache: "no-store" });
      if (!pass.ok) return null;
      const { token, person: now } = await pass.json();
      if (now !== entry.person) return null;
      const body = new FormData();
      for (const [name, value] of entry.fields) body.append(name, value);
      for (const file of entry.files) body.append("photo", file, file.name);
      body.append("uid", entry.uid);
      body.append("taken_at", entry.at);
      const answer = await fetch(entry.url, { method: "POST", body, redirect: "error", headers: { "X-Queue": "1", "X-CSRFToken": token } });
      return answer.ok || answer.status === 422 ? await answer.json() : null;
    } catch {
      return null;
    }
  }

  /** @param {any} answer @param {boolean} here */
  function tell(answer, here) {
    const note = /** @type {HTMLElement} */ (page.getElementById("kept"));
    /** @type {NodeListOf<HTMLElement>} */
    const places = form.querySelectorAll("[data-error]");
    for (const place of places) {
      const text = answer.errors?.[place.dataset.error ?? ""] ?? "";
      if (here || !text) {
        place.textContent = text;
        place.hidden = !text;
      }
    }
    const wrong = Object.entries(answer.errors ?? {}).map(([path, text]) => (path ? "" : text)).filter(Boolean);
    note.textContent = [answer.kept ? "Kept." : "", answer.said ?? "", ...wrong, ...(answer.refused ?? [])].filter(Boolean).join(" ");
    note.hidden = !note.textContent;
    if (here && answer.kept && !Object.keys(answer.errors ?? {}).length) form.reset();
    if (here) note.focus();
  }

  /** @param {string} [mine] */
  async function count(mine) {
    const waiting = (await within("readonly", (store) => store.getAll())).filter((/** @type {Entry} */ one) => one.person === person);
    const note = /** @type {HTMLElement} */ (page.getElementById("queued"));
    note.hidden = !waiting.length;
    note.textContent = waiting.length
      ? `${waiting.length} ${waiting.length > 1 ? "entries are" : "entry is"} kept on this device and sent as soon as the server answers.`
      : "";
    if (mine && waiting.some((/** @type {Entry} */ one) => one.uid === mine)) form.reset();
    if (waiting.length) timer = window.setTimeout(() => flush(), AGAIN_MS);
  }

  window.addEventListener("online", () => flush());
  void flush();
}
