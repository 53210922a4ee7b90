import assert from "node:assert/strict";
import { mock, test } from "node:test";
import { JoinLoop } from "../refine/join-loop";

/** What was played: when, from where in its sound, how long. */
interface Played {
  at: number;
  sound: string;
  offset: number;
  seconds: number;
}

const played: Played[] = [];
const stopped: string[] = [];

class FakeContext {
  currentTime = 0;
  destination = {};
  decodeAudioData(data: { name: string }): Promise<object> {
    return Promise.resolve({ name: data.name, duration: 15 });
  }

  close(): Promise<void> {
    return Promise.resolve();
  }
}

class FakeSource {
  constructor(_: object, private readonly options: { buffer: { name: string } }) {}
  connect(next: object): object {
    return next;
  }

  start(at: number, offset: number, seconds: number): void {
    played.push({ at, sound: this.options.buffer.name, offset, seconds });
  }

  stop(): void {
    stopped.push(this.options.buffer.name);
  }

  addEventListener(): void {}
}

class FakeGain {
  gain = { setValueAtTime: () => undefined, linearRampToValueAtTime: () => undefined };
  connect(next: object): object {
    return next;
  }
}

Object.assign(globalThis, {
  AudioContext: FakeContext,
  AudioBufferSourceNode: FakeSource,
  GainNode: FakeGain,
  fetch: (address: string) => Promise.resolve({ ok: !address.includes("gone"), status: 404, arrayBuffer: () => Promise.resolve({ name: address }) }),
});

function begin(): void {
  played.length = 0;
  stopped.length = 0;
  mock.timers.enable({ apis: ["setTimeout"] });
}

test("What lies before a join and behind it is heard, again and again, with the edges as they are", async () => {
  begin();
  const loop = new JoinLoop((from, to) => `${from}-${to}`);
  await loop.start({ from: 20_000, to: 30_000 });
  assert.deepEqual(played.map((p) => [p.sound, p.offset, p.seconds]), [["12500-26000", 6, 1.5], ["24000-37500", 6, 1.5]]);
  assert.equal(played[1]!.at - played[0]!.at, 1.5, "without a gap");

  // Another edge is heard once it rests, from the sound that is there.
  loop.move({ from: 20_000, to: 30_500 });
  loop.move({ from: 20_000, to: 31_000 });
  assert.equal(played.length, 2);
  mock.timers.tick(120);
  assert.deepEqual(played.slice(2).map((p) => p.offset), [6, 7]);
  assert.deepEqual(stopped, ["12500-26000", "24000-37500"]);
  mock.timers.tick(3400);
  assert.equal(played.length, 6, "and again");
  loop.stop();
  mock.timers.tick(10_000);
  assert.equal(played.length, 6, "not any more");
  mock.timers.reset();
});

test("At the beginning of a take there is less to be heard, and far from the join nothing", async () => {
  begin();
  const loop = new JoinLoop((from, to) => `${from}-${to}`);
  await loop.start({ from: 1000, to: 9000 });
  assert.deepEqual(played.map((p) => [p.sound, p.offset, p.seconds]), [["0-7000", 0, 1], ["3000-16500", 6, 1.5]]);
  loop.move({ from: 1000, to: 40_000 });
  mock.timers.tick(120);
  assert.equal(played.length, 3, "so far behind it no sound is there");
  loop.stop();
  mock.timers.reset();
});

test("Sound that can't be loaded is told, unless the edge was let go of before", async () => {
  await assert.rejects(new JoinLoop(() => "gone").start({ from: 1000, to: 9000 }));
  const loop = new JoinLoop(() => "gone");
  const started = loop.start({ from: 1000, to: 9000 });
  loop.stop();
  await started;
});
