// A session that ended while one typed: sign in on the spot, and what was typed is sent with a token that holds.

/** @returns {Promise<boolean>} whether this page's token holds again without asking the person */
export async function renewed() {
  try {
    const answer = await fetch(location.href, { redirect: "manual", cache: "no-store" });
    if (!answer.ok) return false;
    return take(await answer.text());
  } catch {
    return false;
  }
}

/** @param {string} html */
function parsed(html) {
  return new DOMParser().parseFromString(html, "text/html");
}

/** @param {Document} page @returns {NodeListOf<HTMLInputElement>} */
function tokens(page) {
  return page.querySelectorAll('input[name="csrf_token"]');
}

/** @param {string} html */
function take(html) {
  const [fresh] = tokens(parsed(html));
  if (!fresh) return false;
  for (const old of tokens(document)) old.value = fresh.value;
  return true;
}

/**
 * Ask for login and password in a dialog of this page. Resolves when they were right and the token is new.
 * @returns {Promise<boolean>}
 */
export function signInHere() {
  const found = document.getElementById("sign-in-here");
  if (found) return Promise.resolve(false); // asked already
  const dialog = document.createElement("dialog");
  dialog.id = "sign-in-here";
  dialog.setAttribute("aria-labelledby", "sign-in-here-title");
  dialog.innerHTML = `<form><h2 id="sign-in-here-title">You are signed out</h2>
    <p>What you typed is still here. Sign in to keep it.</p>
    <div class="fact"><label for="here-login">Login</label><input id="here-login" name="login" autocomplete="username" required></div>
    <div class="fact"><label for="here-password">Password</label><input id="here-password" name="password" type="password" autocomplete="current-password" required></div>
    <p class="error" role="alert"></p><p><button class="button is-primary">Sign in</button> <button class="button" type="button" data-later>Later</button></p></form>`;
  document.body.append(dialog);
  dialog.showModal();
  const form = /** @type {HTMLFormElement} */ (dialog.querySelector("form"));
  const error = /** @type {HTMLElement} */ (dialog.querySelector(".error"));
  return new Promise((done) => {
    /** @param {boolean} well */
    const end = (well) => { dialog.close(); dialog.remove(); done(well); };
    dialog.querySelector("[data-later]")?.addEventListener("click", () => end(false));
    dialog.addEventListener("cancel", () => end(false));
    form.addEventListener("submit", async (event) => {
      event.preventDefault();
      try {
        const page = await (await fetch("/sign-in", { cache: "no-store" })).text();
        const [token] = tokens(parsed(page));
        const body = new FormData(form);
        body.append("csrf_token", token?.value ?? "");
        const answer = await fetch("/sign-in", { method: "POST", body, redirect: "manual" });
        if (answer.type === "opaqueredirect" && (await renewed())) { end(true); return; }
        const said = parsed(await answer.text()).querySelector("#sign-in-error");
        error.textContent = said?.textContent ?? "That did not work: try again.";
      } catch {
        error.textContent = "The server does not answer. What you typed is still here.";
      }
    });
  });
}
