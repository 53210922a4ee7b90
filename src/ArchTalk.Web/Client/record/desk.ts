// The boards while they are talked over: every deed is an event, which changes the state and goes into the journal. Nothing here
// touches the page.

import type { BoardEvent, Journal } from "../journal/events";
import type { PlacedDrawing } from "../ink/drawing";
import { remains } from "../ink/cutting";
import { arePlain, type Writing } from "../ink/letter-looks";
import { isNear, type Place } from "../ink/near";
import {
  type BoardsState, type BoardState, alive, aliveTexts, dry, type Ink, isAlive, type KeyLine, type KeyLineKind, type Note, type NoteKind, paneOf,
  reduce, type Typed,
} from "../scene/boards-state";
import { meets } from "../ink/stroke-shape";
import { type Box, boardWidth, type Ground, type Line, type Pane, sameView, type Style, type View, within } from "../scene/scene";
import { Past } from "./past";
import { lastLine } from "./written";

/** What leaves nothing behind. */
const passing: ReadonlySet<BoardEvent["e"]> = new Set(["pointer", "away", "view"]);

/** Stamps and samples are brought together to a few ms; what was gone back to is farther than this from what is either there or not. */
const clearMs = 15;

/** The journal takes no more places of an outline, and no more strokes of a line. */
const mostOfOutline = 1000;
const mostOfLine = 400;

/** What a board is apart from what is done on it. */
export interface DeskBoard {
  ground: Ground;
  /** Whether it grows under the hand. */
  isEmpty: boolean;
}

/** How empty boards grow, in board units; Core's figures. */
export interface Growth {
  by: number;
  /** Writing nearer to the end than this makes it longer. */
  before: number;
  tallest: number;
}

/** What is being typed. Places and the size of its letters (the em) are tenths of a unit; the number is 0 until the first letter. */
export interface Typing {
  number: number;
  readonly board: string;
  readonly place: Place;
  readonly size: number;
  readonly ink: string;
  /** What it said before. */
  readonly before: Writing;
}

/** Where a stroke lies once it has settled on words, and the height of their line, in tenths of a unit. */
export interface Settled {
  from: Place;
  to: Place;
  height: number;
  text: string;
}

/** One press of undo: what takes it back and what puts it back. */
interface Step {
  undo(stamp: number): BoardEvent[];
  redo(stamp: number): BoardEvent[];
}

/** What can be undone and redone on each board, the last first; never changed, so that it can be gone back to. */
type History = ReadonlyMap<string, { readonly done: Steps; readonly undone: Steps }>;

type Steps = { readonly step: Step; readonly rest: Steps } | null;

export class Desk {
  /** What is there for good: what was recorded, not what is tried out. */
  private kept: BoardsState;
  private history: History = new Map();
  private next = 1;
  /** Since the take was begun. */
  private past: Past<History>;

  /** Boards that were brought in since it was set up; earlier states don't have them. */
  private brought: readonly BoardState[] = [];

  constructor(
    private all: readonly DeskBoard[],
    private now: BoardsState,
    private readonly styles: readonly Style[],
    private readonly growth: Growth,
    private readonly journal: Journal,
  ) {
    this.kept = now;
    this.past = this.begun(0);
  }

  get boards(): readonly DeskBoard[] {
    return this.all;
  }

  /** @param boards All boards in their order. @param states Those of the boards that are new. */
  bringIn(boards: readonly DeskBoard[], states: readonly BoardState[], stamp: number): void {
    this.all = boards;
    this.brought = [...this.brought, ...states.map((s) => ({ ...s, view: { ...s.view, at: stamp } }))];
    this.now = this.withBrought(this.now);
    this.kept = this.withBrought(this.kept);
    this.past.keep({ state: this.now, history: this.history });
  }

  private withBrought(state: BoardsState): BoardsState {
    const missing = this.brought.filter((b) => !state.boards.has(b.id));
    return missing.length === 0 ? state : { ...state, boards: new Map([...state.boards, ...missing.map((b) => [b.id, b] as const)]) };
  }

  get state(): BoardsState {
    return this.now;
  }

  get current(): number {
    return this.boards.findIndex((b) => b.ground.id === this.now.shown.value);
  }

  get board(): BoardState {
    return this.now.boards.get(this.now.shown.value)!;
  }

  /** @param stamp For how far the pointer's trail has faded. */
  pane(stamp: number): Pane {
    const pane = paneOf(this.now, this.boards[this.current]!.ground, stamp);
    return this.sketch ? { ...pane, growing: [...pane.growing, { stroke: this.sketch, count: this.sketch.points.length / 4, tip: null }] } : pane;
  }

