// One take from the press of Start to the last byte on the server: which state the recording is in, and who may do what. Owns the
// microphone, the worker with its store and upload, and the wake lock. It knows no page and no browser; what it needs is given to it.

import type { BoardEvent } from "../journal/events";
import type { Waiting } from "../journal/uploader";
import { Backoff } from "../shared/backoff";
import type { Moment } from "../timeline/moments";
import { goesOn } from "./leftovers";
import { type RetakeView, type Boards, Retaking } from "./retaking";
import { type FromWorker, isSameWriter, keyOf, type Leftover, type OpenTake, type SegmentStart, type ToWorker } from "./messages";

export type Phase =
  /** What earlier tabs left is looked at and sent. */
  | "checking"
  | "ready"
  | "counting"
  | "recording"
  | "paused"
  /** Held to go back to an earlier moment and on from there. */
  | "retaking"
  /** Held by something other than the teacher; says by what. */
  | "interrupted"
  /** The last seconds are being saved. */
  | "finishing"
  /** Another tab goes on with the take. */
  | "shutOut"
  /** The server takes no more of it. */
  | "refused";

/** What interrupted a take, or keeps it from being checked. */
export type Cause = "" | "unplugged" | "muted" | "silent" | "worker" | "check" | "taken" | "finished" | "refused";

/** What the page shows. */
export interface SessionView {
  phase: Phase;
  cause: Cause;
  /** Seconds to go; 0 while the take is being opened. */
  countdown: number;
  recordedMs: number;
  savedMs: number;
  /** Sound that never reached the browser, in ms. */
  missingMs: number;
  /** Where a retake goes back to; null while there is none. */
  retake: RetakeView | null;
  canGoFarther: boolean;
  /** What counts of the take so far and what of it is saved, in ms: without what was taken back. */
  liveMs: number;
  liveSavedMs: number;
  /** How much the last retake took back that can be put back, in ms; 0 when there is nothing. */
  branchMs: number;
  waiting: Waiting;
  /** Whether this browser keeps what isn't sent when the page is closed. */
  isKept: boolean;
  /** Whether the screen stays on by itself while recording; null when nothing was asked. */
  staysOn: boolean | null;
  hasMicrophone: boolean;
  isTestVoice: boolean;
  /** Takes that another tab of this browser is recording. */
  elsewhere: string[];
  left: Leftover[];
  /** Of what earlier tabs left, in ms of sound, how much was just sent. */
  sentMs: number;
}

export interface WorkerPort {
  post(message: ToWorker, transfer?: Transferable[]): void;
  end(): void;
}

/** A microphone that is open, heard or not. */
export interface OpenMicrophone {
  readonly isTestVoice: boolean;
  describe(): Omit<SegmentStart, "segment">;
  /** Lets the worker hear it from now on. */
  connect(worker: WorkerPort): Promise<void>;
  close(): void;
}

export interface Surroundings {
  lesson: string;
  startWorker(hear: (message: FromWorker) => void, failed: () => void): WorkerPort;
  openMicrophone(id: string, lost: (cause: "unplugged" | "muted") => void): Promise<OpenMicrophone>;
  server: { start(): Promise<OpenTake>; reopen(take: string): Promise<OpenTake>; finish(take: string): Promise<void> };
  /** Keeps the screen on; false when it can't be kept. */
  wakeLock: { hold(): Promise<boolean>; release(): void };
  boards: Boards;
  clock: { pageOrigin: number; now(): number; after(ms: number, then: () => void): () => void };
  news: {
    changed(): void;
    level(peak: number, rms: number): void;
    /** Recording begins: the boards are set and the first events follow. */
    begun(take: OpenTake): void;
    /** Something was sent or left aside: takes and boards are others than shown. Resolves when they are shown anew. */
    takesChanged(): Promise<void>;
    ended(): void;
    /** Plays sound of 48 kHz; resolves when it was heard, or something else is played. */
    play(pcm: Int16Array<ArrayBuffer>): Promise<void>;
    wav(file: ArrayBuffer, left: Leftover): void;
    /** Something asked for could not be done. */
    fault(error: unknown): void;
  };
}

const nothingWaits: Waiting = { records: 0, ms: 0, restMs: null, trouble: "" };
const pingEveryMs = 2000;

/** A worker that leaves so many pings unanswered is gone; one that only stood still has answered by then. */
const mostPings = 6;

