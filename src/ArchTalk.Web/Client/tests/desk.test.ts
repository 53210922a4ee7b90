import assert from "node:assert/strict";
import { test } from "node:test";
import type { BoardEvent } from "../journal/events";
import { alive, type BoardsState, type BoardState, reduce } from "../scene/boards-state";
import { closeIn, type Style } from "../scene/scene";
import { Desk } from "../record/desk";

const pen: Style = { tool: "pen", ink: "blue", width: "fine", color: "#000000", units: 3 };
const growth = { by: 300, before: 160, tallest: 20_000 };

function setUp(isEmpty = true) {
  const journal: BoardEvent[] = [];
  const board = (id: string): BoardState => ({
    id,
    height: 900,
    view: { value: { x: 0, y: 0, width: 16_000 }, at: 0 },
    uncovered: new Map(),
    light: null,
    texts: [],
    ink: [],
    wet: [],
  });
  const state: BoardsState = {
    notes: [],
    shown: { value: "a", at: 0 },
    boards: new Map(["a", "b"].map((id) => [id, board(id)])),
    pointer: null,
    keyLines: new Map(),
    erasures: new Map(),
  };
  const items = ["one", "text", "two"].map((id, i) => ({
    id,
    x: 100 + 400 * i,
    y: 100,
    isCover: id !== "text",
    drawing: { width: 200, height: 80, shapes: [] },
  }));
  const desk = new Desk(
    ["a", "b"].map((id) => ({ ground: { id, pictures: [], items: id === "a" ? items : [] }, isEmpty })),
    state,
    [pen],
    growth,
    (e) => journal.push(e),
  );
  return { desk, journal, kinds: () => journal.map((e) => e.e) };
}

function draw(desk: Desk, y: number, t = 10): number {
  const stroke = desk.beginStroke(pen);
  desk.addPoints(stroke, [1000, y, 128, t, 5000, y, 128, t + 10]);
  desk.endStroke(stroke, t + 10);
  return stroke;
}

const seen = (desk: Desk) => desk.pane(1000).finished.length;

test("drawing, undoing and redoing is journalled and shown", () => {
  const { desk, kinds } = setUp();
  draw(desk, 1000);
  assert.equal(seen(desk), 1);
  desk.undo(30);
  assert.equal(seen(desk), 0);
  desk.redo(40);
  assert.equal(seen(desk), 1);
  assert.deepEqual(kinds(), ["stroke", "points", "lift", "undo", "redo"]);
});

test("a stroke under the pen is growing however many points it has, and finished only when the pen is lifted", () => {
  const { desk } = setUp();
  const stroke = desk.beginStroke(pen);
  assert.equal(desk.pane(0).growing.length, 0, "nothing is seen of a stroke without a point");
  desk.addPoints(stroke, [1000, 1000, 128, 1]);
  assert.deepEqual([desk.pane(0).growing.length, seen(desk)], [1, 0]);
  desk.addPoints(
    stroke,
    Array.from({ length: 400 }, (_, i) => 1000 + i),
  );
  assert.equal(desk.pane(0).growing[0]!.count, 101);
  desk.endStroke(stroke, 9);
  assert.deepEqual([desk.pane(0).growing.length, seen(desk)], [0, 1]);
});

test("undo takes back what was done on the board that is shown, last first", () => {
  const { desk, journal } = setUp();
  const first = draw(desk, 1000);
  desk.show(1, 5);
  const second = draw(desk, 1000);
  desk.show(0, 6);
  desk.undo(7);
  assert.equal(seen(desk), 0);
  assert.equal(desk.canUndo, false, "what was done on the other board isn't undone from here");
  desk.show(1, 8);
  assert.equal(seen(desk), 1);
  desk.undo(9);
  assert.deepEqual(
    journal.filter((e) => e.e === "undo").map((e) => e.a),
    [first, second],
  );
});

