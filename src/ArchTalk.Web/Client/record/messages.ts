// What the page and the worker that writes the journal say to each other.

import type { JournalEvent } from "../journal/events";
import type { Refusal, Waiting } from "../journal/uploader";

/** A run of one microphone, as the journal records it. */
export interface SegmentStart {
  segment: number;
  deviceRate: number;
  inputOffsetMs: number;
  microphone: string;
  echoCancellation: boolean;
  noiseSuppression: boolean;
  autoGainControl: boolean;
  isTestVoice: boolean;
}

/** A moment as the journal names it: a sample, counted from its segment's first. */
export interface Spot {
  segment: number;
  sample: number;
}

/** A moment of the take that runs: also in ms of the take, and when it was in the page's clock (ms). */
export interface TakePoint extends Spot {
  ms: number;
  stamp: number;
}

/** A stretch in which somebody speaks. */
export interface Phrase {
  from: TakePoint;
  to: TakePoint;
}

/** The same as the server says it. */
export interface HeardPhrase {
  fromSegment: number;
  from: number;
  toSegment: number;
  to: number;
}

export interface OpenTake {
  take: string;
  token: string;
  epoch: number;
  next: number;
  /** The writer of the last record before it; 0 when there is none. */
  lastEpoch: number;
  savedMs: number;
  /** How much of that retakes took back, in ms. */
  takenBackMs: number;
  nextSegment: number;
  nextAction: number;
  /** Null when nothing was recorded yet. */
  isTestVoice: boolean | null;
}

/** A writer of a take, by which what is left of it is named. */
export interface WriterKey {
  take: string;
  epoch: number;
}

/** The key of anything that names its writer; a plain object, which a worker can be sent. */
export function keyOf({ take, epoch }: WriterKey): WriterKey {
  return { take, epoch };
}

export function isSameWriter(a: WriterKey, b: WriterKey): boolean {
  return a.take === b.take && a.epoch === b.epoch;
}

/** What this browser still has of a take and the server doesn't take any more. */
export interface Leftover extends WriterKey {
  /** The number of its first record: where it would go on. */
  first: number;
  /** Of sound, in ms. */
  ms: number;
  /** When its writer began, in ms since 1970. */
  startedAt: number;
  why: Refusal;
}

export type ToWorker =
  /** Send what earlier tabs left. @param takeOver A take that is taken away from the tab that is recording it. */
  | { say: "check"; lesson: string; takeOver: string | null }
  | { say: "open"; lesson: string; take: OpenTake; pageOrigin: number }
  | { say: "read"; frames: ReadableStream<AudioData> }
  | { say: "listen"; port: MessagePort }
  | { say: "gate"; paused: boolean }
  /** What is heard next is gathered and not recorded, so many samples; 0 gives it up. */
  | { say: "gather"; samples: number }
  | { say: "segment"; start: SegmentStart }
  | { say: "event"; event: JournalEvent }
  /** Asks where somebody spoke of late, and what was recorded when the boards were set up. */
  | { say: "phrases"; begunAt: number }
  /** Asks for the sound between two times of the take, in ms. */
  | { say: "sound"; from: number; to: number }
  /** What was recorded since a moment is taken back. @param stamp When, in ms. */
  | { say: "retake"; to: Spot; stamp: number }
  | { say: "end" }
  /** Nothing more is recorded to the take for now. */
  | { say: "leave" }
  | { say: "sendOn"; key: WriterKey; into: OpenTake; lesson: string; isNewTake: boolean }
  | { say: "wav"; key: WriterKey }
  | { say: "discard"; key: WriterKey }
  | { say: "ping" };

export type FromWorker =
  | { say: "checked"; sentMs: number; left: Leftover[]; elsewhere: string[] }
  | { say: "checkFailed"; message: string }
  | { say: "level"; peak: number; rms: number }
  | { say: "recorded"; ms: number }
  | { say: "saved"; ms: number }
  | { say: "waiting"; waiting: Waiting }
  | { say: "stopped"; why: Refusal }
  /** Sound that never reached the worker, since the take began, in ms; it is journalled as missing. */
  | { say: "missing"; ms: number }
  /** No sound arrives any more, though the microphone is open. */
  | { say: "silent" }
  /** Copies are kept in memory only from now on. */
  | { say: "unkept" }
  /** The worker can't go on. */
  | { say: "failed"; message: string }
  /** @param begin Null when it lies farther back than what is at hand. @param isRough The server could not be asked. */
  | { say: "phrases"; phrases: Phrase[]; begin: TakePoint | null; now: TakePoint | null; isRough: boolean }
  /** @param to As it was asked for. */
  | { say: "sound"; to: number; pcm: Int16Array<ArrayBuffer> }
  | { say: "gathered"; pcm: Int16Array<ArrayBuffer> }
  | { say: "ended" }
  | { say: "sentOn"; sentMs: number }
  | { say: "wav"; wav: ArrayBuffer; key: WriterKey }
  | { say: "pong" };
