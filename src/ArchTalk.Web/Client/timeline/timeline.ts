// Reads timeline.json and says what is there at a time. It holds no rules: spans and steps were worked out on the server,
// and LessonTimeline.At in C# is the reference this must agree with.

import type { PlacedDrawing } from "../ink/drawing";

export interface Style {
  tool: "pen" | "highlighter";
  ink: string;
  width: string;
  color: string;
  units: number;
}

export interface Picture {
  src: string;
  width: number;
  height: number;
}

/** Left, top and width in tenths of a board unit. */
export interface View {
  x: number;
  y: number;
  width: number;
}

/** A stroke's points lie flat: x, y (tenths of a unit), pressure (0 to 255), time (ms). */
export interface Stroke {
  key: string;
  style: Style;
  lives: number[];
  points: number[];
}

export interface Board {
  id: string;
  title: string;
  height: number;
  pictures: Picture[];
  inkSource: string;
  items: PlacedDrawing[];
  /** What there is to see on it, in words. */
  description: string;
  strokes: Stroke[] | null;
  heights: number[][];
  views: number[][];
  /** Covers that are lifted: rows of time and 1 for uncovered. */
  covers: { item: string; uncovered: number[][] }[];
}

export interface Chapter {
  at: number;
  title: string;
}

export interface VisibleStroke {
  stroke: Stroke;
  /** How many of its points are drawn. */
  count: number;
}

export interface Scene {
  board: number;
  height: number;
  view: View;
  strokes: VisibleStroke[];
  pointer: { x: number; y: number } | null;
  /** The covers that are lifted. */
  uncovered: string[];
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
  }[];
  shown: number[];
  pointer: { board: number; end: number; path: number[] }[];
  ranges: Range[];
  chapters: Chapter[];
}

/** A point in what was recorded, kept for coming back: it stays right when the lesson is published anew. */
export interface Moment {
  take: string;
  sample: number;
}

export const boardWidth = 16000;
const samplesPerMs = 48;
const wholeBoard: View = { x: 0, y: 0, width: boardWidth };

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
    const boards = file.boards.map((b) => ({
      id: b.id,
      title: b.title,
      height: b.height,
      inkSource: b.ink,
      items: [],
      description: "",
      strokes: null,
      pictures: b.pictures.map((p) => ({ ...p, src: new URL(p.src, base).href })),
      heights: rows(b.heights, 2),
      views: rows(b.views, 4),
      covers: (b.covers ?? []).map((c) => ({ item: c.item, uncovered: rows(c.uncovered, 2) })),
    }));
    const pointer = file.pointer.map((p) => ({ ...p, path: rows(p.path, 3) }));
    return new Timeline(file.length, file.styles, boards, file.chapters, rows(file.shown, 2), pointer, file.ranges, base);
  }

  /** Loads the ink of a board, once. */
  async loadInk(index: number): Promise<void> {
    const board = this.boards[index];
    if (board && board.strokes === null) {
      const file = await fetchJson<{ items?: PlacedDrawing[]; description?: string; strokes: { key: string; style: number; lives: number[]; points: number[] }[] }>(
        new URL(board.inkSource, this.base).href,
      );
      board.items = file.items ?? [];
      board.description = file.description ?? "";
      board.strokes = file.strokes.map((s) => ({
        key: s.key,
        style: this.styles[s.style]!,
        lives: s.lives,
        points: undoDifferences(s.points, 4),
      }));
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
    const index = this.boardAt(ms);
    const board = this.boards[index]!;
    const view = valueAt(board.views, ms);
    const height = valueAt(board.heights, ms)?.[1] ?? board.height;
    const strokes: VisibleStroke[] = [];
    for (const stroke of board.strokes ?? []) {
      if (stroke.lives[0]! > ms) {
        break;
      }

      if (isAlive(stroke.lives, ms)) {
        strokes.push({ stroke, count: drawnBy(stroke.points, ms) });
      }
    }

    const run = this.pointer.find((p) => p.path[0]![0]! <= ms && (p.end < 0 || ms < p.end));
    const place = run && run.board === index ? valueAt(run.path, ms) : undefined;
    return {
      board: index,
      height,
      view: within(view ? { x: view[1]!, y: view[2]!, width: view[3]! } : wholeBoard, height),
      strokes,
      pointer: place ? { x: place[1]!, y: place[2]! } : null,
      uncovered: uncoveredAt(board, ms),
    };
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

/** The nearest view that shows no more than the board, whose height is in units: the rule of View.Within in C#. */
export function within(view: View, boardHeight: number): View {
  const width = Math.min(Math.max(view.width, boardWidth / 4), boardWidth);
  const lowest = Math.max(0, boardHeight * 10 - Math.floor((width * 9) / 16));
  return {
    x: Math.min(Math.max(view.x, 0), boardWidth - width),
    y: Math.min(Math.max(view.y, 0), lowest),
    width,
  };
}

/** The covers of a board that are lifted at a time. */
export function uncoveredAt(board: Board, ms: number): string[] {
  return board.covers.filter((c) => valueAt(c.uncovered, ms)?.[1] === 1).map((c) => c.item);
}

async function fetchJson<T>(address: string): Promise<T> {
  const response = await fetch(address);
  if (!response.ok) {
    throw new Error(`${address} answered ${response.status}.`);
  }

  return (await response.json()) as T;
}

function isAlive(lives: number[], ms: number): boolean {
  for (let i = 0; i < lives.length; i += 2) {
    if (lives[i]! <= ms && (lives[i + 1]! < 0 || ms < lives[i + 1]!)) {
      return true;
    }
  }

  return false;
}

function drawnBy(points: number[], ms: number): number {
  const time = Math.floor(ms);
  let low = 0;
  let high = points.length / 4;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (points[middle * 4 + 3]! <= time) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }

  return Math.max(1, low);
}

function valueAt(steps: number[][], ms: number): number[] | undefined {
  let low = 0;
  let high = steps.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (steps[middle]![0]! <= ms) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }

  return steps[low - 1];
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
