// Writes the journal of a take, away from the page, so that a busy page neither loses sound nor stamps it late. Sound comes
// straight from the audio thread; what is done on the boards comes from the page.

import { DiskKeeper, type Keeper, type KeptWriter, SafeKeeper } from "../journal/keeper";
import { networkLine, realPauses, type Refusal, Uploader, type UploadTarget } from "../journal/uploader";
import { Intake, type SoundBlock } from "./intake";
import { leftoverOf, renamed, toWav } from "./leftovers";
import { type FromWorker, type HeardPhrase, isSameWriter, keyOf, type Leftover, type OpenTake, type ToWorker, type WriterKey } from "./messages";
import { readTrack } from "./track-reader";
import { Writer } from "./writer";

const flushEveryMs = 250;

/** Sound that stays away for this many looks in a row has stopped. A worker that stood still finds it waiting at the first. */
const silentAfter = 5;

/** How long another tab may take to let go of a take. */
const answerWithinMs = 3000;

/** Sound comes about once in 10 ms; in a look of this length more than so many blocks had been waiting. */
const lookMs = 30;
const soundPerLook = 6;
const mostLooks = 100;

/** A teacher who wants to go back doesn't wait longer than this for the server; then the level alone says where phrases end. */
const phrasesWithinMs = 1000;

/** A browser database that doesn't open in this time is held by something else. */
const openWithinMs = 10_000;

const say = (message: FromWorker, transfer: Transferable[] = []) => self.postMessage(message, { transfer });
const lockName = (take: string) => `archtalk-take-${take}`;

/** Over plain HTTP browsers give none; then the server alone tells writers apart. */
const locks: LockManager | undefined = navigator.locks;

const keeper: Promise<Keeper> = Promise.race([DiskKeeper.open(), realPauses.pause(openWithinMs).then(() => null)])
  .catch(() => null)
  .then((disk) => new SafeKeeper(disk, () => say({ say: "unkept" })));

/** The take that is being recorded here. */
let recording: { writer: Writer; uploader: Uploader; key: WriterKey; giveBack: () => void } | null = null;

/** Where sound comes from at present, how much of it came since the last look, and whether it should. */
let source: { intake: Intake; heard: number } | null = null;
let looksWithoutSound = 0;

/** What is heard for the sound check. */
let gathering: { pcm: Int16Array<ArrayBuffer>; filled: number } | null = null;
let waitsForSound = false;

/** Tabs of this browser ask each other for takes. */
const tabs = new BroadcastChannel("archtalk-takes");
tabs.onmessage = (asked: MessageEvent<string>) => {
  if (recording?.key.take === asked.data) {
    void giveAway();
  }
};

function newUploader(target: UploadTarget, kept: Keeper, stopped: (why: Refusal) => void = () => undefined): Uploader {
  return new Uploader(target, kept, networkLine, realPauses, {
    saved: (ms) => say({ say: "saved", ms }),
    waiting: (waiting) => say({ say: "waiting", waiting }),
    stopped,
  });
}

// --- What earlier tabs left ---

async function check(lesson: string, takeOver: string | null): Promise<void> {
  const kept = await keeper;
  const left: Leftover[] = [];
  const elsewhere = new Set<string>();
  let sentMs = 0;
  for (const writer of (await kept.writers()).filter((w) => w.lesson === lesson)) {
    const send = async (isFree: boolean): Promise<void> => {
      if (!isFree) {
        elsewhere.add(writer.take);
        return;
      }

      const found = await sendRest(kept, writer);
      sentMs += found.sentMs;
      left.push(...found.left);
    };
    await (writer.take === takeOver ? takenOver(writer.take, send) : ifFree(writer.take, send));
  }

  say({ say: "checked", sentMs, left, elsewhere: [...elsewhere] });
}

async function ifFree(take: string, work: (isFree: boolean) => Promise<void>): Promise<void> {
  if (!locks) {
    await work(true);
    return;
  }

  await locks.request(lockName(take), { ifAvailable: true }, (lock) => work(lock !== null));
}

// The other tab writes what it has and lets go; if it doesn't answer, the take is taken from it.
async function takenOver(take: string, work: (isFree: boolean) => Promise<void>): Promise<void> {
  tabs.postMessage(take);
  if (!locks) {
    await realPauses.pause(answerWithinMs);
    await work(true);
    return;
  }

  let begun = false;
  const begin = (): Promise<void> => {
    begun = true;
    return work(true);
  };
  try {
    await locks.request(lockName(take), { signal: AbortSignal.timeout(answerWithinMs) }, begin);
  } catch (error) {
    if (begun) {
      throw error;
    }

    await locks.request(lockName(take), { steal: true }, begin);
  }
}