/** Before anything is known. */
export function firstView(): SessionView {
  return {
    phase: "checking", cause: "", countdown: 0, recordedMs: 0, savedMs: 0, missingMs: 0, retake: null, canGoFarther: false,
    liveMs: 0, liveSavedMs: 0, branchMs: 0, waiting: nothingWaits, isKept: true, staysOn: null,
    hasMicrophone: false, isTestVoice: false, elsewhere: [], left: [], sentMs: 0,
  };
}

export const voicesDiffer =
  "The test voice and a real voice can't be in one take. Choose the microphone that this take was begun with, or finish it and start another.";
const nobodySpoke = "Nobody spoke in the last three minutes, so there is no phrase to go back to. Nothing was taken back.";
const recordedSince = "Something was recorded after it, so it can't be put where it was. Make it a take of its own; nothing of it is lost.";

export class RecordingSession {
  readonly view: SessionView = firstView();

  private worker: WorkerPort;
  private microphone: OpenMicrophone | null = null;
  /** How often one was chosen, so that only the last choice counts. */
  private choices = 0;
  /** Whether the microphone is another than the one of the last segment. */
  private isNewMicrophone = false;
  private take: OpenTake | null = null;
  /** Who waits for what is heard without being recorded. */
  private gathering: { done: (pcm: Int16Array<ArrayBuffer>) => void; failed: (error: unknown) => void } | null = null;
  private nextSegment = 0;
  /** Whether the take that runs is one of the test voice. */
  private isTestTake = false;
  private stopTimer: () => void = () => undefined;
  private pings = 0;
  private afterCheck: (() => Promise<void>) | null = null;
  private takeOver: string | null = null;
  /** Of what was left and sent when the teacher said so, until it is told. */
  private sentOnMs = 0;
  private readonly backoff = new Backoff();
  private readonly retaking: Retaking;

  constructor(private readonly around: Surroundings) {
    this.worker = this.newWorker();
    this.retaking = new Retaking({
      post: (message) => this.worker.post(message),
      boards: around.boards,
      clock: around.clock,
      play: (pcm) => around.news.play(pcm),
      changed: () => this.tell(),
      nowhere: () => {
        this.keepAll();
        around.news.fault(new Error(nobodySpoke));
      },
      goesOn: () => {
        this.worker.post({ say: "gate", paused: false });
        this.enter("recording", "");
      },
    });
  }

  /** Looks at what earlier tabs left; nothing else can be done before. */
  begin(): void {
    this.check(null);
    this.ping();
  }

  // --- What earlier tabs left ---

  /** Looks again now, instead of after the pause. */
  checkAgain(): void {
    if (this.is("checking", "shutOut", "refused")) {
      this.check(this.takeOver, this.afterCheck);
    }
  }

  private check(takeOver: string | null, then: (() => Promise<void>) | null = null): void {
    this.stopTimer();
    this.afterCheck = then;
    this.takeOver = takeOver;
    this.enter("checking", "");
    this.worker.post({ say: "check", lesson: this.around.lesson, takeOver });
  }

  private async checked(message: FromWorker & { say: "checked" }): Promise<void> {
    if (this.view.phase !== "checking") {
      return;
    }

    this.backoff.reset();
    const then = this.afterCheck;
    this.afterCheck = null;
    this.takeOver = null;
    this.view.left = message.left;
    this.view.elsewhere = message.elsewhere;
    this.view.sentMs = message.sentMs + this.sentOnMs;
    this.sentOnMs = 0;
    this.view.waiting = nothingWaits;

    // Whoever goes on with a take must see what is on its boards.
    await this.around.news.takesChanged();
    this.enter("ready", "");
    await then?.().catch((error: unknown) => this.around.news.fault(error));
  }

  private checkFailed(): void {
    if (this.view.phase === "checking") {
      this.enter("checking", "check");
      this.stopTimer = this.around.clock.after(this.backoff.next(), () => this.check(this.takeOver, this.afterCheck));
    }
  }

  /** What is left becomes the take that follows all others. */
  async makeTake(left: Leftover): Promise<void> {
    await this.sendOnTo(left, true, () => this.around.server.start());
  }

  /** What is left goes on where it was, if nothing was recorded there since. */
  async sendOn(left: Leftover): Promise<void> {
    await this.sendOnTo(left, false, async () => {
      const opened = await this.around.server.reopen(left.take);
      if (!goesOn(left, opened)) {
        throw new Error(recordedSince);
      }

      return opened;
    });
  }

  private async sendOnTo(left: Leftover, isNewTake: boolean, open: () => Promise<OpenTake>): Promise<void> {
    if (!this.is("ready", "shutOut", "refused")) {
      return;
    }

    const before = { phase: this.view.phase, cause: this.view.cause };
    this.enter("checking", "");
    try {
      const into = await open();
      this.worker.post({ say: "sendOn", key: keyOf(left), into, lesson: this.around.lesson, isNewTake });
    } catch (error) {
      this.enter(before.phase, before.cause);
      this.around.news.fault(error);
    }
  }

