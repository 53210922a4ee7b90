// What the page and the worker that writes the journal say to each other.

import type { BoardEvent } from "../journal/events";

/** A run of one microphone, as the journal records it. */
export interface SegmentStart {
  segment: number;
  deviceRate: number;
  inputOffsetMs: number;
  microphone: string;
  echoCancellation: boolean;
  noiseSuppression: boolean;
  autoGainControl: boolean;
}

export interface OpenTake {
  take: string;
  token: string;
  epoch: number;
  next: number;
  savedMs: number;
  nextSegment: number;
  nextAction: number;
}

export type ToWorker =
  | { say: "check"; lesson: string }
  | { say: "open"; lesson: string; take: OpenTake; pageOrigin: number }
  | { say: "read"; frames: ReadableStream<AudioData> }
  | { say: "listen"; port: MessagePort }
  | { say: "gate"; paused: boolean }
  | { say: "segment"; start: SegmentStart }
  | { say: "event"; event: BoardEvent }
  | { say: "end" };

export type FromWorker =
  | { say: "checked"; sent: number }
  | { say: "elsewhere" }
  | { say: "level"; peak: number; rms: number }
  | { say: "recorded"; ms: number }
  | { say: "saved"; ms: number }
  | { say: "waiting"; records: number; reachable: boolean }
  | { say: "fenced" }
  | { say: "refused"; message: string }
  | { say: "ended" };