// Under the writer's own name: whoever has taken the take over since is not written between.
async function sendRest(kept: Keeper, writer: KeptWriter): Promise<{ sentMs: number; left: Leftover[] }> {
  const before = (await leftoverOf(kept, writer, "refused"))?.ms ?? 0;
  const uploader = newUploader(writer, kept);
  (await kept.rest(writer.take, writer.epoch)).forEach((record) => uploader.add(record));
  await uploader.drained();
  const left = await leftoverOf(kept, writer, uploader.refusal ?? "refused");
  if (!left) {
    await kept.forgetWriter(writer.take, writer.epoch);
  }

  return { sentMs: before - (left?.ms ?? 0), left: left ? [left] : [] };
}

async function sendOn(key: WriterKey, lesson: string, into: OpenTake, isNewTake: boolean): Promise<void> {
  const kept = await keeper;
  const writer = await writerOf(kept, key);
  const next: KeptWriter = { take: into.take, epoch: into.epoch, lesson, token: into.token, startedAt: writer.startedAt, segments: writer.segments };
  await kept.putWriter(next);
  const rest = await kept.rest(key.take, key.epoch);
  const unsent = isNewTake ? rest : rest.filter((r) => r.sequence >= into.next);
  for (const record of renamed(unsent, writer, into, isNewTake)) {
    await kept.add(into.take, into.epoch, record.sequence, record.bytes);
  }

  // From here on it is kept under its new name.
  await kept.forgetWriter(key.take, key.epoch);
  const { sentMs } = await sendRest(kept, next);
  say({ say: "sentOn", sentMs });
}

async function writerOf(kept: Keeper, key: WriterKey): Promise<KeptWriter> {
  const known = (await kept.writers()).find((w) => isSameWriter(w, key));
  return known ?? { ...key, lesson: "", token: "", startedAt: Date.now(), segments: [] };
}

async function wav(key: WriterKey): Promise<void> {
  const made = toWav(await (await keeper).rest(key.take, key.epoch));
  say({ say: "wav", wav: made, key }, [made]);
}

// --- Recording ---

async function open(lesson: string, take: OpenTake, pageOrigin: number): Promise<void> {
  const kept = await keeper;
  const key = keyOf(take);
  const keptWriter: KeptWriter = { ...key, lesson, token: take.token, startedAt: Date.now(), segments: [] };
  await kept.putWriter(keptWriter);
  const uploader = newUploader(take, kept, (why) => {
    say({ say: "stopped", why });
    void leave();
  });
  const clock = { now: () => performance.timeOrigin - pageOrigin + performance.now() };
  const writer = new Writer(take, keptWriter, kept, uploader, clock, {
    level: (peak, rms) => say({ say: "level", peak, rms }),
    recorded: (ms) => say({ say: "recorded", ms }),
    missing: (ms) => say({ say: "missing", ms }),
  });
  recording = { writer, uploader, key, giveBack: () => undefined };
  hold(take.take);
}

// As long as it is held, other tabs know that the take is being recorded here.
function hold(take: string): void {
  const held = new Promise<void>((giveBack) => (recording!.giveBack = giveBack));
  locks?.request(lockName(take), { steal: true }, () => held).catch((error: unknown) => {
    const isStolen = error instanceof DOMException && error.name === "AbortError";
    if (isStolen && recording?.key.take === take) {
      void giveAway();
    }
  });
}

/** Another tab goes on with the take. */
async function giveAway(): Promise<void> {
  say({ say: "stopped", why: "taken" });
  await leave();
}

/** What is at hand is kept, and nothing more is written to the take. */
async function leave(): Promise<void> {
  const left = recording;
  recording = null;
  waitsForSound = false;
  left?.uploader.stop();
  await left?.writer.close();
  left?.giveBack();
}

async function end(): Promise<void> {
  const ending = recording;
  waitsForSound = false;
  if (!ending) {
    return;
  }

  await ending.writer.end();
  await ending.uploader.drained();
  if (!ending.uploader.refusal && recording === ending) {
    await (await keeper).forgetWriter(ending.key.take, ending.key.epoch);
    recording = null;
    ending.giveBack();
    say({ say: "ended" });
  }
}

/** Where somebody spoke of late: as the server hears it, and by the level alone when it can't be asked. */
async function tellPhrases(begunAt: number): Promise<void> {
  const { recent } = recording!.writer;
  const heard = await Promise.race([heardPhrases(), realPauses.pause(phrasesWithinMs).then(() => null)]).catch(() => null);
  const phrases = heard ? recent.known(heard) : recent.rough();
  say({ say: "phrases", phrases, begin: recent.pointAt(begunAt), now: recent.now, isRough: heard === null });
}

