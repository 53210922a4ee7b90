// What was typed on a board: letters as painters draw them, and where they lie.

import { family, type PathShape, type PlacedDrawing, type Shape, type TextShape } from "./drawing";
import type { Box, Look, TypedText } from "../scene/scene";

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

/**
 * @param size Of the letters (the em), in tenths of a unit like the place.
 * @param looks As `letter-looks.ts` reads them.
 */
export function typedText(
  key: string, x: number, y: number, size: number, color: string, text: string, looks: readonly Look[] | null = null,
): TypedText {
  const width = widthOf(text, size);
  const left = isFromRight(text) ? x - width : x;
  const box: Box = { left, top: y, right: left + width, bottom: y + text.split("\n").length * lineHeight * size };
  return { key, x, y, size, color, text, looks, box };
}

/** The text as painters draw it. */
export function drawingOf(typed: TypedText): PlacedDrawing {
  let drawing = drawings.get(typed);
  if (!drawing) {
    const isRight = isFromRight(typed.text);
    let start = 0;
    const shapes = typed.text.split("\n").flatMap((text, i): Shape[] => {
      const y = (baseline + i * lineHeight) * (typed.size / 10);
      const looks = typed.looks?.slice(start, start + text.length) ?? [];
      start += text.length + 1;
      return looks.some((l) => l.color !== null || l.highlight !== null)
        ? lettered(text, looks, y, typed, isRight)
        : [letters(text, 0, y, typed, typed.color, isRight)];
    });
    drawing = { id: typed.key, x: typed.x / 10, y: typed.y / 10, drawing: { width: 0, height: 0, shapes }, isCover: false };
    drawings.set(typed, drawing);
  }

  return drawing;
}

function letters(text: string, x: number, y: number, typed: TypedText, fill: string, isRight: boolean): TextShape {
  return { is: "text", text, x, y, size: typed.size / 10, fill, anchor: "start", isBold: false, isRightToLeft: isRight, language: null };
}

/** Letters that look alike and stand together. */
interface Run {
  text: string;
  look: Look;
  /** Of its first strong letter; null when it has none. */
  isRight: boolean | null;
}

// As Core's TextSetter lays runs: neighbours of one direction keep theirs, the groups follow the line's. Highlights lie under the letters.
function lettered(text: string, looks: readonly Look[], y: number, typed: TypedText, isRight: boolean): Shape[] {
  const size = typed.size / 10;
  const groups: { isRight: boolean; runs: Run[] }[] = [];
  for (const run of runsOf(text, looks)) {
    const direction = run.isRight ?? groups.at(-1)?.isRight ?? isRight;
    if (groups.at(-1)?.isRight !== direction) {
      groups.push({ isRight: direction, runs: [] });
    }

    groups.at(-1)!.runs.push(run);
  }

  const laid = (isRight ? groups.reverse() : groups).flatMap((g) => (g.isRight ? g.runs.reverse() : g.runs));
  const widths = laid.map((run) => widthOf(run.text, size));
  let x = isRight ? -widths.reduce((sum, w) => sum + w, 0) : 0;
  const under: PathShape[] = [];
  const over = laid.map((run, i) => {
    const width = widths[i]!;
    const fromRight = run.isRight ?? isRight;
    if (run.look.highlight) {
      const d = `M${x} ${y - 0.8 * size}h${width}v${1.04 * size}h${-width}Z`;
      under.push({ is: "path", d, fill: run.look.highlight, stroke: null, strokeWidth: 0, dash: 0, transform: null });
    }

    const shape = letters(run.text, fromRight ? x + width : x, y, typed, run.look.color ?? typed.color, fromRight);
    x += width;
    return shape;
  });
  return [...under, ...over];
}

// Parted where the look or the direction changes; spaces and signs stay with what is before them.
function runsOf(text: string, looks: readonly Look[]): Run[] {
  const runs: Run[] = [];
  let at = 0;
  for (const letter of text) {
    const look = looks[at]!;
    const last = runs.at(-1);
    const isRight = /\p{L}/u.test(letter) ? isFromRight(letter) : null;
    const goesOn = last && last.look.color === look.color && last.look.highlight === look.highlight
      && (isRight === null || last.isRight === null || last.isRight === isRight);
    if (goesOn) {
      last.text += letter;
      last.isRight ??= isRight;
    } else {
      runs.push({ text: letter, look, isRight });
    }

    at += letter.length;
  }

  return runs;
}
