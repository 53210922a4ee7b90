// A straight line between two places, with or without an arrowhead, as the points of one stroke.

import type { Place } from "../ink/near";

/** A line this near to level or plumb (radians, 3°) was meant so. */
const nearlyLevel = (3 * Math.PI) / 180;

/** The line is drawn in so many steps, so that it grows in the lesson as it grew under the hand. */
const steps = 12;

const headAngle = (27 * Math.PI) / 180;

/** Of the head, in tenths of a board unit: a share of the line, at most so long. */
const headShare = 0.3;
const longestHead = 420;

/** Strokes of the straight tool are as broad as a pen that is held evenly. */
const evenPressure = 128;

/** Where the line ends: straight under or beside its beginning when it nearly does. */
export function endOf(from: Place, to: Place): Place {
  const [dx, dy] = [Math.abs(to.x - from.x), Math.abs(to.y - from.y)];
  if (Math.atan2(dy, dx) < nearlyLevel) {
    return { x: to.x, y: from.y };
  }

  return Math.atan2(dx, dy) < nearlyLevel ? { x: from.x, y: to.y } : to;
}

/**
 * The points, flat: x, y, pressure, time in ms. They grow from the beginning at `begun` to the end at `ended`; the head comes last.
 */
export function straight(from: Place, to: Place, begun: number, ended: number, hasHead: boolean): number[] {
  const end = endOf(from, to);
  const line = Array.from({ length: steps + 1 }, (_, i) => {
    const share = i / steps;
    return [from.x + share * (end.x - from.x), from.y + share * (end.y - from.y), evenPressure, begun + share * (ended - begun)];
  });
  return [...line, ...(hasHead ? head(from, end, ended) : [])].flat();
}

function head(from: Place, end: Place, at: number): number[][] {
  const back = Math.atan2(from.y - end.y, from.x - end.x);
  const length = Math.min(longestHead, headShare * Math.hypot(end.x - from.x, end.y - from.y));
  const wing = (angle: number) => [end.x + length * Math.cos(back + angle), end.y + length * Math.sin(back + angle), evenPressure, at];
  return [wing(headAngle), [end.x, end.y, evenPressure, at], wing(-headAngle)];
}
