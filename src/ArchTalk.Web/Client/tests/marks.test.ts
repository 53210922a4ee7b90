import assert from "node:assert/strict";
import { test } from "node:test";
import { loadMarks } from "../refine/marks";

const three = () => Promise.resolve({ ok: true, arrayBuffer: () => Promise.resolve(new Int32Array([100, 200, 4]).buffer) } as Response);

test("what was drawn is asked for until it is there", async (t) => {
  t.mock.timers.enable({ apis: ["setTimeout"] });
  let asked = 0;
  t.mock.method(globalThis, "fetch", () => (++asked < 3 ? Promise.reject(new TypeError("no answer")) : three()));
  const marks = loadMarks("/marks", () => true);
  for (let i = 0; i < 20; i++) {
    await Promise.resolve();
    t.mock.timers.tick(5000);
  }

  assert.deepEqual([...(await marks)!], [100, 200, 4]);
  assert.equal(asked, 3);
});

test("what is of another lesson meanwhile is left", async (t) => {
  let shown = 1;
  t.mock.method(globalThis, "fetch", () => {
    shown = 2;
    return three();
  });
  assert.equal(await loadMarks("/marks", () => shown === 1), null);
});
