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
      format: "archtalk-timeline",
      version: 2,
      length: 10_000,
      styles: [style],
      shown: differences([
        [0, 0, -1],
        [5000, 1, -1],
        [8000, 0, 1],
      ]),
      placements: [],
      chapters: [],
      stops: [],
      pointerMinutes: [0],
      boards: ["a", "b"].map((id) => ({
        id,
        title: id,
        height: 900,
        heights: [],
        views: [[], []],
        pictures: [],
        parameters: [],
        strokes: 0,
        ink: `${id}.json`,
        items:
          id === "a"
            ? [
                {
                  item: "cover",
                  shows: differences([
                    [0, 1],
                    [2000, 0],
                    [4000, 1],
                  ]),
                },
              ]
            : [],
      })),
    },
    "http://test/pointer/0.json": {
      runs: [
        {
          board: 0,
          from: 1000,
          to: 3000,
          path: differences([
            [1000, 100, 100],
            [1200, 300, 100],
            [1400, 500, 100],
          ]),
        },
        { board: 1, from: 5100, to: -1, path: differences([[5100, 9000, 9000]]) },
      ],
    },
    "http://test/a.json": {
      strokes: [stroke("1", [1000, 4000], [0, 0, 128, 1000], [100, 0, 128, 1500], [200, 0, 128, 2000]), stroke("2", [3000, -1], [0, 50, 128, 3000])],
    },
    "http://test/b.json": { strokes: [] },
  };
  globalThis.location = { href: "http://test/" } as Location;
  globalThis.fetch = ((address: string) =>
    Promise.resolve({ ok: address in files, status: 404, json: () => Promise.resolve(structuredClone(files[address])) })) as unknown as typeof fetch;
  const timeline = await Timeline.load("timeline.json");
  await timeline.loadInk(0);
  await timeline.loadPointer(0);
  return timeline;
}

test("a stroke grows by its times, is finished when its last point is drawn, and goes when it was taken back", async () => {
  const timeline = await lesson();
  const at = (ms: number) => timeline.at(ms).panes[0]!;
  assert.deepEqual([at(999).growing.length, at(999).finished.length], [0, 0]);
  assert.deepEqual([at(1250).growing[0]!.count, at(1250).growing[0]!.tip], [1, [50, 0, 128]]);
  assert.equal(at(1999).growing[0]!.count, 2);
  assert.deepEqual([at(2000).growing.length, at(2000).finished.map((s) => s.key)], [0, ["1"]]);
  assert.deepEqual(
    at(3000).finished.map((s) => s.key),
    ["1", "2"],
    "one point alone is a finished dot",
  );
  assert.deepEqual(
    at(4000).finished.map((s) => s.key),
    ["2"],
  );
});

test("between two changes the same arrays are given, after a seek the right ones", async () => {
  const timeline = await lesson();
  const first = timeline.at(2100).panes[0]!.finished;
  assert.equal(timeline.at(2900).panes[0]!.finished, first);
  assert.notEqual(timeline.at(3500).panes[0]!.finished, first);
  assert.deepEqual(
    timeline.at(2100).panes[0]!.finished.map((s) => s.key),
    ["1"],
  );
});

test("the pointer's trail is of the last moments of its own run: none across a seek or from another board", async () => {
  const timeline = await lesson();
  const trail = (ms: number) => timeline.at(ms).panes[0]!.pointer?.trail.map((p) => p.x);
  assert.deepEqual(trail(1400), [100, 300, 500]);
  assert.deepEqual(trail(1600), [250, 300, 500, 500], "it moves straight between the places that were kept");
  assert.equal(timeline.at(1300).panes[0]!.pointer?.x, 400);
  assert.deepEqual(trail(2900), [], "a resting pointer has none, so a paused page has nothing to paint");
  assert.deepEqual(trail(5100), []);
  assert.equal(timeline.at(3500).panes[0]!.pointer, null);
});

test("items show and hide, and two boards are seen in two panes", async () => {
  const timeline = await lesson();
  assert.deepEqual(
    [1000, 2000, 3999, 4000].map((ms) => timeline.at(ms).panes[0]!.hidden),
    [[], ["cover"], ["cover"], []],
  );
  assert.deepEqual(
    timeline.at(9000).panes.map((p) => p.ground.id),
    ["a", "b"],
  );
  assert.deepEqual(timeline.boardsBetween(0, 4000), [0]);
  assert.deepEqual(timeline.boardsBetween(7000, 9000), [1, 0]);
});

test("what isn't loaded yet isn't there", async () => {
  const timeline = await lesson();
  assert.equal(timeline.isThere(1000), true);
  assert.equal(timeline.isThere(6000), false, "the ink of the second board");
  assert.deepEqual(timeline.lacksPointer(0, 200_000), []);
});

test("a publication of the first version is read as it is", async () => {
  const old = {
    format: "archtalk-timeline",
    version: 1,
    length: 10_000,
    styles: [style],
    shown: differences([
      [0, 0],
      [5000, 1],
    ]),
    chapters: [{ at: 0, title: "One" }],
    ranges: [{ take: "t", pieces: [[0, 480_000, 0, 480_000]] }],
    boards: ["a", "b"].map((id) => ({
      id,
      title: id,
      height: 900,
      heights: differences([[0, 900]]),
      views: differences([[2000, 0, 100, 8000]]),
      pictures: [],
      strokes: 0,
      ink: `${id}.json`,
      covers: [
        {
          item: "cover",
          uncovered: differences([
            [0, 0],
            [3000, 1],
            [6000, 0],
          ]),
        },
      ],
    })),
    pointer: [
      {
        board: 0,
        end: 3000,
        path: differences([
          [1000, 100, 100],
          [1200, 300, 100],
        ]),
      },
    ],
  };
  globalThis.fetch = (() => Promise.resolve({ ok: true, json: () => Promise.resolve(structuredClone(old)) })) as unknown as typeof fetch;
  const timeline = await Timeline.load("timeline.json");
  assert.deepEqual(
    [1000, 4000, 7000].map((ms) => timeline.at(ms).panes[0]!.hidden),
    [[], ["cover"], []],
  );
  assert.deepEqual(
    [4000, 7000].map((ms) => timeline.boardAt(ms)),
    [0, 1],
  );
  assert.equal(timeline.at(2500).panes[0]!.view.width, 8000);
  assert.equal(timeline.at(1100).panes[0]!.pointer?.x, 200);
  assert.deepEqual(timeline.momentAt(1000), { take: "t", sample: 48_000 });
  assert.equal(timeline.timeOf({ take: "t", sample: 96_000 }), 2000);
});
