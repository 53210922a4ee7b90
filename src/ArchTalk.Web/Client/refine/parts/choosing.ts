import { part } from "../../shared/alpine";
import { seconds } from "../../shared/format";
import type { Moment } from "../../timeline/moments";
import { countUpTo } from "../../timeline/rows";
import { edgeBeside, edgeNear, holds, type Stretch } from "../chosen";
import { files, live } from "../page";
import type { RefinePage } from "./whole";

/** Phrases end at the playhead when they end so near to it, in ms. */
const nearPlayhead = 150;

/** The stretch of the lesson that is chosen, and what is done with it. */
export const choosing = () =>
  part<RefinePage>()({
    chosen: null as Stretch | null,
    /** What stays when a stretch is taken out. */
    inkStays: false,

    get hasChosen(): boolean {
      return this.chosen !== null;
    },

    get hasNotChosen(): boolean {
      return this.chosen === null;
    },

    get chosenWords(): string {
      if (!this.chosen) {
        return "";
      }

      const { phrases, marks } = holds(this.chosen, live.view.phrases, live.marks);
      const length = seconds(this.chosen.to - this.chosen.from);
      const counted = (n: number, one: string, several: string) => (n === 0 ? "" : `, ${n} ${n === 1 ? one : several}`);
      return `${length}${counted(phrases, "phrase", "phrases")}${counted(marks, "stroke", "strokes")}`;
    },

    choose(from: number, to: number): void {
      this.chosen = to > from ? { from: Math.max(from, 0), to: Math.min(to, this.lengthMs) } : null;
      this.takeEdges();
    },

    chooseNothing(): void {
      this.chosen = null;
      this.closeMore();
      this.takeEdges();
    },

    /** At the playhead; what was chosen keeps its other edge. */
    startChoosing(): void {
      const at = edgeNear(this.ms, live.view.phrases, nearPlayhead);
      this.choose(at, this.chosen && this.chosen.to > at ? this.chosen.to : edgeBeside(at, live.view.phrases, 1, this.lengthMs));
    },

    endChoosing(): void {
      const at = edgeNear(this.ms, live.view.phrases, nearPlayhead);
      this.choose(this.chosen && this.chosen.from < at ? this.chosen.from : edgeBeside(at, live.view.phrases, -1, this.lengthMs), at);
    },

    hearChosen(): void {
      if (this.chosen) {
        this.hearStretch(this.chosen.from, this.chosen.to);
      }
    },

    takeOut(): Promise<void> {
      return this.doToChosen("takeOut", { keepsMarks: this.inkStays });
    },

    makeShort(): Promise<void> {
      return this.doToChosen("makeShort", { restMs: Number(this.restMs) });
    },

    mute(): Promise<void> {
      return this.doToChosen("mute", {});
    },

    layTone(): Promise<void> {
      return this.doToChosen("mute", { hasTone: true });
    },

    holdOnlyThisTime(): Promise<void> {
      return this.doToChosen("onlyThisTime", {});
    },

    /** Records what is chosen anew. */
    sayAgain(): void {
      if (this.chosen) {
        this.recordFor(this.chosen.from, this.chosen.to);
      }
    },

    /** Records something more, between the two phrases that are nearest. */
    recordHere(): void {
      const { phrases } = live.view;
      const isSpoken = countUpTo(phrases.length, (i) => phrases[i]! <= this.ms) % 2 === 1;
      const at = isSpoken ? edgeNear(this.ms, phrases, Infinity) : this.ms;
      this.recordFor(at, at);
    },

    recordFor(from: number, to: number): void {
      const timeline = live.player?.timeline;
      const [first, next] = [timeline?.momentAt(from), timeline?.momentAt(to)];
      if (timeline && first && next && !this.isBusy) {
        // There is no moment at the very end.
        const until = { take: next.take, sample: next.sample + (to >= timeline.length ? 1 : 0) };
        const words = ({ take, sample }: Moment): string => `${take}:${sample}`;
        location.href = `${files}/record?from=${words(first)}&until=${words(until)}`;
      }
    },

    async doToChosen(what: string, more: object): Promise<void> {
      const stretch = this.chosen;
      if (stretch) {
        this.endListening();
        const at = stretch.from;
        if (await this.doStep({ do: what, fromMs: at, toMs: stretch.to, ...more })) {
          this.chooseNothing();
          this.go(at);
        }
      }
    },

    toggleInkStays(): void {
      this.inkStays = !this.inkStays;
    },

    closeMore(): void {
      (this.$refs["more"] as HTMLDetailsElement).open = false;
    },
  });