test("one sweep of the eraser is one undo, and nothing between two sweeps is erased", () => {
  const { desk, journal } = setUp();
  draw(desk, 1000);
  draw(desk, 3000);
  draw(desk, 6000);
  const sweep = [desk.erase({ x: 3000, y: 900 }, { x: 3000, y: 3010 }, 90, 50), desk.erase({ x: 3000, y: 4500 }, { x: 3000, y: 4600 }, 90, 65)];
  assert.equal(sweep[1], null, "a place without ink");
  desk.endSweep([sweep[0]!], 50);
  assert.equal(seen(desk), 1);
  desk.undo(70);
  assert.equal(seen(desk), 3);
  assert.deepEqual(
    journal.filter((e) => e.e === "undo").map((e) => e.a),
    journal.filter((e) => e.e === "erase").map((e) => e.a),
  );
});

test("a quick sweep erases what lies between two events", () => {
  const { desk } = setUp();
  draw(desk, 3000);
  assert.notEqual(desk.erase({ x: 3000, y: 0 }, { x: 3000, y: 8000 }, 90, 1), null);
});

test("a cancelled stroke never was, and numbers are not used twice", () => {
  const { desk, journal } = setUp();
  const palm = desk.beginStroke(pen);
  desk.addPoints(palm, [1000, 1000, 128, 10]);
  desk.cancelStroke(palm);
  draw(desk, 2000);
  assert.equal(seen(desk), 1);
  assert.deepEqual(
    journal.filter((e) => e.e === "stroke").map((e) => e.s),
    [1, 2],
  );
});

test("an empty board grows under the hand and a page does not", () => {
  const empty = setUp(true);
  draw(empty.desk, 8500);
  assert.ok(empty.desk.board.height > 900);
  assert.ok(empty.kinds().includes("grow"));
  const page = setUp(false);
  draw(page.desk, 8500);
  assert.equal(page.desk.board.height, 900);
});

test("a take begins with the boards as they were recorded: what was tried out is gone, also the room it made", () => {
  const { desk, journal } = setUp();
  draw(desk, 8500);
  desk.uncoverNext(4);
  desk.look({ x: 0, y: 3000, width: 16_000 }, 5);
  assert.equal(desk.hasTried, true);
  assert.equal(desk.board.view.value.y, 3000);
  journal.length = 0;
  desk.beginTake(40, 100);
  assert.deepEqual([seen(desk), desk.board.height, desk.board.uncovered.size, desk.board.view.value.y], [0, 900, 0, 0]);
  assert.deepEqual([desk.canUndo, desk.hasTried], [false, false]);
  assert.deepEqual(
    journal.map((e) => e.e),
    ["board", "view", "view"],
  );
  assert.equal(draw(desk, 2000), 40);
  desk.keep();
  assert.equal(desk.hasTried, false, "what was recorded stays");
});

test("a snapshot is not changed by what comes after it, also in the middle of a stroke", () => {
  const { desk } = setUp();
  const stroke = desk.beginStroke(pen);
  desk.addPoints(stroke, [1, 1, 128, 1, 2, 2, 128, 2]);
  const snapshot = desk.state;
  desk.addPoints(stroke, [3, 3, 128, 3]);
  desk.endStroke(stroke, 4);
  assert.equal(snapshot.boards.get("a")!.wet[0]!.count, 2);
  const other = reduce(snapshot, { e: "points", s: stroke, d: [9, 9, 128, 90] }, [pen]);
  assert.deepEqual(other.boards.get("a")!.wet[0]!.points.slice(8, 10), [9, 9]);
  assert.deepEqual(alive(desk.board)[0]!.points.slice(8, 10), [3, 3], "gone back to and drawn on, the other line keeps its own points");
});

test("covers are lifted one after another or where they are pointed at, and undo puts them back", () => {
  const { desk, journal } = setUp();
  assert.equal(desk.uncoverNext(10), true);
  assert.equal(desk.touchCover({ x: 10_000, y: 1500 }, 20), true);
  assert.deepEqual([...desk.board.uncovered.keys()], ["one", "two"]);
  assert.equal(desk.uncoverNext(30), false);
  assert.equal(desk.touchCover({ x: 6000, y: 1500 }, 40), false, "only covers are lifted");
  desk.undo(50);
  assert.deepEqual([...desk.board.uncovered.keys()], ["one"]);
  assert.deepEqual(
    journal.map((e) => e.e === "cover" && [e.i, e.u]),
    [
      ["one", true],
      ["two", true],
      ["two", false],
    ],
  );
});

