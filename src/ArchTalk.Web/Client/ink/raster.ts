// Draws what rests on a board (paper, picture, items, finished ink) into a context whose unit is set here.

import { paintDrawing } from "./drawing";
import { drawingOf } from "./typed";
import { joined, meets, pathOf, piecesOf } from "./stroke-shape";
import { boardWidth, type Box, type Pane, type Stroke, type Style } from "../scene/scene";

const paper = "#FFFFFF";

/** Where a context's origin lies on the board, in pixels of the board at `scale` (pixels for a tenth of a board unit). */
export interface Frame {
  left: number;
  top: number;
  scale: number;
}

/** Draws everything that rests within some boxes; the caller clips. Gives back how many points of ink it drew. */
export function drawResting(
  context: CanvasRenderingContext2D,
  pane: Pane,
  picture: HTMLImageElement | null,
  frame: Frame,
  within: readonly Box[],
): number {
  within.forEach((box) => drawGround(context, pane, picture, frame, box));
  placeAt(context, frame, 10);
  for (const item of pane.ground.items) {
    if (!pane.hidden.includes(item.id)) {
      paintDrawing(context, item);
    }
  }

  const all = within.reduce(joined);
  pane.texts.filter((text) => meets(text.box, all)).forEach((text) => paintDrawing(context, drawingOf(text)));
  placeAt(context, frame);
  let points = 0;
  for (const stroke of pane.finished) {
    if (meets(stroke.box, all) && (within.length === 1 || piecesOf(stroke).some((piece) => within.some((box) => meets(piece, box))))) {
      fillInk(context, stroke.style, pathOf(stroke));
      points += stroke.points.length / 4;
    }
  }

  return points;
}

/** The paper and the picture within a box. */
export function drawGround(context: CanvasRenderingContext2D, pane: Pane, picture: HTMLImageElement | null, frame: Frame, box: Box): void {
  const { scale } = frame;
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.fillStyle = paper;
  context.fillRect(box.left * scale - frame.left, box.top * scale - frame.top, (box.right - box.left) * scale, (box.bottom - box.top) * scale);
  if (!picture) {
    return;
  }

  const perTenth = picture.naturalWidth / boardWidth;
  const bottom = Math.min(box.bottom, pane.height * 10, picture.naturalHeight / perTenth);
  const right = Math.min(box.right, boardWidth);
  const [left, top] = [Math.max(0, box.left), Math.max(0, box.top)];
  if (bottom > top && right > left) {
    context.imageSmoothingQuality = "high";
    context.drawImage(
      picture,
      left * perTenth,
      top * perTenth,
      (right - left) * perTenth,
      (bottom - top) * perTenth,
      left * scale - frame.left,
      top * scale - frame.top,
      (right - left) * scale,
      (bottom - top) * scale,
    );
  }
}

/** Draws one finished stroke on top. */
export function drawStroke(context: CanvasRenderingContext2D, stroke: Stroke, frame: Frame): void {
  placeAt(context, frame);
  fillInk(context, stroke.style, pathOf(stroke));
}

/** A highlighter darkens what is under it, so that writing stays readable through it. */
export function fillInk(context: CanvasRenderingContext2D, style: Style, path: Path2D): void {
  context.globalCompositeOperation = style.tool === "highlighter" ? "multiply" : "source-over";
  context.fillStyle = style.color;
  context.fill(path);
  context.globalCompositeOperation = "source-over";
}

/** Sets the context's unit: a tenth of a board unit, or `tenths` of them. */
export function placeAt(context: CanvasRenderingContext2D, frame: Frame, tenths = 1): void {
  context.setTransform(frame.scale * tenths, 0, 0, frame.scale * tenths, -frame.left, -frame.top);
}
