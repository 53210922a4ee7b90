import { part } from "../shared/alpine";
import { focusWhenShown } from "../shared/focus";
import { keepChoice, keptChoice } from "../shared/kept";
import type { StopEntry } from "../timeline/files";
import { player } from "./page";
import type { WatchPage } from "./whole";

const choice = "thinking-stops";

/** Thinking stops: the lesson halts with a question, and goes on when the student does, or after a set time. */
export const stops = () =>
  part<WatchPage>()({
    stop: null as StopEntry | null,
    secondsLeft: 0,
    stopTimer: 0,
    stopsHalt: keptChoice(choice, true),
    stopTimes: [] as number[],

    get hasStops(): boolean {
      return this.stopTimes.length > 0;
    },

    /** @param stop Null when it goes on. */
    halted(stop: StopEntry | null): void {
      clearInterval(this.stopTimer);
      this.stop = stop;
      if (stop) {
        this.sayPlace();
        focusWhenShown(() => this.$refs["goOn"]);
      }

      if (stop?.wait) {
        this.secondsLeft = Math.ceil(stop.wait / 1000);
        this.stopTimer = window.setInterval(() => {
          // Who fills in a blank takes the time that it takes.
          if (!this.isTrying && --this.secondsLeft <= 0) {
            this.goOnFromStop();
          }
        }, 1000);
      }
    },

    get isStopped(): boolean {
      return this.stop !== null;
    },

    get stopQuestion(): string {
      return this.stop?.question || (this.stop?.kind === "setTime" ? "Say it yourself." : "Think about it before you go on.");
    },

    get goOnWord(): string {
      switch (this.stop?.kind) {
        case "untilAnswerShown":
          return "Show the answer";
        case "setTime":
          return `Go on (${this.secondsLeft})`;
        default:
          return "Go on";
      }
    },

    goOnFromStop(): void {
      clearInterval(this.stopTimer);
      if (this.stop) {
        this.toggle();
      }
    },

    toggleStops(): void {
      this.stopsHalt = !this.stopsHalt;
      keepChoice(choice, this.stopsHalt);
      this.tellPlayerOfStops();
      if (!this.stopsHalt) {
        this.goOnFromStop();
      }
    },

    tellPlayerOfStops(): void {
      player()?.letHalt(this.stopsHalt);
    },
  });