test("the pointer leaves when another board is shown, and its trail fades by itself", () => {
  const { desk, kinds } = setUp();
  desk.point({ x: 100, y: 100 }, 100);
  desk.point({ x: 200, y: 100 }, 200);
  assert.equal(desk.pane(210).pointer!.trail.length, 2);
  assert.equal(desk.pane(5000).pointer!.trail.length, 0, "a resting pointer has no trail");
  desk.point({ x: 200, y: 100 }, 5000);
  assert.deepEqual(kinds(), ["pointer", "pointer"], "resting is no event");
  desk.show(1, 300);
  assert.equal(desk.pane(310).pointer, null);
  assert.deepEqual(kinds(), ["pointer", "pointer", "away", "board"]);
});

test("an undone erasure brings back only what it took", () => {
  const { desk } = setUp();
  draw(desk, 1000);
  const first = desk.erase({ x: 3000, y: 1000 }, { x: 3000, y: 1000 }, 90, 20)!;
  desk.endSweep([first], 50);
  draw(desk, 1000);
  const second = desk.erase({ x: 3000, y: 1000 }, { x: 3000, y: 1000 }, 90, 40)!;
  desk.endSweep([second], 50);
  desk.undo(50);
  assert.equal(seen(desk), 1);
  desk.undo(60);
  assert.equal(seen(desk), 0);
  desk.undo(70);
  assert.equal(seen(desk), 1);
});

test("closing in keeps the place under the finger and never leaves the board", () => {
  const { desk } = setUp();
  const closer = closeIn(desk.board.view.value, 8000, 4000, 2);
  assert.equal(closer.width, 8000);
  assert.equal((8000 - closer.x) / closer.width, 0.5);
  desk.look({ x: -500, y: 99_999, width: 100 }, 1);
  assert.deepEqual(desk.board.view.value, { x: 0, y: 9000 - 2250, width: 4000 });
});

// Any deeds at random, each 100 ms after the one before; the same number gives the same.
function deeds(count: number, seed: number): ((desk: Desk, t: number) => void)[] {
  let random = seed;
  const next = (below: number) => (random = (random * 48_271) % 2_147_483_647) % below;
  return Array.from({ length: count }, () => {
    const [kind, y, index] = [next(7), 1000 + next(40) * 100, next(2)];
    return (desk: Desk, t: number) => {
      switch (kind) {
        case 0:
          desk.show(index, t);
          break;
        case 1:
          desk.undo(t);
          break;
        case 2:
          desk.redo(t);
          break;
        case 3:
          desk.uncoverNext(t);
          break;
        case 4: {
          const action = desk.erase({ x: 0, y }, { x: 6000, y }, 300, t);
          desk.endSweep(action === null ? [] : [action], t);
          break;
        }
        default: {
          const stroke = desk.beginStroke(pen);
          desk.addPoints(stroke, [1000, y, 128, t, 5000, y, 128, t + 10]);
          desk.addPoints(stroke, [7000, y, 128, t + 20]);
          desk.endStroke(stroke, t + 20);
        }
      }
    };
  });
}

const what = (desk: Desk) => [
  desk.current, desk.canUndo, desk.canRedo,
  [...desk.state.boards.values()].map((b) => [b.height, [...b.uncovered.keys()], alive(b).map((i) => [i.key, i.points])]),
];

