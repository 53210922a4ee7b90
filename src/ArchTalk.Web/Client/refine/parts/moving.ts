import { SmallPictures } from "../../player/small-pictures";
import { part } from "../../shared/alpine";
import type { Timeline } from "../../timeline/timeline";
import { live } from "../page";
import type { RefinePage } from "./whole";

/** A part of the lesson, from a chapter's beginning to that of the next, in ms. */
interface Part {
  id: string;
  title: string;
  from: number;
  to: number;
}

/** Two parts that follow each other once it is done. */
interface Join {
  key: string;
  words: string;
  before: number;
  after: number;
}

/** Just before a join, the end of what comes before it is seen, in ms. */
const justBefore = 50;

let pictures: { of: Timeline; small: SmallPictures } | null = null;

/** A chapter moved before another: what follows what is told and shown before it is done. */
export const moving = () =>
  part<RefinePage>()({
    /** The chapter that is being moved. */
    movingId: "",
    /** Before which one it comes: "" for none chosen yet, "end" for behind all. */
    target: "",

    get parts(): Part[] {
      const there = this.chapters.filter((c) => !this.isGone(c)).map((c) => ({ id: c.id, title: c.title, from: this.timeOf(c) }));
      return there.map((c, i) => ({ ...c, to: there[i + 1]?.from ?? this.lengthMs }));
    },

    /** Whether there is another chapter to come before. */
    get canMoveChapters(): boolean {
      return Object.values(this.chapterTimes).filter((at) => at !== null).length > 1;
    },

    isMoving(chapter: { id: string }): boolean {
      return this.movingId === chapter.id;
    },

    toggleMoving(chapter: { id: string }): void {
      this.movingId = this.isMoving(chapter) ? "" : chapter.id;
      this.target = "";
    },

    /** Before which chapters it can come: not itself, nor the one that follows it already. */
    get targets(): { id: string; words: string }[] {
      const parts = this.parts;
      const at = parts.findIndex((p) => p.id === this.movingId);
      const before = parts.filter((_, i) => i !== at && i !== at + 1).map((p) => ({ id: p.id, words: `before “${p.title}”` }));
      return at === parts.length - 1 ? before : [...before, { id: "end", words: "at the end" }];
    },

    setTarget(event: Event): void {
      this.target = (event.target as HTMLSelectElement).value;
    },

    /** The parts in the order that they would have. */
    get orderThen(): Part[] {
      const parts = this.parts;
      const one = parts.find((p) => p.id === this.movingId);
      const others = parts.filter((p) => p !== one);
      const at = this.target === "end" ? others.length : others.findIndex((p) => p.id === this.target);
      return one && at >= 0 ? [...others.slice(0, at), one, ...others.slice(at)] : parts;
    },

    /** Where other parts meet than now. */
    get joins(): Join[] {
      const now = new Set(this.parts.map((p, i, all) => `${p.id} ${all[i + 1]?.id}`));
      const board = (ms: number): string => {
        const shown = live.player?.timeline;
        return shown?.boards[shown.boardAt(ms)]?.title ?? "";
      };
      return this.orderThen.flatMap((p, i, all) => {
        const next = all[i + 1];
        return next && !now.has(`${p.id} ${next.id}`)
          ? [{
              key: `${this.movingId} ${this.target} ${i}`,
              words: `“${p.title}” ends on “${board(p.to - justBefore)}”, then “${next.title}” begins on “${board(next.from)}”`,
              before: p.to - justBefore,
              after: next.from,
            }]
          : [];
      });
    },

    get hasTarget(): boolean {
      return this.target !== "";
    },

    /** What is drawn comes with its part: what now comes before another part, and then behind it, isn't there yet when that one begins. */
    get laterWords(): string {
      const [now, then] = [this.parts, this.orderThen];
      const comesBehind = (p: Part, i: number): boolean =>
        now.slice(i + 1).some((other) => then.findIndex((t) => t.id === other.id) < then.findIndex((t) => t.id === p.id));
      const later = now.filter(comesBehind);
      return later.length > 0 ? `What is drawn in ${later.map((p) => `“${p.title}”`).join(", ")} is not there yet when the other begins.` : "";
    },

    showJoin(ms: number, canvas: HTMLCanvasElement): void {
      const timeline = live.player?.timeline;
      if (timeline) {
        const index = timeline.boardAt(ms);
        const { x, y, width } = timeline.paneOf(index, ms).view;
        pictures = pictures?.of === timeline ? pictures : { of: timeline, small: new SmallPictures(timeline) };
        void pictures.small.show(canvas, { board: index, ms, left: x, top: y, width, height: (width * 9) / 16 });
      }
    },

    async moveChapter(): Promise<void> {
      const one = this.parts.find((p) => p.id === this.movingId);
      const before = this.target === "end" ? this.lengthMs : this.parts.find((p) => p.id === this.target)?.from;
      if (one && before !== undefined) {
        await this.anchorChapters();
        if (await this.doStep({ do: "move", fromMs: one.from, toMs: one.to, beforeMs: before })) {
          this.movingId = "";
        }
      }
    },
  });
