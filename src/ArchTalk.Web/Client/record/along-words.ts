// Whether a stroke may have been drawn along words at all, so that not every letter of a hand is asked about.

import { across } from "../ink/near";
import type { Style } from "../scene/scene";

/** Strokes of a hand have at most so many places; a longer one goes along no line of words. */
const mostPlaces = 4000;

/** A pen's stroke along words is so long at least (tenths of a unit), and so many times as long as it is high: letters are not. */
const shortestLine = 250;
const flat = 2.5;

/** @param points Flat: x, y in tenths of a unit. */
export function mayBeAlongWords(style: Style, points: readonly number[]): boolean {
  if (points.length < 4 || points.length > 2 * mostPlaces) {
    return false;
  }

  return style.tool === "highlighter" || (across(points, 0) >= shortestLine && across(points, 0) >= flat * across(points, 1));
}
