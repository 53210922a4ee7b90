// Draws the rows below the board: ruler, voice, boards, what was drawn, chapters and stops. The playhead and what is chosen lie on a
// canvas of their own, so that moving them draws nothing else.

import { clock, clockTenths } from "../shared/format";
import type { PlacementEntry } from "../timeline/files";
import { samplesPerMs } from "../timeline/moments";
import { type Axis, endOf, marksOf, msOf, xOf } from "./axis";
import type { Stretch } from "./chosen";
import { type Extra, type Layout, layoutOf, type Row } from "./layout";
import { type Peaks, resolutionFor } from "./peaks";
import type { Edit, Proposal, Stop } from "./view";

/** What the rows show. */
export interface Shown {
  axis: Axis;
  placements: readonly PlacementEntry[];
  phrases: readonly number[];
  boards: readonly { at: number; title: string }[];
  marks: ArrayLike<number>;
  colours: readonly string[];
  chapters: readonly { at: number; title: string }[];
  stops: readonly Stop[];
  /** Moments and what is said or to be learnt there. */
  terms: readonly { at: number; title: string }[];
  keyLines: readonly { at: number; title: string }[];
  edits: readonly Edit[];
  proposals: readonly Proposal[];
  /** The proposal on the card. */
  proposal: Stretch | null;
}

/** What lies over the rows and moves. */
export interface Over {
  ms: number;
  chosen: Stretch | null;
  /** What is dragged at the moment, and where its edge is. */
  dragged: number | null;
}

export class RowsCanvas {
  layout: Layout = layoutOf({ terms: false, keyLines: false });
  /** The canvases' width in CSS pixels, when they were last measured. */
  width = 0;

  private colours: Record<string, string> = {};
  private font = "";

  constructor(
    private readonly base: HTMLCanvasElement,
    private readonly over: HTMLCanvasElement,
    private readonly peaks: Peaks,
  ) {}

  /** Reads the look anew, light or dark: not with every picture. */
  takeLook(): void {
    this.font = `15px ${getComputedStyle(this.base).fontFamily}`;
    const style = getComputedStyle(document.documentElement);
    for (const name of ["panel", "ground", "text", "quiet", "border", "hairline", "primary", "accent", "stone", "recording", "drawn"]) {
      this.colours[name] = style.getPropertyValue(`--${name}`).trim();
    }
  }

  setExtra(extra: Extra): void {
    this.layout = layoutOf(extra);
  }

  takeSize(): void {
    this.width = this.base.clientWidth;
  }

  draw(shown: Shown): void {
    const to = this.begin(this.base);
    if (!to) {
      return;
    }

    this.drawRuler(to, shown);
    this.drawVoice(to, shown);
    this.drawBoards(to, shown);
    this.drawMarks(to, shown);
    this.drawChapters(to, shown);
    this.drawMoments(to, shown.axis, this.layout.rows.terms, shown.terms);
    this.drawMoments(to, shown.axis, this.layout.rows.keyLines, shown.keyLines);
  }

  /** The playhead, what is chosen, and what is dragged. */
  drawOver(axis: Axis, { ms, chosen, dragged }: Over): void {
    const to = this.begin(this.over);
    if (!to) {
      return;
    }

    if (chosen) {
      const [left, right] = [xOf(axis, chosen.from), xOf(axis, chosen.to)];
      to.globalAlpha = 0.18;
      to.fillStyle = this.colour("primary");
      to.fillRect(left, 0, right - left, this.layout.height);
      to.globalAlpha = 1;
      to.fillRect(left - 1, 0, 2, this.layout.height);
      to.fillRect(right - 1, 0, 2, this.layout.height);
    }

    const x = Math.round(xOf(axis, ms));
    to.fillStyle = this.colour("recording");
    to.fillRect(x - 1, 0, 2, this.layout.height);
    to.beginPath();
    to.moveTo(x - 6, 0);
    to.lineTo(x + 6, 0);
    to.lineTo(x, 9);
    to.fill();
    if (dragged !== null) {
      this.drawTime(to, axis, dragged);
    }
  }

