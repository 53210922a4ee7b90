import assert from "node:assert/strict";
import { test } from "node:test";
import { halfWidth, outline, type Pen, tipAt } from "../ink/outline";
import type { Style } from "../timeline/timeline";

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
    const inPolygon = this.polygons.some((p) => p.every(([ax, ay], i) => {
      const [bx, by] = p[(i + 1) % p.length]!;
      return (bx - ax) * (y - ay) - (by - ay) * (x - ax) >= -1e-9;
    }));
    return inPolygon || this.discs.some(([cx, cy, r]) => Math.hypot(x - cx, y - cy) <= r);
  }
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
