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

// Where the field in use stands in the window. It is brought back there by what is returned, where what is rendered anew
// above it has pushed it out of sight.
export function keptInSight() {
  const top = typedIn() ? document.activeElement?.getBoundingClientRect().top : undefined;
  return () => {
    const now = document.activeElement?.getBoundingClientRect();
    if (top === undefined || !now || (now.top >= 0 && now.bottom <= innerHeight)) return;
    scrollBy(0, now.top - top);
  };
}

// Whether something was typed before anyone listened: on a slow line a page is read, and answered, ahead of its scripts.
/** @param {HTMLFormElement} form */
export function typedAhead(form) {
  return [...form.elements].some((field) => {
    if (field instanceof HTMLSelectElement) {
      const given = [...field.options].findIndex((one) => one.defaultSelected);
      return field.selectedIndex !== Math.max(given, 0);
    }
    if (field instanceof HTMLTextAreaElement) return field.value !== field.defaultValue;
    if (!(field instanceof HTMLInputElement) || field.type === "hidden") return false;
    return field.value !== field.defaultValue || field.checked !== field.defaultChecked;
  });
}
