/** Somebody else noted an entry. The whole job is shown anew; while something is typed, only the
 * drawing, the ledger and the title are, and the sheet waits. */

import { first, isField, every, one } from "./dom.js";

/** A request on its way brings the news itself. */
const UNDER_WAY = "#job.htmx-request, #job .htmx-request:not(#live), #busy.htmx-request";

/** Whether a field holds something else than the page came with.
 * @param {Element} field */
function isChanged(field) {
  if (field instanceof HTMLInputElement && ["radio", "checkbox"].includes(field.type))
    return field.checked !== field.defaultChecked;
  if (!(field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement)) return false;
  return field.value !== field.defaultValue || (field === document.activeElement && field.value !== "");
}

function isTyped() {
  return every("#main :is(input:not([type=hidden]), textarea)").some(isChanged);
}

function showBeside() {
  htmx.trigger("#aside", "refresh");
  one("#othersnoted").hidden = false;
}

/** @param {CustomEvent} event */
function ask(event) {
  if (!(event.target instanceof Element) || event.target.id !== "live") return;
  const own = first(UNDER_WAY) !== null;
  if (own || isTyped()) event.preventDefault();
  if (!own && isTyped()) showBeside();
}

/** @param {CustomEvent<{ requestConfig?: { elt?: Element }, xhr: XMLHttpRequest, shouldSwap: boolean }>} event */
function take(event) {
  if (event.detail.requestConfig?.elt?.id !== "live") return;
  const seen = first("#job [name=seen]");
  const here = Number(isField(seen) ? seen.value : 0);
  const newer = Number(event.detail.xhr.getResponseHeader("Bottega-Seen") ?? 0) > here;
  event.detail.shouldSwap = newer && !isTyped();
  if (newer && isTyped()) showBeside();
}

export function watch() {
  document.addEventListener("htmx:beforeRequest", ask);
  document.addEventListener("htmx:beforeSwap", take);
}
