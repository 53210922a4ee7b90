// Reads timeline.json and what lies beside it, and says what is there at a time. It holds no rules: spans and steps were worked
// out on the server, and LessonTimeline.At in C# is the reference this must agree with.

import type { PlacedDrawing } from "../ink/drawing";
import { readLooks } from "../ink/letter-looks";
import { typedText } from "../ink/typed";
import { tipAt } from "../ink/outline";
import { finished } from "../ink/stroke-shape";
import {
  type Ground, type GrowingStroke, type Pane, type Picture, type Scene, settledStyle, type Stroke, type Style, type TypedText, wholeWidth, within,
} from "../scene/scene";
import type {
  BlankEntry, BoardFile, BoardsFile, ChapterEntry, KeyLineEntry, PlacementEntry, StopEntry, PointerFile, TermEntry, TimelineFile, UnderFile,
} from "./files";
import { type Moment, momentAt, placesOf } from "./moments";
import { pointerAt, type PointerRun, runOf } from "./pointer";
import { jumps } from "./jumps";
import { countUpTo, rowAt, rowsOf, undoDifferences } from "./rows";
import { fromVersion1, isVersion1 } from "./version1";

export type { Moment } from "./moments";

/** The pointer's files hold a minute each, in ms. */
const minuteMs = 60_000;

/** A stroke with the spans of its life: birth and death in ms by turns, -1 for no death. */
export interface TimedStroke extends Stroke {
  lives: readonly number[];
}

export interface TimelineBoard {
  id: string;
  title: string;
  height: number;
  ground: Ground;
  inkSource: string;
  /** Where what lies under its covers is, until it has been loaded. */
  underSource: string | null;
  /** What there is to see on it, in words. */
  description: string;
  ink: BoardInk | null;
  /** Rows of time and height. */
  heights: number[][];
  /** For each pane, rows of time, left, top and width. */
  views: number[][][];
  /** Items that don't show throughout, covers that are lifted, say: rows of time and 1 for showing. */
  items: { item: string; shows: number[][] }[];
  /** From when on what is lit up: x, y by turns; null when the light is put out. */
  texts: readonly TimedText[];
  lights: { at: number; outline: readonly number[] | null }[];
  /** What is to be filled in. */
  blanks: readonly BlankEntry[];
}

/** Something typed: from when on it says what. */
interface TimedText {
  lives: readonly number[];
  steps: readonly { at: number; text: TypedText }[];
}

/** A board's strokes by birth, and the times at which one of them is born, finished, gone or back. */
interface BoardInk {
  strokes: readonly TimedStroke[];
  changes: readonly number[];
  /** What was seen between the last two changes that were asked for. */
  last: { from: number; finished: readonly Stroke[]; growing: readonly TimedStroke[] } | null;
}

function wantsJumps(): boolean {
  return globalThis.matchMedia?.("(prefers-reduced-motion: reduce)").matches ?? false;
}

export class Timeline {
  private readonly pointerFiles = new Map<number, PointerRun[]>();

  private constructor(
    readonly length: number,
    readonly styles: readonly Style[],
    readonly boards: readonly TimelineBoard[],
    readonly chapters: readonly ChapterEntry[],
    readonly stops: readonly StopEntry[],
    readonly keyLines: readonly KeyLineEntry[],
    readonly terms: readonly TermEntry[],
    private readonly shown: number[][],
    private readonly pointerMinutes: ReadonlySet<number>,
    readonly placements: readonly PlacementEntry[],
    private readonly base: string,
  ) {}

  /** Reads the timeline at an address; other addresses in it are relative to that one. */
  static async load(address: string): Promise<Timeline> {
    const base = new URL(address, location.href).href;
    const read = await fetchJson<TimelineFile | Parameters<typeof fromVersion1>[0]>(base);
    const { file, runs } = isVersion1(read) ? fromVersion1(read) : { file: read as TimelineFile, runs: null };
    const boards = file.boards.map((b): TimelineBoard => ({
      id: b.id,
      title: b.title,
      height: b.height,
      inkSource: b.ink,
      underSource: b.under ?? null,
      description: "",
      ink: null,
      ground: { id: b.id, pictures: b.pictures.map((p) => ({ ...p, src: new URL(p.src, base).href })), items: [] },
      heights: rowsOf(b.heights, 2),
      views: b.views.map((v) => (wantsJumps() ? jumps(rowsOf(v, 4)) : rowsOf(v, 4))),
      texts: [],
      blanks: [],
      items: b.items.map((i) => ({ item: i.item, shows: rowsOf(i.shows, 2) })),
      lights: (b.lights ?? []).map((l) => ({ at: l.at, outline: l.outline.length > 0 ? rowsOf(l.outline, 2).flat() : null })),
    }));
    const timeline = new Timeline(
      file.length,
      file.styles,
      boards,
      file.chapters,
      file.stops,
      // Lessons published by earlier releases have none.
      file.keyLines ?? [],
      file.terms ?? [],
      rowsOf(file.shown, 3),
      new Set(file.pointerMinutes),
      file.placements,
      base,
    );
    if (runs) {
      const whole = runs.map(runOf);
      for (let minute = 0; minute * minuteMs <= file.length; minute++) {
        timeline.pointerFiles.set(minute, whole);
      }
    }

    return timeline;
  }

