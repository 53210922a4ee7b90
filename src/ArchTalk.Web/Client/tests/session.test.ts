import assert from "node:assert/strict";
import { test } from "node:test";
import type { FromWorker, Leftover, OpenTake, ToWorker } from "../record/messages";
import { type OpenMicrophone, type Phase, RecordingSession, voicesDiffer } from "../record/session";
import { barsOf } from "../record/retaking";
import { adviceWords, heldWords, savingWords } from "../record/words";

const opened = (more: Partial<OpenTake> = {}): OpenTake => ({
  take: "t1",
  token: "k",
  epoch: 1,
  next: 0,
  savedMs: 0,
  takenBackMs: 0,
  lastEpoch: 0,
  nextSegment: 0,
  nextAction: 1,
  isTestVoice: null,
  ...more,
});
const left: Leftover = { take: "t0", epoch: 1, first: 7, ms: 25_000, startedAt: 5, why: "taken" };

/** A session with a worker, microphones, a server and a clock that do what the test says. */
function setUp() {
  const around = {
    workers: [] as { told: ToWorker[]; hear: (m: FromWorker) => void; failed: () => void; isOver: boolean }[],
    microphones: [] as { id: string; isOpen: boolean; lose: (cause: "unplugged" | "muted") => void }[],
    timers: [] as { ms: number; then: () => void; isOff: boolean }[],
    faults: [] as string[],
    calls: [] as string[],
    begun: [] as OpenTake[],
    levels: 0,
    reloads: 0,
    endings: 0,
    wavs: 0,
    played: [] as number[],
    lastDeed: 0,
    /** How the boards were shown. */
    shown: [] as (number | string)[],
    isHeldOn: false,
    refuse: "" as string,
    refuseMicrophone: false,
    refuseSound: false,
    answer: opened(),
    reload: () => Promise.resolve(),
  };
  const answer = async (name: string): Promise<OpenTake> => {
    around.calls.push(name);
    if (around.refuse) {
      throw new Error(around.refuse);
    }

    return around.answer;
  };
  const session = new RecordingSession({
    lesson: "l",
    startWorker(hear, failed) {
      const worker = { told: [] as ToWorker[], hear, failed, isOver: false };
      around.workers.push(worker);
      return { post: (m) => worker.told.push(m), end: () => (worker.isOver = true) };
    },
    async openMicrophone(id, lose): Promise<OpenMicrophone> {
      if (around.refuseMicrophone) {
        throw new Error("no");
      }

      const microphone = { id, isOpen: true, lose };
      around.microphones.push(microphone);
      return {
        isTestVoice: id === "test-voice",
        describe: () => ({
          deviceRate: 48_000,
          inputOffsetMs: 0,
          microphone: id,
          echoCancellation: false,
          noiseSuppression: false,
          autoGainControl: false,
          isTestVoice: id === "test-voice",
        }),
        async connect(worker) {
          if (around.refuseSound) {
            throw new Error("no sound");
          }

          worker.post({ say: "listen", port: null as unknown as MessagePort });
        },
        close: () => (microphone.isOpen = false),
      };
    },
    server: {
      start: () => answer("start"),
      reopen: (take) => answer(`reopen ${take}`),
      finish: async (take) => void (await answer(`finish ${take}`)),
    },
    wakeLock: { hold: async () => (around.isHeldOn = true), release: () => (around.isHeldOn = false) },
    boards: {
      begunAt: 0,
      get lastDeed() {
        return around.lastDeed;
      },
      goBack: (_, to) => (around.shown.push(to), to),
      putBack: () => around.shown.push("present"),
      goOn: (stamp) => around.shown.push(`on at ${stamp}`),
    },
    clock: {
      pageOrigin: 0,
      now: () => 9000,
      after(ms, then) {
        const timer = { ms, then, isOff: false };
        around.timers.push(timer);
        return () => (timer.isOff = true);
      },
    },
    news: {
      changed: () => undefined,
      level: () => around.levels++,
      begun: (take) => around.begun.push(take),
      takesChanged: () => (around.reloads++, around.reload()),
      ended: () => around.endings++,
      wav: () => around.wavs++,
      play: async (pcm) => void around.played.push(pcm.length),
      fault: (error) => around.faults.push((error as Error).message),
    },
  });
  session.begin();
  const worker = () => around.workers.at(-1)!;
  const settle = async () => {
    for (let i = 0; i < 5; i++) {
      await new Promise((r) => setImmediate(r));
    }
  };
  return {
    session,
    around,
    worker,
    settle,
    phase: () => session.view.phase,
    said: () =>
      worker()
        .told.map((m) => m.say)
        .filter((s) => s !== "ping"),
    async hear(message: FromWorker) {
      worker().hear(message);
      await settle();
    },
    /** Lets the timers of a length run out that are waiting now. */
    async pass(ms: number) {
      for (const timer of around.timers.splice(0)) {
        if (timer.ms === ms && !timer.isOff) {
          timer.then();
        } else {
          around.timers.push(timer);
        }
      }

      await settle();
    },
    async checked(more: Partial<FromWorker & { say: "checked" }> = {}) {
      await this.hear({ say: "checked", sentMs: 0, left: [], elsewhere: [], ...more });
    },
    async ready() {
      await this.checked();
      await session.chooseMicrophone("usb");
    },
    async recording() {
      await this.ready();
      session.start(0);
      await settle();
    },
  };
}

