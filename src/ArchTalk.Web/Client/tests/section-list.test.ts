import assert from "node:assert/strict";
import { test } from "node:test";
import { SectionList, type SectionView } from "../shared/section-list";

interface Call {
  method: string;
  body: { content?: string; version: number };
  keepalive: boolean;
}

/** A server with one list, which can be away; and a page that types into it. */
function setUp() {
  const server = { content: "", version: 0, isAway: false, calls: [] as Call[], answer: 200 };
  const leaving: Record<string, (e: object) => void> = {};
  const timers: { work: () => void; ms: number }[] = [];
  globalThis.window = {
    addEventListener: (name: string, handler: (e: object) => void) => (leaving[name] = handler),
    setTimeout: (work: () => void, ms: number) => timers.push({ work, ms }),
  } as unknown as Window & typeof globalThis;
  globalThis.clearTimeout = ((i: number) => i > 0 && timers[i - 1] && (timers[i - 1]!.work = () => undefined)) as typeof clearTimeout;
  globalThis.document = { querySelector: () => null } as unknown as Document;
  globalThis.fetch = ((_: string, request: { method: string; body: string; keepalive?: boolean }) => {
    const body = request.body ? (JSON.parse(request.body) as Call["body"]) : { version: -1 };
    server.calls.push({ method: request.method, body, keepalive: request.keepalive === true });
    if (server.isAway) {
      return Promise.reject(new TypeError("away"));
    }

    const isSave = request.method === "PUT" && server.answer === 200 && body.version === server.version;
    if (isSave) {
      server.content = body.content!;
      server.version++;
    }

    const status = request.method === "PUT" && !isSave ? 422 : 200;
    const answer = status === 200 ? { content: server.content, version: server.version, canUndo: true, canRedo: false } : { message: "Refused." };
    return Promise.resolve({ status, headers: { get: () => "application/json" }, text: () => Promise.resolve(JSON.stringify(answer)) });
  }) as unknown as typeof fetch;
  const page = { text: "", status: "", isFault: false };
  const list = new SectionList<string, SectionView<string>>(
    "/list",
    () => page.text,
    (view, isSaved) => (page.text = isSaved ? page.text : view.content),
    (status, isFault) => Object.assign(page, { status, isFault }),
  );
  const rest = async () => {
    timers.splice(0).forEach((t) => t.work());
    await new Promise((r) => setImmediate(r));
    await list.settle().catch(() => undefined);
  };
  return { server, page, list, rest, timers, leaving };
}

test("what was typed is sent when the page is left at once", async () => {
  const { server, page, list, leaving } = setUp();
  await list.load();
  page.text = "arch";
  list.changed();
  leaving["pagehide"]!({});
  assert.deepEqual(server.calls.at(-1), { method: "PUT", body: { content: "arch", version: 0 }, keepalive: true });
  assert.equal(server.content, "arch");
});

test("nothing is sent when nothing was typed, and leaving doesn't ask", async () => {
  const { server, list, leaving } = setUp();
  await list.load();
  const before = server.calls.length;
  leaving["pagehide"]!({});
  let asked = false;
  leaving["beforeunload"]!({ preventDefault: () => (asked = true) });
  assert.deepEqual([server.calls.length, asked], [before, false]);
});

test("a save that failed says so, is tried again with growing pauses, and loses nothing", async () => {
  const { server, page, list, timers, leaving } = setUp();
  await list.load();
  server.isAway = true;
  page.text = "vault";
  await list.save();
  assert.match(page.status, /^Not saved yet; it is tried again/);
  assert.equal(page.isFault, true);
  const first = timers.at(-1)!;
  first.work();
  await new Promise((r) => setTimeout(r, 5));
  assert.ok(timers.at(-1)!.ms > first.ms, "the second pause is longer");
  let asked = false;
  leaving["beforeunload"]!({ preventDefault: () => (asked = true) });
  assert.equal(asked, true, "leaving would lose something now");
  page.text = "vaults";
  server.isAway = false;
  timers.at(-1)!.work();
  await new Promise((r) => setTimeout(r, 5));
  assert.deepEqual([server.content, page.status, list.isWaiting], ["vaults", "Saved", false]);
});

test("what the server refuses is said in its words and kept on the page; later work is saved", async () => {
  const { server, page, list } = setUp();
  await list.load();
  server.answer = 422;
  page.text = "wrong";
  await list.save();
  assert.deepEqual([page.status, page.text, list.isWaiting], ["Refused.", "wrong", true]);
  server.answer = 200;
  page.text = "right";
  await list.save();
  assert.deepEqual([server.content, page.status], ["right", "Saved"]);
});

test("what is typed while a save is on its way is saved after it", async () => {
  const { server, page, list, rest } = setUp();
  await list.load();
  page.text = "a";
  const saving = list.save();
  page.text = "ab";
  list.changed();
  await saving;
  assert.equal(list.isWaiting && server.content === "a" && page.status !== "Saved", false, "the first save took what was there when its turn came");
  await rest();
  assert.deepEqual([server.content, list.isWaiting], ["ab", false]);
});