  saveAsWav(left: Leftover): void {
    this.worker.post({ say: "wav", key: keyOf(left) });
  }

  discard(left: Leftover): void {
    this.worker.post({ say: "discard", key: keyOf(left) });
    this.view.left = this.view.left.filter((l) => !isSameWriter(l, left));
    this.tell();
  }

  // --- The microphone ---

  /** Opens a microphone and listens to it. Rejects when it can't be opened; then there is none. */
  async chooseMicrophone(id: string): Promise<void> {
    if (this.is("recording", "retaking", "finishing")) {
      return;
    }

    this.releaseMicrophone();
    const choice = ++this.choices;
    const opened = await this.around.openMicrophone(id, (cause) => {
      if (this.microphone === opened) {
        this.microphoneLost(cause);
      }
    });
    if (choice !== this.choices || this.is("recording", "finishing")) {
      // Another was chosen meanwhile.
      opened.close();
      return;
    }

    this.microphone = opened;
    this.isNewMicrophone = true;
    this.view.hasMicrophone = true;
    this.view.isTestVoice = opened.isTestVoice;
    this.tell();
  }

  private microphoneLost(cause: "unplugged" | "muted"): void {
    if (cause === "unplugged") {
      this.releaseMicrophone();
    }

    this.interrupt(cause);
    this.tell();
  }

  /** Listens to the microphone without recording. Rejects when it is given up, or nothing is heard. */
  gather(samples: number): Promise<Int16Array<ArrayBuffer>> {
    this.stopGathering();
    return new Promise((done, failed) => {
      this.gathering = { done, failed };
      this.worker.post({ say: "gather", samples });
      this.microphone!.connect(this.worker).catch(failed);
    });
  }

  stopGathering(why = "The sound check was stopped."): void {
    if (this.gathering) {
      this.gathering.failed(new Error(why));
      this.gathering = null;
      this.worker.post({ say: "gather", samples: 0 });
    }
  }

  private releaseMicrophone(): void {
    this.stopGathering("The microphone was changed, so the sound check was stopped.");
    this.microphone?.close();
    this.microphone = null;
    this.view.hasMicrophone = false;
    this.view.isTestVoice = false;
  }

  // --- A take ---

  get canStart(): boolean {
    return this.view.phase === "ready";
  }

  /** Counts down and starts a new take. */
  start(countFrom: number): void {
    this.countDown(countFrom, () => this.record(() => this.around.server.start()));
  }

  /** Goes on with an interrupted take; what another tab of this browser still has of it is taken over first. */
  goOn(take: string, countFrom: number): void {
    const count = () => this.countDown(countFrom, () => this.record(() => this.around.server.reopen(take)));
    if (this.canStart && this.microphone && this.view.elsewhere.includes(take)) {
      this.check(take, async () => count());
    } else {
      count();
    }
  }

  private countDown(from: number, then: () => Promise<void>): void {
    if (!this.canStart || !this.microphone) {
      return;
    }

    this.stopGathering();

    this.view.countdown = from;
    this.enter("counting", "");
    const tick = (): void => {
      if (this.view.countdown === 0) {
        void then();
        return;
      }

      this.stopTimer = this.around.clock.after(1000, () => {
        this.view.countdown--;
        this.tell();
        tick();
      });
    };
    void this.keepOn();
    tick();
  }

  /** Not yet. While the take is being opened it is too late. */
  stopCounting(): void {
    if (this.view.phase === "counting" && this.view.countdown > 0) {
      this.stopTimer();
      this.enter("ready", "");
    }
  }

  private async record(open: () => Promise<OpenTake>): Promise<void> {
    try {
      const opened = await open();
      if (!this.microphone) {
        this.enter("ready", "");
        return;
      }

      if (opened.isTestVoice !== null && opened.isTestVoice !== this.microphone.isTestVoice) {
        throw new Error(voicesDiffer);
      }

      this.take = opened;
      this.retaking.reset(opened.takenBackMs);
      this.nextSegment = opened.nextSegment;
      Object.assign(this.view, { recordedMs: opened.savedMs, savedMs: opened.savedMs, missingMs: 0, waiting: nothingWaits, sentMs: 0 });
      this.worker.post({ say: "open", lesson: this.around.lesson, take: opened, pageOrigin: this.around.clock.pageOrigin });
      await this.beginSegment();
      this.enter("recording", "");
      this.around.news.begun(opened);
    } catch (error) {
      this.worker.post({ say: "leave" });
      this.enter("ready", "");
      this.around.news.fault(error);
      await this.around.news.takesChanged();
    }
  }

