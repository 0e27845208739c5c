/** The page, read with types: an element there must be is there, and is of the kind expected. */

/** @typedef {HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement} Field */
/** @typedef {HTMLElement | SVGElement} Drawn */

/** What counts as an element with data of its own, in HTML and in a drawing.
 * @param {Element | null} element
 * @returns {element is Drawn} */
export const isDrawn = (element) => element instanceof HTMLElement || element instanceof SVGElement;

/** The first element of a selector, or null.
 * @param {string} selector
 * @param {ParentNode} [within] */
export function first(selector, within = document) {
  const found = within.querySelector(selector);
  return isDrawn(found) ? found : null;
}

/** The element of a selector that the page cannot do without.
 * @param {string} selector
 * @param {ParentNode} [within] */
export function one(selector, within = document) {
  const found = first(selector, within);
  if (!found) throw new Error(`found nothing for '${selector}', expected one element`);
  return found;
}

/** The element of a selector, which has to be of one kind.
 * @template {Element} T
 * @param {string} selector
 * @param {ParentNode} within
 * @param {new () => T} kind
 * @returns {T} */
export function a(selector, within, kind) {
  const found = within.querySelector(selector);
  if (!(found instanceof kind)) throw new Error(`found no ${kind.name} for '${selector}'`);
  return found;
}

/** Every element of a selector, in the order of the page.
 * @param {string} selector
 * @param {ParentNode} [within] */
export const every = (selector, within = document) =>
  [...within.querySelectorAll(selector)].filter(isDrawn);

/** Every field of a selector.
 * @param {string} selector
 * @param {ParentNode} within */
export const fields = (selector, within) => every(selector, within).filter(isField);

/** @param {unknown} element
 * @returns {element is Field} */
export const isField = (element) =>
  element instanceof HTMLInputElement ||
  element instanceof HTMLTextAreaElement ||
  element instanceof HTMLSelectElement;

/** The element an event came from.
 * @param {Event} event */
export const target = (event) => (event.target instanceof Element ? event.target : document.body);

/** The element whose listener runs.
 * @param {Event} event */
export function current(event) {
  if (!isDrawn(/** @type {Element | null} */ (event.currentTarget)))
    throw new Error("found no element the event is listened to at");
  return /** @type {Drawn} */ (event.currentTarget);
}

/** Whether an element takes what is typed.
 * @param {Element} element */
export const takesTyping = (element) =>
  element.closest("input:not([type=checkbox], [type=radio]), textarea, select") !== null;

/** Whether a key means "press this", for what is drawn and has no button's own ways.
 * @param {KeyboardEvent} event */
export function isPress(event) {
  if (event.key !== "Enter" && event.key !== " ") return false;
  event.preventDefault();
  return true;
}

/** Say a sentence where trouble is told, beside the page.
 * @param {string} sentence */
export function tell(sentence) {
  const line = Object.assign(document.createElement("p"), { textContent: sentence });
  one("#trouble").replaceChildren(line);
}

/** One bounded tone of the loudspeaker.
 * @param {AudioContext | null} audio
 * @param {number} hertz
 * @param {number} seconds
 * @param {number} volume from 0 to 1 */
export function sound(audio, hertz, seconds, volume) {
  if (!audio) return;
  const tone = audio.createOscillator();
  const loudness = audio.createGain();
  tone.frequency.value = hertz;
  loudness.gain.value = volume;
  tone.connect(loudness).connect(audio.destination);
  tone.start();
  tone.stop(audio.currentTime + seconds);
}

/** The loudspeaker, where the browser has one.
 * @returns {AudioContext | null} */
export const loudspeaker = () => (window.AudioContext ? new AudioContext() : null);

/** Say words aloud, where the browser can.
 * @param {string} words */
export function speak(words) {
  if ("speechSynthesis" in window) speechSynthesis.speak(new SpeechSynthesisUtterance(words));
}

/** A part of the page with a state of its own. Alpine gives `$root`, the element that names it. */
export class Part {
  /** @type {HTMLElement} */
  $root = document.documentElement;

  /** An element of the part by the name of its data attribute.
   * @param {string} name */
  part(name) {
    return one(`[data-${name}]`, this.$root);
  }
}
