import { sayAfterMs } from "../../player/halts";
import { part } from "../../shared/alpine";
import { focusWhenShown } from "../../shared/focus";
import { clock } from "../../shared/format";
import { newId } from "../../shared/ids";
import type { Stop, StopKind } from "../view";
import type { RefinePage } from "./whole";

const ends: Record<StopKind, string> = { 0: "until they go on", 1: "for a set time", 2: "until the answer is shown" };

/** Thinking stops: put, worded, moved and removed. */
export const stops = () =>
  part<RefinePage>()({
    /** The stop that is open, as it is typed. */
    stop: null as Stop | null,

    get hasStops(): boolean {
      return this.view.stops.length > 0;
    },

    get hasOpenStop(): boolean {
      return this.stop !== null;
    },

    isOpenStop(stop: Stop): boolean {
      return this.stop?.id === stop.id;
    },

    stopTime(stop: Stop): string {
      return clock(stop.atMs);
    },

    stopWords(stop: Stop): string {
      return stop.question || `Waits ${ends[stop.kind]}`;
    },

    async askHere(): Promise<void> {
      const id = newId();
      if (await this.doStep({ do: "addStop", id, atMs: this.ms })) {
        const put = this.view.stops.find((s) => s.id === id);
        if (put) {
          this.openStop(put);
        }
      }
    },

    openStop(stop: Stop): void {
      this.stop = { ...stop };
      this.showTabOf("chapters");
      this.go(stop.atMs);
      focusWhenShown(() => this.$refs["stopQuestion"]);
    },

    closeStop(): void {
      this.stop = null;
    },

    get stopKind(): string {
      return String(this.stop?.kind ?? 0);
    },

    get stopSeconds(): string {
      return String((this.stop?.waitMs || sayAfterMs) / 1000);
    },

    get isTimedStop(): boolean {
      return this.stop?.kind === 1;
    },

    get stopQuestion(): string {
      return this.stop?.question ?? "";
    },

    setStopQuestion(event: Event): void {
      this.changeStop({ question: (event.target as HTMLInputElement).value.trim() });
    },

    setStopKind(event: Event): void {
      const kind = Number((event.target as HTMLSelectElement).value) as StopKind;
      this.changeStop({ kind, waitMs: kind === 1 ? sayAfterMs : 0 });
    },

    setStopSeconds(event: Event): void {
      this.changeStop({ waitMs: Number((event.target as HTMLSelectElement).value) * 1000 });
    },

    /** Where the playhead is, behind its phrase. */
    moveStopHere(): void {
      this.changeStop({}, this.ms);
    },

    /** Behind the phrase that is heard at a moment. */
    async moveStop({ id, kind, question, waitMs }: Stop, atMs: number): Promise<void> {
      await this.doStep({ do: "changeStop", id, kind, question, waitMs, atMs });
    },

    changeStop(change: Partial<Stop>, atMs?: number): void {
      if (this.stop) {
        this.stop = { ...this.stop, ...change };
        const { id, kind, question, waitMs } = this.stop;
        void this.doStep({ do: "changeStop", id, kind, question, waitMs, ...(atMs === undefined ? {} : { atMs }) });
      }
    },

    removeStop(): void {
      const { stop } = this;
      if (stop) {
        this.closeStop();
        void this.doStep({ do: "removeStop", id: stop.id });
      }
    },
  });
