// The view glides to a detail and back. What is seen on the way is journalled as it was seen.

import { closest, type View } from "../scene/scene";
import { placeOf, type Window } from "./looking";

const glideMs = 450;

/** A region smaller than this, in CSS pixels, was a press and not a drag. */
const leastPx = 12;

/** Two places of the canvas, in CSS pixels, that span a region. */
export interface Region {
  from: { x: number; y: number };
  to: { x: number; y: number };
}

/** The view that holds a region of what is seen, as large as it can be; null when the region is none. */
export function viewOf(window: Window, { from, to }: Region): View | null {
  if (Math.max(Math.abs(to.x - from.x), Math.abs(to.y - from.y)) < leastPx) {
    return null;
  }

  const [a, b] = [placeOf(window, from), placeOf(window, to)];
  const width = Math.max(Math.abs(b.x - a.x), (Math.abs(b.y - a.y) * 16) / 9, closest);
  return { x: (a.x + b.x - width) / 2, y: (a.y + b.y) / 2 - (width * 9) / 32, width };
}

/** Between two views: it begins and ends slowly, and closes in evenly. @param share 0 to 1. */
export function between(from: View, to: View, share: number): View {
  const eased = share * share * (3 - 2 * share);
  const mix = (a: number, b: number) => a + (b - a) * eased;
  return { x: mix(from.x, to.x), y: mix(from.y, to.y), width: mix(from.width, to.width) };
}

export class Glide {
  private turn = 0;

  constructor(private readonly window: Window) {}

  /** Glides there; another glide, or `stop`, ends this one where it is. With reduced motion it is there at once. */
  to(view: View): void {
    const { window } = this;
    const turn = ++this.turn;
    const from = window.view;
    const begun = performance.now();
    if (matchMedia("(prefers-reduced-motion: reduce)").matches) {
      window.look(view, begun);
      return;
    }

    const step = (): void => {
      const now = performance.now();
      const share = Math.min(1, (now - begun) / glideMs);
      if (turn === this.turn) {
        window.look(between(from, view, share), now);
        if (share < 1) {
          requestAnimationFrame(step);
        }
      }
    };
    requestAnimationFrame(step);
  }

  stop(): void {
    this.turn++;
  }
}
