// Journal records as docs/formats/journal.md describes them, the same as Core/Recording/JournalRecord.cs.

import type { JournalEvent } from "./events";
import { crc32c } from "./crc32c";

export const Kind = { segment: 1, audio: 2, anchors: 3, events: 4, pause: 5, resume: 6, lost: 7, end: 8 } as const;

/** Of the journal's sound, in Hz. */
export const sampleRate = 48_000;
export const samplesPerMs = sampleRate / 1000;

const headerSize = 12;
const checksumSize = 4;
const pointSize = 12;
const text = new TextEncoder();

export interface Anchor {
  sample: number;
  ms: number;
}

export function encodeRecord(kind: number, epoch: number, sequence: number, payload: Uint8Array): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(headerSize + payload.length + checksumSize);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, payload.length, true);
  bytes[4] = kind;
  view.setUint16(6, epoch, true);
  view.setUint32(8, sequence, true);
  bytes.set(payload, headerSize);
  view.setUint32(headerSize + payload.length, crc32c(bytes.subarray(0, headerSize + payload.length)), true);
  return bytes;
}

/** What a record says of itself; its payload is a view of the same bytes. */
export interface JournalRecord {
  kind: number;
  epoch: number;
  sequence: number;
  payload: Uint8Array<ArrayBuffer>;
}

/** Reads one of our own records; whether it is whole was seen to when it was written. */
export function readRecord(bytes: Uint8Array<ArrayBuffer>): JournalRecord {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const payload = bytes.subarray(headerSize, headerSize + view.getUint32(0, true));
  return { kind: bytes[4]!, epoch: view.getUint16(6, true), sequence: view.getUint32(8, true), payload };
}

/** Samples of sound in a record, 0 for records of other kinds. */
export function samplesIn(bytes: Uint8Array<ArrayBuffer>): number {
  return bytes[4] === Kind.audio ? (bytes.length - headerSize - checksumSize - pointSize) / 2 : 0;
}

/** The segment and the first sample that an audio record begins with, or a pause. */
export function pointOf(payload: Uint8Array<ArrayBuffer>): { segment: number; sample: number } {
  const view = new DataView(payload.buffer, payload.byteOffset, payload.byteLength);
  return { segment: view.getInt32(0, true), sample: Number(view.getBigInt64(4, true)) };
}

/** The samples of an audio record, as bytes. */
export function pcmOf(payload: Uint8Array<ArrayBuffer>): Uint8Array<ArrayBuffer> {
  return payload.subarray(pointSize);
}

export function segmentPayload(start: object): Uint8Array {
  return text.encode(JSON.stringify(start));
}

export function audioPayload(segment: number, firstSample: number, samples: Int16Array): Uint8Array {
  const bytes = new Uint8Array(pointSize + samples.length * 2);
  writePoint(new DataView(bytes.buffer), segment, firstSample);
  bytes.set(new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength), pointSize);
  return bytes;
}

export function anchorsPayload(segment: number, anchors: Anchor[]): Uint8Array {
  const bytes = new Uint8Array(4 + anchors.length * 16);
  const view = new DataView(bytes.buffer);
  view.setInt32(0, segment, true);
  anchors.forEach((anchor, i) => {
    view.setBigInt64(4 + i * 16, BigInt(anchor.sample), true);
    view.setFloat64(12 + i * 16, anchor.ms, true);
  });
  return bytes;
}

export function eventsPayload(segment: number, events: JournalEvent[]): Uint8Array {
  const json = text.encode(JSON.stringify(events));
  const bytes = new Uint8Array(4 + json.length);
  new DataView(bytes.buffer).setInt32(0, segment, true);
  bytes.set(json, 4);
  return bytes;
}

export function pointPayload(segment: number, sample: number): Uint8Array {
  const bytes = new Uint8Array(pointSize);
  writePoint(new DataView(bytes.buffer), segment, sample);
  return bytes;
}

export function lostPayload(firstSequence: number): Uint8Array {
  const bytes = new Uint8Array(4);
  new DataView(bytes.buffer).setUint32(0, firstSequence, true);
  return bytes;
}

function writePoint(view: DataView, segment: number, sample: number): void {
  view.setInt32(0, segment, true);
  view.setBigInt64(4, BigInt(sample), true);
}
