import "fake-indexeddb/auto";
import assert from "node:assert/strict";
import { test } from "node:test";
import { openDB } from "idb";
import { DiskKeeper, type Keeper, type KeptWriter, MemoryKeeper, SafeKeeper } from "../journal/keeper";
import { audioPayload, encodeRecord, Kind, pointOf, readRecord, samplesIn } from "../journal/record";
import { leftoverOf, renamed, toWav } from "../record/leftovers";
import type { OpenTake } from "../record/messages";

const writer = (take: string, epoch: number): KeptWriter => ({ take, epoch, lesson: "l", token: "k", startedAt: 5, segments: [] });
const sound = (sequence: number, epoch: number, samples: number[], first = 0, segment = 0) =>
  encodeRecord(Kind.audio, epoch, sequence, audioPayload(segment, first, Int16Array.from(samples)));

// First of all, while the database is not there yet.
test("records of the first release are named by their writer, and nothing of them is lost", async () => {
  const old = await openDB("archtalk-recorder", 1, {
    upgrade(db) {
      db.createObjectStore("takes", { keyPath: "take" });
      db.createObjectStore("records");
    },
  });
  await old.put("takes", { take: "old", lesson: "l", token: "secret" });
  await old.put("records", sound(3, 2, [1, 2]), ["old", 3]);
  await old.put("records", sound(4, 2, [3, 4]), ["old", 4]);
  old.close();
  const keeper = await DiskKeeper.open();
  assert.deepEqual(
    (await keeper.rest("old", 2)).map((r) => r.sequence),
    [3, 4],
  );
  const [kept] = await keeper.writers();
  assert.deepEqual([kept!.take, kept!.epoch, kept!.token, kept!.lesson], ["old", 2, "secret", "l"]);
  await keeper.forgetWriter("old", 2);
});

for (const [name, open] of [
  ["on the disk", () => DiskKeeper.open()],
  ["in memory", async () => new MemoryKeeper()],
  ["safely", async () => new SafeKeeper(await DiskKeeper.open(), () => undefined)],
] as [string, () => Promise<Keeper>][]) {
  test(`kept ${name}, a writer's records are its own`, async () => {
    const keeper = await open();
    await keeper.putWriter(writer("t", 1));
    await keeper.putWriter(writer("t", 2));
    for (const sequence of [10, 9, 8]) {
      await keeper.add("t", 1, sequence, sound(sequence, 1, [sequence]));
      await keeper.add("t", 2, sequence, sound(sequence, 2, [-sequence]));
    }

    assert.deepEqual(
      (await keeper.rest("t", 1)).map((r) => r.sequence),
      [8, 9, 10],
    );
    assert.deepEqual(
      (await keeper.rest("t", 1, 9)).map((r) => r.sequence),
      [9, 10],
    );
    await keeper.forget("t", 1, 9);
    assert.deepEqual(
      (await keeper.rest("t", 1)).map((r) => r.sequence),
      [10],
    );
    assert.equal((await keeper.rest("t", 2)).length, 3, "a second writer is not touched by what the first had acknowledged");
    await keeper.forgetWriter("t", 1);
    assert.deepEqual(
      (await keeper.writers()).map((w) => w.epoch),
      [2],
    );
    assert.deepEqual(await keeper.rest("t", 1), []);
    await keeper.forgetWriter("t", 2);
  });
}

test("when the disk fails in the middle, that is said once and everything is still there", async () => {
  const disk = new MemoryKeeper();
  let told = 0;
  const keeper = new SafeKeeper(disk, () => told++);
  await keeper.putWriter(writer("t", 1));
  await keeper.add("t", 1, 0, sound(0, 1, [1]));
  disk.add = () => Promise.reject(new DOMException("", "QuotaExceededError"));
  await keeper.add("t", 1, 1, sound(1, 1, [2]));
  await keeper.add("t", 1, 2, sound(2, 1, [3]));
  assert.equal(told, 1);
  assert.deepEqual(
    (await keeper.rest("t", 1)).map((r) => r.sequence),
    [0, 1, 2],
  );
  await keeper.forget("t", 1, 1);
  assert.deepEqual(
    (await keeper.rest("t", 1)).map((r) => r.sequence),
    [2],
  );
});

