import { part } from "../../shared/alpine";
import { call, messageOf } from "../../shared/api";
import { clock } from "../../shared/format";
import type { OpenTake } from "../messages";
import { api, hasMachine, machine, page } from "../page";
import { microphoneMessage } from "./microphone";
import type { RecordPage } from "./whole";

export type Phase = "ready" | "counting" | "recording" | "paused" | "saving";

/** One recording pass: counting down, recording, holding, finishing. */
export const take = () =>
  part<RecordPage>()({
    phase: "ready" as Phase,
    /** The browser is asking whether the microphone may be used. */
    isAsking: false,
    countdown: 0,
    countFrom: "3",
    recordedMs: 0,
    savedMs: 0,
    reachable: true,

    // While a take runs the arch of steps gives way to the page's own bar.
    enter(phase: Phase): void {
      this.phase = phase;
      document.body.classList.toggle("is-taking", this.isRunning || this.isSaving);
    },

    get isRunning(): boolean {
      return this.phase === "recording" || this.phase === "paused";
    },

    get isReady(): boolean {
      return this.phase === "ready";
    },

    get isRecording(): boolean {
      return this.phase === "recording";
    },

    get isPaused(): boolean {
      return this.phase === "paused";
    },

    get isCounting(): boolean {
      return this.phase === "counting";
    },

    get isSaving(): boolean {
      return this.phase === "saving";
    },

    /** Whether the page's own bar stands in the place of the arch. */
    get isTaking(): boolean {
      return this.isRunning || this.isSaving;
    },

    get cannotStart(): boolean {
      return this.phase !== "ready" || !this.loaded || page.boards.length === 0;
    },

    get cannotResume(): boolean {
      return this.microphone === "";
    },

    async start(): Promise<void> {
      await this.record(() => call<OpenTake>("POST", `${api}/takes`));
    },

    async goOn(): Promise<void> {
      const open = this.openTake!;
      await this.record(() => call<OpenTake>("POST", `${api}/takes/${open.id}/reopen`));
    },

    async record(open: () => Promise<OpenTake>): Promise<void> {
      if (this.phase !== "ready" || this.isAsking || !(await this.haveMicrophone()) || !(await this.countDown())) {
        return;
      }

      const { recorder, desk, hands } = machine();
      try {
        this.fault = "";
        const opened = await open();

        // What a hand is just doing was tried out, like everything before.
        hands.drop(performance.now());
        this.recordedMs = this.savedMs = opened.savedMs;
        this.reachable = true;
        await recorder.begin(page.lesson, opened);
        this.enter("recording");
        desk.beginTake(opened.nextAction, performance.now());
        this.afterInput();
      } catch (error) {
        this.enter("ready");
        this.fault = messageOf(error);
      }
    },

    // Whoever just presses Start is asked for the microphone then.
    async haveMicrophone(): Promise<boolean> {
      if (this.microphone === "") {
        this.isAsking = true;
        await this.findMicrophones();
        this.isAsking = false;
      }

      return this.microphone !== "";
    },

    async countDown(): Promise<boolean> {
      this.enter("counting");
      for (this.countdown = Number(this.countFrom); this.countdown > 0; this.countdown--) {
        await new Promise((later) => setTimeout(later, 1000));
        if (!this.isCounting) {
          return false;
        }
      }

      return this.isCounting;
    },

    stopCounting(): void {
      this.enter("ready");
    },

    pause(): void {
      machine().recorder.setPaused(true);
      this.enter("paused");
    },

    async resume(): Promise<void> {
      try {
        await machine().recorder.resume();
        this.microphoneFault = "";
        this.enter("recording");
      } catch (error) {
        this.microphoneFault = microphoneMessage(error);
      }
    },

    async finish(): Promise<void> {
      if (this.isRunning) {
        const { recorder, hands, desk } = machine();
        hands.finish(performance.now());
        this.enter("saving");
        await recorder.end();
        desk.keep();
        location.href = `/lessons/${page.lesson}/refine?take=last`;
      }
    },

    shutOut(message: string): void {
      this.fault = message;
      if (hasMachine()) {
        machine().recorder.release();
        machine().desk.keep();
      }

      this.enter("ready");
      this.microphone = "";
      void this.refreshTakes();
    },

    /** Where the take is safe, for the eye; it changes every second, so it isn't spoken. */
    get saved(): string {
      return this.isRunning && this.reachable ? `saved up to ${clock(this.savedMs)}` : "";
    },

    /** What matters enough to be spoken. */
    get status(): string {
      if (this.isSaving) {
        return this.reachable ? "Saving the last seconds…" : "The server can't be reached. Keep this page open; the rest is sent as soon as it answers.";
      }

      return this.isRunning && !this.reachable ? `no connection: kept in this browser since ${clock(this.savedMs)}, sent when the server answers` : "";
    },

    get time(): string {
      return clock(this.recordedMs);
    },
  });