  /** What a hand is about to draw; seen here alone until it is drawn. */
  private sketch: Line | null = null;

  /** @param points Flat: x, y, pressure, time. */
  sketchStroke(style: Style, points: readonly number[]): void {
    this.sketch = { kind: "ink", key: "sketch", style, points };
  }

  dropSketch(): void {
    this.sketch = null;
  }

  // --- A take ---

  /** What is there now stays: it was recorded. */
  keep(): void {
    this.kept = this.now;
  }

  /** Whether there is anything that goes when recording starts. */
  get hasTried(): boolean {
    return [...this.now.boards.values()].some((b) => {
      const before = this.kept.boards.get(b.id)!;
      const sameCovers = [...b.uncovered.keys()].join() === [...before.uncovered.keys()].join();
      const sameMarks = b.ink.length === before.ink.length && alive(b).length === alive(before).length && b.texts === before.texts;
      return !sameMarks || b.height !== before.height || !sameCovers;
    });
  }

  /**
   * Begins a take: what was tried out is gone, the boards are as they were recorded, and the journal is told what is seen.
   * Earlier actions can't be undone in it.
   */
  beginTake(firstAction: number, stamp: number): void {
    const { shown, boards } = this.now;
    this.now = {
      ...this.kept,
      notes: [],
      keyLines: new Map(),
      shown,
      boards: new Map([...this.kept.boards].map(([id, b]) => {
        const view = within(boards.get(id)!.view.value, b.height);
        return [id, { ...b, view: { value: view, at: stamp } }];
      })),
    };
    this.history = new Map();
    this.next = firstAction;
    this.do({ e: "board", t: stamp, b: shown.value });
    for (const board of this.now.boards.values()) {
      const { x, y, width } = board.view.value;
      this.do({ e: "view", t: stamp, b: board.id, v: [x, y, width] });
    }

    this.past = this.begun(stamp);
  }

  private begun(stamp: number): Past<History> {
    return new Past(this.styles, stamp, { state: this.now, history: this.history });
  }

  // --- Retake ---

  get begunAt(): number {
    return this.past.begunAt;
  }

  /** When something was last done that stays, in ms. */
  lastDeed = 0;

  /** The board that was shown just before a stamp (ms). */
  shownAt(stamp: number): number {
    const { state } = this.past.at(stamp);
    return this.boards.findIndex((b) => b.ground.id === state.shown.value);
  }

  /**
   * Shows the boards as they were just before a stamp (`to`, in ms), or before what was done first after `from`; gives the moment.
   * A stroke that was being drawn ends there. Nothing is journalled, and `putBack` brings the present back.
   */
  goBack(from: number, to: number): number {
    const clear = this.past.clearOf(from, to, clearMs);
    const { state, history } = this.past.at(clear);
    const dried = dry(state);
    this.now = this.withBrought(dried.state);
    this.history = history;
    for (const stroke of dried.ended) {
      this.push(drawn(stroke), [...state.boards.values()].find((b) => b.wet.some((w) => w.number === stroke))!.id);
    }

    return clear;
  }

  putBack(): void {
    ({ state: this.now, history: this.history } = this.past.at(Infinity));
  }

  /** The present is what was gone back to. */
  goOn(stamp: number): void {
    this.lastDeed = 0;
    this.past.goesOn(stamp, { state: this.now, history: this.history });
    this.hidePointer(stamp);
  }

  // --- Boards and views ---

  show(index: number, stamp: number): void {
    const board = this.boards[index];
    if (board && index !== this.current) {
      this.hidePointer(stamp);
      this.putOut(stamp);
      this.do({ e: "board", t: stamp, b: board.ground.id });
    }
  }

  look(view: View, stamp: number): void {
    const allowed = within({ x: Math.round(view.x), y: Math.round(view.y), width: Math.round(view.width) }, this.board.height);
    if (!sameView(allowed, this.board.view.value)) {
      this.do({ e: "view", t: stamp, b: this.board.id, v: [allowed.x, allowed.y, allowed.width] });
    }
  }

  get canLengthen(): boolean {
    return this.boards[this.current]!.isEmpty && this.board.height < this.growth.tallest;
  }

  /** Adds room at the bottom of an empty board. */
  lengthen(stamp: number): void {
    if (this.canLengthen) {
      this.do({ e: "grow", t: stamp, b: this.board.id, h: Math.min(this.board.height + this.growth.by, this.growth.tallest) });
    }
  }

