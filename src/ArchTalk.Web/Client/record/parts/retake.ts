import { part } from "../../shared/alpine";
import { focusWhenShown } from "../../shared/focus";
import { clock } from "../../shared/format";
import { machine, page, session } from "../page";
import { atBegin, type Bar } from "../retaking";
import { retakeWords } from "../words";
import type { RecordPage } from "./whole";

/** So many phrases are shown to choose from; further ones come into sight when one goes back to them. */
const mostBars = 8;

/** A phrase as it is shown. */
interface ShownBar {
  index: number;
  ms: number;
  time: string;
  length: string;
  small: string | null;
  board: string;
}

/** Going back to the end of an earlier phrase: what is held, chosen, heard and counted. */
export const retake = () =>
  part<RecordPage>()({
    bars: [] as ShownBar[],

    get isRetaking(): boolean {
      return this.view.phase === "retaking";
    },

    get canRetake(): boolean {
      return this.isRecording || this.isPaused;
    },

    /** What a hand is doing is done, and the view stands still. */
    holdHands(): void {
      const { hands, glide } = machine();
      glide.stop();
      hands.finish(performance.now());
    },

    /** One press goes back, another one phrase further. */
    retake(): void {
      if (this.canRetake) {
        this.holdHands();
        this.closeFamily();
      }

      session().retake(Number(this.countFrom));
      focusWhenShown(() => this.$refs["farther"]);
    },

    putBack(): void {
      this.holdHands();
      session().putBack(Number(this.countFrom));
    },

    get hasBranch(): boolean {
      return this.canRetake && this.view.branchMs > 0;
    },

    get branchWords(): string {
      return `Put back ${clock(this.view.branchMs)}`;
    },

    get cannotGoFarther(): boolean {
      return !this.view.canGoFarther;
    },

    chooseBar(bar: ShownBar): void {
      session().chooseRetake(bar.index);
    },

    isChosenBar(bar: ShownBar): boolean {
      return this.view.retake?.chosen === bar.index;
    },

    /** Whether it is taken back if it goes on now. */
    isTakenBar(bar: ShownBar): boolean {
      const chosen = this.view.retake?.chosen ?? 0;
      return chosen >= atBegin && bar.index > chosen;
    },

    barStyle(bar: ShownBar): Record<string, string> {
      return { "flex-grow": String(Math.max(1, bar.ms / 1000)) };
    },

    barName(bar: ShownBar): string {
      return `Go on after the phrase of ${bar.length} at ${bar.time}, on ${bar.board}`;
    },

    waitWithRetake(): void {
      session().waitWithRetake();
    },

    goOnRetaking(): void {
      session().goOnRetaking();
    },

    keepAll(): void {
      session().keepAll();
    },

    get isLooking(): boolean {
      return this.view.retake?.stage === "looking";
    },

    get isWaitingToGoOn(): boolean {
      return this.view.retake?.stage === "waiting";
    },

    get retakeWords(): string {
      return retakeWords(this.view, (ms) => session().liveTime(ms));
    },

    get retakeCount(): string {
      const { retake } = this.view;
      return retake?.stage === "counting" ? String(retake.countdown) : "";
    },

    /** The phrases as the session has them, each with the board that was shown at its end. */
    takeBars(): void {
      const { retake } = this.view;
      if (!retake || retake.stage === "looking") {
        this.bars = [];
        return;
      }

      const first = Math.max(0, Math.min(retake.bars.length - mostBars, retake.chosen < 0 ? 0 : retake.chosen - 1));
      this.bars = retake.bars.slice(first, first + mostBars).map((bar, i) => shown(bar, first + i));
    },
  });

function shown(bar: Bar, index: number): ShownBar {
  const board = page.boards[machine().desk.shownAt(bar.to.stamp)];
  return {
    index,
    ms: bar.to.ms - bar.from.ms,
    time: clock(session().liveTime(bar.from.ms)),
    length: `${Math.max(1, Math.round((bar.to.ms - bar.from.ms) / 1000))} s`,
    small: board?.small ?? null,
    board: board?.title ?? "",
  };
}
