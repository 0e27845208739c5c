/** A panel that is read: tapped along with, or touched where it is lit. The server works out which
 * code that may be. */

import * as camera from "./camera.js";
import { a, current, every, first, isField, isPress, one, Part } from "./dom.js";

/** After so long without a tap the rhythm is over. */
const SILENCE_MS = 1500;
/** How a lamp looks, by the letter of its state. */
const LOOKS = new Map([
  ["0", "dark"],
  ["1", "lit"],
  ["2", "blinking"],
]);

/** @typedef {{ lamp: string, at: number, lit: number }} Flash in milliseconds from the first */

/** @param {Flash[][]} rounds */
export const rhythmOf = (rounds) =>
  rounds
    .filter((round) => round.length > 0)
    .map((round) => round.map((flash) => `${flash.lamp}:${flash.at}:${flash.lit}`).join(" "))
    .join("/");

/** A panel's face, and the fields its code goes into. */
export class Panel extends Part {
  off = false;
  /** @type {Flash[][]} */
  rounds = [[]];
  /** When the first flash of the round began, in milliseconds of the page's clock. */
  began = 0;
  silence = 0;
  /** @type {Flash | null} */
  held = null;
  page = 0;
  /** The states of the lamps of each page; a page nobody has touched is not known.
   * @type {(string[] | null)[]} */
  pages = [];
  spot = [0.5, 0.5];
  glow = new camera.Glow();
  /** @type {CanvasRenderingContext2D | null} */
  pen = null;

  init() {
    this.wipe();
  }

  destroy() {
    clearTimeout(this.silence);
    this.unwatch();
  }

  drawing() {
    return first(".face-read", this.$root);
  }

  heard() {
    return this.part("heard");
  }

  lamps() {
    return every(".face-read [data-lamp-at]", this.$root);
  }

  /** @param {string} name
   * @param {string} text */
  ask(name, text) {
    const address = `${this.part("ask").dataset.ask}&${name}=${encodeURIComponent(text)}`;
    htmx.ajax("get", address, { target: this.heard(), swap: "innerHTML" });
  }

  /* A rhythm: pressed while the lamp is lit, let go when it is dark. */

  /** @param {MouseEvent} event */
  tap(event) {
    // A press by pointer has begun its flash already; its click is no second one.
    if (event.type === "click" && event.detail !== 0) return;
    this.begins(event.timeStamp, current(event).dataset.lamp || "0");
  }

  /** @param {number} now
   * @param {string} lamp */
  begins(now, lamp) {
    const round = this.rounds[this.rounds.length - 1];
    if (round.length === 0) this.began = now;
    this.held = { lamp, at: Math.round(now - this.began), lit: 0 };
    round.push(this.held);
    this.wait();
  }

  /** @param {{ timeStamp: number }} event */
  release(event) {
    if (!this.held) return;
    this.held.lit = Math.max(1, Math.round(event.timeStamp - this.began) - this.held.at);
    this.held = null;
    this.wait();
  }

  wait() {
    clearTimeout(this.silence);
    this.silence = setTimeout(() => (this.held ? this.wait() : this.hear()), SILENCE_MS);
  }

  another() {
    this.hear();
    if (this.rounds[this.rounds.length - 1].length) this.rounds.push([]);
  }

  clear() {
    this.rounds = [[]];
    this.wipe();
    this.heard().replaceChildren();
  }

  hear() {
    clearTimeout(this.silence);
    const rhythm = rhythmOf(this.rounds);
    if (rhythm) this.ask("rhythm", rhythm);
  }

  /* The camera, which taps along by itself. */

  video() {
    const found = this.$root.querySelector("[data-camera] video");
    return found instanceof HTMLVideoElement ? found : null;
  }

  get blind() {
    return !navigator.mediaDevices?.getUserMedia;
  }

  async watch() {
    const video = a("[data-camera] video", this.$root, HTMLVideoElement);
    if (video.srcObject) return this.unwatch();
    try {
      const wanted = { video: { facingMode: "environment" }, audio: false };
      video.srcObject = await navigator.mediaDevices.getUserMedia(wanted);
    } catch {
      const says = one("[data-camera] p", this.$root);
      says.textContent = "The camera is not to be had. Tap along instead.";
      return;
    }
    video.hidden = false;
    await video.play();
    this.spot = [0.5, 0.5];
    this.glow = new camera.Glow();
    this.keepLooking();
  }

  unwatch() {
    const video = this.video();
    if (video?.srcObject instanceof MediaStream)
      video.srcObject.getTracks().forEach((track) => track.stop());
    if (video) {
      video.srcObject = null;
      video.hidden = true;
    }
    this.release({ timeStamp: performance.now() });
  }

