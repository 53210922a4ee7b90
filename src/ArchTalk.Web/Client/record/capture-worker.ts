// Writes the journal of a take, away from the page, so that a busy page neither loses sound nor stamps it late. Sound comes
// straight from the audio thread; what is done on the boards comes from the page.

import type { BoardEvent } from "../journal/events";
import type { Block } from "./capture-block";
import type { FromWorker, OpenTake, SegmentStart, ToWorker } from "./messages";
import { type Anchor, anchorsPayload, audioPayload, encodeRecord, eventsPayload, Kind, pointPayload, segmentPayload } from "../journal/record";
import { readTrack } from "./track-reader";
import { RecordStore } from "../journal/store";
import { Uploader } from "../journal/uploader";

const samplesPerMs = 48;
const chunkSamples = 12_000; // 250 ms
const anchorEveryMs = 100;
const levelEveryMs = 60;

const say = (message: FromWorker) => self.postMessage(message);
const lockName = (take: string) => `archtalk-take-${take}`;

class Writer {
  private segment = -1;
  private chunk: Int16Array[] = [];
  private chunkStart = 0;
  private chunkLength = 0;
  private anchors: Anchor[] = [];
  private best: Anchor | null = null;
  private bestUntil = 0;
  private events: BoardEvent[] = [];
  private recorded: number;
  private levelAt = 0;
  private peak = 0;
  private writing: Promise<void> = Promise.resolve();
  private closed = false;
  private received = 0;
  private paused = false;

  constructor(
    private readonly take: OpenTake,
    private readonly pageOrigin: number,
    private readonly store: RecordStore,
    private readonly uploader: Uploader,
    private next: number,
  ) {
    this.recorded = take.savedMs * samplesPerMs;
    setInterval(() => this.flushEvents(), 250);
  }

  begin(start: SegmentStart): void {
    this.flush();
    this.segment = start.segment;
    this.received = 0;
    this.paused = false;
    this.best = null;
    this.write(Kind.segment, segmentPayload(start));
  }

  hear(block: Block): void {
    // In the page's own time, since pen events are stamped in it. The sample after the block can't have arrived earlier.
    const now = performance.timeOrigin - this.pageOrigin + performance.now();
    this.observe({ sample: block.end, ms: now });
    this.measure(block, now);
    this.received = block.end;
    if (this.paused || block.pcm.length === 0) {
      return;
    }

    const first = block.end - block.pcm.length;
    if (this.chunkLength > 0 && first !== this.chunkStart + this.chunkLength) {
      this.flush();
    }

    if (this.chunkLength === 0) {
      this.chunkStart = first;
    }

    this.chunk.push(block.pcm);
    this.chunkLength += block.pcm.length;
    this.recorded += block.pcm.length;
    if (this.chunkLength >= chunkSamples) {
      this.flush();
    }
  }

  /** While paused sound goes on being counted, so that nothing after it shifts; it is only not kept. */
  gate(paused: boolean): void {
    if (paused !== this.paused) {
      this.flush();
      this.write(paused ? Kind.pause : Kind.resume, pointPayload(this.segment, this.received));
      this.paused = paused;
    }
  }

  happened(event: BoardEvent): void {
    this.events.push(event);
  }

  async end(): Promise<void> {
    this.flush();
    this.write(Kind.end, new Uint8Array());
    this.closed = true;
    await this.writing;
    await this.uploader.drained();
  }

  // Of the arrivals within a tenth of a second the least late one says the most.
  private observe(anchor: Anchor): void {
    const lateness = (a: Anchor) => a.ms - a.sample / samplesPerMs;
    if (this.best === null || anchor.ms >= this.bestUntil) {
      if (this.best) {
        this.anchors.push(this.best);
      }

      this.best = anchor;
      this.bestUntil = anchor.ms + anchorEveryMs;
    } else if (lateness(anchor) < lateness(this.best)) {
      this.best = anchor;
    }
  }

  private measure(block: Block, now: number): void {
    this.peak = Math.max(this.peak, block.peak);
    if (now - this.levelAt >= levelEveryMs) {
      say({ say: "level", peak: this.peak, rms: block.rms });
      say({ say: "recorded", ms: this.recorded / samplesPerMs });
      this.levelAt = now;
      this.peak = 0;
    }
  }

