// What the parts of the Record page share: what the server wrote into it, and the machine behind it, which must not be
// reactive: Alpine would wrap it in proxies and slow the pen down.

import type { Hands } from "../input/hands";
import type { Glide } from "../input/glide";
import type { Window } from "../input/looking";
import type { Painter } from "../ink/painter";
import type { Style } from "../scene/scene";
import { pageData } from "../shared/page-data";
import type { Moment } from "../timeline/moments";
import type { Desk, Growth } from "./desk";
import type { RecordingSession } from "./session";

export interface BoardInfo {
  id: string;
  title: string;
  kind: string;
  small: string | null;
  /** The address of a picture of its items, when it has any. */
  items: string | null;
  notes: string;
}

/** A blank to fill, in units: where its letters begin, how large they are, and what is right there. */
export interface Blank {
  x: number;
  y: number;
  width: number;
  height: number;
  size: number;
  answers: string[];
}

export const page = pageData<{
  lesson: string;
  boards: BoardInfo[];
  styles: Style[];
  /** Of each board, where something is to be filled in. */
  blanks: Record<string, Blank[]>;
  /** Sizes of letters in units, by their names. */
  rules: { growth: Growth; eraserRadius: number; sizes: Record<string, number>; leastCapital: number };
  /** The vocabulary. */
  terms: { id: string; word: string }[];
  /** The parts of the lesson and the minutes planned for each. */
  agenda: { title: string; minutes: number | null }[];
  /** Where what is recorded comes in; null for the end of the lesson. */
  place: { from: Moment; until: Moment } | null;
  /** The take that was begun and not finished, when the page was opened. */
  unfinished: string | null;
  worker: string;
  worklet: string;
  voice: string;
}>("page-data");

export const api = `/api/lessons/${page.lesson}`;

export interface Machine {
  desk: Desk;
  painter: Painter;
  hands: Hands;
  window: Window;
  glide: Glide;
}

let kept: Machine | null = null;
let keptSession: RecordingSession | null = null;

/** The machine, once it is set up. */
export function machine(): Machine {
  if (!kept) {
    throw new Error("The boards are not loaded yet.");
  }

  return kept;
}

export function hasMachine(): boolean {
  return kept !== null;
}

export function setMachine(made: Machine): void {
  kept = made;
}

/** The recording session, which is there before the boards are. */
export function session(): RecordingSession {
  if (!keptSession) {
    throw new Error("The page is not set up yet.");
  }

  return keptSession;
}

export function setSession(made: RecordingSession): void {
  keptSession = made;
}
