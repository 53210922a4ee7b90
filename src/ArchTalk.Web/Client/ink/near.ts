// Which strokes a hand touches.

import type { Stroke } from "../scene/scene";
import { halfWidth } from "./outline";

/** In tenths of a board unit. */
export interface Place {
  x: number;
  y: number;
}

/** Whether a stroke comes nearer than a radius to a line, its own breadth included. */
export function isNear(stroke: Stroke, from: Place, to: Place, radius: number): boolean {
  const reach = radius + halfWidth(stroke.style, 128);
  const { box } = stroke;
  const isBeside = Math.max(from.x, to.x) < box.left - reach || Math.min(from.x, to.x) > box.right + reach;
  const isAboveOrBelow = Math.max(from.y, to.y) < box.top - reach || Math.min(from.y, to.y) > box.bottom + reach;
  if (isBeside || isAboveOrBelow) {
    return false;
  }

  const p = stroke.points;
  for (let i = 0; i < p.length; i += 4) {
    const j = Math.min(i + 4, p.length - 4);
    if (apart(from, to, { x: p[i]!, y: p[i + 1]! }, { x: p[j]!, y: p[j + 1]! }) <= reach) {
      return true;
    }
  }

  return false;
}

/** How far two lines are apart, each given by its ends. */
function apart(a: Place, b: Place, c: Place, d: Place): number {
  return crosses(a, b, c, d) ? 0 : Math.min(toLine(a, c, d), toLine(b, c, d), toLine(c, a, b), toLine(d, a, b));
}

function crosses(a: Place, b: Place, c: Place, d: Place): boolean {
  const side = (p: Place, q: Place, r: Place) => Math.sign((q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x));
  return side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
}

/** How far places reach along an axis (0 for x, 1 for y); they lie flat: x, y by turns. */
export function across(flat: readonly number[], axis: 0 | 1): number {
  const values = flat.filter((_, i) => i % 2 === axis);
  return Math.max(...values) - Math.min(...values);
}

/** How far a place is from a line that is given by its ends. */
export function toLine(p: Place, a: Place, b: Place): number {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const square = dx * dx + dy * dy;
  const along = square === 0 ? 0 : Math.min(1, Math.max(0, ((p.x - a.x) * dx + (p.y - a.y) * dy) / square));
  return Math.hypot(p.x - a.x - along * dx, p.y - a.y - along * dy);
}

/** The newest stroke that a place touches; null for none. */
export function newestAt<T extends Stroke>(strokes: readonly T[], place: Place, radius: number): T | null {
  return strokes.findLast((s) => isNear(s, place, place, radius)) ?? null;
}
