import { type BoardState, type BoardsState, type Ink, type Typed } from "../scene/boards-state";
import { wholeWidth } from "../scene/scene";
import { samplesPerMs } from "../timeline/moments";
import { rowAt } from "../timeline/rows";
import { hiddenAt, isAlive, Timeline } from "../timeline/timeline";
import type { DeskBoard } from "./desk";
import type { BoardInfo, page } from "./page";

/** Where in which lesson. */
type Where = Pick<typeof page, "lesson" | "place" | "unfinished">;

export interface Loaded {
  boards: DeskBoard[];
  state: BoardsState;
  /** The terms of the vocabulary that earlier takes say. */
  terms: string[];
  /** Where what is recorded comes in, in ms; null for the end. */
  placeMs: number | null;
  /** And with what the lesson goes on. */
  timeline: Timeline;
}

/**
 * The boards with what earlier takes left on them, as they are at the end of the lesson, or where something is to be recorded in its
 * middle. That place may not be in the lesson any more; then it is null. A take that was begun there and not finished goes on at its end.
 */
export async function loadBoards({ lesson, place: chosen, unfinished }: Where, boards: readonly BoardInfo[]): Promise<Loaded> {
  const timeline = await Timeline.load(`/lessons/${lesson}/timeline.json`);
  const begun = timeline.placements.findIndex((p) => p.take === unfinished);
  const isBegun = begun >= 0 && begun < timeline.placements.length - 1;
  const place = isBegun ? timeline.placements[begun]!.pieces.at(-1)!.target[1]! / samplesPerMs : chosen && timeline.timeOf(chosen.from);
  if (place === null) {
    await timeline.loadAllAtEnd();
  } else {
    await Promise.all(timeline.boards.map((_, i) => timeline.loadInk(i)));
  }

  const end = place ?? timeline.length;
  const isThere = (lives: readonly number[]): boolean => (place === null ? lives.at(-1)! < 0 : isAlive(lives, end));
  const states = timeline.boards.map((board): BoardState => {
    const view = rowAt(board.views[0] ?? [], end);
    const strokes = (board.ink?.strokes ?? []).filter((s) => isThere(s.lives));
    return {
      id: board.id,
      height: rowAt(board.heights, end)?.[1] ?? board.height,
      view: { value: view && end > 0 ? { x: view[1]!, y: view[2]!, width: view[3]! } : wholeWidth, at: 0 },
      uncovered: new Map(hiddenAt(board, end).map((item) => [item, 0])),
      ink: strokes.map((s): Ink => ({
        kind: "ink",
        key: s.key,
        number: 0,
        style: s.style,
        points: s.points,
        box: s.box,
        isDrawn: true,
        erasedBy: [],
        words: "",
      })),
      wet: [],
      texts: board.texts.filter((t) => isThere(t.lives))
        .map((t): Typed => ({ ...t.steps.findLast((s) => s.at <= end)!.text, number: 0, letterLooks: "", isDrawn: true, erasedBy: [] })),
      light: null,
    };
  });
  const state: BoardsState = {
    notes: [],
    keyLines: new Map(),
    shown: { value: timeline.boards[timeline.boardAt(end)]?.id ?? "", at: 0 },
    boards: new Map(states.map((s) => [s.id, s])),
    pointer: null,
    erasures: new Map(),
  };
  const empty = new Set(boards.filter((b) => b.kind === "empty").map((b) => b.id));
  return {
    boards: timeline.boards.map((b) => ({ ground: b.ground, isEmpty: empty.has(b.id) })),
    state,
    terms: timeline.terms.map((t) => t.term),
    placeMs: place,
    timeline,
  };
}