  // --- Ink ---

  /** Begins a stroke and gives its number. */
  beginStroke(style: Style): number {
    const number = this.next++;
    this.do({ e: "stroke", s: number, b: this.board.id, tool: style.tool, ink: style.ink, w: style.width });
    return number;
  }

  /** Adds points, flat: x and y in tenths of a unit, pressure 0 to 255, browser time in ms. An empty board grows under the hand. */
  addPoints(stroke: number, points: readonly number[]): void {
    const data = points.map((v, i) => Math.round(i % 4 === 3 ? v * 10 : v));
    this.do({ e: "points", s: stroke, d: data });
    const lowest = Math.max(...points.filter((_, i) => i % 4 === 1));
    if (lowest > (this.board.height - this.growth.before) * 10) {
      this.lengthen(points.at(-1)!);
    }
  }

  endStroke(stroke: number, stamp: number): void {
    this.do({ e: "lift", s: stroke, t: stamp });
    this.did(drawn(stroke), stamp);
  }

  /** The stroke was not meant: it never was. */
  cancelStroke(stroke: number): void {
    this.do({ e: "cancel", s: stroke });
  }

  /** A stroke as the journal has it, with its board and the words it lies on; null when it isn't to be seen any more. */
  private living(number: number): { ink: Ink; board: string } | null {
    for (const board of this.now.boards.values()) {
      const ink = board.ink.find((i) => i.number === number);
      if (ink) {
        return isAlive(ink) ? { ink, board: board.id } : null;
      }
    }

    return null;
  }

  /**
   * A stroke settles on words; one undo brings back what was drawn. With a kind they become a key line. Nothing happens when the stroke
   * is gone by now.
   */
  settle(stroke: number, { from, to, height, text }: Settled, kind: KeyLineKind | null, stamp: number): void {
    const found = this.living(stroke);
    if (!found) {
      return;
    }

    const number = this.next++;
    const d = [from.x, from.y, to.x, to.y];
    this.do({ e: "settle", t: stamp, a: number, s: stroke, d, h: height, x: text });
    const line = kind && { strokes: [number, stroke], kind, text, isMust: false };
    const mark = (t: number, isLine: boolean): BoardEvent[] => (line ? [keyEvent(line, isLine, t)] : []);
    mark(stamp, true).forEach((e) => this.do(e));
    this.didOn(found.board, {
      undo: (t) => [{ e: "undo", t, a: number }, ...mark(t, false)],
      redo: (t) => [{ e: "redo", t, a: number }, ...mark(t, true)],
    }, stamp);
  }

  /** Nobody answered on which words a stroke settles, and what they were to become: it is offered later. */
  leaveUnsettled(stroke: number, kind: KeyLineKind | null, stamp: number): void {
    if (this.living(stroke)) {
      this.do({ e: "unsettled", t: stamp, s: stroke, k: kind ?? "" });
    }
  }

  /** What a line touches (tenths of a unit): strokes, and what was typed. */
  private near(from: Place, to: Place, radius: number): { ink: Ink[]; texts: Typed[] } {
    return {
      ink: this.board.ink.filter((i) => isAlive(i) && isNear(i, from, to, radius)),
      texts: aliveTexts(this.board).filter((t) => t.text !== "" && meets(t.box, around(from, to, radius))),
    };
  }

  /** Erases what is near a line (tenths of a unit) and gives the action's number; null when there is nothing. */
  erase(from: Place, to: Place, radius: number, stamp: number): number | null {
    const { ink, texts } = this.near(from, to, radius);
    return this.rubOut([...ink, ...texts], stamp);
  }

  private rubOut(hit: readonly (Ink | Typed)[], stamp: number): number | null {
    if (hit.length === 0) {
      return null;
    }

    const number = this.next++;
    this.do({ e: "erase", t: stamp, a: number, s: hit.map((i) => i.key) });
    hit.flatMap((i) => this.now.keyLines.get(i.number) ?? []).forEach((line) => {
      this.rubbedOut.push(line);
      this.do(keyEvent(line, false, stamp));
    });
    return number;
  }

