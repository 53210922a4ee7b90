import { part } from "../../shared/alpine";
import { messageOf } from "../../shared/api";
import { canRecord, knownMicrophones, type Microphone, microphones, testVoice } from "../devices";
import { session } from "../page";
import { QuietWatch } from "../quiet";
import type { RecordPage } from "./whole";

let quiet = new QuietWatch();

const loudnessFloorDb = -60;
const loud = 0.98;
const loudShownMs = 1500;

/** Which microphone, and how loud it is heard. */
export const microphone = () =>
  part<RecordPage>()({
    microphones: [] as Microphone[],
    microphone: "",
    microphoneFault: "",
    /** Until the microphone that was chosen last is open. */
    opening: Promise.resolve(),
    level: 0,
    isLoud: false,
    /** The voice has become quieter than at the beginning of the take. */
    isQuiet: false,
    loudUntil: 0,

    watchMicrophones(): void {
      if (!canRecord()) {
        this.microphoneFault =
          "This browser only lets a page record over HTTPS (or on this computer itself). Ask whoever runs Arch Talk to set up HTTPS; everything " +
            "else works meanwhile, and the test voice shows how recording feels.";
        return;
      }

      navigator.mediaDevices.addEventListener("devicechange", () => void this.devicesChanged());
    },

    // Devices have no names before the teacher has allowed one; then nothing is said.
    async devicesChanged(): Promise<void> {
      if (this.microphones.length === 0) {
        return;
      }

      const found = await knownMicrophones();
      const added = found.filter((m) => !this.microphones.some((known) => known.id === m.id));
      this.microphones = found;
      if (added.length > 0) {
        this.notice = `There is a new microphone: ${added.map((m) => m.name).join(", ")}. ` +
          `${this.isRecording ? "To use it, pause and choose it." : "Choose it at “Microphone” to use it."}`;
      }
    },

    async findMicrophones(): Promise<void> {
      let found = "";
      try {
        this.microphoneFault = "";
        this.microphones = await microphones();
        found = this.microphones[0]?.id ?? "";
        if (found === "") {
          throw new DOMException("", "NotFoundError");
        }
      } catch (error) {
        this.microphoneFault = microphoneMessage(error);
      }

      await this.listenTo(found);
    },

    useTestVoice(): Promise<void> {
      return this.listenTo(testVoice);
    },

    get isTestVoice(): boolean {
      return this.view.isTestVoice;
    },

    /** Whether the screen may go off in the middle of a take; known once one was begun. */
    get maySleep(): boolean {
      return this.view.staysOn === false;
    },

    get canChooseMicrophone(): boolean {
      return !this.isRecording && !this.isRetaking && !this.isSaving;
    },

    /** The one that is chosen in the list. */
    listen(): Promise<void> {
      return this.listenTo(this.microphone);
    },

    listenTo(id: string): Promise<void> {
      this.microphone = id;
      if (id !== "") {
        this.opening = this.openMicrophone(id);
      }

      return this.opening;
    },

    async openMicrophone(id: string): Promise<void> {
      try {
        this.microphoneFault = "";
        await session().chooseMicrophone(id);
      } catch (error) {
        this.microphoneFault = microphoneMessage(error);
        this.microphone = "";
      }
    },

    /** A take begins: how loud the voice is meant to be is heard anew. */
    forgetQuiet(): void {
      quiet = new QuietWatch();
      this.isQuiet = false;
    },

    hear(peak: number, rms: number): void {
      const db = 20 * Math.log10(Math.max(rms, 1e-6));
      this.level = Math.round(Math.min(100, Math.max(0, (100 * (db - loudnessFloorDb)) / -loudnessFloorDb)));
      if (peak >= loud) {
        this.loudUntil = performance.now() + loudShownMs;
      }

      this.isLoud = performance.now() < this.loudUntil;
      this.isQuiet = this.isRecording && quiet.hear(rms, performance.now());
    },

    get levelShown(): object {
      return { transform: `scaleX(${this.level / 100})` };
    },
  });

function microphoneMessage(error: unknown): string {
  switch (error instanceof DOMException ? error.name : "") {
    case "NotAllowedError":
      return "The browser was told not to let this page use the microphone. Allow it at the address bar and press “Use a microphone” again, or " +
        "take the test voice.";
    case "NotFoundError":
      return "No microphone was found. Plug one in and press “Use a microphone” again, or take the test voice.";
    case "NotReadableError":
      return "The microphone is in use by another program. Close that program and try again, or take the test voice.";
    default:
      return `The sound could not be opened (${messageOf(error)}). Try again, or choose another microphone.`;
  }
}