  /** @param {MouseEvent} event */
  aim(event) {
    const box = current(event).getBoundingClientRect();
    this.spot = [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
    this.glow = new camera.Glow();
  }

  keepLooking() {
    const video = this.video();
    if (!video?.srcObject) return;
    this.pen ||= camera.pen();
    const bright = camera.brightness(this.pen, video, this.spot);
    if (bright !== null) this.see(bright, performance.now());
    requestAnimationFrame(() => this.keepLooking());
  }

  /** @param {number} bright
   * @param {number} now */
  see(bright, now) {
    const change = this.glow.see(bright);
    if (change === "lit") this.begins(now, "0");
    if (change === "dark") this.release({ timeStamp: now });
  }

  /* Lamps touched where they are lit, page after page. */

  wipe() {
    if (!this.drawing()) return;
    const pages = Math.max(1, every("[data-page]", this.$root).length);
    this.pages = Array.from({ length: pages }, () => null);
    this.page = 0;
    this.paint();
  }

  paint() {
    const states = this.pages[this.page];
    this.lamps().forEach((lamp) => {
      const state = states ? states[Number(lamp.dataset.lampAt)] : "0";
      lamp.dataset.state = state;
      lamp.setAttribute("aria-label", `${lamp.dataset.name}: ${LOOKS.get(state) || "unsure"}`);
    });
    every(".face-read :is([data-length], [data-bar])", this.$root).forEach((part) => {
      part.dataset.state = "0";
      part.setAttribute("aria-checked", "false");
    });
    every("[data-page]", this.$root).forEach((button) =>
      button.setAttribute("aria-pressed", String(Number(button.dataset.page) === this.page)),
    );
    this.sets(null);
  }

  /** @param {Event} event */
  turn(event) {
    this.page = Number(current(event).dataset.page);
    this.touched();
    this.paint();
    this.look();
  }

  /** The page's lamps, all dark where nobody has touched it yet. */
  touched() {
    return (this.pages[this.page] ||= this.lamps().map(() => "0"));
  }

  /** @param {Event} event */
  light(event) {
    const at = Number(current(event).dataset.lampAt);
    const known = Number(this.drawing()?.dataset.states);
    const states = [..."012".slice(0, known), "?"];
    const lamps = this.touched();
    lamps[at] = states[(states.indexOf(lamps[at]) + 1) % states.length];
    this.paint();
    this.look();
  }

  /** @param {KeyboardEvent} event */
  lighted(event) {
    if (isPress(event)) this.light(event);
  }

  look() {
    const unknown = this.lamps().map(() => "?");
    this.ask("lit", this.pages.map((page) => (page || unknown).join("")).join("/"));
  }

  /* A bar and its tone. */

  /** @param {Event} event */
  reach(event) {
    const length = Number(current(event).dataset.length);
    every(".face-read [data-length]", this.$root).forEach((part) => {
      part.dataset.state = Number(part.dataset.length) <= length ? "1" : "0";
    });
    this.sound();
  }

  /** @param {KeyboardEvent} event */
  reached(event) {
    if (isPress(event)) this.reach(event);
  }

  /** @param {Event} event */
  tone(event) {
    this.sets(current(event));
    this.sound();
  }

  /** @param {Element | null} tone */
  sets(tone) {
    every("[data-tone]", this.$root).forEach((button) =>
      button.setAttribute("aria-pressed", String(button === tone)),
    );
  }

  sound() {
    const tone = first("[data-tone][aria-pressed=true]", this.$root);
    const length = every(".face-read [data-length][data-state='1']", this.$root).length;
    this.ask("lit", `${tone?.dataset.tone ?? "?"}/${length || "?"}`);
  }

  /* Characters, bar by bar. */

  /** @param {Event} event */
  strike(event) {
    const bar = current(event);
    bar.dataset.state = bar.dataset.state === "1" ? "0" : "1";
    bar.setAttribute("aria-checked", String(bar.dataset.state === "1"));
    const lit = (/** @type {Element} */ digit) =>
      every("[data-state='1']", digit).map((part) => part.dataset.bar);
    const digits = every(".face-read [data-digit]", this.$root);
    this.ask("bars", digits.map((digit) => lit(digit).join("")).join("/"));
  }

  /** @param {KeyboardEvent} event */
  struck(event) {
    if (isPress(event)) this.strike(event);
  }

  /** Take a code that was heard or seen into the first free line.
   * @param {Event} event */
  take(event) {
    const lines = every("input[name^=seen_]", this.$root).filter(isField);
    const free = lines.find((line) => !line.value);
    if (free) free.value = current(event).dataset.written ?? "";
    first("[data-keep]", this.$root)?.focus();
    this.clear();
  }
}
