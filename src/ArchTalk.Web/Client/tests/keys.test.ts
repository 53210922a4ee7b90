import assert from "node:assert/strict";
import { test } from "node:test";
import { changed, deedOf, deeds, keysFrom, usual } from "../record/keys";

test("every deed has a key of its own", () => {
  const keys = Object.values(usual);
  assert.equal(new Set(keys).size, Object.keys(deeds).length);
  assert.ok(keys.every((k) => k.length === 1));
});

test("a key that does something else changes places with it", () => {
  const after = changed(usual, "pen", "A");
  assert.ok(typeof after !== "string");
  assert.deepEqual([after.keys.pen, after.keys.ask, after.swapped], ["a", "1", "ask"]);
  assert.equal(deedOf(after.keys, "1"), "ask");
  const free = changed(usual, "pen", "z");
  assert.ok(typeof free !== "string" && free.keys.pen === "z" && free.swapped === null);
});

test("keys with a meaning of their own are refused", () => {
  for (const key of [" ", "?", "Enter", "ArrowUp", "Delete"]) {
    assert.equal(typeof changed(usual, "pen", key), "string", key);
  }
});

test("what is kept is taken where it makes sense", () => {
  assert.deepEqual(keysFrom({}), usual);
  assert.equal(keysFrom({ pen: "z" }).pen, "z");
  assert.deepEqual(keysFrom({ pen: "a", ask: "1", gone: "y", chapter: "F10" }), { ...usual, pen: "a", ask: "1" });
  assert.deepEqual(keysFrom({ pen: "a" }), usual, "no key does two things");
});
