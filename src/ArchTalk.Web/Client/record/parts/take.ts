import { part } from "../../shared/alpine";
import { clock } from "../../shared/format";
import type { OpenTake } from "../messages";
import { hasMachine, machine, page, session } from "../page";
import { firstView } from "../session";
import { adviceWords, checkingWords, heldWords, savingWords } from "../words";
import type { RecordPage } from "./whole";

/** One recording pass, as its session stands. */
export const take = () =>
  part<RecordPage>()({
    view: firstView(),
    /** The browser is asking whether the microphone may be used. */
    isAsking: false,
    countFrom: "3",

    /** Shows the session as it is now. */
    show(): void {
      const { retake, cause } = this.view;

      // Member by member: the clocks go on many times a second, and only what shows them is to be looked at again.
      Object.assign(this.view, session().view);
      if (this.view.retake !== retake) {
        this.takeBars();
      }

      if (this.view.cause === "unplugged" && cause !== "unplugged") {
        this.microphone = "";
      }

      if (!this.view.hasMicrophone) {
        this.level = 0;
        this.isLoud = false;
      }

      // While a take runs the arch of steps gives way to the page's own bar.
      document.body.classList.toggle("is-taking", this.isTaking);
    },

    get isReady(): boolean {
      return this.view.phase === "ready";
    },

    get isChecking(): boolean {
      return this.view.phase === "checking";
    },

    get isCounting(): boolean {
      return this.view.phase === "counting";
    },

    get isRecording(): boolean {
      return this.view.phase === "recording";
    },

    get isPaused(): boolean {
      return this.view.phase === "paused";
    },

    /** Held, by the teacher or by something else. */
    get isHeld(): boolean {
      return this.isPaused || this.view.phase === "interrupted";
    },

    get isRunning(): boolean {
      return this.isRecording || this.isRetaking || this.isHeld;
    },

    get isSaving(): boolean {
      return this.view.phase === "finishing";
    },

    /** The take goes on elsewhere, or nowhere. */
    get isOut(): boolean {
      return this.view.phase === "shutOut" || this.view.phase === "refused";
    },

    /** Whether the page's own bar stands in the place of the arch. */
    get isTaking(): boolean {
      return this.isRunning || this.isSaving;
    },

    get isBetweenTakes(): boolean {
      return !this.isTaking && !this.isCounting;
    },

    get countdown(): string {
      return this.view.countdown > 0 ? String(this.view.countdown) : "…";
    },

    get canStopCounting(): boolean {
      return this.view.countdown > 0;
    },

    get cannotStart(): boolean {
      return !this.isReady || !this.loaded || page.boards.length === 0;
    },

    get cannotResume(): boolean {
      return !this.view.hasMicrophone;
    },

    async start(): Promise<void> {
      if (await this.haveMicrophone()) {
        session().start(Number(this.countFrom));
        if (this.isCounting) {
          this.hearBeforePlace(Number(this.countFrom));
        }
      }
    },

    async goOn(): Promise<void> {
      const open = this.openTake;
      if (open && (await this.haveMicrophone())) {
        session().goOn(open.id, Number(this.countFrom));
      }
    },

    // Whoever just presses Start is asked for the microphone then.
    async haveMicrophone(): Promise<boolean> {
      if (!this.isReady || this.isAsking) {
        return false;
      }

      this.isAsking = true;
      await this.opening;
      if (!this.view.hasMicrophone) {
        await this.findMicrophones();
      }

      this.isAsking = false;
      return this.view.hasMicrophone;
    },

    stopCounting(): void {
      this.endHearingBefore();
      session().stopCounting();
    },

    /** The boards as they were recorded; what was tried out, and what a hand is just doing, is gone. */
    beginOnBoards(opened: OpenTake): void {
      const { desk, hands } = machine();
      this.endHearingBefore();
      this.tellPlace(opened);
      this.fault = this.notice = "";
      this.forgetQuiet();
      hands.drop(performance.now());
      desk.beginTake(opened.nextAction, performance.now());
      this.afterInput();
      void navigator.storage?.persist?.();
    },

    pause(): void {
      session().pause();
    },

    async resume(): Promise<void> {
      this.fault = this.microphoneFault = "";
      await session().resume();
    },

    finish(): void {
      machine().hands.finish(performance.now());
      session().finish();
    },

    ended(): void {
      if (hasMachine()) {
        machine().desk.keep();
      }

      location.href = `/lessons/${page.lesson}/refine?take=last`;
    },

    checkAgain(): void {
      session().checkAgain();
    },

    /** Where the take is safe, for the eye; it changes every second, so it isn't spoken. */
    get saved(): string {
      return this.isRunning && !this.status ? `saved up to ${clock(this.view.liveSavedMs)}` : "";
    },

    /** What matters enough to be spoken. */
    get status(): string {
      return savingWords(this.view);
    },

    /** Why the take is held or over, with what is kept and what to do. */
    get held(): string {
      return heldWords(this.view);
    },

    /** What to know about where the take is kept. */
    get advice(): string {
      return adviceWords(this.view);
    },

    get checking(): string {
      return checkingWords(this.view);
    },

    get time(): string {
      return clock(this.view.liveMs);
    },
  });
