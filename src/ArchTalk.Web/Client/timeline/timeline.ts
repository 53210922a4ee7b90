// Reads timeline.json and says what is there at a time. It holds no rules: spans and steps were worked out on the server,
// and LessonTimeline.At in C# is the reference this must agree with.

import type { PlacedDrawing } from "../ink/drawing";
import { tipAt } from "../ink/outline";
import { finished } from "../ink/stroke-shape";
import { type Ground, type GrowingStroke, type Pane, type Picture, type Pointer, type Scene, type Stroke, type Style, trailMs, wholeWidth, within } from "../scene/scene";

/** A stroke with the spans of its life: birth and death in ms by turns, -1 for no death. */
export interface TimedStroke extends Stroke {
  lives: readonly number[];
}

export interface Board {
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
  heights: number[][];
  views: number[][];
  /** Covers that are lifted: rows of time and 1 for uncovered. */
  covers: { item: string; uncovered: number[][] }[];
}

/** A board's strokes by birth, and the times at which one of them is born, finished, gone or back. */
interface BoardInk {
  strokes: readonly TimedStroke[];
  changes: readonly number[];
  /** What was seen between the last two changes that were asked for. */
  last: { from: number; finished: readonly Stroke[]; growing: readonly TimedStroke[] } | null;
}

export interface Chapter {
  at: number;
  title: string;
}

interface PointerRun {
  board: number;
  end: number;
  path: number[][];
}

interface Range {
  take: string;
  pieces: [number, number, number, number][];
}

interface TimelineFile {
  length: number;
  styles: Style[];
  boards: {
    id: string;
    title: string;
    height: number;
    heights: number[];
    views: number[];
    covers?: { item: string; uncovered: number[] }[];
    pictures: Picture[];
    ink: string;
    under?: string;
  }[];
  shown: number[];
  pointer: { board: number; end: number; path: number[] }[];
  ranges: Range[];
  chapters: Chapter[];
}

interface UnderFile {
  description: string;
  items: PlacedDrawing[];
  pictures: Picture[];
}

interface InkFile {
  items?: PlacedDrawing[];
  description?: string;
  strokes: { key: string; style: number; lives: number[]; points: number[] }[];
}

/** A point in what was recorded, kept for coming back: it stays right when the lesson is published anew. */
export interface Moment {
  take: string;
  sample: number;
}

const samplesPerMs = 48;

export class Timeline {
  private constructor(
    readonly length: number,
    readonly styles: Style[],
    readonly boards: Board[],
    readonly chapters: Chapter[],
    private readonly shown: number[][],
    private readonly pointer: PointerRun[],
    private readonly ranges: Range[],
    private readonly base: string,
  ) {}

