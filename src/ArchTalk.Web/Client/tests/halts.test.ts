import assert from "node:assert/strict";
import { test } from "node:test";
import { Halts } from "../player/halts";

const [first, second] = [{ at: 1000 }, { at: 5000 }];

test("a stop halts when it is played over, once, and again after going back before it", () => {
  const halts = new Halts([first, second]);
  assert.equal(halts.crossed(980), null);
  assert.equal(halts.crossed(1016), first);
  halts.sought(1000);
  assert.equal(halts.crossed(1020), null, "it goes on from the stop");
  halts.sought(900);
  assert.equal(halts.crossed(1000), first, "exactly there");
});

test("who goes past a stop isn't halted, and a page that was hidden for a second is", () => {
  const halts = new Halts([first, second]);
  halts.sought(4000);
  assert.equal(halts.crossed(4010), null);
  assert.equal(halts.crossed(5400), second);
  assert.equal(halts.crossed(700), null);
  assert.equal(halts.crossed(4700), null, "a leap of four seconds isn't playing");
});
