// What a hand does on a board from putting down to lifting. Palms, second fingers and lost pointers are dealt with before
// (hands.ts); a gesture only ever sees one pointer, or two fingers together.

/** A place on the canvas in CSS pixels from its top left corner, with the pen's pressure (0 to 1) and the browser's stamp (ms). */
export interface Sample {
  x: number;
  y: number;
  pressure: number;
  stamp: number;
}

export interface Gesture {
  move(samples: readonly Sample[]): void;
  up(sample: Sample): void;
  /** It was not meant: nothing of it may remain. */
  cancel(stamp: number): void;
}

/** Two fingers: where the middle between them is and how far apart they are, in CSS pixels. */
export interface Spread {
  x: number;
  y: number;
  apart: number;
  stamp: number;
}

export interface PinchGesture {
  move(spread: Spread): void;
  up(): void;
}

/** What hands can do on a canvas. */
export interface Surface {
  /** A pen, a mouse or a finger that may write is put down; null when nothing is to come of it. */
  begin(sample: Sample, kind: "pen" | "mouse" | "touch"): Gesture | null;
  /** A finger that doesn't write is put down. */
  slide(sample: Sample): Gesture | null;
  pinch(spread: Spread): PinchGesture | null;
  /** A pen or mouse moves above the canvas without touching; null when it leaves. */
  hover(sample: Sample | null, stamp: number): void;
  /** Whether a finger writes; otherwise it moves the view. */
  readonly fingerWrites: boolean;
  /** A pen was seen for the first time. */
  penSeen(): void;
}
