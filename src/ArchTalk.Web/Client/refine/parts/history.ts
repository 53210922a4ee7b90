import { part } from "../../shared/alpine";
import { day } from "../../shared/format";
import type { Step } from "../view";
import type { RefinePage } from "./whole";

/** All that was done so far, to go back to. */
export const history = () =>
  part<RefinePage>()({
    /** Newest first; "as it was recorded" at the end. */
    get history(): Step[] {
      return [...this.view.steps].reverse();
    },

    isNow(number: number): boolean {
      return this.view.version === number;
    },

    isUndone(number: number): boolean {
      return number > this.view.version;
    },

    stepDay(step: Step): string {
      return day(step.at);
    },

    stepTime(step: Step): string {
      return new Date(step.at).toLocaleTimeString(undefined, { timeStyle: "short" });
    },

    goToStep(step: Step): void {
      void this.goToState(step.number);
    },

    goToRecorded(): void {
      void this.goToState(0);
    },
  });
