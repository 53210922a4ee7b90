// Plays a lesson: the sound is the clock, the canvas follows it.

import { newestAt, type Place } from "../ink/near";
import { Painter } from "../ink/painter";
import { Backoff } from "../shared/backoff";
import { type Box, type Scene, type View, within } from "../scene/scene";
import type { StopEntry } from "../timeline/files";
import type { Timeline } from "../timeline/timeline";
import { Halts } from "./halts";

/** Ink and pictures this far ahead, in ms, are loaded before they are needed. */
const ahead = 45_000;

export interface PlayerNews {
  /** Called with the time in ms whenever a picture was painted. */
  moved(ms: number): void;
  /** What is drawn could not be loaded; it is tried again by itself. Called with false when it is there. */
  inkMissing(isMissing: boolean): void;
  /** The voice waits for what is drawn here, or goes on. */
  held(isHeld: boolean): void;
  /** Playback halted at a thinking stop, or goes on (null). */
  halted?(stop: StopEntry | null): void;
}

/** What is loaded: a board by its index, the pointer by its minute. */
type Part = `board ${number}` | `pointer ${number}`;

export class Player {
  private readonly painter: Painter;
  private readonly loading = new Set<Part>();
  private readonly failed = new Set<Part>();
  private waits = true;
  private isHeldNow = false;
  private isMissingTold = false;
  private readonly pauses = new Backoff();
  private described = "";
  private halts: Halts<StopEntry>;
  /** Whether thinking stops halt; a page that has no use for them lets it go through. */
  private mayHalt = false;
  private isHalted = false;
  /** The student's own view, and the board it is of. */
  private own: { view: View; board: number } | null = null;

  constructor(
    canvas: HTMLCanvasElement,
    readonly audio: HTMLAudioElement,
    private lesson: Timeline,
    private readonly news: PlayerNews,
  ) {
    this.painter = new Painter(canvas, () => this.scene(), () => this.painted());
    this.halts = new Halts(lesson.stops);
    audio.addEventListener("play", () => this.goOn());

    // A page that isn't seen paints nothing, and is heard all the same.
    audio.addEventListener("timeupdate", () => this.haltIfDue());
    for (const event of ["play", "seeking", "seeked", "timeupdate", "ended", "pause"]) {
      audio.addEventListener(event, () => this.repaint());
    }

    this.repaint();
  }

  get time(): number {
    return Math.min(this.audio.currentTime * 1000, this.timeline.length);
  }

  seek(ms: number): void {
    this.audio.currentTime = Math.min(Math.max(ms, 0), this.timeline.length) / 1000;
    this.halts.sought(this.time);
    this.goOn();
    this.repaint();
  }

  /** The lesson that is played. */
  get timeline(): Timeline {
    return this.lesson;
  }

  /** Goes on with the lesson as it has become. */
  show(timeline: Timeline): void {
    this.lesson = timeline;
    this.halts = new Halts(timeline.stops);
    this.halts.sought(this.time);
    this.failed.clear();
    this.pauses.reset();
    this.repaint();
  }

  /** Whether thinking stops halt. */
  letHalt(mayHalt: boolean): void {
    this.mayHalt = mayHalt;
  }

  // Halts exactly where the stop sits, however late it was noticed.
  private haltIfDue(): void {
    const stop = this.audio.paused ? null : this.halts.crossed(this.time);
    if (stop && this.mayHalt) {
      this.audio.pause();
      this.audio.currentTime = stop.at / 1000;
      this.halts.sought(stop.at);
      this.isHalted = true;
      this.news.halted?.(stop);
    }
  }

  private goOn(): void {
    if (this.isHalted) {
      this.isHalted = false;
      this.news.halted?.(null);
    }
  }

  /** Whether the voice waits for what is drawn. */
  get isHeld(): boolean {
    return this.isHeldNow;
  }

  /** Whether the voice waits until what is drawn is there, or goes on without it. */
  letVoiceWait(waits: boolean): void {
    this.waits = waits;
    this.repaint();
  }

  async toggle(): Promise<void> {
    if (this.isHeldNow) {
      this.hold(false);
    } else if (this.audio.paused) {
      if (this.audio.ended) {
        this.seek(0);
      }

      await this.audio.play();
    } else {
      this.audio.pause();
    }
  }

  repaint(): void {
    this.painter.repaint();
  }

  /** The view the student looks through, which need not be the teacher's. */
  get view(): View {
    return this.scene().panes[0]!.view;
  }

  /** The newest stroke at a place of the board (tenths of a unit) and when it began to be drawn, in ms; null for none. */
  drawnAt(place: Place, radius: number): number | null {
    return newestAt(this.timeline.at(this.time).panes[0]!.finished, place, radius)?.points[3] ?? null;
  }

