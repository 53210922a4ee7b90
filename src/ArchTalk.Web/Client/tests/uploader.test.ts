import assert from "node:assert/strict";
import { test } from "node:test";
import { MemoryKeeper } from "../journal/keeper";
import { audioPayload, encodeRecord, Kind, readRecord } from "../journal/record";
import { type Answer, type Line, type Pauses, Uploader, type Waiting } from "../journal/uploader";

const target = { take: "t", token: "k", epoch: 1 };
const second = (sequence: number, epoch = 1) => ({
  sequence,
  bytes: encodeRecord(Kind.audio, epoch, sequence, audioPayload(0, sequence * 12_000, new Int16Array(12_000).fill(sequence))),
});

/** A server as docs/formats/journal.md says, behind a line of some speed; time passes as it must and no slower. */
class Server implements Line, Pauses {
  readonly saved: Uint8Array[] = [];
  readonly bodies: number[] = [];
  at = 0;
  bytesPerMs = 1000;
  epoch = 1;
  isEnded = false;
  isFull = false;
  /** Called for each request: whether its answer is lost after it was written. */
  losesAnswer = (_: number): boolean => false;
  isAway = (): boolean => false;

  now(): number {
    return this.at;
  }

  async pause(ms: number): Promise<void> {
    this.at += ms;
    await new Promise((r) => setImmediate(r));
  }

  async send(_: typeof target, body: Uint8Array<ArrayBuffer>[], withinMs: number): Promise<Answer> {
    const size = body.reduce((sum, b) => sum + b.length, 0);
    const tookMs = size / this.bytesPerMs + 20;
    await new Promise((r) => setImmediate(r));
    if (this.isAway() || tookMs > withinMs) {
      this.at += Math.min(tookMs, withinMs);
      throw new Error("no answer");
    }

    this.at += tookMs;
    this.bodies.push(size);
    const answer = (problem: string): Answer => ({ problem, next: this.saved.length, savedMs: this.saved.length * 250 });
    if (this.isFull) {
      return answer("disk");
    }

    for (const bytes of body) {
      const { sequence, epoch, kind, payload } = readRecord(bytes);
      const first = kind === Kind.lost ? new DataView(payload.buffer, payload.byteOffset).getUint32(0, true) : sequence;
      if (sequence < this.saved.length && Buffer.from(this.saved[sequence]!).equals(bytes)) {
        continue;
      }

      if (this.isEnded || epoch !== this.epoch || first !== this.saved.length) {
        return answer(this.isEnded ? "ended" : epoch !== this.epoch ? "fenced" : first > this.saved.length ? "gap" : "conflict");
      }

      while (this.saved.length <= sequence) {
        this.saved.push(bytes);
      }
    }

    if (this.losesAnswer(this.bodies.length)) {
      throw new Error("the answer was lost");
    }

    return answer("saved");
  }
}

function setUp(server = new Server()) {
  const keeper = new MemoryKeeper();
  const news = { saved: 0, waiting: [] as Waiting[], stopped: [] as string[] };
  const uploader = new Uploader(target, keeper, server, server, {
    saved: (ms) => (news.saved = ms),
    waiting: (w) => news.waiting.push(w),
    stopped: (why) => news.stopped.push(why),
  });
  const add = async (from: number, to: number) => {
    for (let i = from; i < to; i++) {
      await keeper.add("t", 1, i, second(i).bytes);
      uploader.add(second(i));
    }
  };
  return { server, keeper, news, uploader, add };
}

test("what is acknowledged is forgotten here, and nothing else", async () => {
  const { server, keeper, news, uploader, add } = setUp();
  await keeper.add("t", 2, 0, second(0, 2).bytes);
  await add(0, 10);
  await uploader.drained();
  assert.equal(server.saved.length, 10);
  assert.deepEqual(await keeper.rest("t", 1), []);
  assert.equal((await keeper.rest("t", 2)).length, 1, "another writer's records are not touched");
  assert.equal(news.saved, 2500);
  assert.deepEqual(news.waiting.at(-1), { ...news.waiting.at(-1)!, records: 0, ms: 0, trouble: "" });
});

test("at 50 kB a second with every twentieth answer lost it makes progress all the time, in batches as large as the line is fast", async () => {
  const server = new Server();
  server.bytesPerMs = 50;
  server.losesAnswer = (n) => n % 20 === 0;
  const { news, uploader, add } = setUp(server);
  await add(0, 400);
  await uploader.drained();
  assert.equal(server.saved.length, 400);
  server.saved.forEach((bytes, i) => assert.deepEqual(Buffer.from(bytes), Buffer.from(second(i).bytes)));
  assert.ok(Math.max(...server.bodies) <= 750_000, `a batch is answered within its time: ${Math.max(...server.bodies)}`);
  const ideal = (400 * 24_028) / 50;
  assert.ok(server.at < ideal * 1.25, `${Math.round(server.at)} ms against ${Math.round(ideal)} ms at full speed`);
  const middle = news.waiting[Math.floor(news.waiting.length / 2)]!;
  assert.ok(Math.abs(middle.restMs! - (middle.records * 24_028) / 50) < middle.restMs! * 0.3, "how long the rest takes is told");
});

