// Timelines of version 1, in publications made before the second: they are never changed, so they are read as they are and put
// into the newer form. Their pointer lies in the timeline itself, whole.

import type { PointerEntry, TimelineFile } from "./files";

interface Version1 extends Omit<TimelineFile, "version" | "boards" | "pointerMinutes" | "placements" | "chapters" | "stops"> {
  version: 1;
  boards: (Omit<TimelineFile["boards"][number], "views" | "items" | "parameters"> & {
    views: number[];
    covers?: { item: string; uncovered: number[] }[];
  })[];
  pointer: { board: number; end: number; path: number[] }[];
  ranges: { take: string; pieces: [number, number, number, number][] }[];
  chapters: { at: number; title: string }[];
}

export interface Converted {
  file: TimelineFile;
  /** The pointer of the whole lesson. */
  runs: PointerEntry[];
}

export function isVersion1(file: { version: number }): file is Version1 {
  return file.version === 1;
}

export function fromVersion1(old: Version1): Converted {
  const shown: number[] = [];
  for (let i = 0; i < old.shown.length; i += 2) {
    shown.push(old.shown[i]!, old.shown[i + 1]!, i === 0 ? -1 : 0);
  }

  return {
    file: {
      ...old,
      version: 2,
      boards: old.boards.map(({ covers, views, ...board }) => ({
        ...board,
        views: [views, []],
        // The first row is not in differences: it said that nothing is uncovered, and now that the item shows.
        items: (covers ?? []).map((c) => ({ item: c.item, shows: c.uncovered.map((v, i) => (i % 2 === 0 ? v : i === 1 ? 1 - v : -v)) })),
        parameters: [],
      })),
      shown,
      pointerMinutes: [],
      placements: old.ranges.map((r) => ({
        take: r.take,
        pieces: r.pieces.map(([from, to, at, ends]) => ({ kind: at === ends ? "cut" : "straight", source: [from, to], target: [at, ends] })),
      })),
      chapters: old.chapters.map((c) => ({ ...c, id: "" })),
      stops: [],
    },
    runs: old.pointer.map((p) => ({ board: p.board, from: p.path[0]!, to: p.end, path: p.path })),
  };
}