  /**
   * Rubs out what lies near a line (tenths of a unit): of strokes only that part, of what was typed or has settled on words all. Gives
   * the numbers of the actions.
   */
  erasePart(from: Place, to: Place, radius: number, stamp: number): number[] {
    const { ink, texts } = this.near(from, to, radius);
    const cut = ink.map((i) => ({ ink: i, left: i.words === "" ? remains(i, from, to, radius) : [] }));
    const touched = cut.filter((c) => c.left !== null);
    const erased = this.rubOut([...touched.map((c) => c.ink), ...texts], stamp);
    if (erased === null) {
      return [];
    }

    const parts = touched.flatMap((c) => c.left!.map((piece) => this.drawAtOnce(c.ink.style, piece, stamp)));
    return [erased, ...parts];
  }

  /** A stroke that is there whole at once, flat: x, y, pressure. */
  private drawAtOnce(style: Style, piece: readonly number[], stamp: number): number {
    const number = this.beginStroke(style);
    const rows = Array.from({ length: piece.length / 3 }, (_, i) => [piece[3 * i]!, piece[3 * i + 1]!, piece[3 * i + 2]!, stamp * 10]);
    this.do({ e: "points", s: number, d: rows.flat().map(Math.round) });
    this.do({ e: "lift", s: number, t: stamp });
    return number;
  }

  /** The key lines whose strokes a sweep that isn't over has erased. */
  private rubbedOut: KeyLine[] = [];

  /** What one sweep took away is undone at once. */
  endSweep(actions: readonly number[], stamp: number): void {
    const lines = this.rubbedOut;
    this.rubbedOut = [];
    if (actions.length > 0) {
      this.did({
        undo: (t) => [...actions.map((a): BoardEvent => ({ e: "undo", t, a })), ...lines.map((l) => keyEvent(l, true, t))],
        redo: (t) => [...actions.map((a): BoardEvent => ({ e: "redo", t, a })), ...lines.map((l) => keyEvent(l, false, t))],
      }, stamp);
    }
  }

  get canClear(): boolean {
    return alive(this.board).length > 0 || aliveTexts(this.board).length > 0;
  }

  /** Everything that was drawn on the board goes; one undo brings it back. */
  clear(stamp: number): void {
    if (this.canClear) {
      const number = this.next++;
      this.do({ e: "erase", t: stamp, a: number, s: [...alive(this.board), ...aliveTexts(this.board)].map((m) => m.key) });
      this.endSweep([number], stamp);
    }
  }

  // --- Key lines ---

  /**
   * What was written last on the board becomes a key line: the words a stroke settled on, or a line written by hand, which is shown as it
   * is until it is typed. Null when nothing was written in this take, or it is one already.
   */
  makeKeyLine(kind: KeyLineKind, stamp: number): KeyLine | null {
    const own = alive(this.board).filter((i) => i.number > 0);
    const typed = aliveTexts(this.board).filter((t) => t.text.trim() !== "").at(-1);
    if (typed && typed.number > (own.at(-1)?.number ?? 0)) {
      const line = { strokes: [typed.number], kind, text: typed.text.trim(), isMust: false };
      return this.isInKeyLine(typed.number) ? null : this.begunKeyLine(line, stamp);
    }

    const written = own.at(-1)?.words ? [own.at(-1)!] : lastLine(own.filter((i) => i.style.tool === "pen" && !i.words));
    if (written.length === 0 || written.some((i) => this.isInKeyLine(i.number))) {
      return null;
    }

    return this.begunKeyLine({ strokes: written.slice(-mostOfLine).map((i) => i.number), kind, text: written[0]!.words, isMust: false }, stamp);
  }

  private begunKeyLine(line: KeyLine, stamp: number): KeyLine {
    this.do(keyEvent(line, true, stamp));
    this.did({ undo: (t) => [keyEvent(line, false, t)], redo: (t) => [keyEvent(line, true, t)] }, stamp);
    return line;
  }

  private isInKeyLine(stroke: number): boolean {
    return [...this.now.keyLines.values()].some((l) => l.strokes.includes(stroke));
  }

  /** Says something else of a key line. */
  changeKeyLine(line: KeyLine, stamp: number): void {
    this.do(keyEvent(line, true, stamp));
  }

  /** It is no key line any more; what was drawn stays. */
  dropKeyLine(line: KeyLine, stamp: number): void {
    this.do(keyEvent(line, false, stamp));
  }

  // --- Typing ---

  /** A text that begins at a place; nothing is there until the first letter is typed. */
  newText({ x, y }: Place, size: number, style: Style): Typing {
    const place = { x: Math.round(x), y: Math.max(0, Math.round(y)) };
    return { number: 0, board: this.board.id, place, size: Math.round(size), ink: style.ink, before: { text: "", looks: "" } };
  }

