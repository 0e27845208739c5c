/** The way into a service mode: a beat seen on the drawing, heard, and felt on a phone. Steps without
 * a beat wait for a press. */

import { every, first, loudspeaker, Part, sound } from "./dom.js";

const SLOWER = 1.25;
const FASTER = 0.8;
const TONE_HZ = 880;
const TONE_S = 0.06;
const FELT_MS = 60;
const STRUCK_MS = 180;

/** Leads through the steps of a way in. */
export class Coach extends Part {
  off = false;
  /** The step that is done now; -1 before the first. */
  step = -1;
  /** Beats of this step so far. */
  struck = 0;
  /** When the step began, in milliseconds of the page's clock. */
  began = 0;
  /** How long a beat is, in beats of the sheet. */
  pace = 1;
  timer = 0;
  /** @type {AudioContext | null} */
  audio = null;

  destroy() {
    clearTimeout(this.timer);
  }

  steps() {
    return every("[data-step]", this.$root);
  }

  parts() {
    return every(".face [data-part]");
  }

  now() {
    return this.steps()[this.step];
  }

  slower() {
    this.pace *= SLOWER;
    this.say();
  }

  faster() {
    this.pace *= FASTER;
    this.say();
  }

  stop() {
    clearTimeout(this.timer);
    this.step = -1;
    this.mark();
    this.say();
  }

  next() {
    clearTimeout(this.timer);
    const late = this.late();
    this.audio ||= loudspeaker();
    this.step = (this.step + 1) % (this.steps().length + 1);
    if (this.step === this.steps().length) return this.stop();
    this.struck = 0;
    this.began = performance.now();
    this.mark();
    this.point();
    const beat = this.beat();
    if (beat) this.timer = setTimeout(() => this.strike(), beat);
    this.say(late);
  }

  /** Milliseconds of a beat of this step; 0 where it has none. */
  beat() {
    return 1000 * Number(this.now().dataset.beat) * this.pace;
  }

  /** The sentence for a step that took longer than its window: the machine will hardly have
   * waited. */
  late() {
    const within = this.step < 0 ? 0 : Number(this.now()?.dataset.within);
    const took = (performance.now() - this.began) / 1000;
    if (!within || took <= within) return "";
    return `That took ${Math.round(took)} s of ${within}: begin anew. `;
  }

  strike() {
    const { times, clicks } = this.now().dataset;
    this.struck += 1;
    this.felt();
    if (Number(clicks)) this.click(Math.sign(Number(clicks)));
    this.say();
    const on = this.struck < Number(times) ? () => this.strike() : () => this.next();
    this.timer = setTimeout(on, this.beat());
  }

  /** Let a beat be heard, felt and seen. */
  felt() {
    sound(this.audio, TONE_HZ, TONE_S, 0.15);
    navigator.vibrate?.(FELT_MS);
    const asked = this.parts().filter((part) => part.classList.contains("is-asked"));
    asked.forEach((part) => part.classList.add("is-struck"));
    setTimeout(() => asked.forEach((part) => part.classList.remove("is-struck")), STRUCK_MS);
  }

  mark() {
    const wanted = this.step < 0 ? [] : (this.now().dataset.at || "").split("|");
    this.parts().forEach((part) => {
      const name = part.dataset.part;
      part.classList.toggle("is-asked", name ? wanted.includes(name) : false);
    });
    this.steps().forEach((step, n) => {
      if (n === this.step) step.setAttribute("aria-current", "step");
      else step.removeAttribute("aria-current");
    });
  }

  /** Set the pointer at the place a step names. */
  point() {
    const asked = (/** @type {Element} */ part) => part.classList.contains("is-asked");
    const place = this.parts().find((part) => part.dataset.degrees && asked(part));
    if (place) this.rotate(Number(place.dataset.degrees));
  }

  /** Turn the pointer by one click.
   * @param {number} way 1 or -1 */
  click(way) {
    const face = this.pointer()?.closest(".face");
    const places = face ? every("[data-degrees]", face).length : 0;
    this.rotate(Number(this.pointer()?.dataset.at || 0) + (way * 360) / Math.max(1, places));
  }

  pointer() {
    return first(".face [data-pointer]");
  }

  /** @param {number} degrees */
  rotate(degrees) {
    every(".face [data-pointer]").forEach((pointer) => {
      pointer.dataset.at = String(degrees);
      pointer.setAttribute("transform", `rotate(${degrees} ${pointer.dataset.pointer})`);
    });
  }

  say(before = "") {
    this.part("said").textContent = this.step < 0 ? this.told() : before + this.count();
  }

  told() {
    if (this.pace === 1) return "";
    return `The beat is ${Math.round(100 / this.pace)} % of the sheet's.`;
  }

  count() {
    const { beat, times } = this.now().dataset;
    return beat ? `${this.struck} of ${times}` : "Press Next step when it is done.";
  }
}
