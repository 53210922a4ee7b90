// The boards while they are written on: what is there, and the events that the journal keeps. Nothing here touches the page.

import type { PlacedDrawing } from "../ink/drawing";
import { boardWidth, type Picture, type Stroke, type Style, type View, type VisibleStroke, within } from "../timeline/timeline";

export interface LiveBoard {
  id: string;
  title: string;
  kind: string;
  height: number;
  view: View;
  pictures: Picture[];
  items: PlacedDrawing[];
  /** Covers that are lifted now. */
  uncovered: string[];
  strokes: LiveStroke[];
}

export interface LiveStroke extends Stroke {
  alive: boolean;
}

/** Takes in what is to be journalled. */
export type Journal = (event: object) => void;

const growBy = 300;
const growBefore = 160;
const tallest = 20_000;

/** What one press of undo takes back: a stroke, or all that one sweep of the eraser took away. */
interface Action {
  numbers: number[];
  strokes: LiveStroke[];
  erases: boolean;
}

export class LiveBoards {
  current = 0;
  private next = 1;
  private done: Action[] = [];
  private undone: Action[] = [];
  private drawing: { stroke: LiveStroke; number: number } | null = null;
  private sweep: Action | null = null;

  constructor(
    readonly boards: LiveBoard[],
    private readonly journal: Journal,
  ) {}

  get board(): LiveBoard {
    return this.boards[this.current]!;
  }

  get canUndo(): boolean {
    return this.done.length > 0;
  }

  get canRedo(): boolean {
    return this.undone.length > 0;
  }

  get visible(): VisibleStroke[] {
    return this.board.strokes.filter((s) => s.alive).map((stroke) => ({ stroke, count: stroke.points.length / 4 }));
  }

  /** Begins a take: earlier actions can't be undone in it, and the journal is told where we are. */
  beginTake(firstAction: number, time: number): void {
    this.next = firstAction;
    this.done = [];
    this.undone = [];
    this.journal({ e: "board", t: time, b: this.board.id });
    for (const board of this.boards) {
      this.journal({ e: "view", t: time, b: board.id, v: [board.view.x, board.view.y, board.view.width] });
    }
  }

  show(index: number, time: number): void {
    if (index >= 0 && index < this.boards.length && index !== this.current) {
      this.endStroke();
      this.current = index;
      this.journal({ e: "board", t: time, b: this.board.id });
    }
  }

  look(view: View, time: number): void {
    const allowed = within({ x: Math.round(view.x), y: Math.round(view.y), width: Math.round(view.width) }, this.board.height);
    const now = this.board.view;
    if (allowed.x !== now.x || allowed.y !== now.y || allowed.width !== now.width) {
      this.board.view = allowed;
      this.journal({ e: "view", t: time, b: this.board.id, v: [allowed.x, allowed.y, allowed.width] });
    }
  }

  beginStroke(style: Style): void {
    this.endStroke();
    const number = this.next++;
    const stroke: LiveStroke = { key: String(number), style, lives: [0, -1], points: [], alive: true };
    this.board.strokes.push(stroke);
    this.drawing = { stroke, number };
    this.journal({ e: "stroke", s: number, b: this.board.id, tool: style.tool, ink: style.ink, w: style.width });
  }

  /** Adds points, flat: x and y in tenths of a unit, pressure 0 to 255, browser time in ms. */
  addPoints(points: number[]): void {
    if (!this.drawing) {
      return;
    }

    const data: number[] = [];
    for (let i = 0; i < points.length; i += 4) {
      const x = Math.round(points[i]!);
      const y = Math.round(points[i + 1]!);
      const pressure = Math.round(points[i + 2]!);
      this.drawing.stroke.points.push(x, y, pressure, 0);
      data.push(x, y, pressure, Math.round(points[i + 3]! * 10));
      this.growFor(y, points[i + 3]!);
    }

    this.journal({ e: "points", s: this.drawing.number, d: data });
  }

  endStroke(): void {
    if (this.drawing) {
      this.push({ numbers: [this.drawing.number], strokes: [this.drawing.stroke], erases: false });
      this.drawing = null;
    }
  }

  /** The stroke was not meant: it never was. */
  cancelStroke(): void {
    if (this.drawing) {
      const { stroke, number } = this.drawing;
      this.board.strokes.splice(this.board.strokes.indexOf(stroke), 1);
      this.journal({ e: "cancel", s: number });
      this.drawing = null;
    }
  }