  // Pictures are named from where the lesson's files are.
  private placed(item: PlacedDrawing): PlacedDrawing {
    const shapes = item.drawing.shapes.map((s) => (s.is === "picture" ? { ...s, src: new URL(s.src, this.base).href } : s));
    return { ...item, drawing: { ...item.drawing, shapes } };
  }

  /** Loads the ink and the items of a board, once. */
  async loadInk(index: number): Promise<void> {
    const board = this.boards[index];
    if (board && board.ink === null) {
      this.take(board, await fetchJson<BoardFile>(new URL(board.inkSource, this.base).href));
    }
  }

  /** Loads all boards as the lesson leaves them, in one request: only the teacher's own timeline has them. */
  async loadAllAtEnd(): Promise<void> {
    const { boards } = await fetchJson<BoardsFile>(new URL("ink/end.json", this.base).href);
    const byId = new Map(this.boards.map((b) => [b.id, b]));
    for (const file of boards) {
      const board = byId.get(file.id);
      if (board) {
        this.take(board, file);
      }
    }
  }

  private take(board: TimelineBoard, file: BoardFile): void {
    board.ground = { ...board.ground, items: ((file.items ?? []) as unknown as PlacedDrawing[]).map((item) => this.placed(item)) };
    board.texts = (file.texts ?? []).map((t) => ({
      lives: t.lives,
      steps: t.steps.map((s) => ({ at: s.at, text: typedText(t.key, t.x, t.y, t.size, t.color, s.text, readLooks(s.looks ?? "", this.styles)) })),
    }));
    board.description = file.description ?? "";
    board.blanks = file.blanks ?? [];
    board.ink = inkOf(
      file.strokes.map((s) => {
        const style = settledStyle(this.styles[s.style]!, s.lineHeight ?? 0);
        return finished({ kind: "ink", key: s.key, style, lives: s.lives, points: undoDifferences(s.points, 4) });
      }),
    );
  }

  /** Whether a cover of a board is lifted at a time and what lies under it isn't there yet. */
  lacksUnder(index: number, ms: number): boolean {
    const board = this.boards[index];
    return !!board && board.underSource !== null && board.ink !== null && hiddenAt(board, ms).length > 0;
  }

  /** Loads what lies under the covers of a board, once. */
  async loadUnder(index: number): Promise<void> {
    const board = this.boards[index];
    if (board?.underSource) {
      const file = await fetchJson<UnderFile>(new URL(board.underSource, this.base).href);
      const under = new Map((file.items as unknown as PlacedDrawing[]).map((item) => [item.id, this.placed(item)]));
      const pictures: Picture[] = file.pictures.map((p) => ({ ...p, src: new URL(p.src, this.base).href }));
      board.ground = { ...board.ground, pictures, items: board.ground.items.map((item) => under.get(item.id) ?? item) };
      board.description = file.description;
      board.underSource = null;
    }
  }

  /** The minutes within a stretch of time of which the pointer isn't there yet. */
  lacksPointer(from: number, to: number): number[] {
    const [first, last] = [Math.floor(from / minuteMs), Math.floor(to / minuteMs)];
    return [...this.pointerMinutes].filter((m) => m >= first && m <= last && !this.pointerFiles.has(m));
  }

  /** Loads the pointer of a minute, once. */
  async loadPointer(minute: number): Promise<void> {
    const file = await fetchJson<PointerFile>(new URL(`pointer/${minute}.json`, this.base).href);
    this.pointerFiles.set(minute, file.runs.map(runOf));
  }

  /** Whether everything that shows at a time is there: ink, items, what lies under a lifted cover, the pointer. */
  isThere(ms: number): boolean {
    const index = this.boardAt(ms);
    return this.boards[index]?.ink !== null && !this.lacksUnder(index, ms) && this.lacksPointer(ms, ms).length === 0;
  }

  boardAt(ms: number): number {
    return rowAt(this.shown, ms)?.[1] ?? 0;
  }

  /** Which board is shown from when on, in ms. */
  get boardSteps(): { at: number; board: number }[] {
    return this.shown.map(([at, board]) => ({ at: at!, board: board! }));
  }

