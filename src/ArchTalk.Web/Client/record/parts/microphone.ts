import { part } from "../../shared/alpine";
import { messageOf } from "../../shared/api";
import { hasMachine, machine } from "../page";
import { type Microphone, Recorder, testVoice } from "../recorder";
import type { RecordPage } from "./whole";

const loudnessFloorDb = -60;
const loud = 0.98;
const loudShownMs = 1500;

/** Which microphone, and how loud it is heard. */
export const microphone = () =>
  part<RecordPage>()({
    microphones: [] as Microphone[],
    microphone: "",
    microphoneFault: "",
    level: 0,
    isLoud: false,
    loudUntil: 0,

    checkCanRecord(): void {
      if (!Recorder.canRecord) {
        this.microphoneFault =
          "This browser only lets a page record over HTTPS (or on this computer itself). Ask whoever runs Arch Talk to set up HTTPS; everything else works meanwhile, and the test voice shows how recording feels.";
      }
    },

    async findMicrophones(): Promise<void> {
      try {
        this.microphoneFault = "";
        this.microphones = await Recorder.microphones();
        if (this.microphones.length === 0) {
          throw new DOMException("", "NotFoundError");
        }

        this.microphone = this.microphones[0]!.id;
      } catch (error) {
        this.microphoneFault = microphoneMessage(error);
        this.microphone = "";
      }

      await this.listen();
    },

    async useTestVoice(): Promise<void> {
      this.microphone = testVoice;
      this.microphoneFault = "";
      await this.listen();
    },

    get isTestVoice(): boolean {
      return this.microphone === testVoice;
    },

    get hasMicrophone(): boolean {
      return this.microphone !== "";
    },

    async listen(): Promise<void> {
      if (!hasMachine() || this.microphone === "") {
        return;
      }

      try {
        await machine().recorder.listen(this.microphone);
      } catch (error) {
        this.microphoneFault = microphoneMessage(error);
        this.microphone = "";
      }
    },

    hear(peak: number, rms: number): void {
      const db = 20 * Math.log10(Math.max(rms, 1e-6));
      this.level = Math.round(Math.min(100, Math.max(0, (100 * (db - loudnessFloorDb)) / -loudnessFloorDb)));
      if (peak >= loud) {
        this.loudUntil = performance.now() + loudShownMs;
      }

      this.isLoud = performance.now() < this.loudUntil;
    },

    lostMicrophone(): void {
      if (this.phase === "recording") {
        this.pause();
      }

      this.microphone = "";
      this.microphoneFault = "The microphone was unplugged or taken by another program. Recording is paused and everything is kept. Choose a microphone and go on.";
    },

    get levelWidth(): object {
      return { width: `${this.level}%` };
    },
  });

export function microphoneMessage(error: unknown): string {
  switch (error instanceof DOMException ? error.name : "") {
    case "NotAllowedError":
      return "The browser was told not to let this page use the microphone. Allow it at the address bar and press “Use a microphone” again, or take the test voice.";
    case "NotFoundError":
      return "No microphone was found. Plug one in and press “Use a microphone” again, or take the test voice.";
    case "NotReadableError":
      return "The microphone is in use by another program. Close that program and try again, or take the test voice.";
    default:
      return `The sound could not be opened (${messageOf(error)}). Try again, or choose another microphone.`;
  }
}
