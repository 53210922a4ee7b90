// What is left of a stroke when an eraser rubs over part of it.

import { halfWidth } from "./outline";
import { type Place, toLine } from "./near";
import type { Stroke } from "../scene/scene";

/** Pieces shorter than this, in tenths of a unit, are crumbs. */
const crumb = 30;

/**
 * The pieces of a stroke that lie farther than a radius from a line, each flat: x, y, pressure by turns. Null when nothing of it is
 * touched.
 */
export function remains(stroke: Stroke, from: Place, to: Place, radius: number): number[][] | null {
  const { points, style } = stroke;
  const reach = radius + halfWidth(style, 128);
  const pieces: number[][] = [];
  let piece: number[] = [];
  let isTouched = false;
  const add = (x: number, y: number, pressure: number): void => {
    if (toLine({ x, y }, from, to) > reach) {
      piece.push(x, y, pressure);
      return;
    }

    isTouched = true;
    pieces.push(piece);
    piece = [];
  };
  for (let i = 0; i < points.length; i += 4) {
    const [x, y, pressure] = [points[i]!, points[i + 1]!, points[i + 2]!];
    if (i > 0) {
      // Between its points, so that a straight stroke is cut where it is rubbed.
      const [px, py, pp] = [points[i - 4]!, points[i - 3]!, points[i - 2]!];
      const near = toLine(from, { x: px, y: py }, { x, y }) <= 3 * reach + Math.hypot(to.x - from.x, to.y - from.y);
      const steps = near ? Math.ceil(Math.hypot(x - px, y - py) / (reach / 4)) : 1;
      for (let k = 1; k < steps; k++) {
        const share = k / steps;
        add(px + share * (x - px), py + share * (y - py), pp + share * (pressure - pp));
      }
    }

    add(x, y, pressure);
  }

  pieces.push(piece);
  return isTouched ? pieces.filter((p) => lengthOf(p) > crumb) : null;
}

function lengthOf(piece: readonly number[]): number {
  let length = 0;
  for (let i = 3; i < piece.length; i += 3) {
    length += Math.hypot(piece[i]! - piece[i - 3]!, piece[i + 1]! - piece[i - 2]!);
  }

  return length;
}
