import assert from "node:assert/strict";
import { test } from "node:test";
import { Timeline } from "../timeline/timeline";

const style = { tool: "pen", ink: "blue", width: "fine", color: "#000000", units: 3 };

/** Values as the file has them: each row as the difference to the one before. */
function differences(rows: number[][]): number[] {
  return rows.flatMap((row, i) => row.map((v, c) => v - (rows[i - 1]?.[c] ?? 0)));
}

async function lesson(): Promise<Timeline> {
  const stroke = (key: string, lives: number[], ...points: number[][]) => ({ key, style: 0, lives, points: differences(points) });
  const files: Record<string, object> = {
    "http://test/timeline.json": {
      length: 10_000, styles: [style], shown: differences([[0, 0], [5000, 1]]), ranges: [], chapters: [],
      boards: ["a", "b"].map((id) => ({ id, title: id, height: 900, heights: [], views: [], pictures: [], ink: `${id}.json` })),
      pointer: [
        { board: 0, end: 3000, path: differences([[1000, 100, 100], [1200, 300, 100], [1400, 500, 100]]) },
        { board: 1, end: -1, path: differences([[5100, 9000, 9000]]) },
      ],
    },
    "http://test/a.json": {
      strokes: [
        stroke("1", [1000, 4000], [0, 0, 128, 1000], [100, 0, 128, 1500], [200, 0, 128, 2000]),
        stroke("2", [3000, -1], [0, 50, 128, 3000]),
      ],
    },
    "http://test/b.json": { strokes: [] },
  };
  globalThis.location = { href: "http://test/" } as Location;
  globalThis.fetch = ((address: string) => Promise.resolve({ ok: address in files, status: 404, json: () => Promise.resolve(structuredClone(files[address])) })) as unknown as typeof fetch;
  const timeline = await Timeline.load("timeline.json");
  await timeline.loadInk(0);
  return timeline;
}

test("a stroke grows by its times, is finished when its last point is drawn, and goes when it was taken back", async () => {
  const timeline = await lesson();
  const at = (ms: number) => timeline.at(ms).panes[0]!;
  assert.deepEqual([at(999).growing.length, at(999).finished.length], [0, 0]);
  assert.deepEqual([at(1250).growing[0]!.count, at(1250).growing[0]!.tip], [1, [50, 0, 128]]);
  assert.equal(at(1999).growing[0]!.count, 2);
  assert.deepEqual([at(2000).growing.length, at(2000).finished.map((s) => s.key)], [0, ["1"]]);
  assert.deepEqual(at(3000).finished.map((s) => s.key), ["1", "2"], "one point alone is a finished dot");
  assert.deepEqual(at(4000).finished.map((s) => s.key), ["2"]);
});

test("between two changes the same arrays are given, after a seek the right ones", async () => {
  const timeline = await lesson();
  const first = timeline.at(2100).panes[0]!.finished;
  assert.equal(timeline.at(2900).panes[0]!.finished, first);
  assert.notEqual(timeline.at(3500).panes[0]!.finished, first);
  assert.deepEqual(timeline.at(2100).panes[0]!.finished.map((s) => s.key), ["1"]);
});

test("the pointer's trail is of the last moments of its own run: none across a seek or from another board", async () => {
  const timeline = await lesson();
  const trail = (ms: number) => timeline.at(ms).panes[0]!.pointer?.trail.map((p) => p.x);
  assert.deepEqual(trail(1400), [100, 300, 500]);
  assert.deepEqual(trail(1600), [300, 500]);
  assert.deepEqual(trail(2900), [], "a resting pointer has none, so a paused page has nothing to paint");
  assert.deepEqual(trail(5100), [9000]);
  assert.equal(timeline.at(3500).panes[0]!.pointer, null);
});
