// Small pictures of parts of boards as they are at a moment of the lesson.

import { onPictures } from "../ink/item-pictures";
import { PictureStore } from "../ink/picture-store";
import { drawResting } from "../ink/raster";
import type { Timeline } from "../timeline/timeline";

/** What a picture shows: a region of a board (tenths of a unit) at a time (ms) when that board is seen. */
export interface Part {
  board: number;
  ms: number;
  left: number;
  top: number;
  width: number;
  height: number;
}

export class SmallPictures {
  private readonly store = new PictureStore(() => this.paintAll());
  private readonly shown = new Map<HTMLCanvasElement, Part>();

  constructor(private readonly timeline: Timeline) {
    onPictures(() => this.paintAll());
  }

  /** Paints a part into a canvas, whose width on the page is set by its style; again when more of it has been loaded. */
  async show(canvas: HTMLCanvasElement, part: Part): Promise<void> {
    this.shown.set(canvas, part);
    await this.timeline.loadInk(part.board);
    if (this.timeline.lacksUnder(part.board, part.ms)) {
      await this.timeline.loadUnder(part.board);
    }

    this.paint(canvas, part);
  }

  private paintAll(): void {
    this.shown.forEach((part, canvas) => this.paint(canvas, part));
  }

  private paint(canvas: HTMLCanvasElement, part: Part): void {
    const pane = this.timeline.paneOf(part.board, part.ms);
    if (this.timeline.boards[part.board]?.ink === null) {
      return;
    }

    // Twice as sharp as a usual screen, so that it can be printed.
    canvas.width = Math.max(1, Math.round((canvas.clientWidth || 240) * 2));
    const scale = canvas.width / part.width;
    canvas.height = Math.max(1, Math.round(part.height * scale));
    const picture = this.store.best(pane.ground.pictures, 16_000 * scale);
    const frame = { left: Math.round(part.left * scale), top: Math.round(part.top * scale), scale };
    const box = { left: part.left, top: part.top, right: part.left + part.width, bottom: part.top + part.height };
    drawResting(canvas.getContext("2d", { alpha: false })!, pane, picture, frame, [box]);
  }
}