  // The time of what is dragged, over everything.
  private drawTime(to: CanvasRenderingContext2D, axis: Axis, ms: number): void {
    const [x, words] = [xOf(axis, ms), clockTenths(ms)];
    const width = to.measureText(words).width + 12;
    const left = Math.min(Math.max(x - width / 2, 0), axis.width - width);
    to.fillStyle = this.colour("text");
    to.fillRect(x - 1, 0, 2, this.layout.height);
    to.fillRect(left, 0, width, 22);
    to.fillStyle = this.colour("panel");
    to.fillText(words, left + 6, 11);
  }

  private row(name: keyof Layout["rows"]): Row {
    return this.layout.rows[name]!;
  }

  private colour(name: string): string {
    return this.colours[name] ?? "#000";
  }

  private begin(canvas: HTMLCanvasElement): CanvasRenderingContext2D | null {
    const context = canvas.getContext("2d");
    const ratio = window.devicePixelRatio || 1;
    const [width, height] = [Math.round(this.width * ratio), Math.round(this.layout.height * ratio)];
    if (!context || width === 0) {
      return null;
    }

    if (canvas.width !== width || canvas.height !== height) {
      [canvas.width, canvas.height] = [width, height];
    }

    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.clearRect(0, 0, this.width, this.layout.height);
    context.font = this.font;
    context.textBaseline = "middle";
    return context;
  }

  private drawRuler(to: CanvasRenderingContext2D, { axis, edits }: Shown): void {
    const { top, height } = this.row("ruler");
    const step = marksOf(axis);
    for (let at = Math.ceil(axis.from / step) * step; at <= Math.min(endOf(axis), axis.length); at += step) {
      const x = Math.round(xOf(axis, at));
      to.fillStyle = this.colour("border");
      to.fillRect(x, top + height - 6, 1, 6);
      to.fillStyle = this.colour("quiet");
      to.fillText(step < 1000 ? clockTenths(at) : clock(at), x + 4, top + height / 2);
    }

    // Each join.
    to.fillStyle = this.colour("accent");
    for (const edit of edits.filter((e) => e.kind === "TakenOut" && isSeen(axis, e.atMs, e.atMs))) {
      const x = Math.round(xOf(axis, edit.atMs));
      to.beginPath();
      to.moveTo(x - 5, top + height - 8);
      to.lineTo(x + 5, top + height - 8);
      to.lineTo(x, top + height);
      to.fill();
    }
  }

  private drawVoice(to: CanvasRenderingContext2D, shown: Shown): void {
    const { axis, phrases, proposals, proposal, edits } = shown;
    const { top, height } = this.row("voice");
    const [middle, half] = [top + height / 2, height / 2 - 5];
    to.fillStyle = this.colour("ground");
    to.fillRect(0, top, xOf(axis, axis.length), height);
    for (const p of proposals.filter((p) => isSeen(axis, p.fromMs, p.toMs))) {
      to.globalAlpha = 0.4;
      to.fillStyle = this.colour("accent");
      to.fillRect(xOf(axis, p.fromMs), top, Math.max((p.toMs - p.fromMs) / axis.msPerPx, 2), height);
      to.globalAlpha = 1;
    }

    to.fillStyle = this.colour("quiet");
    this.columns(shown, (x, low, high) => {
      const [up, down] = [Math.min(high, 1) * half, Math.max(low, -1) * half];
      to.fillRect(x, middle - Math.max(up, 0.5), 1, Math.max(up - down, 1));
    });

    // Where somebody speaks.
    to.fillStyle = this.colour("primary");
    for (let i = 0; i < phrases.length; i += 2) {
      if (isSeen(axis, phrases[i]!, phrases[i + 1]!)) {
        to.fillRect(xOf(axis, phrases[i]!), top + height - 3, Math.max((phrases[i + 1]! - phrases[i]!) / axis.msPerPx, 1), 3);
      }
    }

    this.drawOverVoice(to, axis, edits);
    if (proposal) {
      to.strokeStyle = this.colour("text");
      to.lineWidth = 2;
      to.strokeRect(xOf(axis, proposal.from), top + 1, Math.max((proposal.to - proposal.from) / axis.msPerPx, 2), height - 2);
    }
  }

