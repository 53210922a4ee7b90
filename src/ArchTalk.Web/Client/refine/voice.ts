import type { Transport } from "../player/transport";
import { part } from "../shared/alpine";
import { call } from "../shared/api";
import type { Faults } from "../shared/faults";
import { SectionList } from "../shared/section-list";

interface Settings {
  rumbleOut: boolean;
  humOut: boolean;
  noiseLower: boolean;
}

interface Facts {
  recordedLufs: number | null;
  targetLufs: number;
  hum: { hertz: number; decibels: number } | null;
}

/** What the part adds to the page. */
export interface Voice {
  settings: Settings;
  facts: Facts | null;
  voiceStatus: string;
  /** "Recorded" or "Students" while it is heard. */
  hearing: string;
  readonly levelWords: string;
  readonly humWords: string;
  readonly recordedWord: string;
  readonly studentsWord: string;
  loadVoice(lessonVoice: HTMLAudioElement): Promise<void>;
  settingChanged(): Promise<void>;
  hearRecorded(): void;
  hearStudents(): void;
  hear(as: string): void;
  /** A stretch of a take, in ms, also of what was taken out. */
  hearRecordedStretch(take: string, fromMs: number, toMs: number): void;
  hearSound(asked: string): void;
  endHearing(): void;
}

const heardMs = 8000;

/** What is done to the voice of the lesson: what was heard in it, the three filters, and a few seconds before and after. */
export function voice(lesson: string): Voice {
  const api = `/api/lessons/${lesson}`;
  const sound = new Audio();
  let section: SectionList<Settings> | null = null;
  return part<Voice & Faults & Transport>()({
    settings: { rumbleOut: false, humOut: false, noiseLower: false },
    facts: null,
    voiceStatus: "",
    hearing: "",

    /** @param lessonVoice What the player plays: one of the two is heard at a time. */
    async loadVoice(lessonVoice: HTMLAudioElement): Promise<void> {
      lessonVoice.addEventListener("play", () => this.endHearing());
      sound.addEventListener("ended", () => this.endHearing());
      sound.addEventListener("error", () => {
        if (this.hearing) {
          this.endHearing();
          this.fault = "This stretch could not be played. Press the button once more.";
        }
      });
      section = new SectionList<Settings>(
        `${api}/sections/Voice`,
        () => ({ ...this.settings }),
        (view, isSaved) => {
          this.settings = isSaved ? this.settings : view.content;
        },
        (status) => (this.voiceStatus = status),
      );
      await section.load();
      this.facts = await call<Facts>("GET", `${api}/voice`);
    },

    get levelWords(): string {
      const recorded = this.facts?.recordedLufs ?? null;
      if (recorded === null) {
        return this.facts ? "Nobody speaks in this recording." : "";
      }

      const by = Math.round(recorded - this.facts!.targetLufs);
      const was = by === 0 ? "as loud as" : `${Math.abs(by)} dB ${by > 0 ? "louder" : "quieter"} than`;
      return `Recorded ${was} students will hear it. All of it is brought to one level, and quiet stretches are raised.`;
    },

    get humWords(): string {
      return this.facts?.hum ? `Heard at ${this.facts.hum.hertz} Hz.` : this.facts ? "None was heard." : "";
    },

    async settingChanged(): Promise<void> {
      this.endHearing();
      await section?.save();
    },

    hearRecorded(): void {
      this.hear("Recorded");
    },

    hearStudents(): void {
      this.hear("Students");
    },

    hear(as: string): void {
      const again = this.hearing === as;
      this.endHearing();
      if (again) {
        return;
      }

      this.hearing = as;
      this.hearSound(`as=${as}&from=${Math.round(this.ms)}&to=${Math.round(this.ms + heardMs)}`);
    },

    hearRecordedStretch(take: string, fromMs: number, toMs: number): void {
      this.endHearing();
      this.hearing = "Stretch";
      this.hearSound(`as=Recorded&take=${take}&from=${Math.round(fromMs)}&to=${Math.round(toMs)}`);
    },

    hearSound(asked: string): void {
      if (this.isPlaying) {
        this.toggle();
      }

      sound.src = `/lessons/${lesson}/voice.wav?${asked}&t=${Date.now()}`;
      void sound.play().catch(() => undefined);
    },

    get recordedWord(): string {
      return this.hearing === "Recorded" ? "Stop" : "Hear as recorded";
    },

    get studentsWord(): string {
      return this.hearing === "Students" ? "Stop" : "Hear as students do";
    },

    endHearing(): void {
      this.hearing = "";
      sound.pause();
      sound.removeAttribute("src");
    },
  });
}
