/** The keyboard: every press a page offers has a key (the list is in web/kit/keys.py). */

import { every, first, takesTyping, target, tell } from "./dom.js";

/** @param {Element} element */
const isShown = (element) => element.closest("details:not([open]) > :not(summary)") === null;

/** @param {Element} element */
const isOff = (element) => "disabled" in element && element.disabled === true;

/** @param {string} key */
const keyed = (key) => every(`[data-key="${CSS.escape(key)}"]`).filter(isShown);

/** Whether a key is the number of an answer that can be given now.
 * @param {string} key */
const isAnswer = (key) => keyed(key).some((element) => !isOff(element));

/** Press what has the key; return whether there was anything.
 * @param {string} key */
export function act(key) {
  const all = keyed(key);
  const wanted = all.find((element) => !isOff(element));
  if (!wanted) return tellLocked(all.find((element) => element.dataset.locked));
  if (wanted.matches("input, textarea")) wanted.focus();
  else wanted.dispatchEvent(new MouseEvent("click", { bubbles: true, cancelable: true }));
  return true;
}

/** What cannot be answered yet says so to a key as well, and leads to what comes first.
 * @param {HTMLElement | SVGElement | undefined} element */
function tellLocked(element) {
  if (!element?.dataset.locked) return false;
  tell(element.dataset.locked);
  first("[data-reach] button")?.focus();
  return true;
}

/** The keys of the whole page, and the sheet that lists them. */
export class Keys {
  open = false;
  /** Whether G was pressed, and a station's number is awaited. */
  going = false;

  get closed() {
    return !this.open;
  }

  close() {
    this.open = false;
  }

  /** @param {KeyboardEvent} event */
  press(event) {
    if (event.repeat) return;
    if (event.ctrlKey && event.key === "Enter" && takesTyping(target(event))) {
      if (act("k")) event.preventDefault();
      return;
    }
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "Escape") this.leave(target(event));
    else if (!takesTyping(target(event))) this.pressed(event.key.toLowerCase(), event);
  }

  /** Escape: close the list, or leave the field.
   * @param {Element} where */
  leave(where) {
    this.open = false;
    if (takesTyping(where) && where instanceof HTMLElement) where.blur();
  }

  /** @param {string} key
   * @param {KeyboardEvent} event */
  pressed(key, event) {
    if (this.going) return this.go(key, event);
    if (key === "g") {
      this.going = true;
      return;
    }
    if (this.isOwn(key, event)) event.preventDefault();
  }

  /** Do what the key means on this page; return whether it means anything.
   * @param {string} key
   * @param {KeyboardEvent} event */
  isOwn(key, event) {
    if (key === " ") return this.isFootPressed(target(event)) && act("k");
    if (key === "?") {
      this.open = !this.open;
      return true;
    }
    const job = first("#job");
    if (job && key === "n") return this.visit(job.dataset.next);
    if (job && key === "s") return this.visit(job.dataset.safe);
    if (/^[\d.,-]$/.test(key) && first('[data-key="m"][inputmode]') && !isAnswer(key)) {
      act("m");
      return false;
    }
    return act(key);
  }

  /** Whether the space bar stands for a foot switch here, and not for the element it is pressed at.
   * @param {Element} where */
  isFootPressed(where) {
    return first("[data-foot]") !== null && !where.closest("button, a, summary, input");
  }

  /** To a station by its number.
   * @param {string} key
   * @param {KeyboardEvent} event */
  go(key, event) {
    this.going = false;
    const link = first(`[data-station="${CSS.escape(key)}"]`);
    if (!(link instanceof HTMLElement)) return;
    event.preventDefault();
    link.click();
  }

  /** To an address of the job, by its link where there is one.
   * @param {string | undefined} address */
  visit(address) {
    if (address === undefined) return false;
    const link = [...document.querySelectorAll("#job a")].find(
      (candidate) => candidate.getAttribute("href") === address,
    );
    if (link instanceof HTMLAnchorElement) link.click();
    else window.location.assign(address);
    return true;
  }
}
