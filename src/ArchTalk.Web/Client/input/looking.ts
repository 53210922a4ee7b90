// Moving the view by hand: sliding with one finger or the mouse, closing in with two fingers or the wheel.

import type { Gesture, PinchGesture, Sample, Spread } from "./gesture";
import { closeIn, type View } from "../scene/scene";

/** What is looked at. */
export interface Window {
  readonly view: View;
  /** In CSS pixels. */
  readonly width: number;
  look(view: View, stamp: number): void;
}

/** A finger must move so far, in CSS pixels, before the view moves: a resting hand doesn't. */
const slopPx = 8;

/** How fast the wheel closes in. */
const wheelPerFactor = 300;

/** @param slop Before the view follows, in CSS pixels. @param tapped Called when it was put down and lifted without moving. */
export function slideGesture(window: Window, from: Sample, slop = slopPx, tapped: (at: Sample) => void = () => undefined): Gesture {
  const start = window.view;
  let last = from;
  let isMoving = slop === 0;
  let hasMoved = false;
  return {
    move(samples) {
      const at = samples.at(-1)!;
      isMoving ||= Math.hypot(at.x - from.x, at.y - from.y) > slop;
      if (isMoving) {
        hasMoved = true;
        slideBy(window, at.x - last.x, at.y - last.y, at.stamp);
        last = at;
      }
    },
    up() {
      if (!hasMoved) {
        tapped(from);
      }
    },
    cancel(stamp) {
      window.look(start, stamp);
    },
  };
}

export function pinchGesture(window: Window, from: Spread): PinchGesture {
  let last = from;
  return {
    move(spread) {
      const at = placeOf(window, spread);
      const factor = last.apart > 0 ? spread.apart / last.apart : 1;
      window.look(closeIn(window.view, at.x, at.y, factor), spread.stamp);
      slideBy(window, spread.x - last.x, spread.y - last.y, spread.stamp);
      last = spread;
    },
    up() {
      // The view stays where it was left.
    },
  };
}

/** The wheel slides, and closes in with Ctrl (which is also how a touchpad tells of two fingers). */
export function onWheel(window: Window, e: WheelEvent, at: { x: number; y: number }): void {
  e.preventDefault();
  if (e.ctrlKey) {
    const place = placeOf(window, at);
    window.look(closeIn(window.view, place.x, place.y, Math.exp(-e.deltaY / wheelPerFactor)), e.timeStamp);
  } else {
    slideBy(window, -e.deltaX, -e.deltaY, e.timeStamp);
  }
}

/** The place of the board (tenths of a unit) under a place of the canvas (CSS pixels). */
export function placeOf(window: Window, at: { x: number; y: number }): { x: number; y: number } {
  const perPixel = window.view.width / window.width;
  return { x: window.view.x + at.x * perPixel, y: window.view.y + at.y * perPixel };
}

function slideBy(window: Window, dx: number, dy: number, stamp: number): void {
  const { view } = window;
  const perPixel = view.width / window.width;
  window.look({ ...view, x: view.x - dx * perPixel, y: view.y - dy * perPixel }, stamp);
}