test("nothing can be gone on with, finished or started before the check is over", async () => {
  const s = setUp();
  assert.equal(s.phase(), "checking");
  assert.deepEqual(s.said(), ["check"]);
  await s.session.chooseMicrophone("usb");
  s.session.start(0);
  s.session.goOn("t1", 0);
  s.session.finish();
  s.session.pause();
  await s.session.resume();
  await s.session.makeTake(left);
  await s.settle();
  assert.equal(s.phase(), "checking");
  assert.deepEqual(s.around.calls, []);
  assert.deepEqual(s.said(), ["check"]);
  await s.checked();
  assert.equal(s.phase(), "ready");
});

test("the check is over only when the boards are shown with what it sent", async () => {
  const s = setUp();
  let shown: () => void = () => undefined;
  s.around.reload = () => new Promise((r) => (shown = r));
  await s.checked({ sentMs: 5000 });
  assert.equal(s.phase(), "checking");
  shown();
  await s.settle();
  assert.equal(s.phase(), "ready");
  assert.equal(s.session.view.sentMs, 5000);
});

test("a check that failed says so and is tried again, by itself and at once when asked", async () => {
  const s = setUp();
  await s.hear({ say: "checkFailed", message: "x" });
  assert.deepEqual([s.phase(), s.session.view.cause], ["checking", "check"]);
  await s.pass(1000);
  assert.deepEqual(s.said(), ["check", "check"]);
  await s.hear({ say: "checkFailed", message: "x" });
  s.session.checkAgain();
  assert.deepEqual(s.said(), ["check", "check", "check"]);
  await s.pass(2000);
  assert.equal(s.said().length, 3, "the pause that was cut short doesn't ask again");
  await s.checked();
  assert.equal(s.phase(), "ready");
});

test("what is left is shown, made a take of its own, sent on, kept as a file or discarded", async () => {
  const s = setUp();
  const kept = { ...left };
  await s.checked({ left: [kept] });
  assert.deepEqual(s.session.view.left, [kept]);

  s.around.answer = opened({ take: "t9" });
  await s.session.makeTake(kept);
  assert.deepEqual(s.around.calls, ["start"]);
  assert.equal(s.phase(), "checking");
  assert.deepEqual(s.worker().told.at(-1), {
    say: "sendOn",
    key: { take: "t0", epoch: 1 },
    into: opened({ take: "t9" }),
    lesson: "l",
    isNewTake: true,
  });
  await s.hear({ say: "sentOn", sentMs: 25_000 });
  await s.checked({ left: [kept] });

  s.around.answer = opened({ take: "t0", next: 9, lastEpoch: 2 });
  await s.session.sendOn(kept);
  assert.equal(s.phase(), "ready", "something was recorded since");
  assert.match(s.around.faults[0]!, /recorded after it/);
  s.around.answer = opened({ take: "t0", next: 7, epoch: 3 });
  await s.session.sendOn(kept);
  assert.equal((s.worker().told.at(-1) as { isNewTake: boolean }).isNewTake, false);
  await s.hear({ say: "sentOn", sentMs: 25_000 });
  await s.checked({ left: [kept] });
  assert.equal(s.session.view.sentMs, 25_000);

  s.around.answer = opened({ take: "t0", next: 9, lastEpoch: 1, epoch: 4 });
  await s.session.sendOn(kept);
  assert.equal((s.worker().told.at(-1) as { into: { next: number } }).into.next, 9, "two of its own records had come, their answer had not");
  await s.hear({ say: "sentOn", sentMs: 24_000 });
  await s.checked({ left: [kept] });

  s.session.saveAsWav(kept);
  await s.hear({ say: "wav", wav: new ArrayBuffer(44), key: kept });
  assert.equal(s.around.wavs, 1);
  assert.equal(s.session.view.left.length, 1, "a file is a copy");

  // The page gives back a copy of what it was shown.
  s.session.discard({ ...kept });
  assert.deepEqual(s.worker().told.at(-1), { say: "discard", key: { take: "t0", epoch: 1 } });
  assert.deepEqual(s.session.view.left, []);
});

