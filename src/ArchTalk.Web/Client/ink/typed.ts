// What was typed on a board: letters as painters draw them, and where they lie.

import { family, type PlacedDrawing, type TextShape } from "./drawing";
import type { Box, TypedText } from "../scene/scene";

/** As Core's TextSetter has it, in ems: from the upper edge to the first baseline, and from baseline to baseline. */
const baseline = 0.98;
export const lineHeight = 1.3;

/** Where nothing can be measured: the usual breadth of a letter in ems. */
const usualLetter = 0.56;

/** The blocks of Unicode that are written from the right: Hebrew to Arabic Extended-A, and their presentation forms. */
const fromRight = /[\u0590-\u08FF\uFB1D-\uFDFF\uFE70-\uFEFC]/;

const drawings = new WeakMap<TypedText, PlacedDrawing>();
let context: CanvasRenderingContext2D | null = null;

/** The first strong letter says where a text is written from. */
export function isFromRight(text: string): boolean {
  return fromRight.test(/\p{L}/u.exec(text)?.[0] ?? "");
}

/** The breadth of the widest line, in the unit of the size. */
export function widthOf(text: string, size: number): number {
  const lines = text.split("\n");
  if (typeof document === "undefined") {
    return Math.max(...lines.map((l) => l.length)) * usualLetter * size;
  }

  context ??= document.createElement("canvas").getContext("2d")!;
  context.font = `400 100px ${family}`;
  return (Math.max(...lines.map((l) => context!.measureText(l).width)) * size) / 100;
}

/** @param size Of the letters (the em), in tenths of a unit like the place. */
export function typedText(key: string, x: number, y: number, size: number, color: string, text: string): TypedText {
  const width = widthOf(text, size);
  const left = isFromRight(text) ? x - width : x;
  const box: Box = { left, top: y, right: left + width, bottom: y + text.split("\n").length * lineHeight * size };
  return { key, x, y, size, color, text, box };
}

/** The text as painters draw it. */
export function drawingOf(typed: TypedText): PlacedDrawing {
  let drawing = drawings.get(typed);
  if (!drawing) {
    const size = typed.size / 10;
    const shapes = typed.text.split("\n").map((text, i): TextShape => ({
      is: "text", text, x: 0, y: (baseline + i * lineHeight) * size, size, fill: typed.color, anchor: "start", isBold: false,
      isRightToLeft: isFromRight(typed.text), language: null,
    }));
    drawing = { id: typed.key, x: typed.x / 10, y: typed.y / 10, drawing: { width: 0, height: 0, shapes }, isCover: false };
    drawings.set(typed, drawing);
  }

  return drawing;
}
