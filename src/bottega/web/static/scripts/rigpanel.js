/** The panel of a machine on the rig: strokes and flashes at their times, lamps that are lit,
 * characters. */

import { every, first, Part } from "./dom.js";

/** Seconds of dark between two rounds of a rhythm. */
const PAUSE_S = 4;
/** Seconds a page of lamps is shown. */
const PAGE_S = 3;

/** @typedef {{
 *   kind: string,
 *   taps: [at: number, lamp: number, lit: number][],
 *   lit: number[][],
 *   bars: string[],
 * }} Schedule in seconds */

/** A face that shows what its machine shows. */
export class RigPanel extends Part {
  /** @type {number[]} */
  timers = [];

  init() {
    const text = this.$root.dataset.schedule;
    if (text) this.play(JSON.parse(text));
  }

  destroy() {
    this.timers.forEach(clearTimeout);
  }

  /** @param {number} n */
  lamp(n) {
    return every(".face [data-lamp-at], .face [data-name]", this.$root)[n];
  }

  /** @param {HTMLElement | SVGElement | null | undefined} element
   * @param {number} state */
  set(element, state) {
    if (element) element.dataset.state = String(state);
  }

  /** @param {Schedule} shown */
  play(shown) {
    shown.taps.forEach(([at, lamp, lit]) => {
      this.later(at, () => this.set(this.lamp(lamp), 1));
      this.later(at + lit, () => this.set(this.lamp(lamp), 0));
    });
    if (shown.kind === "bar") this.bar(shown.lit);
    else shown.lit.forEach((page, n) => this.later(PAGE_S * n, () => this.page(page)));
    shown.bars.forEach((bars, place) => this.character(bars, place));
    const end = PAUSE_S + Math.max(0, ...shown.taps.map(([at]) => at));
    if (shown.taps.length) this.later(end, () => this.play(shown));
  }

  /** @param {number[]} states */
  page(states) {
    states.forEach((state, at) => this.set(this.lamp(at), state));
  }

  /** @param {number[][]} lit */
  bar(lit) {
    const length = lit[lit.length - 1][0];
    every("[data-length]", this.$root).forEach((part) =>
      this.set(part, Number(part.dataset.length) <= length ? 1 : 0),
    );
  }

  /** @param {string} bars
   * @param {number} place */
  character(bars, place) {
    const digit = every("[data-digit]", this.$root)[place];
    if (digit) [...bars].forEach((bar) => this.set(first(`[data-bar="${bar}"]`, digit), 1));
  }

  /** @param {number} seconds
   * @param {() => void} act */
  later(seconds, act) {
    this.timers.push(setTimeout(act, 1000 * seconds));
  }
}