test("the boards go back to any moment as if nothing had been done since, also to a moment that was taken back, and forth", () => {
  for (let seed = 1; seed <= 20; seed++) {
    const all = deeds(900, seed);
    const { desk } = setUp();
    desk.beginTake(1, 0);
    all.slice(0, 600).forEach((deed, i) => deed(desk, 100 * (i + 1)));
    const present = what(desk);
    const moment = 1 + (seed * 29) % 598;
    const until = (count: number) => {
      const other = setUp().desk;
      other.beginTake(1, 0);
      all.slice(0, count).forEach((deed, i) => deed(other, 100 * (i + 1)));
      return what(other);
    };
    const goBack = (count: number) => desk.goBack(100 * count + 60, 100 * count + 60);
    assert.equal(goBack(moment), 100 * moment + 60);
    assert.deepEqual(what(desk), until(moment));
    desk.putBack();
    assert.deepEqual(what(desk), present);

    // What is done after going back follows from there; the branch that was left is still known.
    goBack(moment);
    desk.goOn(70_000);
    all.slice(600).forEach((deed, i) => deed(desk, 70_100 + 100 * i));
    const later = what(desk);
    goBack(500);
    assert.deepEqual(what(desk), until(500));
    desk.putBack();
    assert.deepEqual(what(desk), later);
  }
});

test("a stroke that was being drawn at the moment that is gone back to ends there and can be undone", () => {
  const { desk } = setUp();
  desk.beginTake(1, 0);
  const stroke = desk.beginStroke(pen);
  desk.addPoints(stroke, [1000, 1000, 128, 100, 2000, 1000, 128, 150, 3000, 1000, 128, 200]);
  desk.endStroke(stroke, 200);
  desk.goBack(170, 170);
  assert.deepEqual(alive(desk.board).map((i) => i.points.length), [8]);
  desk.goOn(500);
  desk.undo(600);
  assert.equal(seen(desk), 0);
});

test("it goes back to before what was done after the phrase, and keeps away from what is there or not", () => {
  const { desk } = setUp();
  desk.beginTake(1, 0);
  desk.show(1, 1100);
  assert.equal(desk.goBack(1000, 1200), 1085);
  assert.equal(desk.current, 0);
  desk.putBack();
  assert.equal(desk.goBack(1095, 1295), 1085);
  assert.equal(desk.goBack(1105, 1105), 1115);
  assert.equal(desk.current, 1);
});

test("a board is cleared at once, and one undo brings all of it back; what was rubbed out before stays away", () => {
  const { desk, kinds } = setUp();
  desk.beginTake(1, 0);
  [1000, 2000, 3000].forEach((y, i) => draw(desk, y, 100 * (i + 1)));
  desk.endSweep([desk.erase({ x: 2000, y: 1000 }, { x: 2000, y: 1000 }, 100, 500)!], 500);
  desk.clear(600);
  assert.equal(seen(desk), 0);
  assert.equal(desk.canClear, false);
  const before = kinds().length;
  desk.clear(650);
  assert.equal(kinds().length, before, "there is nothing to clear");
  desk.undo(700);
  assert.equal(seen(desk), 2);
  desk.redo(800);
  assert.equal(seen(desk), 0);
});

const settled = { from: { x: 900, y: 1010 }, to: { x: 5100, y: 1010 }, height: 440, text: "keystone" };

test("a stroke that settled lies on its line, and one undo brings back what was drawn", () => {
  const { desk } = setUp();
  const stroke = draw(desk, 1000);
  desk.settle(stroke, settled, null, 30);
  const points = () => desk.pane(1000).finished.map((s) => [s.points[0], s.points[1]]);
  assert.deepEqual(points(), [[900, 1010]]);
  desk.undo(40);
  assert.deepEqual(points(), [[1000, 1000]]);
  desk.undo(50);
  assert.deepEqual(points(), []);
  desk.redo(60);
  desk.redo(70);
  assert.deepEqual(points(), [[900, 1010]]);
});

test("a stroke that is gone when the answer comes settles on nothing", () => {
  const { desk, kinds } = setUp();
  const stroke = draw(desk, 1000);
  desk.undo(25);
  desk.settle(stroke, settled, "write", 30);
  assert.ok(!kinds().includes("settle"));
});

test("a stroke that nobody answered for stays as it was drawn and is journalled, with what it was to become", () => {
  const { desk, journal } = setUp();
  const stroke = draw(desk, 1000);
  const before = desk.state;
  desk.leaveUnsettled(stroke, "write", 30);
  assert.deepEqual(journal.at(-1), { e: "unsettled", t: 30, s: stroke, k: "write" });
  assert.equal(desk.state, before);
  desk.undo(40);
  desk.leaveUnsettled(stroke, null, 50);
  assert.equal(journal.at(-1)!.e, "undo", "what is gone is not asked for again");
});