test("a server that refuses what is left leaves it where it is", async () => {
  const s = setUp();
  await s.checked({ left: [left] });
  s.around.refuse = "away";
  await s.session.makeTake(left);
  assert.deepEqual([s.phase(), s.around.faults, s.session.view.left.length], ["ready", ["away"], 1]);
});

test("without a microphone nothing starts, and one that can't be opened leaves none", async () => {
  const s = setUp();
  await s.checked();
  s.session.start(3);
  assert.equal(s.phase(), "ready");
  s.around.refuseMicrophone = true;
  await assert.rejects(s.session.chooseMicrophone("usb"));
  assert.equal(s.session.view.hasMicrophone, false);
});

test("of two microphones that are chosen one after the other the last one counts, and only it is open", async () => {
  const s = setUp();
  await s.checked();
  await Promise.all([s.session.chooseMicrophone("test-voice"), s.session.chooseMicrophone("usb")]);
  assert.deepEqual(
    s.around.microphones.map((m) => [m.id, m.isOpen]),
    [
      ["test-voice", false],
      ["usb", true],
    ],
  );
  assert.equal(s.session.view.isTestVoice, false);
});

test("it is counted down once, and not yet means ready again", async () => {
  const s = setUp();
  await s.ready();
  s.session.start(3);
  s.session.start(3);
  assert.deepEqual([s.phase(), s.session.view.countdown], ["counting", 3]);
  assert.equal(s.around.isHeldOn, true, "the screen stays on");
  await s.pass(1000);
  assert.equal(s.session.view.countdown, 2);
  s.session.stopCounting();
  await s.pass(1000);
  assert.deepEqual([s.phase(), s.around.calls, s.around.isHeldOn], ["ready", [], false]);
  s.session.start(1);
  await s.pass(1000);
  assert.equal(s.phase(), "recording");
  assert.deepEqual(s.around.calls, ["start"]);
  assert.deepEqual(s.said().slice(-3), ["open", "segment", "listen"]);
  assert.equal(s.around.begun.length, 1);
});

test("once the take is being opened it is too late for not yet", async () => {
  const s = setUp();
  await s.ready();
  s.session.start(0);
  s.session.stopCounting();
  await s.settle();
  assert.equal(s.phase(), "recording");
});

test("a server that doesn't open the take leaves everything ready", async () => {
  const s = setUp();
  await s.ready();
  s.around.refuse = "away";
  s.session.start(0);
  await s.settle();
  assert.deepEqual([s.phase(), s.around.faults], ["ready", ["away"]]);
  assert.equal(s.said().at(-1), "leave");
});

test("a pause is gated in the worker and gone on with in the same segment", async () => {
  const s = setUp();
  await s.recording();
  s.session.pause();
  assert.equal(s.phase(), "paused");
  s.session.pause();
  await s.session.resume();
  assert.equal(s.phase(), "recording");
  assert.deepEqual(
    s.worker().told.filter((m) => m.say === "gate"),
    [
      { say: "gate", paused: true },
      { say: "gate", paused: false },
    ],
  );
  assert.equal(s.said().filter((m) => m === "segment").length, 1);
});

