import assert from "node:assert/strict";
import { test } from "node:test";
import { duplicated, fitting, freePlace, handlesOf, ItemMaker, moved, plain, pulled, type Templates } from "../board/items";
import { hasLook, joined, withLook } from "../board/runs";
import { snap } from "../board/snapping";
import { typeset } from "../board/formula";
import { cellsOf } from "../shared/pasted";

// As small as the tests need them; the pages get Core's.
const base = { id: "", x: 0, y: 0, width: 300, height: 90, isLocked: false };
const templates = {
  text: { ...base, kind: "text", size: "reading", align: "start", list: "none", paragraphs: [] },
  table: { ...base, kind: "table", rows: [], hasHeaderRow: true, hasHeaderColumn: false, size: "small" },
  label: { ...base, kind: "label", text: "part", tipX: 0, tipY: 0, termId: null, language: "", number: 0 },
  cover: { ...base, kind: "cover", text: "" },
  blank: { ...base, kind: "blank", isBox: false, answers: [] },
  figures: { axes: { ...base, kind: "figure", figure: { figure: "axes", points: [] } } },
  widestTable: 1400,
  tableColumn: 340,
} as unknown as Templates;
const maker = new ItemMaker(templates, "de");

// Half an em a letter, as the core's tests measure.
const set = (tex: string) => typeset(tex, (text) => text.length / 2);
const board = { width: 1600, height: 900 };
const box = (x: number, y: number, width = 100, height = 50) => ({ x, y, width, height });

test("a box snaps to edges and centres of the others", () => {
  const other = box(300, 200);
  assert.equal(snap(box(296, 600), [other], board, 10).dx, 4);
  assert.equal(snap(box(404, 600), [other], board, 10).dx, -4);
  assert.equal(snap(box(320, 600, 64), [other], board, 10).dx, -2, "centre to centre");
  assert.equal(snap(box(600, 197), [other], board, 10).dy, 3);
  assert.equal(snap(box(620, 602), [other], board, 3).dx, 0, "nothing beyond the reach");
});

test("a box snaps to the middle of the board and shows why", () => {
  const result = snap(box(745, 500), [], board, 10);
  assert.equal(result.dx, 5);
  assert.deepEqual(result.guides[0], { x1: 800, y1: 0, x2: 800, y2: 900 });
});

test("a box snaps to equal distances after, before and between two", () => {
  const two = [box(100, 400), box(250, 400)];
  assert.equal(snap(box(396, 430), two, board, 6).dx, 4, "a gap of 50 again");
  assert.equal(snap(box(-47, 430), two, board, 6).dx, -3, "before the first");
  const far = [box(0, 400), box(500, 400)];
  const between = snap(box(252, 470 - 45), far, board, 6);
  assert.equal(between.dx, -2);
  assert.equal(between.guides.filter((g) => g.y1 === g.y2).length >= 2, true);
  const column = [box(700, 100), box(700, 200)];
  assert.equal(snap(box(730, 297), column, board, 6).dy, 3, "downwards as well");
});

test("pulling a side keeps the other where it is, and a least size", () => {
  const cover = { ...maker.cover(100, 100), width: 200, height: 100 };
  const west = pulled(cover, "nw", 50, 20);
  assert.deepEqual([west.x, west.y, west.width, west.height], [150, 120, 150, 80]);
  const small = pulled(cover, "w", 900, 0);
  assert.deepEqual([small.x, small.width], [276, 24]);
  assert.equal(pulled(cover, "se", 10, -500).height, 24);
});

test("the size of letters can't be pulled", () => {
  assert.deepEqual(handlesOf(maker.text(0, 0, "a")), ["w", "e"]);
  assert.deepEqual(handlesOf(maker.table(0, 0, [["a"]])), ["w", "e"]);
  assert.deepEqual(handlesOf(maker.label(0, 0, 900)), []);
  assert.deepEqual([maker.blank(0, 0), maker.cover(0, 0)].map((i) => handlesOf(i).length), [8, 8]);
  const text = maker.text(0, 0, "a");
  assert.equal((pulled(text, "e", 200, 0) as typeof text).size, text.size);
});

test("a label's words move alone, a copy moves whole", () => {
  const label = maker.label(400, 300, 900);
  const words = moved(label, 10, 20, false) as typeof label;
  assert.deepEqual([words.tipX, words.tipY, words.x - label.x], [400, 300, 10]);
  const [copy] = duplicated([label]) as [typeof label];
  assert.notEqual(copy.id, label.id);
  assert.deepEqual([copy.tipX, copy.tipY], [430, 330]);
});

