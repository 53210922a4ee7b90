// Which stretch of the lesson the rows show, the canvas they are drawn on, and what is dragged along them.

import { type Axis, wholeAxis } from "./axis";
import type { RowsCanvas } from "./rows-canvas";

export const seen: {
  axis: Axis;
  canvas: RowsCanvas | null;
  /** A chapter, a thinking stop or an edge that is dragged, and where it is, in ms. */
  moved: { id: string; at: number } | null;
} = { axis: wholeAxis(0, 1), canvas: null, moved: null };