test("a batch that is too slow is halved down to single records, and grows again", async () => {
  const server = new Server();
  server.bytesPerMs = 1.5;
  const { uploader, add } = setUp(server);
  await add(0, 30);
  await uploader.drained();
  assert.equal(server.saved.length, 30);
  assert.ok(Math.max(...server.bodies) < 50_000, "batches shrank");
  server.bytesPerMs = 5000;
  server.bodies.length = 0;
  await add(30, 400);
  await uploader.drained();
  assert.ok(Math.max(...server.bodies) > 300_000, `batches grew: ${Math.max(...server.bodies)}`);
});

test("a record that one wait is too short for is waited for longer", async () => {
  const server = new Server();
  server.bytesPerMs = 0.5;
  const { uploader, add } = setUp(server);
  await add(0, 1);
  await uploader.drained();
  assert.equal(server.saved.length, 1);
});

test("an answer that was lost does no harm: the same bytes are sent again and acknowledged", async () => {
  const server = new Server();
  server.losesAnswer = (n) => n === 1;
  const { news, uploader, add } = setUp(server);
  await add(0, 5);
  await uploader.drained();
  assert.equal(server.saved.length, 5);
  assert.deepEqual(news.stopped, []);
  assert.ok(news.waiting.some((w) => w.trouble === "unreachable"));
});

test("without a network it waits with growing pauses and says so; nothing is forgotten meanwhile", async () => {
  const server = new Server();
  let tries = 0;
  server.isAway = () => ++tries < 8;
  const { keeper, news, uploader, add } = setUp(server);
  await add(0, 3);
  assert.equal((await keeper.rest("t", 1)).length, 3);
  await uploader.drained();
  assert.deepEqual(await keeper.rest("t", 1), []);
  assert.ok(server.at > 20_000, "eight tries took their pauses");
  assert.equal(news.waiting[0]!.trouble, "unreachable");
});

test("an hour without a network fills the keeper, not the memory, and is sent whole and in order", async () => {
  const server = new Server();
  let isAway = true;
  server.isAway = () => isAway;
  const { keeper, uploader } = setUp(server);
  let fetched = 0;
  const get = keeper.get.bind(keeper);
  keeper.get = (take, epoch, sequence) => (fetched++, get(take, epoch, sequence));
  for (let i = 0; i < 2000; i++) {
    await keeper.add("t", 1, i, second(i).bytes);
    uploader.add(second(i));
  }

  isAway = false;
  await uploader.drained();
  assert.equal(server.saved.length, 2000);
  server.saved.forEach((bytes, i) => assert.deepEqual(Buffer.from(bytes), Buffer.from(second(i).bytes)));
  assert.ok(fetched >= 2000 - 700, `${fetched} of 2,000 were not held in memory`);
});

test("what the browser threw away of what waits is declared lost, and the rest is sent", async () => {
  const server = new Server();
  let isAway = true;
  server.isAway = () => isAway;
  const { keeper, uploader } = setUp(server);
  for (let i = 0; i < 1000; i++) {
    await keeper.add("t", 1, i, second(i).bytes);
    uploader.add(second(i));
  }

  const get = keeper.get.bind(keeper);
  keeper.get = async (take, epoch, sequence) => (sequence === 900 ? undefined : get(take, epoch, sequence));
  const rest = keeper.rest.bind(keeper);
  keeper.rest = async (take, epoch, from) => (await rest(take, epoch, from)).filter((r) => r.sequence !== 900);
  isAway = false;
  await uploader.drained();
  assert.equal(server.saved.length, 1000);
  assert.equal(readRecord(server.saved[900] as Uint8Array<ArrayBuffer>).kind, Kind.lost);
  assert.equal(readRecord(server.saved[901] as Uint8Array<ArrayBuffer>).kind, Kind.audio);
});

test("a server whose disk is full is named, and tried again", async () => {
  const server = new Server();
  server.isFull = true;
  const { news, uploader, add } = setUp(server);
  await add(0, 2);
  const emptied = setInterval(() => {
    if (news.waiting.some((w) => w.trouble === "disk")) {
      server.isFull = false;
    }
  });
  await uploader.drained();
  clearInterval(emptied);
  assert.equal(server.saved.length, 2);
});

test("what the server lacks is taken from the keeper, and what is gone there is declared lost", async () => {
  const { server, keeper, uploader, add } = setUp();
  await add(0, 4);
  await uploader.drained();

  // The server was put back from a copy: it has only two of them. One of the next is still kept here.
  server.saved.length = 2;
  await keeper.add("t", 1, 3, second(3).bytes);
  await keeper.add("t", 1, 4, second(4).bytes);
  uploader.add(second(4));
  await uploader.drained();
  assert.deepEqual(
    server.saved.map((b) => readRecord(b as Uint8Array<ArrayBuffer>).kind),
    [Kind.audio, Kind.audio, Kind.lost, Kind.audio, Kind.audio],
  );
});

test("a refusal stops it, says why, and forgets nothing", async () => {
  for (const [set, why] of [
    [(s: Server) => (s.epoch = 2), "taken"],
    [(s: Server) => (s.isEnded = true), "finished"],
    [(s: Server) => s.saved.push(second(9).bytes), "refused"],
  ] as const) {
    const { server, keeper, news, uploader, add } = setUp();
    set(server);
    await add(0, 3);
    await uploader.drained();
    assert.deepEqual([news.stopped, uploader.refusal], [[why], why]);
    assert.equal((await keeper.rest("t", 1)).length, 3);
  }
});
