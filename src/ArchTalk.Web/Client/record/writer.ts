// Makes records of what is heard and done, keeps them, and hands them to the upload.

import type { JournalEvent } from "../journal/events";
import type { Keeper, KeptWriter } from "../journal/keeper";
import {
  type Anchor,
  anchorsPayload,
  audioPayload,
  encodeRecord,
  eventsPayload,
  Kind,
  pointPayload,
  samplesPerMs,
  segmentPayload,
} from "../journal/record";
import type { Pauses, Uploader } from "../journal/uploader";
import type { Piece } from "./intake";
import type { OpenTake, SegmentStart, Spot } from "./messages";
import { Recent } from "./recent";

const chunkSamples = 12_000; // 250 ms
const anchorEveryMs = 100;
const mostAnchors = 100;
const levelEveryMs = 60;

/** What the writer tells the page. */
export interface WriterNews {
  level(peak: number, rms: number): void;
  recorded(ms: number): void;
  missing(ms: number): void;
}

export class Writer {
  /** What was recorded in the last minutes. */
  readonly recent = new Recent();
  private segment = -1;
  private inputOffsetMs = 0;
  private chunk: Int16Array[] = [];
  private chunkStart = 0;
  private chunkLength = 0;
  private anchors: Anchor[] = [];
  private best: Anchor | null = null;
  private bestUntil = 0;
  private events: JournalEvent[] = [];
  private recorded: number;
  private levelAt = 0;
  private peak = 0;
  private writing: Promise<void> = Promise.resolve();
  private closed = false;
  private received = 0;
  private paused = false;
  private lost = 0;
  private next: number;

  constructor(
    private readonly take: OpenTake,
    private readonly kept: KeptWriter,
    private readonly keeper: Keeper,
    private readonly uploader: Uploader,
    private readonly clock: Pick<Pauses, "now">,
    private readonly news: WriterNews,
  ) {
    this.recorded = take.savedMs * samplesPerMs;
    this.next = take.next;
  }

  begin(start: SegmentStart): void {
    this.flush();
    this.segment = start.segment;
    this.inputOffsetMs = start.inputOffsetMs;
    this.received = 0;
    this.paused = false;
    this.best = null;
    this.kept.segments.push(start);
    this.queue(() => this.keeper.putWriter(this.kept));
    this.write(Kind.segment, segmentPayload(start));
  }

  hear(piece: Piece): void {
    // In the page's own time, since pen events are stamped in it. The sample after the piece can't have arrived earlier.
    const now = this.clock.now();
    this.observe({ sample: piece.end, ms: now });
    this.measure(piece, now);
    this.received = piece.end;
    if (this.paused || piece.pcm.length === 0) {
      return;
    }

    if (piece.lost > 0) {
      this.lost += piece.lost;
      this.news.missing(this.lost / samplesPerMs);
    }

    const first = piece.end - piece.pcm.length;
    if (this.chunkLength > 0 && first !== this.chunkStart + this.chunkLength) {
      this.flush();
    }

    if (this.chunkLength === 0) {
      this.chunkStart = first;
    }

    this.chunk.push(piece.pcm);
    this.chunkLength += piece.pcm.length;
    this.recorded += piece.pcm.length + piece.lost;
    this.recent.add({ segment: this.segment, sample: first }, this.recorded - piece.pcm.length, piece.pcm, now - this.inputOffsetMs);
    if (this.chunkLength >= chunkSamples) {
      this.flush();
    }
  }

  /** While paused sound goes on being counted, so that nothing after it shifts; it is only not kept. */
  gate(paused: boolean): void {
    if (paused !== this.paused && this.segment >= 0) {
      this.flush();
      this.write(paused ? Kind.pause : Kind.resume, pointPayload(this.segment, this.received));
      this.paused = paused;
    }
  }

  happened(event: JournalEvent): void {
    this.events.push(event);
  }

  /** What was recorded since a moment is taken back; what is done from here on follows from that moment. */
  retake(to: Spot, stamp: number): void {
    this.events.push({ e: "retake", t: stamp, g: to.segment, n: to.sample });
    this.flushEvents();
  }

  /** Resolves when everything so far is kept in the browser and waits to be sent. */
  written(): Promise<void> {
    return this.writing;
  }

  /** Writes what was done since; called several times a second. */
  flushEvents(): void {
    if (this.events.length > 0 && this.segment >= 0) {
      this.write(Kind.events, eventsPayload(this.segment, this.events.splice(0)));
    }
  }

  /** Ends the take; resolves when all of it is kept in the browser. */
  async end(): Promise<void> {
    this.flush();
    this.write(Kind.end, new Uint8Array());
    this.closed = true;
    await this.writing;
  }

  /** Writes what is at hand and nothing more: another tab goes on with the take. */
  async close(): Promise<void> {
    this.flush();
    this.closed = true;
    await this.writing;
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

    // A pause of an hour would gather more than fits into a record.
    if (this.anchors.length >= mostAnchors) {
      this.flushAnchors();
    }
  }

  private measure(piece: Piece, now: number): void {
    this.peak = Math.max(this.peak, piece.peak);
    if (now - this.levelAt >= levelEveryMs) {
      this.news.level(this.peak, piece.rms);
      this.news.recorded(this.recorded / samplesPerMs);
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

    this.flushAnchors();
    this.flushEvents();
  }

  private flushAnchors(): void {
    const anchors = this.best ? [...this.anchors, this.best] : this.anchors;
    if (anchors.length > 0 && this.segment >= 0) {
      this.write(Kind.anchors, anchorsPayload(this.segment, anchors));
      this.anchors = [];
      this.best = null;
    }
  }

  private write(kind: number, payload: Uint8Array): void {
    if (this.closed) {
      return;
    }

    const sequence = this.next++;
    const bytes = encodeRecord(kind, this.take.epoch, sequence, payload);

    // Kept in the browser first.
    this.queue(async () => {
      await this.keeper.add(this.take.take, this.take.epoch, sequence, bytes);
      this.uploader.add({ sequence, bytes });
    });
  }

  private queue(work: () => Promise<void>): void {
    this.writing = this.writing.then(work);
  }
}
