/** A lamp watched by the camera: the brightness of one spot of the picture, which stays in this
 * browser. */

/** The least difference between dark and lit, of 255, that is told from noise. */
const LEAST_LIGHT = 30;
/** How much the two levels follow the room's light at each picture, of 255. */
const FORGETTING = 0.05;
/** Above this share of the way from dark to lit a dark lamp is lit, below the other a lit one dark. */
const LIT = 0.6;
const DARK = 0.4;
/** The side of the spot that is looked at, in points after scaling. */
const SPOT_POINTS = 8;
/** The spot is this part of the shorter side of the picture. */
const SPOT_PART = 1 / 12;

/** Tells when one spot goes from dark to lit and back. */
export class Glow {
  /** @type {number | null} */
  dark = null;
  /** @type {number | null} */
  lit = null;
  on = false;

  /** Take the next brightness; return "lit" or "dark" at a change, else nothing.
   * @param {number} bright from 0 to 255
   * @returns {"lit" | "dark" | null} */
  see(bright) {
    this.dark = Math.min(bright, (this.dark ?? bright) + FORGETTING);
    this.lit = Math.max(bright, (this.lit ?? bright) - FORGETTING);
    const span = this.lit - this.dark;
    if (span < LEAST_LIGHT) return null;
    const share = (bright - this.dark) / span;
    if (this.on ? share >= DARK : share <= LIT) return null;
    this.on = !this.on;
    return this.on ? "lit" : "dark";
  }
}

/** The mean brightness of a spot of a video, from 0 to 255; nothing before its first picture.
 * @param {CanvasRenderingContext2D} pen
 * @param {HTMLVideoElement} video
 * @param {number[]} spot across and down, each from 0 to 1 */
export function brightness(pen, video, spot) {
  const side = Math.min(video.videoWidth, video.videoHeight) * SPOT_PART;
  if (!side) return null;
  const [x, y] = [spot[0] * video.videoWidth - side / 2, spot[1] * video.videoHeight - side / 2];
  pen.drawImage(video, x, y, side, side, 0, 0, SPOT_POINTS, SPOT_POINTS);
  const points = pen.getImageData(0, 0, SPOT_POINTS, SPOT_POINTS).data;
  let sum = 0;
  points.forEach((value, n) => {
    if (n % 4 !== 3) sum += value; // every fourth is how opaque the point is
  });
  return sum / (SPOT_POINTS * SPOT_POINTS * 3);
}

/** @returns {CanvasRenderingContext2D} */
export function pen() {
  const size = { width: SPOT_POINTS, height: SPOT_POINTS };
  const canvas = Object.assign(document.createElement("canvas"), size);
  const context = canvas.getContext("2d", { willReadFrequently: true });
  if (!context) throw new Error("found a browser without a canvas");
  return context;
}
