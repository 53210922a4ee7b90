import assert from "node:assert/strict";
import { test } from "node:test";
import { closeIn, type LiveBoard, LiveBoards } from "../record/live-boards";
import type { Style } from "../timeline/timeline";

const pen: Style = { tool: "pen", ink: "blue", width: "fine", color: "#000000", units: 3 };

function setUp(kind = "empty") {
  const journal: Record<string, unknown>[] = [];
  const board = (id: string): LiveBoard => ({ id, title: id, kind, height: 900, view: { x: 0, y: 0, width: 16_000 }, pictures: [], items: [], uncovered: [], strokes: [] });
  const live = new LiveBoards([board("a"), board("b")], (event) => journal.push(event as Record<string, unknown>));
  return { live, journal, kinds: () => journal.map((e) => e["e"]) };
}

function draw(live: LiveBoards, y: number): void {
  live.beginStroke(pen);
  live.addPoints([1000, y, 128, 10, 5000, y, 128, 20]);
  live.endStroke();
}

test("drawing, undoing and redoing is journalled and shown", () => {
  const { live, kinds } = setUp();
  draw(live, 1000);
  assert.equal(live.visible.length, 1);
  live.undo(30);
  assert.equal(live.visible.length, 0);
  live.redo(40);
  assert.equal(live.visible.length, 1);
  assert.deepEqual(kinds(), ["stroke", "points", "undo", "redo"]);
});

test("one sweep of the eraser is one undo", () => {
  const { live, journal } = setUp();
  draw(live, 1000);
  draw(live, 3000);
  draw(live, 6000);
  live.erase(3000, 1010, 90, 50);
  live.erase(3000, 3010, 90, 60);
  live.erase(3000, 4500, 90, 65);
  live.endSweep();
  assert.equal(live.visible.length, 1);
  live.undo(70);
  assert.equal(live.visible.length, 3);
  const erased = journal.filter((e) => e["e"] === "erase").map((e) => e["a"]);
  assert.deepEqual(journal.filter((e) => e["e"] === "undo").map((e) => e["a"]), erased);
  assert.equal(new Set(erased).size, 2);
});

test("a cancelled stroke never was, and numbers are not used twice", () => {
  const { live, journal } = setUp();
  live.beginStroke(pen);
  live.addPoints([1000, 1000, 128, 10]);
  live.cancelStroke();
  draw(live, 2000);
  assert.equal(live.visible.length, 1);
  assert.deepEqual(journal.filter((e) => e["e"] === "stroke").map((e) => e["s"]), [1, 2]);
});

test("an empty board grows under the hand and a page does not", () => {
  const empty = setUp("empty");
  draw(empty.live, 8500);
  assert.ok(empty.live.board.height > 900);
  assert.ok(empty.kinds().includes("grow"));
  const page = setUp("page");
  draw(page.live, 8500);
  assert.equal(page.live.board.height, 900);
});

test("a take begins by saying what is shown, and what was before can't be undone in it", () => {
  const { live, journal } = setUp();
  draw(live, 1000);
  live.show(1, 5);
  journal.length = 0;
  live.beginTake(40, 100);
  assert.equal(live.canUndo, false);
  assert.deepEqual(journal.map((e) => e["e"]), ["board", "view", "view"]);
  assert.equal(journal[0]!["b"], "b");
  draw(live, 2000);
  assert.equal(journal.find((e) => e["e"] === "stroke")!["s"], 40);
});

test("closing in keeps the place under the finger and never leaves the board", () => {
  const { live } = setUp();
  const closer = closeIn(live.board.view, 8000, 4000, 2);
  assert.equal(closer.width, 8000);
  assert.equal((8000 - closer.x) / closer.width, 0.5);
  live.look({ x: -500, y: 99_999, width: 100 }, 1);
  assert.deepEqual(live.board.view, { x: 0, y: 9000 - 2250, width: 4000 });
});

test("covers are lifted one after another or where they are pointed at, and come back when it was only tried", () => {
  const { live, journal } = setUp();
  const cover = (id: string, x: number) => ({ id, x, y: 100, isCover: true, drawing: { width: 200, height: 80, shapes: [] } });
  live.board.items = [cover("one", 100), { ...cover("text", 500), isCover: false }, cover("two", 900)];
  assert.equal(live.uncoverNext(10), true);
  assert.deepEqual(live.board.uncovered, ["one"]);
  assert.equal(live.touchCover(10_000, 1500, 20), true);
  assert.deepEqual(live.board.uncovered, ["one", "two"]);
  assert.equal(live.uncoverNext(30), false);
  assert.equal(live.touchCover(6000, 1500, 40), false, "only covers are lifted");
  live.touchCover(2000, 1500, 50);
  assert.deepEqual(journal.map((e) => [e["e"], e["i"], e["u"]]), [["cover", "one", true], ["cover", "two", true], ["cover", "one", false]]);
  live.clear(new Set(), new Set(["one"]));
  assert.deepEqual(live.board.uncovered, ["one"]);
});