test("another microphone begins a new segment; while recording it can't be changed", async () => {
  const s = setUp();
  await s.recording();
  await s.session.chooseMicrophone("other");
  assert.equal(s.around.microphones.length, 1);
  s.session.pause();
  await s.session.chooseMicrophone("other");
  assert.deepEqual(
    s.around.microphones.map((m) => m.isOpen),
    [false, true],
  );
  await s.session.resume();
  assert.deepEqual(
    s
      .worker()
      .told.filter((m) => m.say === "segment")
      .map((m) => m.start.segment),
    [0, 1],
  );
  assert.deepEqual(s.said().slice(-3), ["segment", "listen", "gate"]);
});

test("a microphone whose sound can't be had leaves the take as it was, to be tried again", async () => {
  const s = setUp();
  await s.ready();
  s.around.refuseSound = true;
  s.session.start(0);
  await s.settle();
  assert.deepEqual([s.phase(), s.around.faults, s.said().at(-1)], ["ready", ["no sound"], "leave"]);
  s.around.refuseSound = false;
  s.session.start(0);
  await s.settle();
  s.session.pause();
  await s.session.chooseMicrophone("other");
  s.around.refuseSound = true;
  await s.session.resume();
  assert.deepEqual([s.phase(), s.around.faults.length], ["paused", 2]);
  s.around.refuseSound = false;
  await s.session.resume();
  assert.equal(s.phase(), "recording");
});

test("the test voice never joins a real take, nor a real voice a take of the test voice", async () => {
  const s = setUp();
  await s.recording();
  s.session.pause();
  await s.session.chooseMicrophone("test-voice");
  await s.session.resume();
  assert.deepEqual([s.phase(), s.around.faults], ["paused", [voicesDiffer]]);
  assert.equal(s.said().filter((m) => m === "segment").length, 1);

  const reopened = setUp();
  await reopened.ready();
  reopened.around.answer = opened({ isTestVoice: true, epoch: 2 });
  reopened.session.goOn("t1", 0);
  await reopened.settle();
  assert.deepEqual([reopened.phase(), reopened.around.faults], ["ready", [voicesDiffer]]);
  assert.ok(!reopened.said().includes("segment"));
});

test("a microphone that is unplugged, muted or silent holds the take, says so, and it goes on", async () => {
  for (const cause of ["unplugged", "muted", "silent"] as const) {
    const s = setUp();
    await s.recording();
    await s.hear({ say: "recorded", ms: 12_000 });
    if (cause === "silent") {
      await s.hear({ say: "silent" });
    } else {
      s.around.microphones[0]!.lose(cause);
    }

    assert.deepEqual([s.phase(), s.session.view.cause], ["interrupted", cause]);
    assert.match(heldWords(s.session.view), /everything up to 0:12 is kept/);
    assert.deepEqual(s.worker().told.at(-1), { say: "gate", paused: true });
    assert.equal(s.session.view.hasMicrophone, cause !== "unplugged");
    await s.session.resume();
    if (cause === "unplugged") {
      assert.equal(s.phase(), "interrupted", "there is nothing to go on with yet");
      await s.session.chooseMicrophone("spare");
      await s.session.resume();
    }

    assert.equal(s.phase(), "recording");
    assert.equal(s.said().filter((m) => m === "segment").length, cause === "unplugged" ? 2 : 1);
    assert.deepEqual(s.worker().told.at(-1), { say: "gate", paused: false });
  }
});

test("a microphone lost in a pause or while counting is said, too; an old one that ends later is nobody's business", async () => {
  const s = setUp();
  await s.recording();
  s.session.pause();
  s.around.microphones[0]!.lose("unplugged");
  assert.deepEqual([s.phase(), s.session.view.cause], ["interrupted", "unplugged"]);
  await s.session.chooseMicrophone("spare");
  s.around.microphones[0]!.lose("unplugged");
  assert.equal(s.session.view.hasMicrophone, true);

  const counting = setUp();
  await counting.ready();
  counting.session.start(3);
  counting.around.microphones[0]!.lose("unplugged");
  assert.deepEqual([counting.phase(), counting.session.view.cause], ["ready", "unplugged"]);
  await counting.pass(1000);
  assert.deepEqual(counting.around.calls, []);
});

