// Which strokes make up the line of handwriting that was written last.

import { joined } from "../ink/stroke-shape";
import type { Box, Stroke } from "../scene/scene";

/** A stroke belongs to a line when so much of it, or of the line, lies on the same level. */
const leastShare = 0.35;

/** Nor is it farther beside the line than this, in heights of the line. */
const widestGap = 3;

/** Dots and dashes are small: in tenths of a unit, strokes are taken for at least as high as this. */
const leastHeight = 150;

/** The last of the strokes, which are in the order they were drawn, with those before it that stand in the same line. */
export function lastLine<T extends Stroke>(strokes: readonly T[]): readonly T[] {
  let from = strokes.length - 1;
  if (from < 0) {
    return [];
  }

  let line = strokes[from]!.box;
  while (from > 0 && isBeside(strokes[from - 1]!.box, line)) {
    line = joined(line, strokes[--from]!.box);
  }

  return strokes.slice(from);
}

function isBeside(stroke: Box, line: Box): boolean {
  const height = (box: Box) => Math.max(leastHeight, box.bottom - box.top);
  const middle = (stroke.top + stroke.bottom) / 2;
  const common = Math.min(stroke.bottom, line.bottom) - Math.max(stroke.top, line.top);
  const isOnLevel = common >= leastShare * Math.min(height(stroke), height(line)) || (middle > line.top && middle < line.bottom);
  const gap = Math.max(stroke.left - line.right, line.left - stroke.right);
  return isOnLevel && gap <= widestGap * height(line);
}
