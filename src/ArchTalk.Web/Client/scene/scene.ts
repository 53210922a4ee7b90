// What can be seen at one moment. Record makes it from what is being done, Refine and Watch from the compiled lesson; one
// painter shows it. It holds no rules: whether a stroke is finished is said here, never concluded from its points.

import type { PlacedDrawing } from "../ink/drawing";

export interface Style {
  tool: "pen" | "highlighter";
  ink: string;
  width: string;
  color: string;
  units: number;
  /** Its ends are square: it settled on a line of words. */
  isSquare?: boolean;
}

/** The style of a stroke that settled on a line of words (its height in tenths of a unit; 0 for as it was drawn): a highlighter is as high. */
export function settledStyle(style: Style, lineHeight: number): Style {
  return lineHeight > 0 && style.tool === "highlighter" ? { ...style, units: lineHeight / 10, isSquare: true } : style;
}

export interface Picture {
  src: string;
  width: number;
  height: number;
}

/** Left, top and width in tenths of a board unit. */
export interface View {
  x: number;
  y: number;
  width: number;
}

/** In tenths of a board unit. */
export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** A line of ink. Its points lie flat: x, y (tenths of a unit), pressure (0 to 255), time (ms). */
export interface Line {
  kind: "ink";
  key: string;
  style: Style;
  points: readonly number[];
}

/** A finished line: its points don't change any more, and its ink lies within the box. */
export interface Stroke extends Line {
  box: Box;
}

/** Something typed; places and the size of its letters (the em) in tenths of a unit. */
export interface TypedText {
  key: string;
  x: number;
  y: number;
  size: number;
  color: string;
  text: string;
  /** For each letter (UTF-16 unit) how it looks; null when all are in the text's colour, without a highlight. */
  looks: readonly Look[] | null;
  box: Box;
}

/** How a letter that was typed looks: its own colour, and what it is highlighted with. */
export interface Look {
  color: string | null;
  highlight: string | null;
}

/** A stroke that is still being drawn. */
export interface GrowingStroke {
  stroke: Line;
  /** How many of its points are drawn. */
  count: number;
  /** Where the pen is on its way to the next point: x, y, pressure. */
  tip: readonly number[] | null;
}

export interface Pointer {
  x: number;
  y: number;
  /** Where it was within the last moments, oldest first; `age` in ms. */
  trail: readonly { x: number; y: number; age: number }[];
}

/** What lies under the marks of a board; the same object as long as nothing of it changes. */
export interface Ground {
  id: string;
  pictures: readonly Picture[];
  /** Over the picture and under the ink, from back to front. */
  items: readonly PlacedDrawing[];
}

/** A board as it is seen through one view. */
export interface Pane {
  ground: Ground;
  /** In units. */
  height: number;
  view: View;
  /** In the order they were drawn; the same array as long as none is added or taken away. */
  finished: readonly Stroke[];
  growing: readonly GrowingStroke[];
  /** What was typed; the same array as long as nothing of it changes. */
  texts: readonly TypedText[];
  /** Items that don't show: covers that are lifted, say. */
  hidden: readonly string[];
  pointer: Pointer | null;
  /** The outline of what is lit up, flat: x, y in tenths of a unit; null when the light is out. */
  light: readonly number[] | null;
}

/** One pane, or two when boards are compared. */
export interface Scene {
  panes: readonly Pane[];
}

export const boardWidth = 16_000;

/** No view is narrower, in tenths of a unit. */
export const closest = boardWidth / 4;

/** How long the pointer's trail stays, in ms. */
export const trailMs = 450;

export const wholeWidth: View = { x: 0, y: 0, width: boardWidth };

/** The nearest view that shows no more than the board, whose height is in units: the rule of View.Within in C#. */
export function within(view: View, boardHeight: number): View {
  const width = Math.min(Math.max(view.width, closest), boardWidth);
  const lowest = Math.max(0, boardHeight * 10 - Math.floor((width * 9) / 16));
  return {
    x: Math.min(Math.max(view.x, 0), boardWidth - width),
    y: Math.min(Math.max(view.y, 0), lowest),
    width,
  };
}

/** The view closed in on a place (tenths of a unit) by a factor; the place stays where it is on the screen. */
export function closeIn(view: View, x: number, y: number, factor: number): View {
  const width = Math.min(Math.max(view.width / factor, closest), boardWidth);
  const scale = width / view.width;
  return { x: x - (x - view.x) * scale, y: y - (y - view.y) * scale, width };
}

export function sameView(a: View, b: View): boolean {
  return a.x === b.x && a.y === b.y && a.width === b.width;
}
