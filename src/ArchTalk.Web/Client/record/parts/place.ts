import { part } from "../../shared/alpine";
import { clock } from "../../shared/format";
import type { OpenTake } from "../messages";
import { page, session } from "../page";
import type { Loaded } from "../start";
import type { RecordPage } from "./whole";

/** What is said before the place, heard while it counts: made once, when it is needed. */
let before: HTMLAudioElement | null = null;

/** Recording in the middle of the lesson: in the stead of a stretch, or between two phrases. */
export const place = () =>
  part<RecordPage>()({
    /** Where it comes in, in ms; null for the end. */
    placeMs: null as number | null,
    /** With what the lesson goes on, in ms. */
    untilMs: 0,
    isPlaceGone: false,

    takePlace({ placeMs, timeline }: Loaded): void {
      this.placeMs = placeMs;
      this.isPlaceGone = page.place !== null && placeMs === null;
      this.untilMs = placeMs === null || !page.place ? 0 : Math.max(placeMs, timeline.timeOf(page.place.until) ?? timeline.length);
    },

    get hasPlace(): boolean {
      return this.placeMs !== null && page.place !== null && !this.isTaking && !this.hasOpenTake;
    },

    get placeWords(): string {
      const [at, until] = [this.placeMs ?? 0, this.untilMs];
      return until - at < 50
        ? `What you record now comes in at ${clock(at)}.`
        : `You say ${clock(at)} to ${clock(until)} again: what you record now is there instead.`;
    },

    get placeHint(): string {
      const heard = this.countFrom === "0" ? "choose a countdown to hear what comes before" : "while it counts you hear what comes before";
      return `The boards are as they are there; ${heard}.`;
    },

    /** So much of the lesson as is counted, up to the place. */
    hearBeforePlace(seconds: number): void {
      if (this.placeMs === null || seconds === 0) {
        return;
      }

      before ??= new Audio(`/lessons/${page.lesson}/voice.wav`);
      before.currentTime = Math.max(0, this.placeMs / 1000 - seconds);
      void before.play().catch(() => undefined);
    },

    endHearingBefore(): void {
      before?.pause();
    },

    /** The take says where it comes in, when it begins. */
    tellPlace(opened: OpenTake): void {
      if (this.placeMs !== null && page.place && opened.nextSegment === 0) {
        session().comesIn(page.place.from, page.place.until);
      }
    },
  });
