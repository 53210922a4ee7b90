// Whether students can read what was just written, while it can still be changed: the rule of "How they see it" (Core/Boards/Seen).

import { joined } from "../ink/stroke-shape";
import { boardWidth, type Stroke, type Style } from "../scene/scene";

/** Fewer strokes are no writing. */
const fewest = 4;

/** WCAG 2.2, 1.4.11: what carries meaning needs this contrast. */
const leastContrast = 3;

/**
 * @param line The strokes of the line that was written last.
 * @param least The height of capitals that a phone needs, in tenths of a unit of a board that is seen whole.
 * @param viewWidth What is seen of the board, in tenths of a unit.
 */
export function isTooSmall(line: readonly Stroke[], least: number, viewWidth: number): boolean {
  if (line.length < fewest) {
    return false;
  }

  const box = line.map((s) => s.box).reduce(joined);
  const height = box.bottom - box.top - line[0]!.style.units * 10;
  return box.right - box.left > height && height < least * (viewWidth / boardWidth);
}

/** @param ground Colours (red, green, blue, 0 to 255) of the board around the stroke. */
export function isTooPale(style: Style, ground: readonly (readonly number[])[]): boolean {
  if (ground.length === 0) {
    return false;
  }

  const ink = luminance([1, 3, 5].map((i) => parseInt(style.color.slice(i, i + 2), 16)));
  const under = ground.map(luminance).sort((a, b) => a - b)[Math.floor(ground.length / 2)]!;
  return (Math.max(ink, under) + 0.05) / (Math.min(ink, under) + 0.05) < leastContrast;
}

/** WCAG 2.2, relative luminance. */
function luminance(rgb: readonly number[]): number {
  const [r, g, b] = rgb.map((v) => (v / 255 <= 0.04045 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4)) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}
