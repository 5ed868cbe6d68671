// A file picker beside a field of many lines: its text goes into the field, as if it had been pasted.

/** @param {Document} page */
export function attachFiles(page) {
  const showAll = () => page.querySelectorAll("[data-into][hidden]").forEach((picker) => picker.removeAttribute("hidden"));
  showAll();
  page.addEventListener("live:shown", showAll);
  page.addEventListener("change", async (event) => {
    const picker = event.target;
    if (!(picker instanceof HTMLInputElement) || !picker.matches("[data-into]") || !picker.files?.length) return;
    const field = /** @type {HTMLTextAreaElement | null} */ (page.getElementById(picker.dataset.into ?? ""));
    if (!field) return;
    field.value = await picker.files[0].text();
    picker.value = "";
    field.dispatchEvent(new Event("change", { bubbles: true }));
  });
}
