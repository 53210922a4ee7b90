// Sends records in order, again and again until the server has acknowledged them.

import { encodeRecord, Kind, lostPayload } from "./record";
import type { RecordStore } from "./store";

export interface UploadTarget {
  take: string;
  token: string;
  epoch: number;
}

export interface UploadNews {
  /** Everything up to this many ms of sound is on the server's disk. */
  saved(ms: number): void;
  /** How many records wait, and whether the server can be reached. */
  waiting(records: number, reachable: boolean): void;
  /** Another tab writes this take now. */
  fenced(): void;
  /** The server refuses; nothing more can be sent. What is kept here stays. */
  refused(message: string): void;
}

interface Answer {
  problem: string;
  next: number;
  savedMs: number;
}

const mostBytes = 1 << 20;
const answerWithin = 15_000;
const retryAfter = 1000;

export class Uploader {
  private queue: { sequence: number; bytes: Uint8Array<ArrayBuffer> }[] = [];
  private busy = false;
  private stopped = false;
  private idle: (() => void)[] = [];

  constructor(
    private readonly target: UploadTarget,
    private readonly store: RecordStore,
    private readonly news: UploadNews,
  ) {}

  add(sequence: number, bytes: Uint8Array<ArrayBuffer>): void {
    this.queue.push({ sequence, bytes });
    void this.pump();
  }

  /** Resolves when nothing is left to send (or nothing can be sent any more). */
  drained(): Promise<void> {
    return this.stopped || (this.queue.length === 0 && !this.busy) ? Promise.resolve() : new Promise((done) => this.idle.push(done));
  }

  private async pump(): Promise<void> {
    if (this.busy) {
      return;
    }

    this.busy = true;
    while (this.queue.length > 0 && !this.stopped) {
      try {
        await this.handle(await this.send(this.batch()));
      } catch {
        this.news.waiting(this.queue.length, false);
        await new Promise((later) => setTimeout(later, retryAfter));
      }
    }

    this.busy = false;
    this.idle.splice(0).forEach((done) => done());
  }

  private batch(): Uint8Array<ArrayBuffer>[] {
    const batch: Uint8Array<ArrayBuffer>[] = [];
    let size = 0;
    for (const record of this.queue) {
      size += record.bytes.length;
      if (size > mostBytes && batch.length > 0) {
        break;
      }

      batch.push(record.bytes);
    }

    return batch;
  }

  private async send(batch: Uint8Array<ArrayBuffer>[]): Promise<{ status: number; answer: Answer }> {
    const response = await fetch(`/api/takes/${this.target.take}/records`, {
      method: "POST",
      headers: {
        "Content-Type": "application/octet-stream",
        "X-Take-Token": this.target.token,
        "X-Take-Epoch": String(this.target.epoch),
      },
      body: new Blob(batch),
      signal: AbortSignal.timeout(answerWithin),
    });
    if (response.status >= 500) {
      throw new Error(`The server answered ${response.status}.`);
    }

    return { status: response.status, answer: (await response.json()) as Answer };
  }

  private async handle({ answer }: { status: number; answer: Answer }): Promise<void> {
    switch (answer.problem) {
      case "saved":
        this.queue = this.queue.filter((r) => r.sequence >= answer.next);
        await this.store.forgetBefore(this.target.take, answer.next);
        this.news.saved(answer.savedMs);
        this.news.waiting(this.queue.length, true);
        break;
      case "gap":
        await this.fillGap(answer.next);
        break;
      case "fenced":
      case "wrongtoken":
        this.stopped = true;
        this.news.fenced();
        break;
      default:
        this.stopped = true;
        this.news.refused(refusals[answer.problem] ?? "The server can't take in this recording. What it has of it is kept; finish the take and start another.");
    }
  }

  // What the server lacks is taken from the store; if the browser threw it away, that is said, and the take goes on.
  private async fillGap(next: number): Promise<void> {
    const first = this.queue[0]?.sequence ?? next;
    const kept = (await this.store.rest(this.target.take, next)).filter((r) => r.sequence < first);
    if (kept[0]?.sequence !== next) {
      const lostTo = (kept[0]?.sequence ?? first) - 1;
      kept.unshift({ sequence: lostTo, bytes: encodeRecord(Kind.lost, this.target.epoch, lostTo, lostPayload(next)) });
    }

    this.queue = [...kept, ...this.queue];
  }
}

const refusals: Record<string, string> = {
  conflict: "The server has something else under the same number. What it has of this take is kept; finish the take and start another.",
  ended: "This take was finished in another tab. What you recorded since then is kept in this browser, but not in the lesson; start another take.",
  damaged: "What was sent arrived damaged. What the server has of this take is kept; finish the take and start another.",
};
