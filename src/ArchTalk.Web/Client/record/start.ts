import { type BoardState, type BoardsState, type Ink, type Typed } from "../scene/boards-state";
import { wholeWidth } from "../scene/scene";
import { hiddenAt, Timeline } from "../timeline/timeline";
import type { DeskBoard } from "./desk";

export interface Loaded {
  boards: DeskBoard[];
  state: BoardsState;
  /** The terms of the vocabulary that earlier takes say. */
  terms: string[];
}

/** The boards with what earlier takes left on them, as they are at the end of the lesson. */
export async function loadBoards(lesson: string, emptyBoards: ReadonlySet<string>): Promise<Loaded> {
  const timeline = await Timeline.load(`/lessons/${lesson}/timeline.json`);
  await timeline.loadAllAtEnd();
  const end = timeline.length;
  const states = timeline.boards.map((board): BoardState => {
    const view = board.views[0]?.at(-1);
    const strokes = (board.ink?.strokes ?? []).filter((s) => s.lives.at(-1)! < 0);
    return {
      id: board.id,
      height: board.heights.at(-1)?.[1] ?? board.height,
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
      texts: board.texts.filter((t) => t.lives.at(-1)! < 0).map((t): Typed => ({ ...t.steps.at(-1)!.text, number: 0, isDrawn: true, erasedBy: [] })),
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
  return { boards: timeline.boards.map((b) => ({ ground: b.ground, isEmpty: emptyBoards.has(b.id) })), state, terms: timeline.terms.map((t) => t.term) };
}