  /** Reads the timeline at an address; other addresses in it are relative to that one. */
  static async load(address: string): Promise<Timeline> {
    const base = new URL(address, location.href).href;
    const file = await fetchJson<TimelineFile>(base);
    const boards = file.boards.map((b): Board => ({
      id: b.id,
      title: b.title,
      height: b.height,
      inkSource: b.ink,
      underSource: b.under ?? null,
      description: "",
      ink: null,
      ground: { id: b.id, pictures: b.pictures.map((p) => ({ ...p, src: new URL(p.src, base).href })), items: [] },
      heights: rows(b.heights, 2),
      views: rows(b.views, 4),
      covers: (b.covers ?? []).map((c) => ({ item: c.item, uncovered: rows(c.uncovered, 2) })),
    }));
    const pointer = file.pointer.map((p) => ({ ...p, path: rows(p.path, 3) }));
    return new Timeline(file.length, file.styles, boards, file.chapters, rows(file.shown, 2), pointer, file.ranges, base);
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
      const file = await fetchJson<InkFile>(new URL(board.inkSource, this.base).href);
      board.ground = { ...board.ground, items: (file.items ?? []).map((item) => this.placed(item)) };
      board.description = file.description ?? "";
      board.ink = inkOf(
        file.strokes.map((s) => finished({ kind: "ink", key: s.key, style: this.styles[s.style]!, lives: s.lives, points: undoDifferences(s.points, 4) })),
      );
    }
  }

  /** Whether a cover of a board is lifted at a time and what lies under it isn't there yet. */
  lacksUnder(index: number, ms: number): boolean {
    const board = this.boards[index];
    return !!board && board.underSource !== null && board.ink !== null && uncoveredAt(board, ms).length > 0;
  }

  /** Loads what lies under the covers of a board, once. */
  async loadUnder(index: number): Promise<void> {
    const board = this.boards[index];
    if (board?.underSource) {
      const file = await fetchJson<UnderFile>(new URL(board.underSource, this.base).href);
      const under = new Map(file.items.map((item) => [item.id, this.placed(item)]));
      const pictures = file.pictures.map((p) => ({ ...p, src: new URL(p.src, this.base).href }));
      board.ground = { ...board.ground, pictures, items: board.ground.items.map((item) => under.get(item.id) ?? item) };
      board.description = file.description;
      board.underSource = null;
    }
  }

  boardAt(ms: number): number {
    return valueAt(this.shown, ms)?.[1] ?? 0;
  }

  /** The boards that are shown within a stretch of time, in order. */
  boardsBetween(from: number, to: number): number[] {
    return [...new Set([this.boardAt(from), ...this.shown.filter((s) => s[0]! > from && s[0]! <= to).map((s) => s[1]!)])];
  }

  at(ms: number): Scene {
    return { panes: [this.paneAt(ms)] };
  }

  private paneAt(ms: number): Pane {
    const index = this.boardAt(ms);
    const board = this.boards[index]!;
    const view = valueAt(board.views, ms);
    const height = valueAt(board.heights, ms)?.[1] ?? board.height;
    const ink = inkAt(board, ms);
    return {
      ground: board.ground,
      height,
      view: within(view ? { x: view[1]!, y: view[2]!, width: view[3]! } : wholeWidth, height),
      finished: ink.finished,
      growing: ink.growing.map((stroke) => grown(stroke, ms)),
      uncovered: uncoveredAt(board, ms),
      pointer: this.pointerAt(index, ms),
    };
  }

  // The trail is of the one run the pointer is in, so it never leads across a seek or from another board.
  private pointerAt(board: number, ms: number): Pointer | null {
    const run = this.pointer.find((p) => p.path[0]![0]! <= ms && (p.end < 0 || ms < p.end));
    const place = run && run.board === board ? valueAt(run.path, ms) : undefined;
    if (!run || !place) {
      return null;
    }

    const trail = run.path.filter((p) => p[0]! <= ms && p[0]! > ms - trailMs).map(([at, x, y]) => ({ x: x!, y: y!, age: ms - at! }));
    return { x: place[1]!, y: place[2]!, trail };
  }

  momentAt(ms: number): Moment | null {
    const lesson = ms * samplesPerMs;
    for (const range of this.ranges) {
      const piece = range.pieces.findLast((p) => p[2] <= lesson && lesson <= p[3] && p[3] > p[2]);
      if (piece) {
        return { take: range.take, sample: Math.round(piece[0] + ((lesson - piece[2]) * (piece[1] - piece[0])) / (piece[3] - piece[2])) };
      }
    }

    return null;
  }

  /** Where a moment is now, in ms; null when its take is gone. */
  timeOf(moment: Moment): number | null {
    for (const range of this.ranges.filter((r) => r.take === moment.take)) {
      const piece = range.pieces.find((p) => p[0] <= moment.sample && moment.sample <= p[1]);
      if (piece) {
        const share = piece[1] > piece[0] ? (moment.sample - piece[0]) / (piece[1] - piece[0]) : 0;
        return (piece[2] + share * (piece[3] - piece[2])) / samplesPerMs;
      }
    }

    return null;
  }
}

/** The covers of a board that are lifted at a time. */
export function uncoveredAt(board: Board, ms: number): string[] {
  return board.covers.filter((c) => valueAt(c.uncovered, ms)?.[1] === 1).map((c) => c.item);
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
function inkAt(board: Board, ms: number): { finished: readonly Stroke[]; growing: readonly TimedStroke[] } {
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

function grown(stroke: TimedStroke, ms: number): GrowingStroke {
  const time = Math.floor(ms);
  const count = Math.max(1, countUpTo(stroke.points.length / 4, (i) => stroke.points[i * 4 + 3]! <= time));
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

function isAlive(lives: readonly number[], ms: number): boolean {
  for (let i = 0; i < lives.length; i += 2) {
    if (lives[i]! <= ms && (lives[i + 1]! < 0 || ms < lives[i + 1]!)) {
      return true;
    }
  }

  return false;
}

function valueAt(steps: number[][], ms: number): number[] | undefined {
  return steps[countUpTo(steps.length, (i) => steps[i]![0]! <= ms) - 1];
}

/** How many of the first `length` indexes fulfil a condition that holds up to some index and not beyond. */
function countUpTo(length: number, holds: (index: number) => boolean): number {
  let low = 0;
  let high = length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(middle)) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }

  return low;
}

function undoDifferences(flat: number[], columns: number): number[] {
  for (let i = columns; i < flat.length; i++) {
    flat[i]! += flat[i - columns]!;
  }

  return flat;
}

function rows(flat: number[], columns: number): number[][] {
  const sums = undoDifferences([...flat], columns);
  return Array.from({ length: sums.length / columns }, (_, i) => sums.slice(i * columns, (i + 1) * columns));
}
