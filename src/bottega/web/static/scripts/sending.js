/** A form on its way: the button pressed shows it, a large file shows how much is sent, and a server
 * that does not answer is told beside the page, which keeps everything typed on it. */

import { a, first, one, tell } from "./dom.js";

/** @param {CustomEvent<{ requestConfig: { triggeringEvent?: SubmitEvent } }>} event */
const presser = (event) => event.detail.requestConfig.triggeringEvent?.submitter;

/** The bar of a form that sends a large file.
 * @param {Event} event */
function bar(event) {
  const form = event.target instanceof Element && event.target.closest("[data-sends]");
  return form ? first("[data-sending]", form) : null;
}

/** @param {HTMLElement | SVGElement} part */
const progress = (part) => a("progress", part, HTMLProgressElement);

/** @param {HTMLElement | SVGElement} part
 * @param {boolean} shown */
function show(part, shown) {
  part.toggleAttribute("hidden", !shown);
}

/** @param {CustomEvent} event */
function begins(event) {
  if (event.target instanceof Element && event.target.id !== "live")
    one("#trouble").replaceChildren();
  presser(event)?.setAttribute("aria-busy", "true");
  const part = bar(event);
  if (!part) return;
  show(part, true);
  show(one("[data-reading]", part), false);
  part.scrollIntoView({ block: "nearest" });
}

/** @param {CustomEvent<{ lengthComputable: boolean, loaded: number, total: number }>} event */
function goes(event) {
  const part = bar(event);
  const { lengthComputable, loaded, total } = event.detail;
  // The events of a sent file come late and out of order at times: the bar never goes back.
  if (!part || !lengthComputable || loaded < progress(part).value * total) return;
  progress(part).value = loaded / total;
  show(one("[data-reading]", part), loaded >= total);
}

/** @param {CustomEvent} event */
function ends(event) {
  presser(event)?.removeAttribute("aria-busy");
  const part = bar(event);
  if (!part) return;
  show(part, false);
  progress(part).removeAttribute("value");
}

/** A form the browser sends by itself is shown to be on its way like any other.
 * @param {SubmitEvent} event */
function leaves(event) {
  const form = event.target;
  if (!event.defaultPrevented && form instanceof HTMLFormElement && form.method === "post")
    one("#busy").classList.add("htmx-request");
}

export function watch() {
  document.addEventListener("htmx:sendError", () => tell(one("#trouble").dataset.unanswered || ""));
  document.addEventListener("htmx:beforeRequest", begins);
  document.addEventListener("htmx:xhr:progress", goes);
  document.addEventListener("htmx:afterRequest", ends);
  document.addEventListener("submit", leaves);
  // Coming back to the page of such a form ends its way.
  window.addEventListener("pageshow", () => one("#busy").classList.remove("htmx-request"));
}