test("a worker that fails or doesn't answer interrupts; going on sends what it had kept and opens the take anew", async () => {
  for (const how of ["error", "failed", "pings"]) {
    const s = setUp();
    await s.recording();
    if (how === "error") {
      s.worker().failed();
    } else if (how === "failed") {
      await s.hear({ say: "failed", message: "x" });
    } else {
      for (let i = 0; i < 4; i++) {
        await s.pass(2000);
      }

      await s.hear({ say: "pong" });
      for (let i = 0; i < 6; i++) {
        await s.pass(2000);
      }

      assert.equal(s.phase(), "recording", "a worker that only stood still has answered by then");
      await s.pass(2000);
    }

    assert.deepEqual([s.phase(), s.session.view.cause], ["interrupted", "worker"]);
    assert.deepEqual(
      s.around.workers.map((w) => w.isOver),
      [true, false],
    );
    s.around.workers[0]!.hear({ say: "ended" });
    assert.equal(s.around.endings, 0, "what an old worker still says isn't heard");
    await s.session.resume();
    assert.equal(s.phase(), "checking");
    assert.deepEqual(s.said(), ["check"]);
    s.around.answer = opened({ epoch: 2, next: 40, savedMs: 9000, nextSegment: 1, nextAction: 6, isTestVoice: false });
    await s.checked();
    assert.equal(s.phase(), "recording");
    assert.deepEqual(s.around.calls, ["start", "reopen t1"]);
    assert.deepEqual(s.said(), ["check", "open", "segment", "listen"]);
    assert.equal(s.session.view.recordedMs, 9000);
    assert.equal(s.around.begun.at(-1)!.nextAction, 6);
  }
});

test("a take whose worker is gone can also be finished", async () => {
  const s = setUp();
  await s.recording();
  s.worker().failed();
  s.session.finish();
  await s.checked();
  assert.deepEqual(s.around.calls, ["start", "finish t1"]);
  assert.equal(s.around.endings, 1);
});

test("a worker that fails while finishing or checking is replaced, and what it kept is sent", async () => {
  const s = setUp();
  await s.recording();
  s.session.finish();
  s.worker().failed();
  assert.equal(s.phase(), "checking");
  assert.deepEqual(
    s.worker().told.filter((m) => m.say === "check"),
    [{ say: "check", lesson: "l", takeOver: "t1" }],
  );
  s.worker().failed();
  assert.deepEqual([s.phase(), s.session.view.cause], ["checking", "check"]);
  await s.pass(1000);
  await s.checked();
  assert.equal(s.phase(), "ready");
});

test("finish lets the microphone go at once and ends when all is saved", async () => {
  const s = setUp();
  await s.recording();
  s.session.finish();
  s.session.finish();
  assert.deepEqual([s.phase(), s.around.microphones[0]!.isOpen], ["finishing", false]);
  assert.equal(s.said().filter((m) => m === "end").length, 1);
  await s.hear({ say: "waiting", waiting: { records: 90, ms: 25_000, restMs: 50_000, trouble: "" } });
  assert.equal(savingWords(s.session.view), "slow connection: 0:25 still to send, about 50 s");
  assert.match(adviceWords(s.session.view), /You may close this page/);
  await s.hear({ say: "ended" });
  assert.equal(s.around.endings, 1);
});

test("shut out and refused: the microphone is let go, what is left stays, and one can look again", async () => {
  const whys: [Leftover["why"], Phase][] = [
    ["taken", "shutOut"],
    ["finished", "refused"],
    ["refused", "refused"],
  ];
  for (const [why, phase] of whys) {
    for (const when of ["recording", "paused", "finishing"]) {
      const s = setUp();
      await s.recording();
      if (when === "paused") {
        s.session.pause();
      } else if (when === "finishing") {
        s.session.finish();
      }

      await s.hear({ say: "stopped", why });
      assert.deepEqual([s.phase(), s.session.view.cause, s.around.microphones[0]!.isOpen, s.around.isHeldOn], [phase, why, false, false]);
      assert.notEqual(heldWords(s.session.view), "");
      s.session.finish();
      s.session.pause();
      await s.session.resume();
      s.session.start(0);
      assert.equal(s.phase(), phase);
      s.session.checkAgain();
      await s.checked({ left: [left] });
      assert.deepEqual([s.phase(), s.session.view.left.length], ["ready", 1]);
    }
  }
});

