/** A tap on the drawing while marking: the server takes the point for the place of the mark. */

/** The point of the drawing that was tapped last, in the drawing's own units.
 * @type {{ mx: string, my: string } | null} */
let tapped = null;

/** @param {MouseEvent} event */
function tap(event) {
  const drawing =
    event.target instanceof Element && event.target.closest("[data-marking] svg.section");
  if (!(drawing instanceof SVGSVGElement)) return;
  const point = new DOMPoint(event.clientX, event.clientY);
  const { x, y } = point.matrixTransform(drawing.getScreenCTM()?.inverse());
  tapped = { mx: x.toFixed(1), my: y.toFixed(1) };
}

/** @param {CustomEvent<{ parameters: Record<string, unknown> }>} event */
function send(event) {
  const marks = event.target instanceof Element && event.target.closest("[data-marking] a");
  if (tapped && marks) Object.assign(event.detail.parameters, tapped);
  tapped = null;
}

export function watch() {
  document.addEventListener("click", tap, true);
  document.addEventListener("htmx:configRequest", send);
}