  /** What was typed at a place in this take, to go on with; null when nothing was. */
  textAt(place: Place): Typing | null {
    const found = aliveTexts(this.board).findLast((t) => t.number > 0 && t.text !== "" && meets(t.box, around(place, place, 1)));
    return found
      ? {
        number: found.number, board: this.board.id, place: { x: found.x, y: found.y }, size: found.size,
        ink: this.styles.find((s) => s.tool === "pen" && s.color === found.color)?.ink ?? "", before: { text: found.text, looks: found.letterLooks },
      }
      : null;
  }

  /** The whole text as it is after a key. */
  type(typing: Typing, writing: Writing, stamp: number): void {
    typing.number ||= this.next++;
    this.do(typeEvent(typing, writing, stamp));
  }

  /** The text is done: one undo takes it back, or what was changed of it. */
  endText(typing: Typing, writing: Writing, stamp: number): void {
    const { number, board, before } = typing;
    if (number === 0 || (writing.text === before.text && writing.looks === before.looks)) {
      return;
    }

    this.didOn(board, before.text === "" ? drawn(number) : {
      undo: (t) => [typeEvent(typing, before, t)],
      redo: (t) => [typeEvent(typing, writing, t)],
    }, stamp);
  }

  /** Whether the board reaches down to a place (tenths of a unit); an empty one grows to it. */
  hasRoomTo(y: number, stamp: number): boolean {
    if (y > (this.board.height - this.growth.before) * 10) {
      this.lengthen(stamp);
    }

    return y <= this.board.height * 10;
  }

  // --- Light ---

  /** Lights up a region of the board that is shown, flat: x, y in tenths of a unit; the rest is dimmed. */
  lightUp(outline: readonly number[], stamp: number): void {
    let places = Array.from({ length: outline.length / 2 }, (_, i) => [Math.round(outline[2 * i]!), Math.round(outline[2 * i + 1]!)]);
    while (places.length > mostOfOutline) {
      places = places.filter((_, i) => i % 2 === 0);
    }

    this.do({ e: "light", t: stamp, b: this.board.id, d: places.flat() });
  }

  putOut(stamp: number): void {
    if (this.board.light) {
      this.do({ e: "light", t: stamp, b: this.board.id, d: [] });
    }
  }

  // --- Undo: of the board that is shown, last first ---

  get canUndo(): boolean {
    return this.stepsHere.done !== null;
  }

  get canRedo(): boolean {
    return this.stepsHere.undone !== null;
  }

  undo(stamp: number): void {
    const { done, undone } = this.stepsHere;
    if (done) {
      done.step.undo(stamp).forEach((e) => this.do(e));
      this.learn({ done: done.rest, undone: { step: done.step, rest: undone } }, stamp);
    }
  }

  redo(stamp: number): void {
    const { done, undone } = this.stepsHere;
    if (undone) {
      undone.step.redo(stamp).forEach((e) => this.do(e));
      this.learn({ done: { step: undone.step, rest: done }, undone: undone.rest }, stamp);
    }
  }

  // --- Covers ---

  get covers(): PlacedDrawing[] {
    return this.boards[this.current]!.ground.items.filter((i) => i.isCover);
  }

  get coversLeft(): number {
    return this.covers.filter((c) => !this.board.uncovered.has(c.id)).length;
  }

  /** Lifts the next cover from back to front; false when none is left. */
  uncoverNext(stamp: number): boolean {
    const next = this.covers.find((c) => !this.board.uncovered.has(c.id));
    if (next) {
      this.lift(next.id, stamp);
    }

    return next !== undefined;
  }

  /** Lifts the cover at a place (tenths of a unit), or puts the one back that was lifted from there. */
  touchCover({ x, y }: Place, stamp: number): boolean {
    const cover = this.covers.findLast((c) => x / 10 >= c.x && x / 10 <= c.x + c.drawing.width && y / 10 >= c.y && y / 10 <= c.y + c.drawing.height);
    if (cover) {
      this.lift(cover.id, stamp);
    }

    return cover !== undefined;
  }

  private lift(item: string, stamp: number): void {
    const board = this.board.id;
    const isUncovered = !this.board.uncovered.has(item);
    const event = (t: number, u: boolean): BoardEvent => ({ e: "cover", t, b: board, i: item, u });
    this.do(event(stamp, isUncovered));
    this.did({ undo: (t) => [event(t, !isUncovered)], redo: (t) => [event(t, isUncovered)] }, stamp);
  }

  // --- Notes: taken off by themselves, not by undo ---

