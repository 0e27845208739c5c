/** A part turned by hand. The hand pulls as a spring; the part follows where the hand is stronger
 * than the torque that holds it back, and the steps in between are felt. */

import { a, current, one, Part } from "./dom.js";

/** Degrees the hand is ahead at the strongest torque of a turn. */
const AHEAD_AT_MOST = 18;
/** The least torque the spring is made for, in newton metres. */
const LEAST_NM = 0.01;
/** A step is felt where the part jumps by more than so many degrees and the hand by less. */
const JUMP = 12;
const STEP_MS = 15;
/** Degrees for one press of an arrow key. */
const BY_KEY = 5;
const KEYS = new Map([
  ["ArrowRight", BY_KEY],
  ["ArrowUp", BY_KEY],
  ["ArrowLeft", -BY_KEY],
  ["ArrowDown", -BY_KEY],
]);

/** @param {number} value
 * @param {number} round */
const wrapped = (value, round) => ((value % round) + round) % round;

/** The part a hand turns. `data-nm` holds the torque against it over one turn, in newton metres. */
export class Handwheel extends Part {
  /** @type {number[]} */
  nm = [];
  /** The mean of the turn: the friction, which holds back both ways. */
  drag_nm = 0;
  /** Newton metres a degree the hand is ahead. */
  pull = 0;
  hand = 0;
  part_degrees = 0;
  steps = 0;
  /** The angle the hand took hold at.
   * @type {number | null} */
  held = null;
  told = "not turned yet";

  init() {
    this.nm = JSON.parse(this.$root.dataset.nm || "[]");
    this.drag_nm = this.nm.reduce((sum, nm) => sum + nm, 0) / this.nm.length;
    this.pull = Math.max(...this.nm, LEAST_NM) / AHEAD_AT_MOST;
  }

  svg() {
    return a("svg", this.$root, SVGSVGElement);
  }

  /** The angle of a pointer about the middle, clockwise from the top.
   * @param {PointerEvent} event */
  at(event) {
    const box = this.svg().getBoundingClientRect();
    const [x, y] = [event.clientX - box.left - box.width / 2, event.clientY - box.top - box.height / 2];
    return 90 + (Math.atan2(y, x) * 180) / Math.PI;
  }

  /** @param {PointerEvent} event */
  take(event) {
    current(event).setPointerCapture(event.pointerId);
    this.held = this.at(event);
  }

  /** @param {PointerEvent} event */
  drag(event) {
    if (this.held === null) return;
    const now = this.at(event);
    this.turn(wrapped(now - this.held + 180, 360) - 180); // the short way round
    this.held = now;
  }

  let() {
    this.held = null;
    this.hand = this.part_degrees;
    this.paint();
  }

  /** @param {KeyboardEvent} event */
  key(event) {
    const by = KEYS.get(event.key);
    if (by === undefined) return;
    event.preventDefault();
    this.turn(by);
  }

  /** The torque that holds the part back, in newton metres. Turned backwards the steps help where
   * forwards they hold, and the friction holds all the same: it is twice the friction less the step.
   * @param {number} way 1 or -1 */
  holds(way) {
    const place = Math.floor((this.part_degrees / 360) * this.nm.length);
    const nm = this.nm[wrapped(place, this.nm.length)];
    return way > 0 ? nm : 2 * this.drag_nm - nm;
  }

  /** @param {number} degrees */
  turn(degrees) {
    this.hand += degrees;
    const before = this.part_degrees;
    this.follow(Math.sign(this.hand - this.part_degrees));
    if (Math.abs(this.part_degrees - before) > JUMP && Math.abs(degrees) < JUMP) {
      this.steps += 1;
      navigator.vibrate?.(STEP_MS);
    }
    this.paint();
  }

  /** Let the part go on by degrees, until the hand is no longer stronger.
   * @param {number} way */
  follow(way) {
    const ahead = () => (this.hand - this.part_degrees) * way;
    while (way && ahead() > 0 && this.pull * ahead() > this.holds(way)) this.part_degrees += way;
  }

  paint() {
    const svg = this.svg();
    one("[data-part]", svg).setAttribute("transform", `rotate(${this.part_degrees})`);
    one("[data-hand]", svg).setAttribute("transform", `rotate(${this.hand})`);
    const stood = Math.round(wrapped(this.part_degrees, 360));
    const ahead = Math.round(Math.abs(this.hand - this.part_degrees));
    this.told = `${stood}°, ${this.steps} steps felt, hand ${ahead}° ahead`;
    svg.setAttribute("aria-valuenow", String(stood));
    svg.setAttribute("aria-valuetext", this.told);
  }
}
