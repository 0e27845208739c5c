/** The meter: its reading as it comes, a tone when it has settled. It is kept by a press, or by
 * touching the points again. */

import { every, fields, isField, loudspeaker, one, Part, sound, speak } from "./dom.js";

/** Readings in the trace, and the size it is drawn in. */
const TRACE = 80;
const WIDTH = 300;
const FLOOR = 36;
const HEIGHT = 32;
const GOOD_HZ = 880;
const BAD_HZ = 440;

/** @typedef {{
 *   state: string, figure: string, symbol: string, words: string, verdict: string,
 *   trouble: string, typed: string, good?: boolean, keep?: boolean,
 * }} Reading as the server tells it: in words, but for `typed`, which goes into the field */

/** @type {Reading} */
const GONE = {
  state: "gone",
  words: "",
  figure: "no reading",
  symbol: "",
  verdict: "",
  typed: "",
  trouble: "Bottega does not answer. Typing works all the same once it does.",
};

/** The path of a trace, scaled to its own span.
 * @param {number[]} trace */
export function pathOf(trace) {
  const least = Math.min(...trace);
  const span = Math.max(...trace) - least || 1;
  const x = (/** @type {number} */ n) => ((n * WIDTH) / (TRACE - 1)).toFixed(1);
  const y = (/** @type {number} */ amount) => (FLOOR - (HEIGHT * (amount - least)) / span).toFixed(1);
  return trace.map((amount, n) => `${n ? "L" : "M"}${x(n)} ${y(amount)}`).join("");
}

/** A meter that is listened to. */
export class Meter extends Part {
  /** @type {EventSource | null} */
  source = null;
  /** @type {AudioContext | null} */
  audio = null;
  dead = false;
  off = true;
  /** The reading as it would be typed; empty where it is none. */
  typed = "";
  /** Whether this reading is kept already. */
  done = false;
  last = "";
  /** @type {number[]} */
  trace = [];

  init() {
    if (this.$root.dataset.listen !== undefined) this.listen();
  }

  destroy() {
    this.source?.close();
  }

  form() {
    const form = this.$root.closest("form");
    if (!form) throw new Error("found a meter outside a form");
    return form;
  }

  listen() {
    this.audio ||= loudspeaker();
    this.source?.close();
    this.off = false;
    this.source = new EventSource(this.$root.dataset.stream || "");
    this.source.addEventListener("reading", (event) => this.hear(JSON.parse(event.data)));
    this.source.onerror = () => this.show(GONE);
  }

  stop() {
    this.source?.close();
    this.source = null;
    this.off = true;
  }

  /** @param {Reading} reading */
  hear(reading) {
    this.show(reading);
    if (reading.keep && !this.done && this.typed) return this.keep();
    this.typed = reading.typed;
    if (reading.state === "settled" && this.last !== "settled") this.settled(reading);
    this.last = reading.state;
    const walks = this.$root.dataset.walk !== undefined;
    if (walks && reading.state === "lifted" && reading.typed && !this.done) this.keep();
  }

  /** @param {Reading} reading */
  settled(reading) {
    sound(this.audio, reading.good ? GOOD_HZ : BAD_HZ, 0.15, 0.2);
    const aloud = every("[data-aloud]", this.$root)[0];
    if (aloud instanceof HTMLInputElement && aloud.checked)
      speak(`${reading.figure} ${reading.symbol}, ${reading.verdict}`);
    this.done = false;
  }

  /** @param {Reading} reading */
  show(reading) {
    this.part("figure").textContent = reading.figure;
    this.part("symbol").textContent = reading.symbol;
    this.part("words").textContent = reading.words;
    this.part("verdict").textContent = reading.verdict;
    this.part("trouble").textContent = reading.trouble;
    this.part("keep").toggleAttribute("disabled", !reading.typed);
    this.$root.dataset.state = reading.state;
    this.draw(parseFloat(reading.figure));
  }

  /** @param {number} amount */
  draw(amount) {
    this.trace = Number.isFinite(amount) ? [...this.trace.slice(1 - TRACE), amount] : [];
    this.part("trace").setAttribute("d", pathOf(this.trace));
  }

  keep() {
    if (!this.typed) return;
    this.done = true;
    const probes = fields("[data-probe]", this.form()).filter(isField);
    const probe = probes.find((field) => !field.value) || probes[0];
    probe.value = this.typed;
    this.byWire(probe);
    const plug = every("[data-pins]", this.form())[0];
    if (plug) plug.dataset.at = String(probes.filter((field) => field.value).length);
    if (probes.every((field) => field.value)) this.send();
  }

  /** Mark that the reading came by wire, until somebody types over it.
   * @param {HTMLElement} probe */
  byWire(probe) {
    const wire = this.form().elements.namedItem("wire");
    if (!(wire instanceof HTMLInputElement)) return;
    wire.value = "yes";
    const typed = () => {
      wire.value = "";
    };
    probe.addEventListener("input", typed, { once: true });
  }

  send() {
    this.stop();
    const keeps = one("[data-keeps]", this.form());
    this.form().requestSubmit(keeps instanceof HTMLElement ? keeps : null);
  }
}