  // What is muted is crossed out, a tone is a wave, and what holds only this time has a dashed line above it.
  private drawOverVoice(to: CanvasRenderingContext2D, axis: Axis, edits: readonly Edit[]): void {
    const { top, height } = this.row("voice");
    for (const { kind, atMs, lengthMs, restMs } of edits.filter((e) => isSeen(axis, e.atMs, e.atMs + e.restMs))) {
      const [x, width, middle] = [xOf(axis, atMs), lengthMs / axis.msPerPx, top + height / 2];
      if (kind === "Muted") {
        to.fillStyle = this.colour("recording");
        to.fillRect(x, middle - 1, width, 2);
      } else if (kind === "UnderTone") {
        this.drawWave(to, Math.max(x, 0), Math.min(x + width, axis.width), middle);
      } else if (kind === "OnlyThisTime" && restMs > 0) {
        to.strokeStyle = this.colour("text");
        to.lineWidth = 3;
        to.setLineDash([6, 4]);
        to.beginPath();
        to.moveTo(x, top + 2);
        to.lineTo(x + width, top + 2);
        to.stroke();
        to.setLineDash([]);
      }
    }
  }

  private drawWave(to: CanvasRenderingContext2D, from: number, until: number, middle: number): void {
    const [half, high] = [4, 6];
    to.strokeStyle = this.colour("recording");
    to.lineWidth = 2;
    to.beginPath();
    to.moveTo(from, middle);
    for (let x = from, up = true; x < until; x += half, up = !up) {
      to.lineTo(Math.min(x + half / 2, until), middle + (up ? -high : high));
    }

    to.stroke();
  }

  // Each pixel of the voice with its lowest and highest sample, as a share of the loudest seen.
  private columns({ axis, placements }: Shown, draw: (x: number, low: number, high: number) => void): void {
    const loudest = 32_768;
    const first = axis.from * samplesPerMs;
    const perPixel = axis.msPerPx * samplesPerMs;
    const resolution = resolutionFor(perPixel);
    for (const { take, pieces } of placements) {
      for (const piece of pieces) {
        const [start, end] = [(piece.target[0] - first) / perPixel, (piece.target[1] - first) / perPixel];
        if (piece.kind === "pause" || end <= 0 || start >= axis.width || end <= start) {
          continue;
        }

        const rate = (piece.source[1] - piece.source[0]) / (end - start);
        for (let x = Math.max(0, Math.floor(start)); x < Math.min(end, axis.width); x++) {
          const from = piece.source[0] + (Math.max(x, start) - start) * rate;
          const found = this.peaks.between(take, from, Math.min(from + rate, piece.source[1]), resolution);
          if (found) {
            draw(x, found[0] / loudest, found[1] / loudest);
          }
        }
      }
    }
  }

  private drawBoards(to: CanvasRenderingContext2D, { axis, boards }: Shown): void {
    boards.forEach(({ at, title }, i) => {
      this.drawSpan(to, axis, this.row("boards"), at, boards[i + 1]?.at ?? axis.length, title, i % 2 === 0 ? "stone" : "hairline");
    });
  }

  private drawMarks(to: CanvasRenderingContext2D, { axis, marks, colours }: Shown): void {
    const { top, height } = this.row("marks");
    to.fillStyle = this.colour("drawn");
    to.fillRect(0, top, xOf(axis, axis.length), height);

    // In three lines by turns, so that strokes that follow each other closely can be told apart. Boards are light, and so are pale inks.
    // Of an hour seen whole many lie on one pixel: one of them is drawn.
    const drawnTo = [-1, -1, -1];
    for (let i = 0; i < marks.length; i += 3) {
      const [from, until, style] = [marks[i]!, marks[i + 1]!, marks[i + 2]!];
      if (isSeen(axis, from, until)) {
        const [x, width] = [xOf(axis, from), Math.max((until - from) / axis.msPerPx, 3)];
        const line = (i / 3) % 3;
        if (x + width < drawnTo[line]! + 1) {
          continue;
        }

        drawnTo[line] = x + width;
        const y = top + 3 + line * 9;
        to.fillStyle = this.colour("border");
        to.fillRect(x - 0.5, y - 0.5, width + 1, 7);
        to.fillStyle = colours[style] ?? this.colour("text");
        to.fillRect(x, y, width, 6);
      }
    }
  }