test("underlined words are a key line until they are undone or rubbed out, and a wiped board keeps it", () => {
  const { desk } = setUp();
  const lines = () => [...desk.state.keyLines.values()].map((l) => `${l.kind} ${l.text}`);
  desk.settle(draw(desk, 1000), settled, "write", 30);
  assert.deepEqual(lines(), ["write keystone"]);
  desk.undo(40);
  assert.deepEqual(lines(), []);
  desk.redo(50);
  const erasure = desk.erase({ x: 3000, y: 900 }, { x: 3000, y: 1100 }, 90, 60)!;
  desk.endSweep([erasure], 61);
  assert.deepEqual(lines(), []);
  desk.undo(70);
  assert.deepEqual(lines(), ["write keystone"]);
  desk.clear(80);
  assert.deepEqual(lines(), ["write keystone"]);
});

test("a line written by hand becomes a key line at a press, all its strokes, and none twice", () => {
  const { desk, journal } = setUp();
  draw(desk, 1000);
  const word = (from: number, t: number) => {
    const stroke = desk.beginStroke(pen);
    desk.addPoints(stroke, [from, 5000, 128, t, from + 400, 5300, 128, t + 5]);
    desk.endStroke(stroke, t + 5);
    return stroke;
  };
  const written = [word(1000, 30), word(1600, 40), word(2300, 50)];
  assert.deepEqual(desk.makeKeyLine("mark", 60)?.strokes, written);
  assert.equal(desk.makeKeyLine("mark", 70), null, "it is one already");
  assert.deepEqual(journal.at(-1), { e: "key", t: 60, n: written, k: "mark", x: "", m: false });
});

const plainly = (text: string) => ({ text, looks: "0".repeat(text.length) });

test("typing is journalled key by key and is one undo; going on with it is another", () => {
  const { desk, journal, kinds } = setUp();
  const texts = () => desk.pane(1000).texts.map((t) => t.text);
  const typing = desk.newText({ x: 1000, y: 2000 }, 520, pen);
  desk.endText(typing, plainly(""), 5);
  assert.deepEqual(kinds(), [], "nothing was typed");
  ["t", "th", "t"].forEach((text, i) => desk.type(typing, plainly(text), 10 + i));
  desk.endText(typing, plainly("t"), 20);
  assert.deepEqual(journal.map((e) => e.e === "type" && e.x), ["t", "th", "t"]);
  const again = desk.textAt({ x: 1050, y: 2200 })!;
  assert.equal(again.number, typing.number);
  desk.type(again, plainly("to"), 30);
  desk.endText(again, plainly("to"), 35);
  assert.deepEqual(texts(), ["to"]);
  desk.undo(40);
  assert.deepEqual(texts(), ["t"]);
  desk.undo(50);
  assert.deepEqual(texts(), []);
  desk.redo(60);
  desk.redo(70);
  assert.deepEqual(texts(), ["to"]);
});

test("letters keep their looks; another look alone is a change that undo takes back", () => {
  const { desk, journal } = setUp();
  const typing = desk.newText({ x: 1000, y: 2000 }, 520, pen);
  desk.type(typing, plainly("arch"), 10);
  desk.endText(typing, plainly("arch"), 11);
  const again = desk.textAt({ x: 1050, y: 2200 })!;
  assert.equal(again.before.looks, "0000");
  desk.type(again, { text: "arch", looks: "0660" }, 20);
  desk.endText(again, { text: "arch", looks: "0660" }, 21);
  assert.deepEqual(journal.map((e) => e.e === "type" && e.l), ["", "0660"]);
  const seen = () => desk.pane(1000).texts[0]?.looks?.map((l) => l.color !== null) ?? null;
  assert.deepEqual(seen(), [false, true, true, false]);
  desk.undo(30);
  assert.equal(seen(), null);
});

