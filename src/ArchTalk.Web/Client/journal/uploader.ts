// Sends records in order, again and again until the server has acknowledged them.

import { Backoff } from "../shared/backoff";
import { encodeRecord, Kind, lostPayload, samplesIn, samplesPerMs } from "./record";
import type { Keeper, KeptRecord } from "./keeper";

export interface UploadTarget {
  take: string;
  token: string;
  epoch: number;
}

/** What is still to be sent. */
export interface Waiting {
  records: number;
  /** Of sound, in ms. */
  ms: number;
  /** How long it will take at the speed of late, in ms; null while that isn't known. */
  restMs: number | null;
  /** Why nothing is being saved at the moment. */
  trouble: "" | "unreachable" | "disk";
}

/** Why the server takes no more of this writer's records. What is left of them stays in the keeper. */
export type Refusal = "taken" | "finished" | "refused";

export interface UploadNews {
  /** Everything up to this many ms of sound is on the server's disk. */
  saved(ms: number): void;
  waiting(waiting: Waiting): void;
  stopped(why: Refusal): void;
}

export interface Answer {
  problem: string;
  next: number;
  savedMs: number;
}

/** The line to the server. Rejects when no answer came within the time given, or none that can be read. */
export interface Line {
  send(target: UploadTarget, body: Uint8Array<ArrayBuffer>[], withinMs: number): Promise<Answer>;
}

/** Time, so that tests need not wait. */
export interface Pauses {
  now(): number;
  pause(ms: number): Promise<void>;
}

/** The server's limit for one record and the rest of a batch is above this. */
const mostBytes = 1 << 20;
const fewestBytes = 16 << 10;
const answerWithinMs = 15_000;
const longestWaitMs = 120_000;

/** What waits in memory, in bytes; an hour without a network is 350 MB, and those lie in the keeper. */
const mostHeld = 16 << 20;

interface Waits {
  sequence: number;
  size: number;
  samples: number;
  /** Null when only the keeper has it. */
  bytes: Uint8Array<ArrayBuffer> | null;
}

export class Uploader {
  private queue: Waits[] = [];
  private held = 0;
  private busy = false;
  private why: Refusal | null = null;
  private idle: (() => void)[] = [];
  private batchBytes = 256 << 10;
  private within = answerWithinMs;
  private bytesPerMs = 0;
  private told: Waiting["trouble"] = "";
  private readonly backoff = new Backoff(500, 5000);

  constructor(
    readonly target: UploadTarget,
    private readonly keeper: Keeper,
    private readonly line: Line,
    private readonly clock: Pauses,
    private readonly news: UploadNews,
  ) {}

  /** Why the server takes no more; null while it does. */
  get refusal(): Refusal | null {
    return this.why;
  }

  /** Why nothing is being saved at the moment. */
  get trouble(): Waiting["trouble"] {
    return this.told;
  }

  add(record: KeptRecord): void {
    this.queue.push(this.waits(record));
    void this.pump();
  }

  /** Sends no more; what waits stays in the keeper. */
  stop(): void {
    this.why ??= "taken";
  }

  /** Resolves when nothing is left to send, or nothing can be sent any more. */
  drained(): Promise<void> {
    return this.why || (this.queue.length === 0 && !this.busy) ? Promise.resolve() : new Promise((done) => this.idle.push(done));
  }

  private async pump(): Promise<void> {
    if (this.busy) {
      return;
    }

    this.busy = true;
    while (this.queue.length > 0 && !this.why) {
      const batch = await this.batch();
      if (batch.length === 0) {
        continue;
      }

      const begun = this.clock.now();
      try {
        const answer = await this.line.send(this.target, batch.map((r) => r.bytes), this.within);
        await this.handle(answer, batch, this.clock.now() - begun);
      } catch {
        this.shrink(batch, this.clock.now() - begun);
        this.tell("unreachable");
        await this.clock.pause(this.backoff.next());
      }
    }

    this.busy = false;
    this.idle.splice(0).forEach((done) => done());
  }

  private waits({ sequence, bytes }: KeptRecord): Waits {
    const isHeld = this.held + bytes.length <= mostHeld;
    this.held += isHeld ? bytes.length : 0;
    return { sequence, size: bytes.length, samples: samplesIn(bytes), bytes: isHeld ? bytes : null };
  }

