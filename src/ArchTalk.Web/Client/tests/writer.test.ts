import assert from "node:assert/strict";
import { test } from "node:test";
import { type KeptWriter, MemoryKeeper } from "../journal/keeper";
import { type JournalRecord, Kind, pointOf, readRecord } from "../journal/record";
import { Uploader } from "../journal/uploader";
import { Writer } from "../record/writer";

function setUp() {
  const keeper = new MemoryKeeper();
  const kept: KeptWriter = { take: "t", epoch: 4, lesson: "l", token: "k", startedAt: 0, segments: [] };
  const never = { now: () => 0, pause: () => new Promise<void>(() => undefined) };
  const uploader = new Uploader(kept, keeper, { send: () => Promise.reject(new Error("away")) }, never, {
    saved: () => undefined,
    waiting: () => undefined,
    stopped: () => undefined,
  });
  const time = { now: 0 };
  const told = { missing: 0, recorded: 0 };
  const writer = new Writer(
    { take: "t", token: "k", epoch: 4, next: 30, lastEpoch: 3, savedMs: 1000, takenBackMs: 0, nextSegment: 2, nextAction: 9, isTestVoice: false },
    kept,
    keeper,
    uploader,
    { now: () => time.now },
    { level: () => undefined, recorded: (ms) => (told.recorded = ms), missing: (ms) => (told.missing = ms) },
  );
  writer.begin({
    segment: 2,
    deviceRate: 48_000,
    inputOffsetMs: 0,
    microphone: "",
    echoCancellation: false,
    noiseSuppression: false,
    autoGainControl: false,
    isTestVoice: false,
  });
  let end = 0;
  const hear = (samples: number, lost = 0) => {
    end += samples + lost;
    time.now += (samples + lost) / 48;
    writer.hear({ end, pcm: new Int16Array(samples).fill(1), peak: 0, rms: 0, lost });
  };
  const records = async (): Promise<JournalRecord[]> => (await keeper.rest("t", 4)).map((r) => readRecord(r.bytes));
  const rest = () => new Promise((r) => setImmediate(r));
  return { writer, hear, records, told, rest, time, kept };
}

test("records go on with the numbers of the take, under the writer's own epoch, and are kept at once", async () => {
  const { hear, records, rest, kept } = setUp();
  for (let i = 0; i < 50; i++) {
    hear(480);
  }

  await rest();
  const found = await records();
  assert.deepEqual(
    found.map((r) => r.sequence),
    found.map((_, i) => 30 + i),
  );
  assert.ok(found.every((r) => r.epoch === 4));
  assert.equal(found.filter((r) => r.kind === Kind.audio).length, 2, "a record each quarter of a second");
  assert.equal(kept.segments.length, 1);
});

test("lost sound leaves a hole in the count, and its length is told", async () => {
  const { hear, writer, records, told } = setUp();
  hear(480);
  hear(480, 4800);
  await writer.end();
  const audio = (await records()).filter((r) => r.kind === Kind.audio).map((r) => pointOf(r.payload).sample);
  assert.deepEqual(audio, [0, 5280]);
  assert.equal(told.missing, 100);
});

test("a pause of two hours makes no record that is too large, and no sound", async () => {
  const { hear, writer, records } = setUp();
  hear(480);
  writer.gate(true);
  for (let i = 0; i < 72_000; i++) {
    hear(4800);
  }

  writer.gate(false);
  hear(480);
  await writer.end();
  const found = await records();
  assert.ok(Math.max(...found.map((r) => r.payload.length)) < 1 << 20);
  assert.deepEqual(found.filter((r) => r.kind === Kind.audio).length, 2);
  const [pause, resume] = [Kind.pause, Kind.resume].map((kind) => pointOf(found.find((r) => r.kind === kind)!.payload).sample);
  assert.deepEqual([pause, resume], [480, 480 + 72_000 * 4800]);
  assert.equal(found.at(-1)!.kind, Kind.end);
});

test("after it was closed nothing is written", async () => {
  const { hear, writer, records } = setUp();
  hear(480);
  await writer.close();
  const before = (await records()).length;
  hear(48_000);
  writer.happened({ e: "away", t: 1 });
  writer.flushEvents();
  await writer.close();
  assert.equal((await records()).length, before);
});