test("the eraser takes what was typed, whole, and undo brings it back", () => {
  const { desk } = setUp();
  const typing = desk.newText({ x: 1000, y: 2000 }, 520, pen);
  desk.type(typing, plainly("thrust"), 10);
  desk.endText(typing, plainly("thrust"), 11);
  const erasure = desk.erase({ x: 1500, y: 2300 }, { x: 1600, y: 2300 }, 90, 20)!;
  desk.endSweep([erasure], 21);
  assert.equal(desk.pane(30).texts.length, 0);
  desk.undo(30);
  assert.equal(desk.pane(40).texts[0]?.text, "thrust");
});

test("typing makes an empty board longer and stops where another ends", () => {
  const grows = setUp().desk;
  assert.ok(grows.hasRoomTo(8900, 1));
  assert.equal(grows.board.height, 1200);
  assert.equal(setUp(false).desk.hasRoomTo(9100, 1), false);
});

test("what is lit goes out when another board is shown, and a retake lights it again", () => {
  const { desk } = setUp();
  desk.beginTake(1, 100);
  desk.lightUp([1000, 1000, 5000, 1000, 5000, 4000.4], 200);
  assert.deepEqual(desk.pane(210).light, [1000, 1000, 5000, 1000, 5000, 4000]);
  desk.show(1, 300);
  desk.show(0, 400);
  assert.equal(desk.pane(410).light, null);
  desk.goBack(250, 250);
  assert.notEqual(desk.pane(250).light, null);
});

test("of a stroke only the part that is rubbed over goes, and one undo brings it back whole", () => {
  const { desk, journal } = setUp();
  draw(desk, 1000);
  const numbers = [
    ...desk.erasePart({ x: 3000, y: 950 }, { x: 3000, y: 1050 }, 90, 50),
    ...desk.erasePart({ x: 3000, y: 1050 }, { x: 3200, y: 1000 }, 90, 110),
  ];
  desk.endSweep(numbers, 120);
  const ends = () => desk.pane(1000).finished.map((s) => [s.points[0]!, s.points.at(-4)!].map((x) => Math.round(x / 100)));
  const [left, right] = ends();
  assert.equal(ends().length, 2);
  assert.equal(left![0], 10);
  assert.ok(left![1]! >= 27 && left![1]! <= 29, `${left}`);
  assert.ok(right![0]! >= 32 && right![0]! <= 34, `${right}`);
  assert.equal(right![1], 50);
  assert.ok(journal.every((e) => e.e !== "points" || e.d.every(Number.isInteger)));
  desk.undo(130);
  assert.deepEqual(ends(), [[10, 50]]);
  desk.redo(140);
  assert.equal(ends().length, 2);
  const state = journal.reduce((s, e) => reduce(s, e, [pen]), setUp().desk.state);
  assert.equal(alive(state.boards.get("a")!).length, 2, "who reads the journal sees the same");
});

test("a stroke whose line is near but isn't touched stays as it is", () => {
  const { desk } = setUp();
  draw(desk, 1000);
  assert.deepEqual(desk.erasePart({ x: 3000, y: 1300 }, { x: 3000, y: 1400 }, 90, 50), []);
  assert.equal(seen(desk), 1);
});

test("a board that was brought in keeps what is drawn on it when a retake goes back to before or after it came", () => {
  const { desk } = setUp();
  desk.beginTake(1, 100);
  draw(desk, 1000, 200);
  const fresh: BoardState = { ...desk.state.boards.get("b")!, id: "c" };
  desk.bringIn([...desk.boards, { ground: { id: "c", pictures: [], items: [] }, isEmpty: true }], [fresh], 300);
  desk.show(2, 400);
  draw(desk, 2000, 500);
  desk.goBack(600, 600);
  assert.equal(seen(desk), 1, "on the new board");
  desk.putBack();
  desk.goBack(450, 450);
  assert.equal(seen(desk), 0, "before it was drawn");
  desk.goBack(150, 150);
  assert.ok(desk.state.boards.has("c"), "it is still there to be shown");
});