test("a private window without a database keeps in memory and says so", async () => {
  let told = 0;
  const keeper = new SafeKeeper(null, () => told++);
  await keeper.add("t", 1, 0, sound(0, 1, [1]));
  assert.deepEqual([told, (await keeper.rest("t", 1)).length], [1, 1]);
});

test("what is left has its length and its beginning; anchors alone nobody would miss", async () => {
  const keeper = new MemoryKeeper();
  await keeper.add("t", 1, 6, encodeRecord(Kind.anchors, 1, 6, new Uint8Array(4)));
  assert.equal(await leftoverOf(keeper, writer("t", 1), "taken"), null);
  await keeper.add("t", 1, 7, sound(7, 1, new Array(4800).fill(1)));
  assert.deepEqual(await leftoverOf(keeper, writer("t", 1), "taken"), { take: "t", epoch: 1, first: 6, ms: 100, startedAt: 5, why: "taken" });
});

const into = (more: Partial<OpenTake>): OpenTake => ({
  take: "n",
  token: "",
  epoch: 1,
  next: 0,
  takenBackMs: 0,
  savedMs: 0,
  lastEpoch: 0,
  nextSegment: 0,
  nextAction: 1,
  isTestVoice: null,
  ...more,
});

test("as a take of its own it begins with its microphone, what came before is a pause, and it ends", async () => {
  const start = {
    segment: 2,
    deviceRate: 44_100,
    inputOffsetMs: 3,
    microphone: "usb",
    echoCancellation: false,
    noiseSuppression: false,
    autoGainControl: false,
    isTestVoice: false,
  };
  const rest = [
    { sequence: 40, bytes: sound(40, 3, [5, 6, 7], 96_000, 2) },
    { sequence: 41, bytes: encodeRecord(Kind.events, 3, 41, new TextEncoder().encode("\0\0\0\0[]")) },
  ];
  const records = renamed(rest, { ...writer("t", 3), segments: [start] }, into({}), true).map((r) => readRecord(r.bytes));
  assert.deepEqual(
    records.map((r) => r.kind),
    [Kind.segment, Kind.pause, Kind.resume, Kind.audio, Kind.events, Kind.end],
  );
  assert.deepEqual(
    records.map((r) => [r.epoch, r.sequence]),
    [0, 1, 2, 3, 4, 5].map((n) => [1, n]),
  );
  assert.deepEqual(JSON.parse(new TextDecoder().decode(records[0]!.payload)), start);
  assert.deepEqual(
    [pointOf(records[1]!.payload), pointOf(records[2]!.payload)],
    [
      { segment: 2, sample: 0 },
      { segment: 2, sample: 96_000 },
    ],
  );
  assert.deepEqual(records[3]!.payload, readRecord(rest[0]!.bytes).payload);
});

test("sent on, it takes the numbers that follow in the take and nothing is added", () => {
  const records = renamed([{ sequence: 40, bytes: sound(40, 3, [5], 9) }], writer("t", 3), into({ epoch: 5, next: 40 }), false);
  assert.deepEqual(
    records.map((r) => {
      const { kind, epoch, sequence } = readRecord(r.bytes);
      return [kind, epoch, sequence];
    }),
    [[Kind.audio, 5, 40]],
  );
});

test("as a WAV file it is what was heard, with what is missing as silence", () => {
  const wav = new DataView(
    toWav([
      { sequence: 1, bytes: sound(1, 1, [1, 2], 100) },
      { sequence: 2, bytes: sound(2, 1, [3, 4], 104) },
    ]),
  );
  const text = (at: number) => String.fromCharCode(...new Uint8Array(wav.buffer, at, 4));
  assert.deepEqual([text(0), text(8), text(12), text(36)], ["RIFF", "WAVE", "fmt ", "data"]);
  assert.deepEqual(
    [wav.getUint32(4, true), wav.getUint16(22, true), wav.getUint32(24, true), wav.getUint32(40, true)],
    [wav.byteLength - 8, 1, 48_000, 12],
  );
  assert.deepEqual([...new Int16Array(wav.buffer, 44)], [1, 2, 0, 0, 3, 4]);
  assert.equal(samplesIn(sound(1, 1, [1, 2])), 2);
});
