import assert from "node:assert/strict";
import { test } from "node:test";
import { between, viewOf } from "../input/glide";
import type { Window } from "../input/looking";
import { jumps } from "../timeline/jumps";

const window = { view: { x: 0, y: 1000, width: 16_000 }, width: 800 } as Window;

test("a region becomes the smallest view of 16 by 9 that holds it, whichever way it was dragged", () => {
  const wide = { x: 2000, y: 1000 + 100 * 20 - 1125, width: 4000 };
  assert.deepEqual(viewOf(window, { from: { x: 100, y: 80 }, to: { x: 300, y: 120 } }), wide);
  assert.deepEqual(viewOf(window, { from: { x: 300, y: 120 }, to: { x: 100, y: 80 } }), wide);
  const tall = viewOf(window, { from: { x: 100, y: 0 }, to: { x: 110, y: 90 } })!;
  assert.equal(tall.width, 4000, "no view is narrower");
  assert.deepEqual(tall.x + tall.width / 2, 105 * 20);
  assert.equal(viewOf(window, { from: { x: 100, y: 100 }, to: { x: 105, y: 103 } }), null);
});

test("a glide begins where it was, ends where it is to be, and never turns back", () => {
  const [from, to] = [{ x: 0, y: 0, width: 16_000 }, { x: 8000, y: 4000, width: 4000 }];
  assert.deepEqual(between(from, to, 0), from);
  assert.deepEqual(between(from, to, 1), to);
  let last = -1;
  for (let share = 0; share <= 1; share += 0.05) {
    const { x } = between(from, to, share);
    assert.ok(x > last || share === 0);
    last = x;
  }
});

test("with reduced motion a glide is one jump to where it ends, and what was slid for long goes in steps", () => {
  const glide = Array.from({ length: 10 }, (_, i) => [1000 + 40 * i, i * 100, 0, 16_000 - i * 500]);
  const [before, back] = [[0, 0, 0, 16_000], [5000, 0, 0, 16_000]];
  assert.deepEqual(jumps([before, ...glide, back]), [before, [1000, ...glide.at(-1)!.slice(1)], back]);
  const slide = Array.from({ length: 50 }, (_, i) => [40 * i, 0, i * 10, 16_000]);
  const steps = jumps(slide);
  assert.ok(steps.length >= 2 && steps.length <= 6);
  assert.deepEqual(steps.at(-1)!.slice(1), slide.at(-1)!.slice(1));
  assert.deepEqual(jumps([]), []);
});
