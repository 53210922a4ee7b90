import assert from "node:assert/strict";
import { test } from "node:test";
import { Resampler } from "../record/resampler";

function resample(rate: number, hertz: number, seconds: number): number[] {
  const resampler = new Resampler(rate);
  const output: number[] = [];
  const block = Math.round(rate / 100);
  for (let n = 0; n < rate * seconds; n += block) {
    output.push(...resampler.push(Float32Array.from({ length: block }, (_, k) => Math.sin((2 * Math.PI * hertz * (n + k)) / rate))));
  }

  return output;
}

for (const rate of [44_100, 16_000, 32_000, 96_000, 48_000]) {
  test(`a tone recorded at ${rate} Hz is the same tone, at the same time, at 48 kHz`, () => {
    const output = resample(rate, 1000, 2);
    assert.ok(Math.abs(output.length - 96_000) < 200, `${output.length} samples`);
    let worst = 0;
    for (let i = 200; i < output.length - 200; i++) {
      worst = Math.max(worst, Math.abs(output[i]! - Math.sin((2 * Math.PI * 1000 * i) / 48_000)));
    }

    assert.ok(worst < 1e-3, `worst error ${worst}`);
  });
}

test("what 48 kHz can't carry is taken away, not folded back", () => {
  const output = resample(96_000, 40_000, 1).slice(500, -500);
  assert.ok(Math.max(...output.map(Math.abs)) < 1e-3);
});
