// What a writer left in this browser that the server takes no more: how long it is, as a take of its own, as a WAV file.

import type { Keeper, KeptRecord, KeptWriter } from "../journal/keeper";
import { encodeRecord, Kind, pcmOf, pointOf, pointPayload, readRecord, sampleRate, samplesIn, samplesPerMs, segmentPayload } from "../journal/record";
import type { Refusal } from "../journal/uploader";
import type { Leftover, OpenTake, SegmentStart } from "./messages";

/** Null when nothing is left that anybody would miss: neither sound nor anything done on the boards. */
export async function leftoverOf(keeper: Keeper, writer: KeptWriter, why: Refusal): Promise<Leftover | null> {
  const rest = await keeper.rest(writer.take, writer.epoch);
  const ms = rest.reduce((sum, r) => sum + samplesIn(r.bytes), 0) / samplesPerMs;
  if (ms === 0 && !rest.some((r) => readRecord(r.bytes).kind === Kind.events)) {
    return null;
  }

  return { take: writer.take, epoch: writer.epoch, first: rest[0]!.sequence, ms, startedAt: writer.startedAt, why };
}

/**
 * Whether what is left goes on where the server stands: nothing was recorded since. Its beginning may be there already, when its
 * answer never came back.
 */
export function goesOn(left: Leftover, at: { next: number; lastEpoch: number }): boolean {
  return at.next === left.first || (at.next > left.first && at.lastEpoch === left.epoch);
}

/**
 * The records under the names of another writer, who goes on where the server stands.
 * @param isNewTake They begin a take: what they stand on is said anew, and what came before them is a pause.
 */
export function renamed(rest: readonly KeptRecord[], writer: KeptWriter, into: OpenTake, isNewTake: boolean): KeptRecord[] {
  const renamed: KeptRecord[] = [];
  const add = (kind: number, payload: Uint8Array) => {
    const sequence = into.next + renamed.length;
    renamed.push({ sequence, bytes: encodeRecord(kind, into.epoch, sequence, payload) });
  };
  const records = rest.map((r) => readRecord(r.bytes));
  if (isNewTake) {
    const audio = records.find((r) => r.kind === Kind.audio);
    const begun = records.findIndex((r) => r.kind === Kind.segment);
    const first = audio ? pointOf(audio.payload) : null;

    // Its segment began in what the server has.
    if (first && (begun < 0 || begun > records.indexOf(audio!))) {
      add(Kind.segment, segmentPayload(writer.segments.find((s) => s.segment === first.segment) ?? unknownSegment(first.segment)));
      add(Kind.pause, pointPayload(first.segment, 0));
      add(Kind.resume, pointPayload(first.segment, first.sample));
    }
  }

  for (const { kind, payload } of records) {
    if (kind !== Kind.end && kind !== Kind.lost) {
      add(kind, payload);
    }
  }

  if (isNewTake) {
    add(Kind.end, new Uint8Array());
  }

  return renamed;
}

/** The sound as a WAV file: 16-bit mono at 48 kHz (RIFF, Microsoft 1991, from memory); what is missing between is silence. */
export function toWav(rest: readonly KeptRecord[]): ArrayBuffer {
  const pieces: { at: number; pcm: Uint8Array }[] = [];
  let length = 0;
  let last = { segment: -1, end: 0 };
  for (const { bytes } of rest.filter((r) => samplesIn(r.bytes) > 0)) {
    const { payload } = readRecord(bytes);
    const { segment, sample } = pointOf(payload);
    const pcm = pcmOf(payload);

    // A pause is left out by its length only when it is long: up to ten seconds stay as they were.
    const gap = segment === last.segment ? Math.min(Math.max(0, sample - last.end), 10 * sampleRate) : 0;
    length += gap;
    pieces.push({ at: length, pcm });
    length += pcm.length / 2;
    last = { segment, end: sample + pcm.length / 2 };
  }

  const wav = new Uint8Array(44 + length * 2);
  const view = new DataView(wav.buffer);
  const text = (at: number, value: string) => [...value].forEach((c, i) => view.setUint8(at + i, c.charCodeAt(0)));
  text(0, "RIFF");
  view.setUint32(4, 36 + length * 2, true);
  text(8, "WAVEfmt ");
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, sampleRate, true);
  view.setUint32(28, sampleRate * 2, true);
  view.setUint16(32, 2, true);
  view.setUint16(34, 16, true);
  text(36, "data");
  view.setUint32(40, length * 2, true);
  pieces.forEach(({ at, pcm }) => wav.set(pcm, 44 + at * 2));
  return wav.buffer;
}

function unknownSegment(segment: number): SegmentStart {
  const off = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };
  return { segment, deviceRate: sampleRate, inputOffsetMs: 0, microphone: "", ...off, isTestVoice: false };
}
