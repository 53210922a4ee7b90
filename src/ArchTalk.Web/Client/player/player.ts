// Plays a lesson: the sound is the clock, the canvas follows it.

import { Painter, PictureStore } from "../ink/painter";
import type { Timeline } from "../timeline/timeline";

/** Ink this far ahead, in ms, is loaded before it is needed. */
const ahead = 45_000;

export class Player {
  private readonly painter: Painter;
  private readonly pictures = new PictureStore();
  private frame = 0;
  private described = "";
  private loading = new Set<number>();

  /** @param tick Called with the time in ms whenever a picture was painted. */
  constructor(
    canvas: HTMLCanvasElement,
    readonly audio: HTMLAudioElement,
    readonly timeline: Timeline,
    private readonly tick: (ms: number) => void,
  ) {
    this.painter = new Painter(canvas, this.pictures, () => this.repaint());
    new ResizeObserver(() => this.repaint()).observe(canvas);
    for (const event of ["play", "seeking", "seeked", "timeupdate", "ended", "pause"]) {
      audio.addEventListener(event, () => this.repaint());
    }

    this.repaint();
  }

  get time(): number {
    return Math.min(this.audio.currentTime * 1000, this.timeline.length);
  }

  seek(ms: number): void {
    this.audio.currentTime = Math.min(Math.max(ms, 0), this.timeline.length) / 1000;
    this.repaint();
  }

  async toggle(): Promise<void> {
    if (this.audio.paused) {
      if (this.audio.ended) {
        this.audio.currentTime = 0;
      }

      await this.audio.play();
    } else {
      this.audio.pause();
    }
  }

  /** Paints in the next frame, and goes on as long as something moves. */
  repaint(): void {
    if (this.frame === 0) {
      this.frame = requestAnimationFrame(() => this.paint());
    }
  }

  private paint(): void {
    this.frame = 0;
    const ms = this.time;
    for (const board of this.timeline.boardsBetween(ms, ms + ahead)) {
      void this.need(board);
    }

    this.painter.resize();
    const scene = this.timeline.at(ms);
    const board = this.timeline.boards[scene.board]!;
    this.painter.paint({ ...scene, boardId: board.id, pictures: board.pictures, items: board.items }, ms);
    this.describe(`${board.title}. ${board.description}`.trim());
    this.tick(ms);
    if (!this.audio.paused || this.painter.isFading) {
      this.repaint();
    }
  }

  // Those who hear the lesson are told what the board shows; only when that changes.
  private describe(words: string): void {
    if (this.described !== words) {
      this.described = words;
      this.painter.canvas.setAttribute("aria-label", words);
    }
  }

  private async need(board: number): Promise<void> {
    if (this.timeline.boards[board]?.strokes !== null || this.loading.has(board)) {
      return;
    }

    this.loading.add(board);
    try {
      await this.timeline.loadInk(board);
      this.repaint();
    } finally {
      this.loading.delete(board);
    }
  }
}
