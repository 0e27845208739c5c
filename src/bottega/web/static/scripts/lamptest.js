/** The lamp test: everything is lit, and the lamps that stay dark are touched. */

import { current, every, isPress, Part } from "./dom.js";

/** A panel's face while all of it is lit. */
export class LampTest extends Part {
  off = false;
  /** The names of the lamps that stay dark.
   * @type {string[]} */
  dark = [];

  init() {
    every(".face-read [tabindex]", this.$root).forEach((lamp) => {
      lamp.dataset.state = "1";
    });
  }

  /** @param {Event} event */
  light(event) {
    const lamp = current(event);
    const name = lamp.dataset.name || lamp.getAttribute("aria-label") || "";
    const lit = lamp.dataset.state !== "1";
    lamp.dataset.state = lit ? "1" : "0";
    this.dark = lit ? this.dark.filter((other) => other !== name) : [...this.dark, name];
    const field = this.part("dark");
    if (field instanceof HTMLInputElement) field.value = this.dark.join("; ");
  }

  /** @param {KeyboardEvent} event */
  lighted(event) {
    if (isPress(event)) this.light(event);
  }

  /** @param {Event} event */
  strike(event) {
    this.light(event);
  }

  /** @param {KeyboardEvent} event */
  struck(event) {
    this.lighted(event);
  }

  /** @param {Event} event */
  reach(event) {
    this.light(event);
  }

  /** @param {KeyboardEvent} event */
  reached(event) {
    this.lighted(event);
  }
}