  /** The boards that are shown within a stretch of time, in order. */
  boardsBetween(from: number, to: number): number[] {
    const shown = [rowAt(this.shown, from) ?? [0, 0, -1], ...this.shown.filter((s) => s[0]! > from && s[0]! <= to)];
    return [...new Set(shown.flatMap((s) => (s[2]! >= 0 ? [s[1]!, s[2]!] : [s[1]!])))];
  }

  at(ms: number): Scene {
    const [, board = 0, beside = -1] = rowAt(this.shown, ms) ?? [];
    return { panes: beside >= 0 ? [this.paneAt(board, 0, ms), this.paneAt(beside, 1, ms)] : [this.paneAt(board, 0, ms)] };
  }

  /** A board by itself as it is at a time, whichever is shown. */
  paneOf(index: number, ms: number): Pane {
    return this.paneAt(index, 0, ms);
  }

  private paneAt(index: number, pane: number, ms: number): Pane {
    const board = this.boards[index]!;
    const view = rowAt(board.views[pane] ?? [], ms);
    const height = rowAt(board.heights, ms)?.[1] ?? board.height;
    const ink = inkAt(board, ms);
    return {
      ground: board.ground,
      height,
      view: within(view ? { x: view[1]!, y: view[2]!, width: view[3]! } : wholeWidth, height),
      finished: ink.finished,
      growing: ink.growing.map((stroke) => grown(stroke, ms)),
      texts: textsAt(board, ms),
      hidden: hiddenAt(board, ms),
      light: board.lights.findLast((l) => l.at <= ms)?.outline ?? null,
      pointer: pointerAt(this.pointerFiles.get(Math.floor(ms / minuteMs)) ?? [], index, ms),
    };
  }

  momentAt(ms: number): Moment | null {
    return momentAt(this.placements, ms);
  }

  /** Where a moment is now, in ms: the first place, a join if it was taken out; null when it is nowhere. */
  timeOf(moment: Moment): number | null {
    return placesOf(this.placements, moment, "snap")[0] ?? null;
  }
}

/** The items of a board that don't show at a time. */
export function hiddenAt(board: TimelineBoard, ms: number): string[] {
  return board.items.filter((i) => rowAt(i.shows, ms)?.[1] === 0).map((i) => i.item);
}

export function inkOf(strokes: TimedStroke[]): BoardInk {
  const changes = new Set<number>();
  for (const stroke of strokes) {
    stroke.lives.forEach((at) => at >= 0 && changes.add(at));
    changes.add(lastPoint(stroke));
  }

  return { strokes, changes: [...changes].sort((a, b) => a - b), last: null };
}

const nothing = { finished: [], growing: [] };

// Between two changes the same arrays are given back, so that whoever paints sees at once that nothing is new.
function inkAt(board: TimelineBoard, ms: number): { finished: readonly Stroke[]; growing: readonly TimedStroke[] } {
  const { ink } = board;
  if (!ink) {
    return nothing;
  }

  const from = countUpTo(ink.changes.length, (i) => ink.changes[i]! <= ms);
  if (ink.last?.from !== from) {
    const done: Stroke[] = [];
    const growing: TimedStroke[] = [];
    for (const stroke of ink.strokes) {
      if (stroke.lives[0]! > ms) {
        break;
      }

      if (isAlive(stroke.lives, ms)) {
        (lastPoint(stroke) <= ms ? done : growing).push(stroke);
      }
    }

    ink.last = { from, finished: done, growing };
  }

  return ink.last;
}

const lastTexts = new WeakMap<TimelineBoard, readonly TypedText[]>();

// As long as nothing of it changes the same array is given back.
function textsAt(board: TimelineBoard, ms: number): readonly TypedText[] {
  const texts = board.texts.filter((t) => isAlive(t.lives, ms)).flatMap((t) => t.steps.findLast((s) => s.at <= ms)?.text ?? []);
  const last = lastTexts.get(board);
  if (last && last.length === texts.length && last.every((t, i) => t === texts[i])) {
    return last;
  }

  lastTexts.set(board, texts);
  return texts;
}

function grown(stroke: TimedStroke, ms: number): GrowingStroke {
  const time = Math.floor(ms);
  const count = Math.max(
    1,
    countUpTo(stroke.points.length / 4, (i) => stroke.points[i * 4 + 3]! <= time),
  );
  return { stroke, count, tip: tipAt(stroke.points, count, ms) };
}

function lastPoint(stroke: Stroke): number {
  return stroke.points.at(-1)!;
}

async function fetchJson<T>(address: string): Promise<T> {
  const response = await fetch(address);
  if (!response.ok) {
    throw new Error(`${address} answered ${response.status}.`);
  }

  return (await response.json()) as T;
}

export function isAlive(lives: readonly number[], ms: number): boolean {
  for (let i = 0; i < lives.length; i += 2) {
    if (lives[i]! <= ms && (lives[i + 1]! < 0 || ms < lives[i + 1]!)) {
      return true;
    }
  }

  return false;
}
