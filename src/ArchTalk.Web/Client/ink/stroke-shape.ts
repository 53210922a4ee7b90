// What is computed once of a finished stroke: where its ink lies, and its outline.

import { halfWidth, outline } from "./outline";
import type { Box, Line, Stroke } from "../scene/scene";

/** A piece of a stroke has so many points. */
const pointsOfPiece = 12;

// By the points, since a stroke that is undone and comes back is another object with the same points.
const paths = new WeakMap<readonly number[], Path2D>();
const pieces = new WeakMap<readonly number[], Box[]>();

/** The box in which a line's ink lies, or that of its points from one index to another. */
export function boxAround(line: Line, from = 0, to = line.points.length): Box {
  const { points } = line;
  const box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  for (let i = from; i < to; i += 4) {
    box.left = Math.min(box.left, points[i]!);
    box.right = Math.max(box.right, points[i]!);
    box.top = Math.min(box.top, points[i + 1]!);
    box.bottom = Math.max(box.bottom, points[i + 1]!);
  }

  const reach = halfWidth(line.style, 255);
  return { left: box.left - reach, top: box.top - reach, right: box.right + reach, bottom: box.bottom + reach };
}

/** The line, finished. */
export function finished<T extends Line>(line: T): T & Stroke {
  return { ...line, box: boxAround(line) };
}

export function pathOf(stroke: Stroke): Path2D {
  let path = paths.get(stroke.points);
  if (!path) {
    path = new Path2D();
    outline(path, stroke.style, stroke.points, stroke.points.length / 4, null);
    paths.set(stroke.points, path);
  }

  return path;
}

/** The boxes of a stroke's pieces: together they hold its ink and far less paper than its one box. */
export function piecesOf(stroke: Stroke): readonly Box[] {
  let known = pieces.get(stroke.points);
  if (!known) {
    known = [];
    for (let from = 0; from < stroke.points.length; from += pointsOfPiece * 4) {
      // Each piece goes up to the first point of the next.
      known.push(boxAround(stroke, from, Math.min(stroke.points.length, from + pointsOfPiece * 4 + 4)));
    }

    pieces.set(stroke.points, known);
  }

  return known;
}

export function meets(a: Box, b: Box): boolean {
  return a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;
}

export function joined(a: Box, b: Box): Box {
  return { left: Math.min(a.left, b.left), top: Math.min(a.top, b.top), right: Math.max(a.right, b.right), bottom: Math.max(a.bottom, b.bottom) };
}
