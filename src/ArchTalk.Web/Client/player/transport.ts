import { part } from "../shared/alpine";
import { clock } from "../shared/format";
import type { Player } from "./player";

const stepMs = 10_000;

/** Playing, pausing and going to a place, as Refine and Watch offer them. */
export interface Transport {
  ms: number;
  lengthMs: number;
  isPlaying: boolean;
  /** The sound or the ink is on its way. */
  isWaiting: boolean;
  inkMissing: boolean;
  /** The voice waits for what is drawn. */
  isHeld: boolean;
  /** Whether it is to wait. */
  voiceWaits: boolean;
  readonly playWord: string;
  readonly time: string;
  /** The place as it is spoken: when it is asked for, moved by hand, or the voice rests; not every second. */
  spokenMs: number;
  sayPlace(): void;
  listenTo(audio: HTMLAudioElement): void;
  go(ms: number): void;
  toggle(): void;
  back(): void;
  forward(): void;
  retryInk(): void;
  /** Lets the voice go on without what is drawn. */
  goOnWithout(): void;
  hold(isHeld: boolean, audio: HTMLAudioElement): void;
  waitForInk(): void;
  readonly isGoingOn: boolean;
}

/** @param player Gives the player, once there is one. */
export const transport = <Whole extends object>(player: () => Player | null, cannotPlay: (this: Whole) => void): Transport =>
  part<Transport & Whole>()({
    ms: 0,
    spokenMs: 0,
    lengthMs: 0,
    isPlaying: false,
    isWaiting: false,
    inkMissing: false,
    isHeld: false,
    voiceWaits: true,

    get isGoingOn(): boolean {
      return !this.voiceWaits;
    },

    get playWord(): string {
      return this.isPlaying ? "Pause" : "Play";
    },

    get time(): string {
      return clock(this.ms);
    },

    listenTo(audio: HTMLAudioElement): void {
      audio.addEventListener("play", () => (this.isPlaying = true));
      audio.addEventListener("pause", () => {
        this.isPlaying = player()?.isHeld ?? false;
        this.sayPlace();
      });
      audio.addEventListener("waiting", () => (this.isWaiting = true));
      audio.addEventListener("playing", () => (this.isWaiting = false));
      audio.addEventListener("seeked", () => (this.isWaiting = false));
    },

    sayPlace(): void {
      this.spokenMs = Math.round(this.ms);
    },

    go(ms: number): void {
      player()?.seek(ms);
      this.ms = Math.min(Math.max(ms, 0), this.lengthMs);
      this.sayPlace();
    },

    toggle(): void {
      void player()?.toggle().catch(() => cannotPlay.call(this));
    },

    back(): void {
      this.go(this.ms - stepMs);
    },

    forward(): void {
      this.go(this.ms + stepMs);
    },

    retryInk(): void {
      player()?.retry();
    },

    hold(isHeld: boolean, audio: HTMLAudioElement): void {
      this.isHeld = isHeld;
      this.isWaiting = isHeld;
      this.isPlaying = isHeld || !audio.paused;
    },

    goOnWithout(): void {
      this.voiceWaits = false;
      player()?.letVoiceWait(false);
    },

    waitForInk(): void {
      this.voiceWaits = true;
      player()?.letVoiceWait(true);
    },
  });
