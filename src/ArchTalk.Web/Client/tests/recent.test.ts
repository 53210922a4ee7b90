import assert from "node:assert/strict";
import { test } from "node:test";
import { spoken } from "../record/level-gate";
import { Recent } from "../record/recent";

const piece = 480;

/** Sound in pieces of 10 ms: a tone where `isLoud` says so, faint noise elsewhere; each comes up to 8 ms late. */
function hear(recent: Recent, segment: number, first: number, at: number, seconds: number, begunMs: number, isLoud: (s: number) => boolean) {
  for (let i = 0; i < seconds * 100; i++) {
    const loud = isLoud(i / 100) ? 8000 : 20;
    const pcm = Int16Array.from({ length: piece }, (_, k) => Math.round(loud * Math.sin(k / 5)));
    const late = i % 7 === 0 ? 0 : (i * 5) % 8;
    recent.add({ segment, sample: first + i * piece }, at + i * piece, pcm, begunMs + (i + 1) * 10 + late);
  }
}

test("a sample is told in the take, in its segment and in the page's clock, across a pause and a second microphone", () => {
  const recent = new Recent();
  hear(recent, 0, 0, 0, 4, 1000, () => false);
  hear(recent, 0, 10 * 48_000, 4 * 48_000, 2, 11_000, () => false);
  hear(recent, 1, 0, 6 * 48_000, 2, 20_000, () => false);
  assert.deepEqual(recent.now, { segment: 1, sample: 96_000, ms: 8000, stamp: 22_000 });
  const [phrase] = recent.known([{ fromSegment: 0, from: 48_000, toSegment: 0, to: 11 * 48_000 }]);
  assert.deepEqual(phrase!.from, { segment: 0, sample: 48_000, ms: 1000, stamp: 2000 });
  assert.deepEqual(phrase!.to, { segment: 0, sample: 528_000, ms: 5000, stamp: 12_000 });
  assert.deepEqual(recent.pointAt(2500), { segment: 0, sample: 72_000, ms: 1500, stamp: 2500 });
  assert.deepEqual(recent.pointAt(7000), { segment: 0, sample: 480_000, ms: 4000, stamp: 11_000 }, "in the pause");
  assert.deepEqual(recent.pointAt(500), { segment: 0, sample: 0, ms: 0, stamp: 1000 }, "before the first sound");
  assert.equal(recent.pointAt(30_000), null);
});

test("three minutes are at hand, and what is older isn't taken for anything else", () => {
  const recent = new Recent();
  hear(recent, 0, 0, 0, 240, 0, () => false);
  assert.equal(recent.pointAt(10_000), null);
  assert.deepEqual(recent.known([{ fromSegment: 0, from: 48_000, toSegment: 0, to: 96_000 }]), []);
  assert.equal(recent.pointAt(100_000)?.ms, 100_000);
});

test("what is missing in a stretch is silent", () => {
  const recent = new Recent();
  recent.add({ segment: 0, sample: 0 }, 0, new Int16Array(480).fill(7), 10);
  recent.add({ segment: 0, sample: 960 }, 960, new Int16Array(480).fill(8), 30);
  const sound = recent.sound(5, 25);
  assert.equal(sound.length, 960);
  assert.deepEqual([sound[0], sound[239], sound[240], sound[719], sound[720]], [7, 7, 0, 0, 8]);
});

test("without the server phrases are found by the level alone, within 30 ms where it is quiet between them", () => {
  const recent = new Recent();
  hear(recent, 0, 0, 0, 10, 0, (s) => (s >= 1 && s < 2.5) || (s >= 3.2 && s < 6) || (s > 6.15 && s < 7) || (s >= 8 && s < 8.05));
  assert.deepEqual(recent.rough().map(({ from, to }) => [from.ms, to.ms]), [[1000, 2500], [3200, 7000]]);
  assert.deepEqual(new Recent().rough(), []);
  assert.deepEqual(spoken(new Float64Array(100)), []);
});
