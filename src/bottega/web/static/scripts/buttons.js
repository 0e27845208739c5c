/** Buttons and fields whose press the browser alone answers: print, the list of keys, a field that
 * sends its form as it changes. */

/** @param {Event} event */
function click(event) {
  if (!(event.target instanceof Element)) return;
  if (event.target.closest("[data-print]")) window.print();
  if (event.target.closest("[data-help]"))
    document.body.dispatchEvent(new KeyboardEvent("keydown", { key: "?", bubbles: true }));
}

/** @param {Event} event */
function change(event) {
  const field = event.target;
  if (field instanceof HTMLElement && field.matches("[data-submit]"))
    field.closest("form")?.requestSubmit();
}

export function watch() {
  document.addEventListener("click", click);
  document.addEventListener("change", change);
}