  /** Erases the strokes under a place; what one sweep takes away is undone at once. */
  erase(x: number, y: number, radius: number, time: number): void {
    const hit = this.board.strokes.filter((s) => s.alive && isNear(s, x, y, radius));
    if (hit.length === 0) {
      return;
    }

    const number = this.next++;
    hit.forEach((s) => (s.alive = false));
    this.sweep ??= { numbers: [], strokes: [], erases: true };
    this.sweep.numbers.push(number);
    this.sweep.strokes.push(...hit);
    this.journal({ e: "erase", t: time, a: number, s: hit.map((s) => s.key) });
  }

  endSweep(): void {
    if (this.sweep) {
      this.push(this.sweep);
      this.sweep = null;
    }
  }

  undo(time: number): void {
    this.endStroke();
    const action = this.done.pop();
    if (action) {
      action.strokes.forEach((s) => (s.alive = action.erases));
      action.numbers.forEach((a) => this.journal({ e: "undo", t: time, a }));
      this.undone.push(action);
    }
  }

  redo(time: number): void {
    const action = this.undone.pop();
    if (action) {
      action.strokes.forEach((s) => (s.alive = !action.erases));
      action.numbers.forEach((a) => this.journal({ e: "redo", t: time, a }));
      this.done.push(action);
    }
  }

  get covers(): PlacedDrawing[] {
    return this.board.items.filter((i) => i.isCover);
  }

  /** Lifts the next cover from back to front; false when none is left. */
  uncoverNext(time: number): boolean {
    const next = this.covers.find((c) => !this.board.uncovered.includes(c.id));
    if (next) {
      this.lift(next.id, time);
    }

    return next !== undefined;
  }

  /** Lifts the cover at a place (tenths of a unit), or puts the one back that was lifted from there. */
  touchCover(x: number, y: number, time: number): boolean {
    const cover = this.covers.findLast((c) => x / 10 >= c.x && x / 10 <= c.x + c.drawing.width && y / 10 >= c.y && y / 10 <= c.y + c.drawing.height);
    if (cover) {
      this.lift(cover.id, time);
    }

    return cover !== undefined;
  }

  private lift(id: string, time: number): void {
    const isUncovered = !this.board.uncovered.includes(id);
    this.board.uncovered = isUncovered ? [...this.board.uncovered, id] : this.board.uncovered.filter((u) => u !== id);
    this.journal({ e: "cover", t: time, b: this.board.id, i: id, u: isUncovered });
  }

  /** Adds room at the bottom of an empty board. */
  lengthen(time: number): void {
    const board = this.board;
    if (board.kind === "empty" && board.height < tallest) {
      board.height = Math.min(board.height + growBy, tallest);
      this.journal({ e: "grow", t: time, b: board.id, h: board.height });
    }
  }

  /** Forgets what was tried out before recording: only these strokes are left, and these covers lifted. */
  clear(strokes: ReadonlySet<LiveStroke>, uncovered: ReadonlySet<string>): void {
    for (const board of this.boards) {
      board.strokes = board.strokes.filter((s) => strokes.has(s));
      board.uncovered = board.items.filter((i) => uncovered.has(i.id)).map((i) => i.id);
    }

    this.done = [];
    this.undone = [];
  }

  // An empty board goes on under the hand that reaches its end.
  private growFor(y: number, time: number): void {
    if (this.board.kind === "empty" && y > (this.board.height - growBefore) * 10) {
      this.lengthen(time);
    }
  }

  private push(action: Action): void {
    this.done.push(action);
    this.undone = [];
  }
}

/** The view moved by a share of its width, or closed in on a place (tenths of a unit) by a factor. */
export function closeIn(view: View, x: number, y: number, factor: number): View {
  const width = Math.min(Math.max(view.width / factor, boardWidth / 4), boardWidth);
  const scale = width / view.width;
  return { x: x - (x - view.x) * scale, y: y - (y - view.y) * scale, width };
}

function isNear(stroke: Stroke, x: number, y: number, radius: number): boolean {
  const reach = radius + stroke.style.units * 5;
  const p = stroke.points;
  for (let i = 0; i < p.length; i += 4) {
    const j = Math.min(i + 4, p.length - 4);
    if (distance(x, y, p[i]!, p[i + 1]!, p[j]!, p[j + 1]!) <= reach) {
      return true;
    }
  }

  return false;
}

function distance(x: number, y: number, x0: number, y0: number, x1: number, y1: number): number {
  const dx = x1 - x0;
  const dy = y1 - y0;
  const square = dx * dx + dy * dy;
  const along = square === 0 ? 0 : Math.min(1, Math.max(0, ((x - x0) * dx + (y - y0) * dy) / square));
  return Math.hypot(x - x0 - along * dx, y - y0 - along * dy);
}
