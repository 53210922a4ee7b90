import assert from "node:assert/strict";
import { test } from "node:test";
import { finished } from "../ink/stroke-shape";
import { isTooPale, isTooSmall } from "../record/legible";
import { mayBeAlongWords } from "../record/along-words";
import { QuietWatch } from "../record/quiet";
import { lastLine } from "../record/written";
import type { Style } from "../scene/scene";

const pen: Style = { tool: "pen", ink: "blue-black", width: "fine", color: "#1E2A2B", units: 3 };
const letter = (x: number, y: number, height: number) =>
  finished({ kind: "ink" as const, key: `${x} ${y}`, style: pen, points: [x, y, 128, 0, x + height / 2, y + height, 128, 5] });
const word = (y: number, height: number, letters = 6) => Array.from({ length: letters }, (_, i) => letter(1000 + i * height, y, height));

test("writing smaller than a phone needs is too small, unless the view is as much closer", () => {
  assert.equal(isTooSmall(word(1000, 300), 344, 16_000), true);
  assert.equal(isTooSmall(word(1000, 300), 344, 8000), false);
  assert.equal(isTooSmall(word(1000, 420), 344, 16_000), false);
  assert.equal(isTooSmall(word(1000, 100, 2), 344, 16_000), false, "a dash is no writing");
});

test("an ink is too pale where its contrast with the ground is under 3 to 1", () => {
  assert.equal(isTooPale(pen, [[255, 255, 255]]), false);
  assert.equal(isTooPale(pen, [[70, 60, 55], [75, 66, 60], [255, 255, 255]]), true);
  assert.equal(isTooPale({ ...pen, color: "#F0E442" }, [[255, 255, 255]]), true);
});

test("the last line of handwriting is what stands on one level, without the line above or what is far beside it", () => {
  const above = word(1000, 400);
  const far = letter(12_000, 2010, 400);
  const own = word(2000, 400);
  assert.deepEqual(lastLine([...above, far, ...own]), own);
  assert.deepEqual(lastLine([]), []);
});

test("a voice that becomes 9 dB quieter is noticed, pauses are not, and it is noticed when it is loud again", () => {
  const watch = new QuietWatch();
  let now = 0;
  const speak = (rms: number, seconds: number) => {
    let isQuiet = false;
    for (let i = 0; i < seconds * 20; i++) {
      isQuiet = watch.hear(rms, (now += 50));
    }

    return isQuiet;
  };
  assert.equal(speak(0.1, 10), false);
  assert.equal(speak(0.001, 30), false, "nobody speaks");
  assert.equal(speak(0.08, 10), false);
  assert.equal(speak(0.1 * 10 ** (-9.5 / 20), 30), true);
  assert.equal(speak(0.09, 15), false);
});

test("letters of a hand are not asked about, lines along words are", () => {
  const line = (width: number, height: number) => [0, 0, width / 2, height, width, height / 2];
  assert.equal(mayBeAlongWords(pen, line(200, 300)), false);
  assert.equal(mayBeAlongWords(pen, line(900, 500)), false);
  assert.equal(mayBeAlongWords(pen, line(900, 80)), true);
  assert.equal(mayBeAlongWords({ ...pen, tool: "highlighter" }, line(200, 180)), true);
});
