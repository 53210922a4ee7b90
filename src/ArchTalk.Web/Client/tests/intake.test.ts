import assert from "node:assert/strict";
import { test } from "node:test";
import { Intake, type Piece } from "../record/intake";

/** A device that gives a tone in frames of 10 ms; some of them never arrive. */
function hear(rate: number, frames: number, isLost: (frame: number) => boolean, stampOf = (ms: number) => ms): Piece[] {
  const intake = new Intake();
  const pieces: Piece[] = [];
  for (let f = 0; f < frames; f++) {
    if (!isLost(f)) {
      const length = rate / 100;
      const samples = Float32Array.from({ length }, (_, i) => 0.5 * Math.sin((2 * Math.PI * 440 * (f * length + i)) / rate));
      pieces.push(intake.take({ samples, rate, stamp: stampOf(f * 10) }));
    }
  }

  return pieces;
}

test("one lost frame is found from the stamps and counted as missing", () => {
  const pieces = hear(48_000, 100, (f) => f === 50);
  assert.deepEqual(pieces.filter((p) => p.lost > 0).map((p) => p.lost), [480]);
  assert.equal(pieces.at(-1)!.end, 48_000, "what comes after it lies where it was said");
});

test("several losses of several lengths are each as long as they were", () => {
  const pieces = hear(48_000, 400, (f) => f === 60 || (f >= 100 && f < 150) || f === 399);
  assert.deepEqual(pieces.filter((p) => p.lost > 0).map((p) => p.lost), [480, 24_000]);
  assert.equal(pieces.at(-1)!.end, 399 * 480);
});

test("the zero of the stamps may move in the first frames, and stamps may be uneven by a tenth of a millisecond", () => {
  const pieces = hear(48_000, 100, () => false, (ms) => (ms < 50 ? ms : ms + 300) + (ms % 30) / 300);
  assert.deepEqual(pieces.filter((p) => p.lost > 0), []);
  assert.equal(pieces.at(-1)!.end, 48_000);
});

test("a computer that slept has lost nothing that was said", () => {
  const pieces = hear(48_000, 100, () => false, (ms) => (ms < 500 ? ms : ms + 3_600_000));
  assert.deepEqual(pieces.filter((p) => p.lost > 0), []);
});

test("another rate is brought to 48 kHz, and a loss in it has its length there", () => {
  const pieces = hear(44_100, 300, (f) => f === 100);
  const lost = pieces.filter((p) => p.lost > 0).map((p) => p.lost);
  assert.equal(lost.length, 1);
  assert.ok(lost[0]! >= 480 && lost[0]! < 480 + 30, "and the half millisecond that was on its way");
  assert.ok(Math.abs(pieces.at(-1)!.end - 3 * 48_000) < 30, `${pieces.at(-1)!.end} samples in three seconds`);
});

test("a hundred losses don't add up to sound in the wrong place", () => {
  const pieces = hear(44_100, 3000, (f) => f % 30 === 29);
  assert.equal(pieces.filter((p) => p.lost > 0).length, 99);
  assert.ok(Math.abs(pieces.at(-1)!.end - 2999 * 480) < 40, `${pieces.at(-1)!.end - 2999 * 480} samples off`);
});

test("a device that changes its rate in the middle goes on in time", () => {
  const intake = new Intake();
  let end = 0;
  for (let f = 0; f < 200; f++) {
    const rate = f < 100 ? 48_000 : 16_000;
    end = intake.take({ samples: new Float32Array(rate / 100), rate, stamp: f * 10 }).end;
  }

  assert.ok(Math.abs(end - 2 * 48_000) < 100, `${end}`);
});