async function heardPhrases(): Promise<HeardPhrase[] | null> {
  const { writer, uploader, key } = recording!;
  await writer.written();
  if (uploader.trouble) {
    return null;
  }

  await uploader.drained();
  const token = uploader.target.token;
  const answer = await fetch(`/api/takes/${key.take}/phrases`, { headers: { "X-Take-Token": token }, signal: AbortSignal.timeout(phrasesWithinMs) });
  return answer.ok ? ((await answer.json()) as HeardPhrase[]) : null;
}

/** Sound that waits for a worker that stood still comes all at once; it belongs before what was pressed since. */
async function caughtUp(): Promise<void> {
  for (let looks = 0; looks < mostLooks; looks++) {
    const before = source?.heard ?? 0;
    await realPauses.pause(lookMs);
    if ((source?.heard ?? 0) - before <= soundPerLook) {
      return;
    }
  }
}

/** From now on sound is heard from here, counted from its beginning; what still comes from elsewhere isn't, and is told so. */
function beginSound(): (block: SoundBlock) => boolean {
  const begun = { intake: new Intake(), heard: 0 };
  source = begun;
  looksWithoutSound = 0;
  waitsForSound = true;
  return (block) => {
    if (source !== begun) {
      return false;
    }

    begun.heard++;
    looksWithoutSound = 0;
    const piece = begun.intake.take(block);
    if (gathering) {
      gather(gathering, piece.pcm);
    } else {
      recording?.writer.hear(piece);
    }

    return true;
  };
}

// Sound that is heard for the sound check and not recorded.
function gather(into: { pcm: Int16Array<ArrayBuffer>; filled: number }, pcm: Int16Array): void {
  const part = pcm.subarray(0, into.pcm.length - into.filled);
  into.pcm.set(part, into.filled);
  into.filled += part.length;
  if (into.filled === into.pcm.length) {
    endGathering();
    say({ say: "gathered", pcm: into.pcm }, [into.pcm.buffer]);
  }
}

function endGathering(): void {
  gathering = null;
  source = null;
  waitsForSound = false;
}

setInterval(() => {
  recording?.writer.flushEvents();
  if (waitsForSound && ++looksWithoutSound === silentAfter) {
    say({ say: "silent" });
  }
}, flushEveryMs);

function fail(error: unknown): void {
  say({ say: "failed", message: error instanceof Error ? error.message : String(error) });
}

async function handle(told: ToWorker): Promise<void> {
  switch (told.say) {
    case "check":
      await check(told.lesson, told.takeOver);
      break;
    case "open":
      await open(told.lesson, told.take, told.pageOrigin);
      break;
    case "listen": {
      const hear = beginSound();
      told.port.onmessage = (block: MessageEvent<SoundBlock>) => hear(block.data);
      break;
    }
    case "read":
      void readTrack(told.frames, beginSound()).catch(fail);
      break;
    case "gate":
      await caughtUp();
      waitsForSound = !told.paused;
      looksWithoutSound = 0;
      recording?.writer.gate(told.paused);
      break;
    case "gather":
      if (told.samples > 0) {
        gathering = { pcm: new Int16Array(told.samples), filled: 0 };
      } else if (gathering) {
        endGathering();
      }

      break;
    case "segment":
      // What still comes from the microphone before is none of it.
      source = null;
      recording?.writer.begin(told.start);
      break;
    case "event":
      recording?.writer.happened(told.event);
      break;
    case "phrases":
      if (recording) {
        await tellPhrases(told.begunAt);
      }

      break;
    case "sound": {
      const pcm = recording?.writer.recent.sound(told.from, told.to) ?? new Int16Array();
      say({ say: "sound", to: told.to, pcm }, [pcm.buffer]);
      break;
    }
    case "retake":
      recording?.writer.retake(told.to, told.stamp);
      break;
    case "end":
      await caughtUp();
      void end().catch(fail);
      break;
    case "leave":
      await leave();
      break;
    case "sendOn":
      await sendOn(told.key, told.lesson, told.into, told.isNewTake);
      break;
    case "wav":
      await wav(told.key);
      break;
    case "discard":
      await (await keeper).forgetWriter(told.key.take, told.key.epoch);
      break;
    case "ping":
      say({ say: "pong" });
      break;
  }
}

// One after another, since "segment" needs the take that "open" opens.
let turn: Promise<void> = Promise.resolve();
self.onmessage = (message: MessageEvent<ToWorker>) => {
  const told = message.data;
  if (told.say === "ping") {
    void handle(told);
    return;
  }

  turn = turn.then(() => handle(told)).catch((error: unknown) => {
    if (told.say === "check" || told.say === "sendOn") {
      say({ say: "checkFailed", message: error instanceof Error ? error.message : String(error) });
    } else {
      fail(error);
    }
  });
};
