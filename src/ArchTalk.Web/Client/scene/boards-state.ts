// The boards as they are after what was done: a pure reducer over the journal's events. A state is never changed, so any state
// is a snapshot that can be gone back to.

import type { BoardEvent } from "../journal/events";
import { plain, readLooks } from "../ink/letter-looks";
import { typedText } from "../ink/typed";
import { finished } from "../ink/stroke-shape";
import { type Ground, type Line, type Pane, settledStyle, type Stroke, type Style, trailMs, type TypedText, type View, within } from "./scene";

/** A value and the stamp (ms) since which it holds. */
export interface Timed<T> {
  readonly value: T;
  readonly at: number;
}

/** A finished stroke, also while it is undone or erased. */
export interface Ink extends Stroke {
  /** Its number in this take; 0 for what earlier takes left, which no action of this take can undo. */
  readonly number: number;
  readonly isDrawn: boolean;
  /** The erasures that count at present. */
  readonly erasedBy: readonly number[];
  /** The words it settled on; empty for a stroke as it was drawn. */
  readonly words: string;
}

/** Something typed, also while it is undone or erased. */
export interface Typed extends TypedText {
  readonly number: number;
  /** As they are written down; known of this take only. */
  readonly letterLooks: string;
  readonly isDrawn: boolean;
  readonly erasedBy: readonly number[];
}

/** A stroke under the pen. Its points are only ever added to; `count` says how many of them this state knows. */
export interface WetInk {
  readonly number: number;
  readonly style: Style;
  readonly points: number[];
  readonly count: number;
}

export interface BoardState {
  readonly id: string;
  /** In units. */
  readonly height: number;
  readonly view: Timed<View>;
  /** Lifted covers, each with the stamp at which it was lifted. */
  readonly uncovered: ReadonlyMap<string, number>;
  readonly ink: readonly Ink[];
  readonly wet: readonly WetInk[];
  readonly texts: readonly Typed[];
  /** What is lit up; null when the light is out. */
  readonly light: readonly number[] | null;
}

/** What students do with a key line, as Core/Recording/KeyLineKind.cs has it. */
export type KeyLineKind = "write" | "mark" | "look";

/** Strokes of this take that are a key line, named by the first of them. */
export interface KeyLine {
  readonly strokes: readonly number[];
  readonly kind: KeyLineKind;
  readonly text: string;
  readonly isMust: boolean;
}

/** What can be noted, as Core/Recording/NoteKind.cs has it. */
export type NoteKind = "later" | "once" | "chapter" | "ask" | "repeat" | "answer" | "term";

/** Something noted in this take. */
export interface Note {
  readonly number: number;
  readonly kind: NoteKind;
  readonly text: string;
  /** For a set time, in ms. */
  readonly waitMs: number;
  /** When, as a stamp (ms). */
  readonly at: number;
  readonly isOver: boolean;
  /** The term of the vocabulary that is said. */
  readonly term: string | null;
}

export interface BoardsState {
  readonly notes: readonly Note[];
  /** By the number of their first stroke. */
  readonly keyLines: ReadonlyMap<number, KeyLine>;
  readonly shown: Timed<string>;
  readonly boards: ReadonlyMap<string, BoardState>;
  /** Where the pointer is, with its last places: rows of x, y (tenths of a unit) and stamp (ms). */
  readonly pointer: { readonly board: string; readonly path: readonly (readonly number[])[] } | null;
  /** What each erasure hit. */
  readonly erasures: ReadonlyMap<number, readonly string[]>;
}

/** The styles that strokes name by tool, ink and width. */
export type Styles = readonly Style[];

const keptPointerRows = 64;

