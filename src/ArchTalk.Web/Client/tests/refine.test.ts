import assert from "node:assert/strict";
import { test } from "node:test";
import { endOf, fitted, isWhole, marksOf, msOf, scrolled, showing, wholeAxis, xOf, zoomed } from "../refine/axis";
import { between, edgeBeside, edgeNear, holds } from "../refine/chosen";
import { layoutOf, rowAtHeight } from "../refine/layout";
import { resolutionFor } from "../refine/peaks";

test("The whole lesson fills the rows, and a moment keeps its place when they come closer", () => {
  const whole = wholeAxis(120_000, 1200);
  assert.equal(xOf(whole, 60_000), 600);
  assert.ok(isWhole(whole));
  const closer = zoomed(whole, 0.25, 60_000);
  assert.equal(xOf(closer, 60_000), 600);
  assert.equal(closer.msPerPx, 25);
  assert.ok(!isWhole(closer));
  assert.ok(isWhole(zoomed(closer, 100, 10)), "never farther than the whole");
  assert.equal(zoomed(whole, 1e-9, 0).msPerPx, 2, "never closer than a syllable");
});

test("The rows never leave the lesson", () => {
  const closer = zoomed(wholeAxis(120_000, 1200), 0.5, 0);
  assert.equal(scrolled(closer, -5000).from, 0);
  assert.equal(endOf(scrolled(closer, 1e9)), 120_000);
  assert.equal(msOf(closer, -10), 0);
  assert.equal(msOf(scrolled(closer, 1e9), 1e6), 120_000);
});

test("A shorter lesson that was seen whole is seen whole again, and a part stays a part", () => {
  assert.ok(isWhole(fitted(wholeAxis(120_000, 1200), 90_000, 800)));
  const part = fitted(zoomed(wholeAxis(120_000, 1200), 0.1, 110_000), 60_000, 1200);
  assert.equal(endOf(part), 60_000);
});

test("A stretch is brought into sight, closer rows stay as close as they are", () => {
  const closer = zoomed(wholeAxis(120_000, 1200), 0.1, 0);
  assert.equal(showing(closer, 2000, 4000), closer, "it is in sight already");
  const moved = showing(closer, 100_000, 102_000);
  assert.equal(moved.msPerPx, closer.msPerPx);
  assert.ok(moved.from < 100_000 && endOf(moved) > 102_000);
  const farther = showing(closer, 50_000, 90_000);
  assert.ok(farther.from <= 50_000 && endOf(farther) >= 90_000);
});

test("The ruler is marked where its times don't touch", () => {
  assert.equal(marksOf(wholeAxis(120_000, 1200)), 10_000);
  assert.equal(marksOf(wholeAxis(3_600_000, 1200)), 300_000);
  assert.equal(marksOf(zoomed(wholeAxis(120_000, 1200), 1e-9, 0)), 200);
});

const phrases = [1000, 3000, 3500, 8000];

test("An edge settles on the nearest end of a phrase, when one is near", () => {
  assert.equal(edgeNear(3100, phrases, 200), 3000);
  assert.equal(edgeNear(3400, phrases, 200), 3500);
  assert.equal(edgeNear(5000, phrases, 200), 5000);
  assert.equal(edgeNear(100, [], 200), 100);
});

test("From phrase to phrase, to the ends of the lesson", () => {
  assert.equal(edgeBeside(3000, phrases, 1, 10_000), 3500);
  assert.equal(edgeBeside(3000, phrases, -1, 10_000), 1000);
  assert.equal(edgeBeside(500, phrases, -1, 10_000), 0);
  assert.equal(edgeBeside(9000, phrases, 1, 10_000), 10_000);
});

test("What a stretch holds", () => {
  assert.deepEqual(between(5, 2), { from: 2, to: 5 });
  assert.deepEqual(holds({ from: 2500, to: 3600 }, phrases, [2900, 3100, 0, 4000, 4100, 1, 2600, 2600, 2]), { phrases: 2, marks: 2 });
});

test("The finest peaks are loaded only where a pixel shows them", () => {
  assert.equal(resolutionFor(48 * 10), 0);
  assert.equal(resolutionFor(48 * 100), 1);
});

test("Rows that are switched on lie below the others, and a height leads to its row", () => {
  const plain = layoutOf({ terms: false, keyLines: false });
  assert.equal(rowAtHeight(plain, 40), "voice");
  assert.equal(rowAtHeight(plain, plain.height + 1), null);
  const withKeyLines = layoutOf({ terms: false, keyLines: true });
  const both = layoutOf({ terms: true, keyLines: true });
  assert.equal(rowAtHeight(withKeyLines, plain.height + 1), "keyLines");
  assert.equal(rowAtHeight(both, plain.height + 1), "terms");
  assert.equal(both.height - withKeyLines.height, withKeyLines.height - plain.height);
  assert.equal(rowAtHeight(plain, 105), null, "between two rows");
});
