/** Times and counts taken at the machine: a soak, a stopwatch, a counter; and a sentence said
 * aloud. */

import { every, isField, Part, speak } from "./dom.js";

const MINUTE_MS = 60_000;

/** @param {number} seconds */
const clock = (seconds) =>
  `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;

/** A soak counts down to its end, and says then that it is over. */
export class Soak extends Part {
  timer = 0;
  ends = 0;

  init() {
    const minutes = Number(this.$root.dataset.minutes);
    this.ends = performance.now() + MINUTE_MS * minutes;
    if (minutes > 0) this.timer = setInterval(() => this.tell(), 1000);
  }

  destroy() {
    clearInterval(this.timer);
  }

  tell() {
    const left = (this.ends - performance.now()) / MINUTE_MS;
    const minutes = left >= 1 ? `${Math.ceil(left)} min` : "less than a minute";
    this.part("shown").textContent = left > 0 ? `soaks ${minutes} yet.` : "it has soaked.";
    if (left > 0) return;
    clearInterval(this.timer);
    this.$root.dataset.over = "";
    speak(this.$root.dataset.words || "");
  }
}

/** A sentence that is said at a press. */
export class Aloud extends Part {
  off = !("speechSynthesis" in window);

  say() {
    speechSynthesis.cancel();
    speak(this.$root.dataset.words || "");
  }
}

/** A stopwatch: one press starts it, the next stops it; its seconds go along with the answer. Where
 * it times a tap, the press is the tap's, and the other tap stays shut meanwhile. */
export class Stopwatch extends Part {
  off = false;
  /** The words of the button that start it. */
  starts = "";
  /** When it was started, in milliseconds of the page's clock; 0 while it stands. */
  since = 0;
  timer = 0;

  destroy() {
    clearInterval(this.timer);
  }

  form() {
    const form = this.$root.closest("form");
    if (!form) throw new Error("found a stopwatch outside a form");
    return form;
  }

  /** The other stopwatch of the form, if it runs. */
  other() {
    return every("[data-runs]", this.form()).find((watch) => watch !== this.$root);
  }

  press() {
    const { tap } = this.$root.dataset;
    const other = tap && this.other();
    if (other) this.part("shown").textContent = `First shut the ${other.dataset.tap} tap`;
    else if (this.since) this.stop();
    else this.start(tap ? `Shut the ${tap} tap` : "Stop the watch");
  }

  stop() {
    clearInterval(this.timer);
    this.show();
    this.since = 0;
    delete this.$root.dataset.runs;
    this.part("watch").textContent = this.starts;
  }

  /** @param {string} stops the words of the button that stop it */
  start(stops) {
    this.starts ||= this.part("watch").textContent || "";
    this.since = performance.now();
    this.$root.dataset.runs = "";
    this.part("watch").textContent = stops;
    this.show();
    this.timer = setInterval(() => this.show(), 500);
  }

  show() {
    const seconds = Math.round((performance.now() - this.since) / 1000);
    if (seconds > Number(this.$root.dataset.limit || Infinity)) this.$root.dataset.over = "";
    this.part("shown").textContent = clock(seconds);
    const into = this.$root.dataset.into;
    const field = into ? this.form().elements.namedItem(into) : this.part("seconds");
    if (isField(field)) field.value = String(seconds);
  }
}

/** Bobs, clicks and detents, counted by pressing. */
export class Counter extends Part {
  off = false;

  press() {
    const field = this.part("count");
    if (isField(field)) field.value = String((parseInt(field.value, 10) || 0) + 1);
  }
}