test("what another tab is recording is taken over before it is opened", async () => {
  const s = setUp();
  await s.checked({ elsewhere: ["t1"] });
  await s.session.chooseMicrophone("usb");
  s.session.goOn("t1", 0);
  assert.equal(s.phase(), "checking");
  assert.deepEqual(s.worker().told.at(-1), { say: "check", lesson: "l", takeOver: "t1" });
  await s.hear({ say: "checkFailed", message: "x" });
  await s.pass(1000);
  assert.deepEqual(s.worker().told.at(-1), { say: "check", lesson: "l", takeOver: "t1" });
  assert.deepEqual(s.around.calls, []);
  await s.checked();
  assert.deepEqual([s.phase(), s.around.calls], ["recording", ["reopen t1"]]);
});

test("a browser that keeps no copies, a full disk, no connection and lost sound are said", async () => {
  const s = setUp();
  await s.recording();
  await s.hear({ say: "saved", ms: 61_000 });
  assert.deepEqual([savingWords(s.session.view), adviceWords(s.session.view)], ["", ""]);
  await s.hear({ say: "unkept" });
  assert.match(adviceWords(s.session.view), /keeps no copy/);
  await s.hear({ say: "waiting", waiting: { records: 4, ms: 1000, restMs: null, trouble: "unreachable" } });
  assert.match(savingWords(s.session.view), /no connection: kept in this browser since 1:01/);
  await s.hear({ say: "waiting", waiting: { records: 4, ms: 1000, restMs: null, trouble: "disk" } });
  assert.match(savingWords(s.session.view), /can't write to its disk/);
  await s.hear({ say: "missing", ms: 400 });
  assert.match(adviceWords(s.session.view), /disk is full.* 0.4 s of sound never arrived/);
});

test("what is done on the boards goes to the worker while a take is open, and nowhere else", async () => {
  const s = setUp();
  const event = { e: "away", t: 1 } as const;
  s.session.happened(event);
  await s.recording();
  s.session.happened(event);
  s.session.pause();
  s.session.happened(event);
  s.session.finish();
  s.session.happened(event);
  assert.equal(s.worker().told.filter((m) => m.say === "event").length, 2);
});

test("whatever comes in whatever order, it is never in two minds", async () => {
  // A generator of its own, so that a failure can be repeated from its seed.
  for (let seed = 1; seed <= 300; seed++) {
    let state = seed;
    const random = (n: number): number => ((state = (state * 1_103_515_245 + 12_345) & 0x7fffffff), (state >> 8) % n);
    const s = setUp();
    const deeds: (() => unknown)[] = [
      () => s.session.start(random(2)),
      () => s.session.goOn("t1", 0),
      () => s.session.pause(),
      () => s.session.resume(),
      () => s.session.finish(),
      () => s.session.checkAgain(),
      () => s.session.stopCounting(),
      () => s.session.chooseMicrophone(["usb", "test-voice"][random(2)]!),
      () => s.session.makeTake(left),
      () => s.around.microphones.at(-1)?.lose(random(2) === 0 ? "unplugged" : "muted"),
      () => s.pass([1000, 2000, 4000][random(3)]!),
      () => s.worker().failed(),
      () => (s.around.refuse = random(3) === 0 ? "away" : ""),
      () => s.hear({ say: "checked", sentMs: 0, left: random(2) === 0 ? [left] : [], elsewhere: random(3) === 0 ? ["t1"] : [] }),
      () => s.hear({ say: "checkFailed", message: "x" }),
      () => s.hear({ say: "silent" }),
      () => s.hear({ say: "sentOn", sentMs: 25_000 }),
      () => s.hear({ say: "stopped", why: (["taken", "finished", "refused"] as const)[random(3)]! }),
      () => s.hear({ say: "ended" }),
    ];
    for (let step = 0; step < 60; step++) {
      const before = s.phase();
      const calls = s.around.calls.length;
      await deeds[random(deeds.length)]!();
      await s.settle();
      const where = `seed ${seed}, step ${step}: ${before} → ${s.phase()}`;
      const open = s.around.microphones.filter((m) => m.isOpen);
      assert.ok(open.length <= 1, `${where}: one microphone at most`);
      assert.equal(s.session.view.hasMicrophone, open.length === 1, where);
      if (s.phase() === "recording") {
        assert.equal(open.length, 1, `${where}: recording from a microphone that is open`);
        const gate = s.worker().told.findLast((m) => m.say === "gate" || m.say === "segment");
        assert.ok(gate && (gate.say === "segment" || !gate.paused), `${where}: the gate is open`);
        const ways = ["recording", "counting", "checking", "paused", "interrupted", "ready"];
        assert.ok(ways.includes(before), where);
      }

      if (s.phase() === "finishing") {
        assert.equal(open.length, 0, `${where}: the microphone is let go`);
      }

      if (s.phase() === "paused" || s.phase() === "interrupted") {
        const gate = s.worker().told.findLast((m) => m.say === "gate" || m.say === "segment");
        assert.ok(s.session.view.cause === "worker" || (gate?.say === "gate" && gate.paused), `${where}: the gate is closed`);
      }

      if (before === "checking" && s.phase() === "checking") {
        assert.equal(s.around.calls.length, calls, `${where}: nothing is opened or finished before the check is over`);
      }

      // Nothing is ever recorded into a take that wasn't opened in this worker.
      const said = s.said();
      assert.ok(!said.includes("segment") || said.indexOf("open") < said.indexOf("segment"), where);
    }
  }
});

// --- Retake ---

const at = (ms: number) => ({ segment: 0, sample: ms * 48, ms, stamp: 1000 + ms });
const phrase = (from: number, to: number) => ({ from: at(from), to: at(to) });

/** Recording for ten seconds with three phrases, of which the last has just been said. */
async function spokenThrice() {
  const all = setUp();
  await all.recording();
  all.worker().hear({ say: "recorded", ms: 10_000 });
  const find = (phrases = [phrase(1000, 3000), phrase(4000, 6000), phrase(7000, 9900)], begin: number | null = 0, now = 10_000) =>
    all.worker().hear({ say: "phrases", phrases, begin: begin === null ? null : at(begin), now: at(now), isRough: false });
  const lastTold = () => all.worker().told.at(-1);
  const hearLeadIn = async () => {
    all.worker().hear({ say: "sound", to: all.session.view.retake!.back, pcm: new Int16Array(100) });
    await all.settle();
  };
  const countOut = (seconds: number) => {
    for (let i = 0; i < seconds; i++) {
      all.around.timers.filter((t) => t.ms === 1000 && !t.isOff).at(-1)!.then();
    }
  };
  return { ...all, find, lastTold, hearLeadIn, countOut };
}

test("a retake holds, goes back to the end of the last good phrase, plays its last words, counts, and goes on from there", async () => {
  const { session, around, worker, find, lastTold, hearLeadIn, countOut, phase } = await spokenThrice();
  session.retake(2);
  assert.equal(phase(), "retaking");
  assert.deepEqual(worker().told.slice(-2).map((t) => t.say), ["gate", "phrases"]);
  find();
  assert.deepEqual([session.view.retake?.stage, session.view.retake?.chosen], ["hearing", 1]);
  assert.deepEqual(around.shown, [1000 + 6200]);
  assert.deepEqual(lastTold(), { say: "sound", from: 4000, to: 6200 });
  await hearLeadIn();
  assert.deepEqual([session.view.retake?.stage, session.view.retake?.countdown], ["counting", 2]);
  countOut(2);
  assert.equal(phase(), "recording");
  assert.deepEqual(worker().told.slice(-2), [
    { say: "retake", to: { segment: 0, sample: 6200 * 48 }, stamp: 9000 },
    { say: "gate", paused: false },
  ]);
  assert.deepEqual(around.shown.slice(-1), ["on at 9000"]);
  assert.deepEqual([session.view.liveMs, session.view.branchMs], [6200, 3800]);
});

test("pressed again it goes one phrase further, to the beginning at most, and any phrase can be chosen", async () => {
  const { session, around, find } = await spokenThrice();
  session.retake(3);
  find();
  session.retake(3);
  session.retake(3);
  assert.equal(session.view.retake?.chosen, -1);
  assert.equal(session.view.canGoFarther, false);
  session.retake(3);
  session.chooseRetake(2);
  assert.deepEqual(around.shown, [7200, 4200, 1000, 10_950]);
});

test("what was drawn in a long silence is taken back without the phrase before it", async () => {
  const { session, around, find } = await spokenThrice();
  session.retake(3);
  around.lastDeed = 1000 + 8000;
  find([phrase(1000, 3000), phrase(4000, 6000)]);
  assert.deepEqual(around.shown, [7200]);
});

test("nothing is taken back when the teacher says so, when the microphone goes, or when nobody spoke; then the boards are as they were", async () => {
  for (const end of [
    (all: Awaited<ReturnType<typeof spokenThrice>>) => all.session.keepAll(),
    (all: Awaited<ReturnType<typeof spokenThrice>>) => all.around.microphones.at(-1)!.lose("unplugged"),
    (all: Awaited<ReturnType<typeof spokenThrice>>) => all.session.finish(),
  ]) {
    const all = await spokenThrice();
    all.session.retake(3);
    all.find();
    end(all);
    assert.notEqual(all.phase(), "retaking");
    assert.equal(all.around.shown.at(-1), "present");
    assert.equal(all.session.view.retake, null);
    assert.ok(all.worker().told.every((t) => t.say !== "retake"));
  }

  const { session, find, around, phase } = await spokenThrice();
  session.retake(3);
  find([], null);
  assert.equal(phase(), "paused");
  assert.match(around.faults.at(-1)!, /Nobody spoke/);
});

test("it waits when asked to, and goes on at a press", async () => {
  const { session, around, find, hearLeadIn, phase } = await spokenThrice();
  session.retake(3);
  find();
  await hearLeadIn();
  session.waitWithRetake();
  assert.ok(around.timers.filter((t) => t.ms === 1000).every((t) => t.isOff));
  assert.equal(session.view.retake?.stage, "waiting");
  session.goOnRetaking();
  assert.equal(phase(), "recording");
});

test("what was taken back can be put back at once: then what was said since is what is taken back", async () => {
  const { session, worker, find, hearLeadIn } = await spokenThrice();
  session.retake(0);
  find();
  await hearLeadIn();
  worker().hear({ say: "recorded", ms: 13_000 });
  assert.equal(session.view.liveMs, 9200);

  session.putBack(0);
  find([phrase(1000, 3000), phrase(4000, 6000), phrase(7000, 9900), phrase(10_200, 12_900)], 0, 13_000);
  assert.deepEqual(session.view.retake?.bars.map((b) => b.from.ms), [1000, 4000, 10_200]);
  await hearLeadIn();
  assert.deepEqual(worker().told.at(-2), { say: "retake", to: { segment: 0, sample: 480_000 }, stamp: 9000 });
  assert.deepEqual([session.view.liveMs, session.view.branchMs], [10_000, 3000]);
});

test("words just before and after a retake that are heard as one are told apart", () => {
  const bars = barsOf([phrase(1000, 3000), phrase(4000, 9000)], [{ from: 3200, to: 6000 }], at(9500));
  assert.deepEqual(bars.map((b) => [b.from.ms, b.to.ms, b.back.ms]), [[1000, 3000, 3200], [6000, 9000, 9200]]);
});

test("a sound check gathers without recording, and ends when it is stopped, when sound stays away, or when a take begins", async () => {
  const all = setUp();
  const { session, around, worker, settle } = all;
  await all.ready();
  const endings: string[] = [];
  const gather = () => void session.gather(480).then((pcm) => endings.push(`${pcm.length}`), (e: Error) => endings.push(e.message));
  gather();
  assert.deepEqual(worker().told.slice(-2).map((t) => t.say), ["gather", "listen"]);
  await all.hear({ say: "gathered", pcm: new Int16Array(480) });
  gather();
  session.stopGathering();
  gather();
  await all.hear({ say: "silent" });
  gather();
  session.start(3);
  await settle();
  assert.deepEqual(endings.map((e) => e.slice(0, 12)), ["480", "The sound ch", "No sound arr", "The sound ch"]);
  assert.equal(around.faults.length, 0);
});

test("the last words of a place that isn't chosen any more are not played", async () => {
  const { session, around, worker, find, settle } = await spokenThrice();
  session.retake(3);
  find();
  const first = session.view.retake!.back;
  session.retake(3);
  worker().hear({ say: "sound", to: first, pcm: new Int16Array(100) });
  await settle();
  assert.deepEqual(around.played.filter((length) => length > 0), []);
  assert.equal(session.view.retake?.stage, "hearing");
});
