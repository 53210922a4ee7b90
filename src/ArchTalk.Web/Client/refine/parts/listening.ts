import { part } from "../../shared/alpine";
import { live } from "../page";
import type { RefinePage } from "./whole";

/** Heard before and after the stretch itself, in ms. */
const aroundMs = 1800;

/** What is heard at the moment: it ends by itself, and may jump over a stretch as if that had been taken out. */
interface Heard {
  until: number;
  over: { from: number; to: number } | null;
}

let heard: Heard | null = null;

/** Hearing one place: as it is, or as it would be. */
export const listening = () =>
  part<RefinePage>()({
    hearStretch(from: number, to: number): void {
      this.hearFrom(from, { until: to, over: null });
    },

    /** A place with what lies around it. */
    hearAround(from: number, to: number): void {
      this.hearFrom(from - aroundMs, { until: to + aroundMs, over: null });
    },

    /** As if a stretch were gone. */
    hearWithout(from: number, to: number): void {
      this.hearFrom(from - aroundMs, { until: to + aroundMs, over: { from, to } });
    },

    hearFrom(from: number, next: Heard): void {
      heard = null;
      this.go(Math.max(from, 0));
      heard = next;
      if (!this.isPlaying) {
        this.toggle();
      }
    },

    /** Called with every picture: ends what is heard, and jumps. */
    listened(ms: number): void {
      if (!heard || !this.isPlaying) {
        return;
      }

      if (heard.over && ms >= heard.over.from && ms < heard.over.to) {
        const { to } = heard.over;
        heard.over = null;
        live.player?.seek(to);
      } else if (ms >= Math.min(heard.until, this.lengthMs - 30)) {
        heard = null;
        this.toggle();
      }
    },

    /** The teacher plays, pauses or goes somewhere: what was heard is over. */
    endListening(): void {
      heard = null;
    },
  });
