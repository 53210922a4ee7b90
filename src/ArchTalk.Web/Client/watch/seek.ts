import { part } from "../shared/alpine";
import { spoken } from "../shared/format";
import type { WatchPage } from "./whole";

/** The bar that shows and sets the place in the lesson. */
export const seek = () =>
  part<WatchPage>()({
    get spokenTime(): string {
      return `${spoken(this.spokenMs)} of ${spoken(this.lengthMs)}`;
    },

    get doneWidth(): object {
      return { width: `${(100 * this.ms) / Math.max(1, this.lengthMs)}%` };
    },

    get knobPlace(): object {
      return { left: `${(100 * this.ms) / Math.max(1, this.lengthMs)}%` };
    },

    markPlace(at: number): object {
      return { left: `${(100 * at) / Math.max(1, this.lengthMs)}%` };
    },

    get marks(): number[] {
      return this.chapterTimes.slice(1);
    },

    seekDown(event: PointerEvent): void {
      (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
      this.seekTo(event);
    },

    seekMove(event: PointerEvent): void {
      if (event.buttons > 0) {
        this.seekTo(event);
      }
    },

    seekTo(event: PointerEvent): void {
      const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
      this.go(((event.clientX - box.left) / box.width) * this.lengthMs);
    },
  });