  /** The next records; empty when the first of them is not in this browser any more. */
  private async batch(): Promise<KeptRecord[]> {
    let size = 0;
    const beyond = this.queue.findIndex((record, i) => (size += record.size) > this.batchBytes && i > 0);
    const batch: KeptRecord[] = [];
    for (const { sequence, bytes } of this.queue.slice(0, beyond < 0 ? this.queue.length : beyond)) {
      const found = bytes ?? (await this.keeper.get(this.target.take, this.target.epoch, sequence));
      if (!found) {
        // The browser threw it away: the server will say what it lacks.
        this.drop(batch.length, 1);
        break;
      }

      batch.push({ sequence, bytes: found });
    }

    return batch;
  }

  private drop(from: number, count: number): void {
    for (const { bytes } of this.queue.splice(from, count)) {
      this.held -= bytes?.length ?? 0;
    }
  }

  // A batch is as large as the line is fast. A record that is too slow by itself is waited for longer.
  private shrink(batch: KeptRecord[], tookMs: number): void {
    if (tookMs < this.within * 0.9) {
      return;
    }

    this.batchBytes = Math.max(fewestBytes, this.batchBytes / 2);
    if (batch.length === 1) {
      this.within = Math.min(this.within * 2, longestWaitMs);
    }
  }

  private grow(bytes: number, tookMs: number): void {
    if (bytes > this.batchBytes / 2 && tookMs < answerWithinMs / 4) {
      this.batchBytes = Math.min(mostBytes, this.batchBytes * 2);
    }

    this.within = answerWithinMs;
    const speed = bytes / Math.max(1, tookMs);
    this.bytesPerMs = this.bytesPerMs === 0 ? speed : 0.7 * this.bytesPerMs + 0.3 * speed;
  }

  private async handle(answer: Answer, batch: KeptRecord[], tookMs: number): Promise<void> {
    switch (answer.problem) {
      case "saved":
        // The server has compared the checksum of each: all of the batch is on its disk.
        this.drop(0, batch.length);
        this.backoff.reset();
        this.grow(batch.reduce((sum, r) => sum + r.bytes.length, 0), tookMs);
        await this.keeper.forget(this.target.take, this.target.epoch, batch.at(-1)!.sequence);
        this.news.saved(answer.savedMs);
        this.tell("");
        break;
      case "gap":
        await this.fillGap(answer.next);
        break;
      case "disk":
        this.tell("disk");
        await this.clock.pause(this.backoff.next());
        break;
      default:
        this.why = refusals[answer.problem] ?? "refused";
        this.news.stopped(this.why);
    }
  }

  // What the server lacks is taken from the keeper; if the browser threw it away, that is said, and the take goes on.
  private async fillGap(next: number): Promise<void> {
    const { take, epoch } = this.target;
    const first = this.queue[0]!.sequence;
    const kept = (await this.keeper.rest(take, epoch, next)).filter((r) => r.sequence < first);
    const missing = kept[0]?.sequence ?? first;
    if (missing > next) {
      const lostTo = missing - 1;
      kept.unshift({ sequence: lostTo, bytes: encodeRecord(Kind.lost, epoch, lostTo, lostPayload(next)) });
    }

    this.queue = [...kept.map((record) => this.waits(record)), ...this.queue];
  }

  private tell(trouble: Waiting["trouble"]): void {
    this.told = trouble;
    const bytes = this.queue.reduce((sum, r) => sum + r.size, 0);
    const samples = this.queue.reduce((sum, r) => sum + r.samples, 0);
    const restMs = this.bytesPerMs > 0 ? bytes / this.bytesPerMs : null;
    this.news.waiting({ records: this.queue.length, ms: samples / samplesPerMs, restMs, trouble });
  }
}

const refusals: Record<string, Refusal> = { fenced: "taken", wrongtoken: "taken", ended: "finished" };

/** The line as browsers have it. */
export const networkLine: Line = {
  async send(target, body, withinMs) {
    const response = await fetch(`/api/takes/${target.take}/records`, {
      method: "POST",
      headers: { "Content-Type": "application/octet-stream", "X-Take-Token": target.token },
      body: new Blob(body),
      signal: AbortSignal.timeout(withinMs),
    });
    const answer = (await response.json()) as Partial<Answer>;
    if (answer.problem === undefined) {
      throw new Error(`The server answered ${response.status}.`);
    }

    return answer as Answer;
  },
};

export const realPauses: Pauses = {
  now: () => performance.now(),
  pause: (ms) => new Promise((later) => setTimeout(later, ms)),
};