  private async beginSegment(): Promise<void> {
    const microphone = this.microphone!;
    this.worker.post({ say: "segment", start: { segment: this.nextSegment++, ...microphone.describe() } });
    this.isTestTake = microphone.isTestVoice;
    this.isNewMicrophone = false;
    await microphone.connect(this.worker);
  }

  /** Something was done on the boards. */
  happened(event: BoardEvent): void {
    if (this.isRunning) {
      this.worker.post({ say: "event", event });
    }
  }

  /** The take that just began is recorded for a place of the lesson. */
  comesIn(from: Moment, until: Moment): void {
    const event = { e: "place" as const, t: this.around.clock.now(), a: from.take, f: from.sample, b: until.take, u: until.sample };
    this.worker.post({ say: "event", event });
  }

  /** The take that runs here; null when none does. */
  get openTake(): OpenTake | null {
    return this.isRunning ? this.take : null;
  }

  /** Whether a take is open here that goes on or can go on. */
  get isRunning(): boolean {
    return this.is("recording", "paused", "retaking", "interrupted");
  }

  /** Holds the take. The microphone goes on being heard, so that nothing shifts; it is only not kept. */
  pause(): void {
    if (this.view.phase === "recording") {
      this.worker.post({ say: "gate", paused: true });
      this.enter("paused", "");
    }
  }

  /** Goes on after a pause or an interruption; with another microphone, or another worker, in a new segment. */
  async resume(): Promise<void> {
    if (!this.is("paused", "interrupted") || !this.microphone) {
      return;
    }

    if (this.isTestTake !== this.microphone.isTestVoice) {
      this.around.news.fault(new Error(voicesDiffer));
      return;
    }

    if (this.view.cause === "worker") {
      // What the old worker left is sent first, and then the take is opened anew, as after a reload.
      const { take } = this.take!;
      this.check(take, () => this.record(() => this.around.server.reopen(take)));
      return;
    }

    try {
      if (this.isNewMicrophone) {
        await this.beginSegment();
      }

      this.worker.post({ say: "gate", paused: false });
      this.enter("recording", "");
    } catch (error) {
      this.isNewMicrophone = true;
      this.around.news.fault(error);
    }
  }

  // --- Retake ---

  /**
   * Holds the take and goes back to the end of the last good phrase; pressed again, one phrase further. When its last words have been
   * played and it was counted down it goes on from there.
   */
  retake(countFrom: number): void {
    if (this.view.phase === "retaking") {
      this.retaking.farther();
    } else {
      this.beginRetake(countFrom, false);
    }
  }

  /** What the last retake took back counts again; what was said since is what is taken back. */
  putBack(countFrom: number): void {
    if (this.retaking.branch) {
      this.beginRetake(countFrom, true);
    }
  }

  private beginRetake(countFrom: number, isPuttingBack: boolean): void {
    if (this.is("recording", "paused") && this.microphone && !this.isNewMicrophone) {
      this.worker.post({ say: "gate", paused: true });
      this.retaking.start(countFrom, isPuttingBack);
      this.enter("retaking", "");
    }
  }

  /** A time of the take without what was taken back before it, in ms. */
  liveTime(ms: number): number {
    return this.retaking.live(ms);
  }

  /** Goes on after one of the phrases that are shown. */
  chooseRetake(bar: number): void {
    if (this.view.phase === "retaking") {
      this.retaking.choose(bar);
    }
  }

  /** Neither counts on nor goes on by itself. */
  waitWithRetake(): void {
    this.retaking.wait();
  }

  /** Without counting to the end. */
  goOnRetaking(): void {
    this.retaking.goOn();
  }

  /** Nothing is taken back. */
  keepAll(): void {
    if (this.view.phase === "retaking") {
      this.enter("paused", "");
    }
  }

  /** Ends the take; the microphone is let go at once, and the rest is sent. */
  finish(): void {
    if (this.isRunning && this.view.cause === "worker") {
      const { take } = this.take!;
      this.releaseMicrophone();
      this.check(take, async () => {
        await this.around.server.finish(take);
        this.around.news.ended();
      });
    } else if (this.isRunning) {
      this.worker.post({ say: "end" });
      this.releaseMicrophone();
      this.enter("finishing", "");
    }
  }

