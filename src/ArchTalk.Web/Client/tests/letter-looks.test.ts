import assert from "node:assert/strict";
import { test } from "node:test";
import { changedLooks, looksAfter, lookOf, readLooks } from "../ink/letter-looks";
import { drawingOf, typedText } from "../ink/typed";
import type { Style } from "../scene/scene";

const style = (tool: Style["tool"], ink: string, color: string, width = "medium"): Style => ({ tool, ink, color, width, units: 5 });
const styles = [
  style("pen", "blue-black", "#1E2A2B", "fine"), style("pen", "blue-black", "#1E2A2B"), style("pen", "vermilion", "#AD4C00"),
  style("highlighter", "yellow", "#F0E442", "fine"), style("highlighter", "yellow", "#F0E442"), style("highlighter", "orange", "#F3B95F"),
];

test("a look stands for an ink and a highlight, as Core's Writing has it", () => {
  assert.equal(lookOf(styles, "", ""), "0");
  assert.equal(lookOf(styles, "", "orange"), "2");
  assert.equal(lookOf(styles, "vermilion", "yellow"), "d");
  assert.deepEqual(readLooks("0d", styles), [{ color: null, highlight: null }, { color: "#AD4C00", highlight: "#F0E442" }]);
  assert.equal(readLooks("000", styles), null, "nothing is said");
});

test("only what is chosen changes, and only the ink or the highlight of it", () => {
  assert.equal(changedLooks("0000", 1, 3, styles, { highlight: "yellow" }), "0110");
  assert.equal(changedLooks("0110", 2, 4, styles, { ink: "vermilion" }), "01dc");
  assert.equal(changedLooks("01dc", 0, 4, styles, { highlight: "" }), "00cc");
  assert.equal(changedLooks("01dc", 0, 4, styles, { ink: "" }), "0110");
});

test("letters that stay keep their looks, wherever something is put in or taken out", () => {
  assert.equal(looksAfter("", "", "a", 1, "1"), "1");
  assert.equal(looksAfter("arch", "0123", "arches", 6, "5"), "012355");
  assert.equal(looksAfter("arch", "0123", "larch", 1, "5"), "50123");
  assert.equal(looksAfter("arch", "0123", "ach", 1, "5"), "023");
  assert.equal(looksAfter("aa", "01", "aaa", 1, "5"), "501", "of letters that are the same, the one before the caret is new");
  assert.equal(looksAfter("arch", "0123", "", 0, "5"), "");
  assert.equal(looksAfter("arch", "0123", "aXYh", 3, "5"), "0553", "what was chosen was typed over");
});

test("letters that look alike stand together, highlights under them, from the right when they are written so", () => {
  const shapes = (text: string, looks: string) =>
    drawingOf(typedText("1", 0, 0, 1000, "#1E2A2B", text, readLooks(looks, styles))).drawing.shapes;
  const [mark, a, b] = shapes("keystone", "00011111");
  assert.equal(mark?.is === "path" && mark.fill, "#F0E442");
  assert.deepEqual([a, b].map((s) => s?.is === "text" && s.text), ["key", "stone"]);
  assert.ok(a?.is === "text" && b?.is === "text" && b.x > a.x && a.x === 0);
  const fromRight = shapes("אבן ראש", "0000ccc");
  assert.deepEqual(fromRight.map((s) => s.is === "text" && [s.text, s.fill]), [["ראש", "#AD4C00"], ["אבן ", "#1E2A2B"]]);
  assert.ok(fromRight.every((s) => s.is === "text" && s.isRightToLeft && s.x <= 0), "each begins at its right end");
  assert.equal(shapes("one\ntwo", "0000111").length, 3, "a plain line is drawn whole");
});
