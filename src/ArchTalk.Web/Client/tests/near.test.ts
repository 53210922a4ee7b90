import assert from "node:assert/strict";
import { test } from "node:test";
import { isNear, newestAt } from "../ink/near";
import { finished } from "../ink/stroke-shape";
import type { Style } from "../scene/scene";

const pen: Style = { tool: "pen", ink: "blue", width: "fine", color: "#000000", units: 4 };
const line = (key: string, y: number) => finished({ kind: "ink", key, style: pen, points: [1000, y, 128, 10, 5000, y, 128, 900] });

test("a place touches a stroke within its radius and the stroke's own breadth, also between two of its points", () => {
  const stroke = line("a", 2000);
  assert.ok(isNear(stroke, { x: 3000, y: 2100 }, { x: 3000, y: 2100 }, 100));
  assert.ok(!isNear(stroke, { x: 3000, y: 2200 }, { x: 3000, y: 2200 }, 100));
  assert.ok(!isNear(stroke, { x: 5400, y: 2000 }, { x: 5400, y: 2000 }, 100));
});

test("of strokes that lie over each other the newest is meant", () => {
  const strokes = [line("old", 2000), line("new", 2040), line("far", 6000)];
  assert.equal(newestAt(strokes, { x: 3000, y: 2020 }, 60)?.key, "new");
  assert.equal(newestAt(strokes, { x: 3000, y: 4000 }, 60), null);
});
