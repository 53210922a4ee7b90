import assert from "node:assert/strict";
import { test } from "node:test";
import { endOf, straight } from "../record/straight";

const rowsOf = (points: number[]) => Array.from({ length: points.length / 4 }, (_, i) => points.slice(4 * i, 4 * i + 4));

test("a line goes from its beginning to its end at an even pace, on the line", () => {
  const rows = rowsOf(straight({ x: 1000, y: 2000 }, { x: 5000, y: 5000 }, 100, 700, false));
  assert.deepEqual(rows[0], [1000, 2000, 128, 100]);
  assert.deepEqual(rows.at(-1), [5000, 5000, 128, 700]);
  for (const [x, y, , t] of rows) {
    assert.ok(Math.abs((x! - 1000) * 3000 - (y! - 2000) * 4000) < 1e-6);
    assert.ok(Math.abs((t! - 100) / 600 - (x! - 1000) / 4000) < 1e-9);
  }
});

test("what is nearly level or plumb becomes so, and what isn't stays", () => {
  const from = { x: 1000, y: 1000 };
  assert.deepEqual(endOf(from, { x: 5000, y: 1200 }), { x: 5000, y: 1000 });
  assert.deepEqual(endOf(from, { x: -3000, y: 800 }), { x: -3000, y: 1000 });
  assert.deepEqual(endOf(from, { x: 900, y: 4000 }), { x: 1000, y: 4000 });
  assert.deepEqual(endOf(from, { x: 5000, y: 1300 }), { x: 5000, y: 1300 });
});

test("an arrowhead ends where the line does: two wings that lean back by the same angle, in the same stroke", () => {
  const rows = rowsOf(straight({ x: 0, y: 0 }, { x: 3000, y: 0 }, 0, 500, true));
  const [one, tip, other] = rows.slice(-3) as [number[], number[], number[]];
  assert.deepEqual(tip, [3000, 0, 128, 500]);
  assert.ok(one[0]! < 3000 && other[0]! === one[0]);
  assert.ok(Math.abs(one[1]! + other[1]!) < 1e-9 && one[1] !== other[1]);
  assert.ok(Math.hypot(one[0]! - 3000, one[1]!) <= 420.001);
});
