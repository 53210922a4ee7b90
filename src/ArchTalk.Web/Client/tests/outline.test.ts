import assert from "node:assert/strict";
import { test } from "node:test";
import { halfWidth, outline, type Pen, tipAt } from "../ink/outline";
import type { Style } from "../scene/scene";

const style: Style = { tool: "pen", ink: "blue", width: "medium", color: "#000000", units: 5 };

/** Collects polygons and discs, and says by the nonzero rule whether a place is covered. */
class Shape implements Pen {
  readonly polygons: [number, number][][] = [];
  readonly discs: [number, number, number][] = [];
  private open: [number, number][] = [];

  moveTo(x: number, y: number) {
    this.open = [[x, y]];
  }

  lineTo(x: number, y: number) {
    this.open.push([x, y]);
  }

  arc(x: number, y: number, radius: number) {
    this.discs.push([x, y, radius]);
    this.open = [];
  }

  closePath() {
    if (this.open.length > 2) {
      this.polygons.push(this.open);
    }

    this.open = [];
  }

  /** Twice the signed area of each polygon. */
  get areas(): number[] {
    return this.polygons.map((p) => p.reduce((sum, [x, y], i) => sum + x * p[(i + 1) % p.length]![1] - p[(i + 1) % p.length]![0] * y, 0));
  }

  covers(x: number, y: number): boolean {
    return this.polygons.some((p) => winding(p, x, y) !== 0) || this.discs.some(([cx, cy, r]) => Math.hypot(x - cx, y - cy) <= r);
  }
}

// How often a polygon runs round a place.
function winding(polygon: [number, number][], x: number, y: number): number {
  return polygon.reduce((turns, [ax, ay], i) => {
    const [bx, by] = polygon[(i + 1) % polygon.length]!;
    const side = (bx - ax) * (y - ay) - (by - ay) * (x - ax);
    return turns + (ay <= y && by > y && side > 0 ? 1 : by <= y && ay > y && side < 0 ? -1 : 0);
  }, 0);
}

test("every part runs the same way round, whichever way the pen goes", () => {
  const shape = new Shape();
  outline(shape, style, [0, 0, 128, 0, 100, 0, 128, 1, 100, 100, 128, 2, 0, 100, 128, 3, 0, 0, 128, 4, 70, 70, 128, 5], 6, null);
  assert.ok(shape.areas.every((area) => area > 0));
});

test("the outline covers the line at its width and not beyond", () => {
  const shape = new Shape();
  outline(shape, style, [0, 0, 255, 0, 400, 300, 255, 1], 2, null);
  const half = halfWidth(style, 255);
  assert.equal(half, 25);
  assert.ok(shape.covers(200, 150));
  assert.ok(shape.covers(200 - 0.6 * 24, 150 + 0.8 * 24));
  assert.ok(!shape.covers(200 - 0.6 * 26, 150 + 0.8 * 26));
});

test("more pressure makes a broader pen and the same highlighter", () => {
  assert.ok(halfWidth(style, 255) > halfWidth(style, 20));
  const marker: Style = { ...style, tool: "highlighter" };
  assert.equal(halfWidth(marker, 255), halfWidth(marker, 20));
});

test("the tip is between the points by time", () => {
  const points = [0, 0, 100, 1000, 100, 200, 200, 2000];
  assert.deepEqual(tipAt(points, 1, 1500), [50, 100, 150]);
  assert.deepEqual(tipAt(points, 1, 5000), [100, 200, 200]);
  assert.equal(tipAt(points, 2, 1500), null);
});

test("pieces that hardly turn share their edges, so no hair line is left between them", () => {
  const shape = new Shape();
  const points = Array.from({ length: 60 }, (_, i) => [i * 100, 20 * Math.sin(i / 3), 128, i]).flat();
  outline(shape, { ...style, tool: "highlighter", units: 30 }, points, 60, null);
  assert.equal(shape.polygons.length, 1);
});

test("a curled line is covered everywhere and never wider than its pen", () => {
  const shape = new Shape();
  const points = Array.from({ length: 200 }, (_, i) => [60 * Math.cos(i / 5) * (i / 40), 60 * Math.sin(i / 5) * (i / 40), 200, i]).flat();
  outline(shape, style, points, 200, null);
  const half = halfWidth(style, 200);
  for (let i = 1; i < 200; i++) {
    const [ax, ay, bx, by] = [points[4 * i - 4]!, points[4 * i - 3]!, points[4 * i]!, points[4 * i + 1]!];
    assert.ok(shape.covers((ax + bx) / 2, (ay + by) / 2), `piece ${i}`);
  }

  const farthest = Math.max(
    ...shape.polygons
      .flat()
      .map(([x, y]) => Math.min(...Array.from({ length: 200 }, (_, i) => Math.hypot(x - points[4 * i]!, y - points[4 * i + 1]!)))),
  );
  assert.ok(farthest <= half * 1.3, `${farthest} of ${half}`);
});
