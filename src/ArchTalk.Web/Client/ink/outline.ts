// The shape of a stroke as one filled outline, computed from its points. Nothing here touches the page.

import type { Style } from "../timeline/timeline";

/** Where an outline is drawn to; Path2D fits. */
export interface Pen {
  moveTo(x: number, y: number): void;
  lineTo(x: number, y: number): void;
  arc(x: number, y: number, radius: number, start: number, end: number): void;
  closePath(): void;
}

const fullTurn = Math.PI * 2;

/** Half the width of a stroke at a pressure of 0 to 255, in tenths of a unit. A highlighter has one width. */
export function halfWidth(style: Style, pressure: number): number {
  const full = style.units * 5;
  return style.tool === "highlighter" ? full : full * (0.4 + (0.6 * pressure) / 255);
}

/**
 * Draws the outline of the first `count` points (flat: x, y, pressure, time), and of a tip that has moved on towards the
 * next point. Every part runs the same way round, so that filling by the nonzero rule leaves no holes.
 */
export function outline(pen: Pen, style: Style, points: ArrayLike<number>, count: number, tip: number[] | null): void {
  const length = count + (tip ? 1 : 0);
  const value = (i: number, column: number) => (i < count ? points[i * 4 + column]! : tip![column]!);
  const radius = (i: number) => halfWidth(style, value(i, 2));
  disc(pen, value(0, 0), value(0, 1), radius(0));
  for (let i = 1; i < length; i++) {
    const x0 = value(i - 1, 0);
    const y0 = value(i - 1, 1);
    const x1 = value(i, 0);
    const y1 = value(i, 1);
    const distance = Math.hypot(x1 - x0, y1 - y0);
    if (distance > 0) {
      const nx = (y1 - y0) / distance;
      const ny = (x0 - x1) / distance;
      const r0 = radius(i - 1);
      const r1 = radius(i);
      pen.moveTo(x0 + nx * r0, y0 + ny * r0);
      pen.lineTo(x1 + nx * r1, y1 + ny * r1);
      pen.lineTo(x1 - nx * r1, y1 - ny * r1);
      pen.lineTo(x0 - nx * r0, y0 - ny * r0);
      pen.closePath();
    }

    // A disc closes the joint; where the line hardly turns none is needed.
    if (i === length - 1 || turns(value, i)) {
      disc(pen, x1, y1, radius(i));
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

function disc(pen: Pen, x: number, y: number, radius: number): void {
  pen.moveTo(x + radius, y);
  pen.arc(x, y, radius, 0, fullTurn);
  pen.closePath();
}

function turns(value: (i: number, column: number) => number, i: number): boolean {
  const ax = value(i, 0) - value(i - 1, 0);
  const ay = value(i, 1) - value(i - 1, 1);
  const bx = value(i + 1, 0) - value(i, 0);
  const by = value(i + 1, 1) - value(i, 1);
  const dot = ax * bx + ay * by;
  const lengths = Math.hypot(ax, ay) * Math.hypot(bx, by);
  return lengths === 0 || dot < 0.995 * lengths;
}