test("a new item takes the first free place that is seen", () => {
  const there = { ...maker.cover(100, 60), width: 600, height: 200 };
  const place = freePlace(maker.cover(0, 0), [there], 0, 900);
  assert.equal(place.x >= 720 || place.y >= 280, true);
  assert.deepEqual(freePlace(maker.cover(0, 0), [], 500, 2000), { x: 100, y: 560 });
  const full = { ...maker.cover(0, 0), width: 1600, height: 900 };
  assert.deepEqual(freePlace(maker.cover(0, 0), [full], 0, 900), { x: 100, y: 920 }, "below everything: the board is made longer");
  const lower = { ...maker.cover(0, 0), width: 1600, height: 800, y: 200 };
  assert.equal(freePlace(maker.cover(0, 0), [lower], 300, 1000).y, 20, "above what is seen when there is nothing free below");
  assert.deepEqual([fitting({ ...maker.cover(0, 0), width: 1700 }).width, fitting(maker.cover(0, 0)).width], [1520, maker.cover(0, 0).width]);
});

test("new figures don't share their parameters", () => {
  const one = maker.figure(0, 0, "axes");
  const other = maker.figure(0, 0, "axes");
  (one.figure["points"] as unknown[]).push(1);
  assert.equal((other.figure["points"] as unknown[]).length, 0);
});

test("cells of a spreadsheet are told from plain text", () => {
  assert.deepEqual(cellsOf("form\tload\r\nbeam\tbends\r\n"), [["form", "load"], ["beam", "bends"]]);
  assert.equal(cellsOf("one line\nanother"), null);
  assert.deepEqual(maker.table(0, 0, [["a", "b"], ["c"]]).rows[1]!.map((c) => c.text), ["c", ""]);
});

test("a look is given to single letters, across paragraphs, and joined again", () => {
  const paragraphs = [[plain("voussoir")], [plain("key")]];
  const bold = withLook(paragraphs, { paragraph: 0, offset: 3 }, { paragraph: 0, offset: 5 }, { isBold: true });
  assert.deepEqual(bold[0]!.map((r) => [r.text, r.isBold]), [["vou", false], ["ss", true], ["oir", false]]);
  assert.equal(hasLook(bold, { paragraph: 0, offset: 3 }, { paragraph: 0, offset: 5 }, { isBold: true }), true);
  assert.equal(hasLook(bold, { paragraph: 0, offset: 2 }, { paragraph: 0, offset: 5 }, { isBold: true }), false);
  const back = withLook(bold, { paragraph: 0, offset: 0 }, { paragraph: 1, offset: 1 }, { isBold: false });
  assert.deepEqual(back.map((p) => p.length), [1, 1]);
  const green = withLook(paragraphs, { paragraph: 0, offset: 6 }, { paragraph: 1, offset: 1 }, { color: "green" });
  assert.deepEqual(green.map((p) => p.map((r) => `${r.text}:${r.color}`)), [["vousso:", "ir:green"], ["k:green", "ey:"]]);
  assert.deepEqual(joined([]).map((r) => r.text), [""]);
});

test("a formula becomes outlines and MathML, and a broken one says so", () => {
  const { svg, mathMl } = set("\\frac{H}{V} = \\sqrt{2}");
  assert.match(svg, /^<svg[^>]+viewBox="/);
  assert.match(svg, /<path /);
  assert.doesNotMatch(svg, /<use/);
  assert.match(mathMl, /<mfrac>/);
  assert.match(set("\\ce{CaCO3 -> CaO + CO2}").mathMl, /<msub>/);
  assert.throws(() => set("\\frac{1"), /brace.*near “\\frac\{1” \(character 6\)/i);
  assert.throws(() => set("a + \\nosuchthing b"), /Undefined.*character 5/);
  assert.throws(() => set("a}"), /character 2/);
});

test("all that a teacher types into a formula is in it", () => {
  const words = (tex: string) => [...set(tex).svg.matchAll(/<text[^>]*>([^<]*)<\/text>/g)].map((m) => m[1]).join("");
  assert.equal(words("\\text{größe 日本 Ω}"), "größe 日本 Ω");
  assert.doesNotMatch(set("\\text{a}").svg, /style="[^"]*"[^ >]/, "well formed, for the server reads it as XML");
  assert.equal(words("5 € + 3 $"), "€", "the dollar sign is an outline of its own");
  assert.match(set("5 € + 3 $").svg, /data-c="24"/);
  assert.equal(words("x²"), "²");
  assert.equal(words("\\text{a $x$ b}").replace(/\s/g, ""), "ab");
  assert.match(set("\\boxed{x}").svg, /<rect[^>]+fill="none"/);
  assert.equal([...set("\\begin{array}{c|c}a&b\\\\\\hline c&d\\end{array}").svg.matchAll(/<line /g)].length, 2);
  assert.equal([...set("\\cancel{x}").svg.matchAll(/<line /g)].length, 1);
  assert.match(set("\\color{green} x").svg, /fill="green"/);
  assert.match(set("\\pu{5 N/m^2}").mathMl, /N/);
});
