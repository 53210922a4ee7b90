// The shape of a stroke as one filled outline, computed from its points. Nothing here touches the page.

import type { Style } from "../scene/scene";

/** Where an outline is drawn to; Path2D fits. */
export interface Pen {
  moveTo(x: number, y: number): void;
  lineTo(x: number, y: number): void;
  arc(x: number, y: number, radius: number, start: number, end: number): void;
  closePath(): void;
}

const fullTurn = Math.PI * 2;

/** Up to this turn (its cosine; about 25°) two pieces of a stroke share their corners; a sharper one gets a disc. */
const sharpestTurn = 0.906;

/** Half the width of a stroke at a pressure of 0 to 255, in tenths of a unit. A highlighter has one width. */
export function halfWidth(style: Style, pressure: number): number {
  const full = style.units * 5;
  return style.tool === "highlighter" ? full : full * (0.4 + (0.6 * pressure) / 255);
}

/**
 * Draws the outline of the first `count` points (flat: x, y, pressure, time), and of a tip that has moved on towards the
 * next point. Where a stroke hardly turns its pieces form one strip with shared edges (edges of their own would show as hair
 * lines); every part runs the same way round, so that filling by the nonzero rule leaves no holes.
 */
export function outline(pen: Pen, style: Style, points: ArrayLike<number>, count: number, tip: readonly number[] | null): void {
  const line = spread(style, points, count, tip);
  if (style.isSquare) {
    strip(pen, line, 0, line.length - 1);
    return;
  }

  disc(pen, line, 0);
  let from = 0;
  for (let i = 1; i < line.length; i++) {
    const isLast = i === line.length - 1;
    if (isLast || !isSmooth(line, i)) {
      strip(pen, line, from, i);
      disc(pen, line, i);
      from = i;
    }
  }
}

/** Where the tip is at a time between point `count - 1` and the next; null when the stroke is complete. */
export function tipAt(points: ArrayLike<number>, count: number, ms: number): number[] | null {
  const from = (count - 1) * 4;
  const to = count * 4;
  if (to >= points.length) {
    return null;
  }

  const span = points[to + 3]! - points[from + 3]!;
  const share = span > 0 ? Math.min(1, Math.max(0, (ms - points[from + 3]!) / span)) : 0;
  return [0, 1, 2].map((c) => points[from + c]! + share * (points[to + c]! - points[from + c]!));
}

interface Place {
  x: number;
  y: number;
  radius: number;
}

// Points that lie on each other have no direction between them, so only the last of them counts.
function spread(style: Style, points: ArrayLike<number>, count: number, tip: readonly number[] | null): Place[] {
  const line: Place[] = [];
  const add = (x: number, y: number, pressure: number) => {
    const last = line.at(-1);
    const place = { x, y, radius: halfWidth(style, pressure) };
    if (last && last.x === x && last.y === y) {
      last.radius = Math.max(last.radius, place.radius);
    } else {
      line.push(place);
    }
  };
  for (let i = 0; i < count; i++) {
    add(points[4 * i]!, points[4 * i + 1]!, points[4 * i + 2]!);
  }

  if (tip) {
    add(tip[0]!, tip[1]!, tip[2]!);
  }

  return line;
}

// Whether the pieces before and after a point can share their corners there: a small turn, and pieces long enough that the
// inner edge doesn't run backwards.
function isSmooth(line: readonly Place[], i: number): boolean {
  const [a, b, c] = [line[i - 1]!, line[i]!, line[i + 1]!];
  const [ax, ay, bx, by] = [b.x - a.x, b.y - a.y, c.x - b.x, c.y - b.y];
  const [la, lb] = [Math.hypot(ax, ay), Math.hypot(bx, by)];
  const cosine = (ax * bx + ay * by) / (la * lb);
  const halfTangent = Math.sqrt(Math.max(0, (1 - cosine) / (1 + cosine)));
  return cosine > sharpestTurn && b.radius * halfTangent < 0.5 * Math.min(la, lb);
}

// One polygon along the points `from` to `to`, once along the left side and back along the right.
function strip(pen: Pen, line: readonly Place[], from: number, to: number): void {
  for (let i = from; i <= to; i++) {
    const n = normal(line, i, from, to);
    const p = line[i]!;
    if (i === from) {
      pen.moveTo(p.x + n.x * p.radius, p.y + n.y * p.radius);
    } else {
      pen.lineTo(p.x + n.x * p.radius, p.y + n.y * p.radius);
    }
  }

  for (let i = to; i >= from; i--) {
    const n = normal(line, i, from, to);
    const p = line[i]!;
    pen.lineTo(p.x - n.x * p.radius, p.y - n.y * p.radius);
  }

  pen.closePath();
}

// Square to the direction in which the stroke passes a point, within a strip.
function normal(line: readonly Place[], i: number, from: number, to: number): { x: number; y: number } {
  const [a, b] = [line[Math.max(from, i - 1)]!, line[Math.min(to, i + 1)]!];
  const length = Math.hypot(b.x - a.x, b.y - a.y) || 1;
  return { x: (b.y - a.y) / length, y: (a.x - b.x) / length };
}

function disc(pen: Pen, line: readonly Place[], i: number): void {
  const { x, y, radius } = line[i]!;
  pen.moveTo(x + radius, y);
  pen.arc(x, y, radius, 0, fullTurn);
  pen.closePath();
}
