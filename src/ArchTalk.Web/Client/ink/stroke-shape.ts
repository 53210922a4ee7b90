// What is computed once of a finished stroke: its outline and the box it lies in.

import { halfWidth, outline } from "./outline";
import type { Stroke } from "../scene/scene";

/** In tenths of a board unit. */
export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

interface Shape {
  path: Path2D | null;
  box: Box;
}

// By the points, since a stroke that is undone and comes back is another object with the same points.
const shapes = new WeakMap<readonly number[], Shape>();

export function boxOf(stroke: Stroke): Box {
  return shapeOf(stroke).box;
}

export function pathOf(stroke: Stroke): Path2D {
  const shape = shapeOf(stroke);
  if (!shape.path) {
    shape.path = new Path2D();
    outline(shape.path, stroke.style, stroke.points, stroke.points.length / 4, null);
  }

  return shape.path;
}

export function meets(a: Box, b: Box): boolean {
  return a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;
}

export function joined(a: Box | null, b: Box): Box {
  return a === null ? b : { left: Math.min(a.left, b.left), top: Math.min(a.top, b.top), right: Math.max(a.right, b.right), bottom: Math.max(a.bottom, b.bottom) };
}

function shapeOf(stroke: Stroke): Shape {
  let shape = shapes.get(stroke.points);
  if (!shape) {
    shape = { path: null, box: measure(stroke) };
    shapes.set(stroke.points, shape);
  }

  return shape;
}

function measure(stroke: Stroke): Box {
  const box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  for (let i = 0; i < stroke.points.length; i += 4) {
    box.left = Math.min(box.left, stroke.points[i]!);
    box.right = Math.max(box.right, stroke.points[i]!);
    box.top = Math.min(box.top, stroke.points[i + 1]!);
    box.bottom = Math.max(box.bottom, stroke.points[i + 1]!);
  }

  const reach = halfWidth(stroke.style, 255);
  return { left: box.left - reach, top: box.top - reach, right: box.right + reach, bottom: box.bottom + reach };
}