export function reduce(state: BoardsState, event: BoardEvent, styles: Styles): BoardsState {
  switch (event.e) {
    case "stroke": {
      const style = styles.find((s) => s.tool === event.tool && s.ink === event.ink && s.width === event.w) ?? styles[0]!;
      return onBoard(state, event.b, (b) => ({ ...b, wet: [...b.wet, { number: event.s, style, points: [], count: 0 }] }));
    }

    case "points":
      return onWet(state, event.s, (board, wet) => ({ ...board, wet: board.wet.map((w) => (w === wet ? longer(w, event.d) : w)) }));
    case "lift":
      return onWet(state, event.s, lifted);
    case "cancel":
      return onWet(state, event.s, (board, wet) => ({ ...board, wet: board.wet.filter((w) => w !== wet) }));
    case "erase":
      return erase(state, event.a, new Set(event.s));
    case "settle":
      return settle(state, event);
    case "unsettled":
      return state;
    case "key": {
      const keyLines = new Map(state.keyLines);
      if (event.k) {
        keyLines.set(event.n[0]!, { strokes: event.n, kind: event.k as KeyLineKind, text: event.x, isMust: event.m });
      } else {
        keyLines.delete(event.n[0]!);
      }

      return { ...state, keyLines };
    }

    case "light":
      return onBoard(state, event.b, (b) => ({ ...b, light: event.d.length > 0 ? event.d : null }));
    case "type":
      return type(state, event, styles);
    case "undo":
      return setDone(state, event.a, false);
    case "redo":
      return setDone(state, event.a, true);
    case "board":
      return state.boards.has(event.b) ? { ...state, shown: { value: event.b, at: event.t } } : state;
    case "view": {
      const [x, y, width] = event.v as [number, number, number];
      return onBoard(state, event.b, (b) => ({ ...b, view: { value: within({ x, y, width }, b.height), at: event.t } }));
    }

    case "pointer": {
      const before = state.pointer?.board === event.b ? state.pointer.path : [];
      const rows = Array.from({ length: event.d.length / 3 }, (_, i) => [event.d[3 * i]!, event.d[3 * i + 1]!, event.d[3 * i + 2]! / 10]);
      return { ...state, pointer: { board: event.b, path: [...before, ...rows].slice(-keptPointerRows) } };
    }

    case "away":
      return { ...state, pointer: null };
    case "note": {
      const known = state.notes.find((n) => n.number === event.n);
      const [at, isOver] = [known?.at ?? event.t, known?.isOver ?? false];
      const note = { number: event.n, kind: event.k as NoteKind, text: event.s, waitMs: event.w, at, isOver, term: null };
      return { ...state, notes: known ? state.notes.map((n) => (n === known ? note : n)) : [...state.notes, note] };
    }

    case "term": {
      const note: Note = { number: event.n, kind: "term", text: event.x, waitMs: 0, at: event.t, isOver: false, term: event.i };
      return { ...state, notes: [...state.notes, note] };
    }

    case "unnote":
      return { ...state, notes: state.notes.filter((n) => n.number !== event.n) };
    case "over":
      return { ...state, notes: state.notes.map((n) => (n.number === event.n ? { ...n, isOver: true } : n)) };
    case "grow":
      return onBoard(state, event.b, (b) => ({ ...b, height: Math.max(b.height, event.h) }));
    case "cover":
      return onBoard(state, event.b, (b) => {
        const uncovered = new Map(b.uncovered);
        if (event.u) {
          uncovered.set(event.i, event.t);
        } else {
          uncovered.delete(event.i);
        }

        return { ...b, uncovered };
      });
  }
}

/** The strokes under the pen are finished as they are; gives their numbers, too. */
export function dry(state: BoardsState): { state: BoardsState; ended: number[] } {
  const wet = [...state.boards.values()].flatMap((b) => b.wet);
  const dryOne = (s: BoardsState, { number }: WetInk) => onWet(s, number, (board, one) => lifted(board, one));
  return { state: wet.reduce(dryOne, state), ended: wet.filter((w) => w.count > 0).map((w) => w.number) };
}

export function isAlive(mark: Ink | Typed): boolean {
  return mark.isDrawn && mark.erasedBy.length === 0;
}

const livingTexts = new WeakMap<readonly Typed[], readonly Typed[]>();

/** What was typed and can be seen; the same array as long as the board's texts are the same. */
export function aliveTexts(board: BoardState): readonly Typed[] {
  let known = livingTexts.get(board.texts);
  if (!known) {
    known = board.texts.filter(isAlive);
    livingTexts.set(board.texts, known);
  }

  return known;
}

const living = new WeakMap<readonly Ink[], readonly Ink[]>();

/** The strokes that can be seen; the same array as long as the board's ink is the same. */
export function alive(board: BoardState): readonly Ink[] {
  let known = living.get(board.ink);
  if (!known) {
    known = board.ink.every(isAlive) ? board.ink : board.ink.filter(isAlive);
    living.set(board.ink, known);
  }

  return known;
}

/** What can be seen of the board that is shown, at a stamp (ms), over its ground. */
export function paneOf(state: BoardsState, ground: Ground, now: number): Pane {
  const board = state.boards.get(ground.id)!;
  const path = state.pointer?.board === board.id ? state.pointer.path : [];
  const last = path.at(-1);
  const trail = path.map(([x, y, at]) => ({ x: x!, y: y!, age: now - at! })).filter((p) => p.age < trailMs);
  return {
    ground,
    height: board.height,
    view: board.view.value,
    finished: alive(board),
    growing: board.wet.filter((w) => w.count > 0).map((w) => ({ stroke: lineOf(w), count: w.count, tip: null })),
    texts: aliveTexts(board),
    hidden: [...board.uncovered.keys()],
    light: board.light,
    pointer: last ? { x: last[0]!, y: last[1]!, trail } : null,
  };
}

function onBoard(state: BoardsState, id: string, change: (board: BoardState) => BoardState): BoardsState {
  const board = state.boards.get(id);
  return board ? { ...state, boards: new Map(state.boards).set(id, change(board)) } : state;
}

function onWet(state: BoardsState, number: number, change: (board: BoardState, wet: WetInk) => BoardState): BoardsState {
  for (const board of state.boards.values()) {
    const wet = board.wet.find((w) => w.number === number);
    if (wet) {
      return { ...state, boards: new Map(state.boards).set(board.id, change(board, wet)) };
    }
  }

  return state;
}

