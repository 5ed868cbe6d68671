// What stands in a page's other forms is nobody's but its writer's until it is sent: a fresh page leaves it alone.

/**
 * @param {HTMLElement} root what is about to be rendered anew
 * @param {HTMLFormElement} own the form whose fields the server does answer for
 * @returns {() => void} puts back what was typed
 */
export function typedOutside(root, own) {
  const found = root.querySelectorAll("input:not([type=hidden], [type=file]), select, textarea");
  const fields = /** @type {HTMLInputElement[]} */ ([...found]);
  const kept = fields
    .filter((field) => field.form && field.form !== own)
    .map((field) => /** @type {const} */ ([field, field.value, field.checked]));
  return () => {
    for (const [field, value, checked] of kept) {
      if (!field.isConnected) continue;
      if (field.value !== value) field.value = value;
      if (field.checked !== checked) field.checked = checked;
    }
  };
}

// Whether a field is in use. Its value is then left to whoever types; anything else that has the focus, as a table that
// is scrolled by keys, shows what is new like all around it.
export function typedIn() {
  return document.activeElement?.matches("input, select, textarea") ?? false;
}