  private drawChapters(to: CanvasRenderingContext2D, { axis, chapters, stops }: Shown): void {
    chapters.forEach(({ at, title }, i) => {
      this.drawSpan(to, axis, this.row("chapters"), at, chapters[i + 1]?.at ?? axis.length, title, i % 2 === 0 ? "hairline" : "stone");
    });
    const { top, height } = this.row("chapters");
    for (const stop of stops.filter((s) => isSeen(axis, s.atMs, s.atMs))) {
      const [x, y] = [xOf(axis, stop.atMs), top + height / 2];
      to.fillStyle = this.colour("accent");
      to.strokeStyle = this.colour("text");
      to.lineWidth = 1.5;
      to.beginPath();
      to.moveTo(x, y - 9);
      to.lineTo(x + 9, y);
      to.lineTo(x, y + 9);
      to.lineTo(x - 9, y);
      to.closePath();
      to.fill();
      to.stroke();
    }
  }

  // Moments with their words: as much of each as fits before the next.
  private drawMoments(to: CanvasRenderingContext2D, axis: Axis, row: Row | undefined, moments: readonly { at: number; title: string }[]): void {
    if (!row) {
      return;
    }

    to.fillStyle = this.colour("ground");
    to.fillRect(0, row.top, xOf(axis, axis.length), row.height);
    moments.forEach(({ at, title }, i) => {
      const [x, next] = [xOf(axis, at), i + 1 < moments.length ? xOf(axis, moments[i + 1]!.at) : axis.width];
      if (x < -axis.width || x > axis.width || next < 0) {
        return;
      }

      to.fillStyle = this.colour("primary");
      to.fillRect(x - 1, row.top, 3, row.height);
      if (next - x > 24) {
        to.fillStyle = this.colour("text");
        to.fillText(shortened(to, title, next - x - 12), Math.max(x, 0) + 6, row.top + row.height / 2);
      }
    });
  }

  // A named stretch; its name stays in sight while the stretch is.
  private drawSpan(
    to: CanvasRenderingContext2D, axis: Axis, row: Row, from: number, until: number, name: string, colour: string,
  ): void {
    if (!isSeen(axis, from, until)) {
      return;
    }

    const [left, right] = [Math.max(xOf(axis, from), 0), Math.min(xOf(axis, until), axis.width)];
    to.fillStyle = this.colour(colour);
    to.fillRect(left + 0.5, row.top, Math.max(right - left - 1, 1), row.height);
    if (right - left > 24) {
      to.save();
      to.beginPath();
      to.rect(left, row.top, right - left - 4, row.height);
      to.clip();
      to.fillStyle = this.colour("text");
      to.fillText(shortened(to, name, right - left - 12), left + 6, row.top + row.height / 2);
      to.restore();
    }
  }
}

function isSeen(axis: Axis, from: number, until: number): boolean {
  return until >= axis.from && from <= endOf(axis);
}

/** A name with as many letters as fit. */
function shortened(to: CanvasRenderingContext2D, name: string, width: number): string {
  if (to.measureText(name).width <= width) {
    return name;
  }

  let [fits, tooLong] = [1, name.length];
  while (tooLong - fits > 1) {
    const middle = (fits + tooLong) >> 1;
    [fits, tooLong] = to.measureText(`${name.slice(0, middle)}…`).width <= width ? [middle, tooLong] : [fits, middle];
  }

  return `${name.slice(0, fits)}…`;
}

/** The ms under a place of the canvas. */
export function msAt(axis: Axis, canvas: HTMLElement, clientX: number): number {
  return msOf(axis, clientX - canvas.getBoundingClientRect().left);
}