  /** Notes something at a moment and gives its number. */
  note(kind: NoteKind, text: string, waitMs: number, stamp: number): number {
    const number = this.next++;
    this.do({ e: "note", t: stamp, n: number, k: kind, s: text, w: waitMs });
    return number;
  }

  /** A term of the vocabulary is said. */
  noteTerm(term: string, word: string, stamp: number): number {
    const number = this.next++;
    this.do({ e: "term", t: stamp, n: number, i: term, x: word });
    return number;
  }

  /** Says something else about the moment of a note. */
  renote({ number }: Note, kind: NoteKind, text: string, waitMs: number, stamp: number): void {
    this.do({ e: "note", t: stamp, n: number, k: kind, s: text, w: waitMs });
  }

  takeOff({ number }: Note, stamp: number): void {
    this.do({ e: "unnote", t: stamp, n: number });
  }

  /** What holds only this time and is not over yet. */
  get onlyThisTime(): Note | null {
    return this.now.notes.find((n) => n.kind === "once" && !n.isOver) ?? null;
  }

  endOnlyThisTime(stamp: number): void {
    if (this.onlyThisTime) {
      this.do({ e: "over", t: stamp, n: this.onlyThisTime.number });
    }
  }

  // --- Pointer ---

  /** Browsers tell of a resting pointer again whenever the page changes below it; such news is none. */
  point(place: Place, stamp: number): void {
    const [x, y] = [Math.round(place.x), Math.round(place.y)];
    const last = this.now.pointer?.board === this.board.id ? this.now.pointer.path.at(-1) : undefined;
    if (last?.[0] !== x || last[1] !== y) {
      this.do({ e: "pointer", b: this.board.id, d: [x, y, Math.round(stamp * 10)] });
    }
  }

  hidePointer(stamp: number): void {
    if (this.now.pointer) {
      this.do({ e: "away", t: stamp });
    }
  }

  private do(event: BoardEvent): void {
    this.now = reduce(this.now, event, this.styles);
    const stamp = stampOf(event) ?? this.past.last;
    this.past.add(event, stamp, { state: this.now, history: this.history });
    this.lastDeed = passing.has(event.e) ? this.lastDeed : stamp;
    this.journal(event);
  }

  private get stepsHere(): { done: Steps; undone: Steps } {
    return this.history.get(this.now.shown.value) ?? { done: null, undone: null };
  }

  /** Something was done on the board that is shown which can be undone. */
  private did(step: Step, stamp: number): void {
    this.didOn(this.now.shown.value, step, stamp);
  }

  private didOn(board: string, step: Step, stamp: number): void {
    this.push(step, board);
    this.past.add(null, stamp, { state: this.now, history: this.history });
  }

  private push(step: Step, board: string): void {
    this.history = new Map(this.history).set(board, { done: { step, rest: this.history.get(board)?.done ?? null }, undone: null });
  }

  private learn(steps: { done: Steps; undone: Steps }, stamp: number): void {
    this.history = new Map(this.history).set(this.now.shown.value, steps);
    this.past.add(null, stamp, { state: this.now, history: this.history });
  }
}

function drawn(stroke: number): Step {
  return { undo: (t) => [{ e: "undo", t, a: stroke }], redo: (t) => [{ e: "redo", t, a: stroke }] };
}

function typeEvent({ number, board, place, size, ink }: Typing, { text, looks }: Writing, t: number): BoardEvent {
  return { e: "type", t, n: number, b: board, p: [place.x, place.y], z: size, ink, x: text, l: arePlain(looks) ? "" : looks };
}

/** What lies within a radius of a line. */
function around(from: Place, to: Place, radius: number): Box {
  return {
    left: Math.min(from.x, to.x) - radius,
    top: Math.min(from.y, to.y) - radius,
    right: Math.max(from.x, to.x) + radius,
    bottom: Math.max(from.y, to.y) + radius,
  };
}

function keyEvent({ strokes, kind, text, isMust }: KeyLine, isLine: boolean, t: number): BoardEvent {
  return { e: "key", t, n: [...strokes], k: isLine ? kind : "", x: text, m: isMust };
}

// Null when the event says nothing of its time.
function stampOf(event: BoardEvent): number | null {
  if ("t" in event) {
    return event.t;
  }

  return "d" in event ? event.d.at(-1)! / 10 : null;
}

/** The nearest place on the board. */
export function onBoard({ x, y }: Place): Place {
  return { x: Math.min(boardWidth, Math.max(0, x)), y: Math.max(0, y) };
}
