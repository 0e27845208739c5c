/** The three tabs of a job on the phone; the one that is open stays open as the page changes. */

import { current, every, first, Part } from "./dom.js";

/** @returns {string} */
export const openTab = () => sessionStorage.getItem("tab") || "next";

/** Open a tab of the job's frame.
 * @param {HTMLElement | SVGElement} frame
 * @param {string} tab */
export function show(frame, tab) {
  frame.dataset.tab = tab;
  sessionStorage.setItem("tab", tab);
  if (tab === "next") centre(first("[data-strip] [data-here]", frame));
  every("[role=tab]", frame).forEach((button) =>
    button.setAttribute("aria-selected", String(button.dataset.tab === tab)),
  );
}

/** Scroll the strip of stations until the one the job stands at is in its middle.
 * @param {Element | null} here */
function centre(here) {
  const strip = here?.parentElement;
  if (!strip || !(here instanceof HTMLElement)) return;
  const from_start = here.offsetLeft - strip.offsetLeft;
  strip.scrollLeft = from_start - (strip.clientWidth - here.offsetWidth) / 2;
}

/** The frame of a job. */
export class Tabs extends Part {
  init() {
    const asked = new URLSearchParams(window.location.search).get("tab");
    show(this.$root, asked || openTab());
  }

  /** @param {Event} event */
  tab(event) {
    show(this.$root, current(event).dataset.tab || "next");
  }
}

/** A part of the drawing that is tapped opens beside it, under "Next". */
export function watch() {
  const leads = "svg.section a.part, [data-next-tab]";
  const next = (/** @type {Event} */ event) => {
    if (event.target instanceof Element && event.target.closest(leads))
      sessionStorage.setItem("tab", "next");
  };
  document.addEventListener("click", next, true);
}
