// What the server says of a lesson's edits: RefineView in C#. Times in ms, stretches of takes in samples.

export type ProposalKind = "Beginning" | "FalseStart" | "Ending" | "Afterword" | "FixLater" | "Silence" | "WritingSilence" | "Waiting"
  | "Question" | "Quiet" | "ShortSound" | "Unsettled";

export interface ProposalKey {
  kind: ProposalKind;
  take: string;
  start: number;
}

export interface Proposal {
  key: ProposalKey;
  source: [number, number];
  fromMs: number;
  toMs: number;
  restMs: number | null;
  keepsMarks: boolean;
  text: string;
}

export type EditKind = "TakenOut" | "MadeShort" | "Muted" | "Paused" | "SaidAgain" | "TakenBack" | "OnlyThisTime" | "UnderTone" | "Settled";

export interface Edit {
  kind: EditKind;
  take: string;
  source: [number, number];
  atMs: number;
  lengthMs: number;
  restMs: number;
}

/** How a thinking stop ends, as timelines count it: the student goes on, after a set time, the answer is shown. */
export type StopKind = 0 | 1 | 2;

export interface Stop {
  id: string;
  atMs: number;
  kind: StopKind;
  question: string;
  waitMs: number;
}

export interface Step {
  number: number;
  said: string;
  at: string;
}

export interface RefineView {
  version: number;
  canUndo: boolean;
  canRedo: boolean;
  revision: number;
  lengthMs: number;
  wholeMs: number;
  phrases: number[];
  proposals: Proposal[];
  edits: Edit[];
  stops: Stop[];
  leavesOutTemporary: boolean;
  steps: Step[];
}
