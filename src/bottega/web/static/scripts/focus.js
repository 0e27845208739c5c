/** Where the focus is after the page changed: a button pressed again and again keeps it; else it goes
 * to where the work goes on. */

import { every, first } from "./dom.js";
import { openTab, show } from "./tabs.js";

/** Where the work goes on, the first of these there is: a question, a refused reading, a refused
 * form, the new step, on the phone the open tab. */
const PLACES = [
  "[role=alertdialog] .btn-first",
  "label:has(+ [data-field-error]) input",
  "#main [role=alert]",
  "[data-focus]",
  "[aria-label^=Entries]",
];

/** The name of the repeated button that was pressed last.
 * @type {string | null} */
let repeated = null;
/** The names of the lists that were unfolded then.
 * @type {string[]} */
let unfolded = [];

/** @param {Event} event */
function remember(event) {
  const button = event.target instanceof Element && first(":scope > [data-again]", event.target);
  if (!button || button.dataset.again === undefined) return;
  repeated = button.dataset.again;
  unfolded = every("details[open][data-stays]").map((part) => part.dataset.stays || "");
}

/** Give the focus back to the repeated button, or to the one it has become. */
function again() {
  const last = repeated;
  repeated = null;
  if (last === null) return;
  unfolded.forEach((name) => first(`details[data-stays="${name}"]`)?.setAttribute("open", ""));
  if (first("#main [role=alert]")) return;
  const buttons = every("#main [data-again]:not(:disabled)");
  const kind = (/** @type {string | undefined} */ name) => (name || "").split(" ")[0];
  const same =
    buttons.find((button) => button.dataset.again === last) ||
    buttons.find((button) => kind(button.dataset.again) === kind(last));
  same?.focus({ preventScroll: true });
}

/** Take the focus to where the work goes on, unless it is there. */
function onwards() {
  for (const place of PLACES) {
    if (document.activeElement?.closest("#main, input, textarea, select")) return;
    first(place)?.focus({ preventScroll: true });
  }
}

/** @param {Event} event */
function settled(event) {
  if (event.target instanceof Element && event.target.id === "main") again();
  onwards();
  const frame = first("#job");
  if (frame) show(frame, openTab());
}

export function watch() {
  document.addEventListener("htmx:beforeRequest", remember);
  document.addEventListener("htmx:afterSettle", settled);
  // The parts of the drawing are links of SVG, which load the page anew.
  document.addEventListener("alpine:initialized", () => {
    if (first("#job")) onwards();
  });
}
