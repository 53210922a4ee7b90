import { part } from "../shared/alpine";
import { clock } from "../shared/format";
import type { Timeline } from "../timeline/timeline";
import type { WatchPage } from "./whole";

/** A term is noted as it is said, or just after: this much before it one hears what is said with it, in ms. */
const beforeTermMs = 2000;

/** A moment at which a term is said, in ms, and as it is shown. */
interface Said {
  at: number;
  time: string;
}

/** Where the words of the vocabulary are said. */
export const vocabulary = () =>
  part<WatchPage>()({
    said: {} as Record<string, Said[]>,

    takeTerms(timeline: Timeline): void {
      for (const { at, term } of timeline.terms) {
        this.said[term] = [...(this.said[term] ?? []), { at, time: clock(at) }];
      }
    },

    isSaid(term: string): boolean {
      return (this.said[term] ?? []).length > 0;
    },

    saidAt(term: string): Said[] {
      return this.said[term] ?? [];
    },

    goToSaid({ at }: Said): void {
      this.go(Math.max(0, at - beforeTermMs));
    },
  });