  /** What is drawn on the board that is shown: when (ms), with what, and where on a board of which height (units). */
  get drawn(): { from: number; to: number; style: string; box: Box; height: number }[] {
    const { finished, height } = this.timeline.at(this.time).panes[0]!;
    return finished.map((s) => ({ from: s.points[3]!, to: s.points.at(-1)!, style: `${s.style.ink} ${s.style.tool}`, box: s.box, height }));
  }

  /** The identity of the board that is shown. */
  get shownBoard(): string {
    return this.timeline.at(this.time).panes[0]!.ground.id;
  }

  /** Whether the student looks closer than the teacher did. */
  get isCloser(): boolean {
    return this.own !== null && this.own.board === this.timeline.boardAt(this.time);
  }

  /** Looks closer; a view as wide as the teacher's, null, or another board goes back to the teacher's. */
  look(view: View | null): void {
    const teachers = this.timeline.at(this.time).panes[0]!.view;
    this.own = view && view.width < teachers.width - 1 ? { view, board: this.timeline.boardAt(this.time) } : null;
    this.repaint();
  }

  /** Tries at once what failed before. */
  retry(): void {
    this.pauses.reset();
    this.failed.clear();
    this.repaint();
  }

  private scene(): Scene {
    const ms = this.time;
    for (const board of this.timeline.boardsBetween(ms, ms + ahead)) {
      this.need(board);
    }

    for (const minute of this.timeline.lacksPointer(ms, ms + ahead)) {
      this.loadNew(`pointer ${minute}`, () => this.timeline.loadPointer(minute));
    }

    const pane = this.timeline.at(ms).panes[0]!;
    return { panes: [this.own && this.isCloser ? { ...pane, view: within(this.own.view, pane.height) } : pane] };
  }

  private painted(): void {
    this.haltIfDue();
    const ms = this.time;
    const board = this.timeline.boards[this.timeline.boardAt(ms)]!;
    this.describe(`${board.title}. ${board.description}`.trim());
    this.news.moved(ms);
    this.holdWhile(this.waits && !(this.timeline.isThere(ms) && this.painter.hasPicture(board.ground.pictures)));
    this.tellMissing();
    if (!this.audio.paused) {
      this.repaint();
    }
  }

  // A voice that plays is held while something is missing, and goes on by itself.
  private holdWhile(isMissing: boolean): void {
    if (isMissing && !this.audio.paused) {
      this.hold(true);
      this.audio.pause();
    } else if (!isMissing && this.isHeldNow) {
      this.hold(false);
      void this.audio.play().catch(() => undefined);
    }
  }

  // Said once, until it is there.
  private tellMissing(): void {
    const isMissing = this.failed.size > 0 || this.painter.lacksPicture;
    if (isMissing !== this.isMissingTold) {
      this.isMissingTold = isMissing;
      this.news.inkMissing(isMissing);
    }
  }

  private hold(isHeld: boolean): void {
    this.isHeldNow = isHeld;
    this.news.held(isHeld);
  }

  // Those who hear the lesson are told what the board shows; only when that changes.
  private describe(words: string): void {
    if (this.described !== words) {
      this.described = words;
      this.painter.canvas.setAttribute("aria-label", words);
    }
  }

  private need(index: number): void {
    const board = this.timeline.boards[index];
    if (board) {
      this.painter.prepare(board.ground.pictures);
    }

    if (board && (board.ink === null || this.timeline.lacksUnder(index, this.time))) {
      this.loadNew(`board ${index}`, () => this.loadBoard(index));
    }
  }

  private async loadBoard(index: number): Promise<void> {
    await this.timeline.loadInk(index);
    if (this.timeline.lacksUnder(index, this.time)) {
      await this.timeline.loadUnder(index);
    }
  }

  private loadNew(part: Part, work: () => Promise<void>): void {
    if (!this.failed.has(part)) {
      this.load(part, work);
    }
  }

  private load(part: Part, work: () => Promise<void>): void {
    if (!this.loading.has(part)) {
      this.loading.add(part);
      void this.tryToLoad(part, work);
    }
  }

  // What failed is tried again with growing pauses, and said once.
  private async tryToLoad(part: Part, work: () => Promise<void>): Promise<void> {
    try {
      await work();
      this.failed.delete(part);
      this.pauses.reset();
    } catch {
      this.failed.add(part);
      setTimeout(() => this.load(part, work), this.pauses.next());
    } finally {
      this.loading.delete(part);
      this.tellMissing();
      this.repaint();
    }
  }
}
