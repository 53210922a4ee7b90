// The one time axis of the rows: which stretch of the lesson they show, and how far apart its moments lie. Computes only.

/** A pixel is never less than this many ms: a syllable is then as wide as a word on the page. */
const closest = 2;

/** Room left and right of a stretch that is brought into sight, as a share of it. */
const margin = 0.5;

export interface Axis {
  /** The lesson's time at the left edge, in ms. */
  from: number;
  msPerPx: number;
  /** In CSS pixels. */
  width: number;
  /** Of the lesson, in ms. */
  length: number;
}

export function wholeAxis(length: number, width: number): Axis {
  return { from: 0, msPerPx: Math.max(length / Math.max(width, 1), closest), width, length };
}

export function xOf(axis: Axis, ms: number): number {
  return (ms - axis.from) / axis.msPerPx;
}

export function msOf(axis: Axis, x: number): number {
  return Math.min(Math.max(axis.from + x * axis.msPerPx, 0), axis.length);
}

export function endOf(axis: Axis): number {
  return axis.from + axis.width * axis.msPerPx;
}

export function isWhole(axis: Axis): boolean {
  return axis.msPerPx >= wholeAxis(axis.length, axis.width).msPerPx;
}

/** Closer (a factor under 1) or farther, with a moment staying where it is. */
export function zoomed(axis: Axis, factor: number, at: number): Axis {
  const most = wholeAxis(axis.length, axis.width).msPerPx;
  const msPerPx = Math.min(Math.max(axis.msPerPx * factor, closest), most);
  return within({ ...axis, msPerPx, from: at - xOf(axis, at) * msPerPx });
}

export function scrolled(axis: Axis, by: number): Axis {
  return within({ ...axis, from: axis.from + by });
}

/** For another width of the page or another length of the lesson; what was seen whole is seen whole again. */
export function fitted(axis: Axis, length: number, width: number): Axis {
  return isWhole(axis) ? wholeAxis(length, width) : within({ ...axis, length, width });
}

/** Moved, and farther when it has to be, so that a stretch is seen with some room around it. */
export function showing(axis: Axis, from: number, to: number): Axis {
  const room = margin * Math.max(to - from, 1000);
  const [first, last] = [Math.max(from - room, 0), Math.min(to + room, axis.length)];
  if (first >= axis.from && last <= endOf(axis)) {
    return axis;
  }

  const msPerPx = Math.max(axis.msPerPx, (last - first) / Math.max(axis.width, 1));
  const middle = (first + last) / 2;
  return within({ ...axis, msPerPx: Math.min(msPerPx, wholeAxis(axis.length, axis.width).msPerPx), from: middle - (axis.width * msPerPx) / 2 });
}

function within(axis: Axis): Axis {
  const most = Math.max(axis.length - axis.width * axis.msPerPx, 0);
  return { ...axis, from: Math.min(Math.max(axis.from, 0), most) };
}

/** Where the ruler is marked, in ms apart: so that its clock times don't touch. */
export function marksOf(axis: Axis, widest = 70): number {
  const steps = [100, 200, 500, 1000, 2000, 5000, 10_000, 15_000, 30_000, 60_000, 120_000, 300_000, 600_000, 1_800_000, 3_600_000];
  return steps.find((s) => s / axis.msPerPx >= widest) ?? steps.at(-1)!;
}