  private interrupt(cause: Cause): void {
    if (this.view.phase === "recording") {
      this.worker.post({ say: "gate", paused: true });
      this.enter("interrupted", cause);
    } else if (this.is("paused", "retaking") && cause === "unplugged") {
      this.enter("interrupted", cause);
    } else if (this.view.phase === "counting") {
      this.stopTimer();
      this.enter("ready", cause);
    } else {
      this.keepAll();
    }
  }

  // --- The worker ---

  private hear(message: FromWorker): void {
    const { news } = this.around;
    switch (message.say) {
      case "checked":
        void this.checked(message);
        return;
      case "checkFailed":
        this.checkFailed();
        return;
      case "level":
        if (this.view.phase === "recording") {
          news.level(message.peak, message.rms);
        }

        return;
      case "recorded":
        this.view.recordedMs = message.ms;
        break;
      case "saved":
        this.view.savedMs = message.ms;
        break;
      case "waiting":
        this.view.waiting = message.waiting;
        break;
      case "missing":
        this.view.missingMs = message.ms;
        break;
      case "phrases":
        this.retaking.found(message.phrases, message.begin, message.now, message.isRough);
        break;
      case "sound":
        void this.retaking.heard(message.pcm, message.to);
        return;
      case "unkept":
        this.view.isKept = false;
        break;
      case "silent":
        this.stopGathering("No sound arrives from the microphone. Check that it is switched on, or choose another.");
        this.interrupt("silent");
        break;
      case "gathered":
        this.gathering?.done(message.pcm);
        this.gathering = null;
        break;
      case "stopped":
        if (this.isRunning || this.view.phase === "finishing") {
          this.releaseMicrophone();
          this.enter(message.why === "taken" ? "shutOut" : "refused", message.why);
          void news.takesChanged();
        }

        return;
      case "failed":
        this.workerGone();
        return;
      case "ended":
        if (this.view.phase === "finishing") {
          this.take = null;
          news.ended();
        }

        return;
      case "sentOn":
        this.sentOnMs = message.sentMs;
        this.check(null);
        return;
      case "wav":
        news.wav(message.wav, this.view.left.find((l) => isSameWriter(l, message.key))!);
        return;
      case "pong":
        this.pings = 0;
        return;
    }

    this.tell();
  }

  private newWorker(): WorkerPort {
    this.pings = 0;
    let isCurrent = true;
    const port = this.around.startWorker(
      (message) => {
        if (isCurrent) {
          this.hear(message);
        }
      },
      () => {
        if (isCurrent) {
          this.workerGone();
        }
      },
    );
    return {
      post: (message, transfer) => port.post(message, transfer),
      end: () => {
        isCurrent = false;
        port.end();
      },
    };
  }

  private ping(): void {
    this.around.clock.after(pingEveryMs, () => {
      if (++this.pings > mostPings) {
        this.workerGone();
      }

      this.worker.post({ say: "ping" });
      this.ping();
    });
  }

  // A new one takes its place; what the old one had kept is found by its check.
  private workerGone(): void {
    this.stopGathering("The part of this page that hears the sound has stopped. Try once more.");
    this.worker.end();
    this.worker = this.newWorker();
    switch (this.view.phase) {
      case "recording":
      case "paused":
      case "retaking":
      case "interrupted":
        this.isNewMicrophone = true;
        this.enter("interrupted", "worker");
        break;
      case "counting":
        this.stopTimer();
        this.enter("ready", "worker");
        break;
      case "finishing":
        this.check(this.take?.take ?? null);
        break;
      case "checking":
        this.checkFailed();
        break;
    }
  }

  // --- States ---

  private is(...phases: Phase[]): boolean {
    return phases.includes(this.view.phase);
  }

  private enter(phase: Phase, cause: Cause): void {
    if (phase !== "retaking") {
      // However it ends: one that hasn't gone on takes nothing back.
      this.retaking.cancel();
    }

    this.view.phase = phase;
    this.view.cause = cause;
    if (this.is("ready", "shutOut", "refused")) {
      this.around.wakeLock.release();
    }

    this.tell();
  }

  private tell(): void {
    const { view, retaking } = this;
    const { canGoFarther, branch } = retaking;
    Object.assign(view, {
      retake: retaking.view,
      canGoFarther,
      liveMs: retaking.live(view.recordedMs),
      liveSavedMs: retaking.live(view.savedMs),
      branchMs: branch?.ms ?? 0,
    });
    this.around.news.changed();
  }

  private async keepOn(): Promise<void> {
    this.view.staysOn = await this.around.wakeLock.hold();
    this.tell();
  }
}