  private flush(): void {
    if (this.segment < 0) {
      return;
    }

    if (this.chunkLength > 0) {
      const samples = new Int16Array(this.chunkLength);
      let at = 0;
      for (const part of this.chunk) {
        samples.set(part, at);
        at += part.length;
      }

      this.write(Kind.audio, audioPayload(this.segment, this.chunkStart, samples));
      this.chunk = [];
      this.chunkLength = 0;
    }

    const anchors = this.best ? [...this.anchors, this.best] : this.anchors;
    if (anchors.length > 0) {
      this.write(Kind.anchors, anchorsPayload(this.segment, anchors));
      this.anchors = [];
      this.best = null;
    }

    this.flushEvents();
  }

  private flushEvents(): void {
    if (this.events.length > 0 && this.segment >= 0) {
      this.write(Kind.events, eventsPayload(this.segment, this.events.splice(0)));
    }
  }

  private write(kind: number, payload: Uint8Array): void {
    if (this.closed) {
      return;
    }

    const sequence = this.next++;
    const bytes = encodeRecord(kind, this.take.epoch, sequence, payload);

    // Kept in the browser first; if it can't be (no room, private window), the server is still told.
    this.writing = this.writing
      .then(() => this.store.add(this.take.take, sequence, bytes).catch(() => undefined))
      .then(() => this.uploader.add(sequence, bytes));
  }
}

let writer: Writer | null = null;
const storeReady = RecordStore.open();

function newUploader(take: { take: string; token: string; epoch: number }, store: RecordStore): Uploader {
  return new Uploader(take, store, {
    saved: (ms) => say({ say: "saved", ms }),
    waiting: (records, reachable) => say({ say: "waiting", records, reachable }),
    fenced: () => say({ say: "fenced" }),
    refused: (message) => say({ say: "refused", message }),
  });
}

/** Sends what earlier tabs left behind for a lesson, unless such a tab is still recording. */
async function check(lesson: string): Promise<void> {
  const store = await storeReady;
  let sent = 0;
  for (const kept of (await store.takes()).filter((t) => t.lesson === lesson)) {
    await navigator.locks.request(lockName(kept.take), { ifAvailable: true }, async (lock) => {
      if (!lock) {
        say({ say: "elsewhere" });
        return;
      }

      sent += await sendRest(store, kept.take, kept.token);
    });
  }

  say({ say: "checked", sent });
}

async function sendRest(store: RecordStore, take: string, token: string): Promise<number> {
  const answer = await fetch(`/api/takes/${take}/epochs`, { method: "POST", headers: { "X-Take-Token": token } }).catch(() => null);
  if (answer === null) {
    return 0;
  }

  if (!answer.ok) {
    // Another tab has taken the take over since, with a token of its own; these records are no longer part of it.
    if (answer.status === 401) {
      await store.forgetTake(take);
    }

    return 0;
  }

  const opened = (await answer.json()) as OpenTake;
  const rest = await store.rest(take, opened.next);
  const uploader = newUploader(opened, store);
  rest.forEach((record) => uploader.add(record.sequence, record.bytes));
  await uploader.drained();
  if ((await store.rest(take, 0)).every((r) => r.sequence < opened.next)) {
    await store.forgetTake(take);
  }

  return rest.length;
}

async function open(lesson: string, take: OpenTake, pageOrigin: number): Promise<void> {
  const store = await storeReady;
  await store.addTake({ take: take.take, lesson, token: take.token });
  void navigator.locks.request(lockName(take.take), { steal: true }, () => new Promise<void>(() => undefined)).catch(() => undefined);
  writer = new Writer(take, pageOrigin, store, newUploader(take, store), take.next);
}

// What is told after "open" waits until the take is open.
let opened: Promise<void> = Promise.resolve();

async function handle(told: ToWorker): Promise<void> {
  await opened;
  switch (told.say) {
    case "listen":
      told.port.onmessage = (block: MessageEvent<Block>) => writer?.hear(block.data);
      break;
    case "read":
      void readTrack(told.frames, (block) => writer?.hear(block));
      break;
    case "gate":
      writer?.gate(told.paused);
      break;
    case "segment":
      writer?.begin(told.start);
      break;
    case "event":
      writer?.happened(told.event);
      break;
    case "end":
      await writer?.end();
      say({ say: "ended" });
      break;
  }
}

self.onmessage = (message: MessageEvent<ToWorker>) => {
  const told = message.data;
  if (told.say === "check") {
    void check(told.lesson);
  } else if (told.say === "open") {
    opened = open(told.lesson, told.take, told.pageOrigin);
  } else {
    void handle(told);
  }
};
