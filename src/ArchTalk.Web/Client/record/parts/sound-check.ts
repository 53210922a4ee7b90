import { part } from "../../shared/alpine";
import { messageOf } from "../../shared/api";
import { api, session } from "../page";
import { adviceOf, checkSamples, checkSeconds, figuresOf, judge, type SoundCheck } from "../sound-check";
import type { RecordPage } from "./whole";

/** Five seconds of silence and five of speech, and what they say. */
export const soundCheck = () =>
  part<RecordPage>()({
    /** Seconds since it began; -1 while there is none. */
    checkedFor: -1,
    checkResult: null as SoundCheck | null,
    checkFault: "",

    get isCheckingSound(): boolean {
      return this.checkedFor >= 0;
    },

    get cannotCheckSound(): boolean {
      return !this.isReady || !this.view.hasMicrophone || this.isCheckingSound;
    },

    async checkSound(): Promise<void> {
      this.checkResult = null;
      this.checkFault = "";
      this.checkedFor = 0;
      const timer = setInterval(() => this.checkedFor++, 1000);
      try {
        this.checkResult = await judge(api, await session().gather(checkSamples));
      } catch (error) {
        this.checkFault = messageOf(error);
      } finally {
        clearInterval(timer);
        this.checkedFor = -1;
      }
    },

    stopChecking(): void {
      session().stopGathering();
    },

    get checkWords(): string {
      const left = checkSeconds - (this.checkedFor % checkSeconds);
      const isOver = this.checkedFor >= 2 * checkSeconds;
      return isOver ? "Listening to it…" : this.checkedFor < checkSeconds ? `Be quiet: ${left}` : `Now speak as in the lesson: ${left}`;
    },

    get checkAdvice(): string {
      return this.checkResult ? adviceOf(this.checkResult) : this.checkFault;
    },

    get checkFigures(): string {
      return this.checkResult ? figuresOf(this.checkResult) : "";
    },
  });