// The array is shared with earlier states, which know how much of it is theirs; it is copied when such a state was gone back to.
function longer(wet: WetInk, rows: readonly number[]): WetInk {
  const points = wet.points.length === wet.count * 4 ? wet.points : wet.points.slice(0, wet.count * 4);
  for (let i = 0; i + 3 < rows.length; i += 4) {
    points.push(rows[i]!, rows[i + 1]!, rows[i + 2]!, rows[i + 3]! / 10);
  }

  return { ...wet, points, count: points.length / 4 };
}

function lifted(board: BoardState, wet: WetInk): BoardState {
  return { ...board, wet: board.wet.filter((w) => w !== wet), ink: wet.count > 0 ? [...board.ink, dried(wet)] : board.ink };
}

function lineOf(wet: WetInk): Line {
  return { kind: "ink", key: String(wet.number), style: wet.style, points: wet.points };
}

function dried(wet: WetInk): Ink {
  const line = { ...lineOf(wet), points: wet.points.slice(0, wet.count * 4) };
  return finished({ ...line, number: wet.number, isDrawn: true, erasedBy: [], words: "" });
}

/** Of a pen that is held evenly. */
const evenPressure = 128;

// The stroke as it was drawn goes, and the settled one comes, by one action.
function settle(state: BoardsState, event: Extract<BoardEvent, { e: "settle" }>): BoardsState {
  const { a: action, d: line, t: at } = event;
  const board = [...state.boards.values()].find((b) => b.ink.some((i) => i.number === event.s));
  const drawn = board?.ink.find((i) => i.number === event.s);
  if (!board || !drawn) {
    return state;
  }

  const erased = erase(state, action, new Set([drawn.key]));
  const [x0, y0, x1, y1] = line as [number, number, number, number];
  const points = [x0, y0, evenPressure, at, x1, y1, evenPressure, at];
  const stroke = { kind: "ink" as const, key: String(action), style: settledStyle(drawn.style, event.h), points };
  const ink = finished({ ...stroke, number: action, isDrawn: true, erasedBy: [], words: event.x });
  return onBoard(erased, board.id, (b) => ({ ...b, ink: [...b.ink, ink] }));
}

function erase(state: BoardsState, action: number, keys: ReadonlySet<string>): BoardsState {
  const hit: string[] = [];
  const boards = new Map(state.boards);
  for (const board of state.boards.values()) {
    const struck = [...board.ink, ...board.texts].filter((m) => keys.has(m.key) && isAlive(m)).map((m) => m.key);
    if (struck.length > 0) {
      hit.push(...struck);
      const rubbed = <T extends Ink | Typed>(mark: T): T => (struck.includes(mark.key) ? { ...mark, erasedBy: [...mark.erasedBy, action] } : mark);
      boards.set(board.id, withMarks(board, rubbed));
    }
  }

  return { ...state, boards, erasures: new Map(state.erasures).set(action, hit) };
}

// The arrays stay the same where nothing in them changes, so that painters see it.
function withMarks(board: BoardState, change: <T extends Ink | Typed>(mark: T) => T): BoardState {
  const changedOf = <T extends Ink | Typed>(marks: readonly T[]): readonly T[] => {
    const after = marks.map(change);
    return after.every((m, i) => m === marks[i]) ? marks : after;
  };
  return { ...board, ink: changedOf(board.ink), texts: changedOf(board.texts) };
}

// What goes on is the same text at the same place.
function type(state: BoardsState, event: BoardEvent & { e: "type" }, styles: Styles): BoardsState {
  const { n: number, b: id, p: place, x: text, l: looks } = event;
  const { color } = styles.find((s) => s.tool === "pen" && s.ink === event.ink) ?? styles[0]!;
  const typed = {
    ...typedText(String(number), place[0]!, place[1]!, event.z, color, text, readLooks(looks, styles)),
    letterLooks: looks === "" ? plain.repeat(text.length) : looks,
  };
  const known = [...state.boards.values()].find((b) => b.texts.some((t) => t.number === number));
  return known
    ? onBoard(state, known.id, (b) => ({ ...b, texts: b.texts.map((t) => (t.number === number ? { ...t, ...typed } : t)) }))
    : onBoard(state, id, (b) => ({ ...b, texts: [...b.texts, { ...typed, number, isDrawn: true, erasedBy: [] }] }));
}

// An action that isn't here changes nothing.
function setDone(state: BoardsState, action: number, isDone: boolean): BoardsState {
  const hit = new Set(state.erasures.get(action));
  const boards = new Map(state.boards);
  for (const board of state.boards.values()) {
    if ([...board.ink, ...board.texts].some((m) => m.number === action || hit.has(m.key))) {
      boards.set(board.id, withMarks(board, (mark) => changed(mark, action, isDone, hit)));
    }
  }

  return { ...state, boards };
}

function changed<T extends Ink | Typed>(ink: T, action: number, isDone: boolean, hit: ReadonlySet<string>): T {
  if (ink.number === action) {
    return { ...ink, isDrawn: isDone };
  }

  if (!hit.has(ink.key)) {
    return ink;
  }

  const others = ink.erasedBy.filter((e) => e !== action);
  return { ...ink, erasedBy: isDone ? [...others, action] : others };
}
