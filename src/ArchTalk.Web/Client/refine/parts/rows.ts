import { part } from "../../shared/alpine";
import { clock, seconds } from "../../shared/format";
import type { Moment } from "../../timeline/moments";
import { countUpTo } from "../../timeline/rows";
import { type Axis, fitted, isWhole, scrolled, showing, wholeAxis, xOf, zoomed } from "../axis";
import { between, edgeBeside, edgeNear, holds, type Stretch } from "../chosen";
import { files, live } from "../page";
import { Peaks } from "../peaks";
import { msAt, rowAtHeight, RowsCanvas } from "../rows-canvas";
import type { RefinePage } from "./whole";

/** A press that moves less (px) is a press and chooses nothing. */
const leastDrag = 5;

/** An edge settles on the end of a phrase that is this near (px). */
const settleWithin = 14;

const closerBy = 0.6;
const pauseMs = 2000;

let axis: Axis = wholeAxis(0, 1);
let canvas: RowsCanvas | null = null;

/** What a pointer that is down does. */
type Doing =
  | { is: "choosing"; from: number; x: number }
  | { is: "scrubbing" }
  | { is: "panning"; x: number; startX: number }
  | { is: "edge"; other: number };

let doing: Doing | null = null;

/** Fingers on the rows: two of them bring the rows closer. */
const fingers = new Map<number, number>();

/** The rows below the board, and the stretch that is chosen in them. */
export const rowsPart = () =>
  part<RefinePage>()({
    chosen: null as Stretch | null,
    /** Whether the rows show the whole lesson. */
    showsWhole: true,
    /** What stays when a stretch is taken out. */
    inkStays: false,
    rowsFrom: 0,
    rowsMost: 0,
    /** Where the edges of what is chosen are on the page, in px. */
    edges: { left: 0, right: 0 },

    startRows(): void {
      const base = this.$refs["rowsBase"] as HTMLCanvasElement;
      canvas = new RowsCanvas(base, this.$refs["rowsOver"] as HTMLCanvasElement, new Peaks(`${files}/peaks`, () => this.takeRows()));
      canvas.takeLook();
      axis = wholeAxis(this.lengthMs, canvas.width);
      new ResizeObserver(() => this.takeRows()).observe(base);
      matchMedia("(prefers-color-scheme: dark)").addEventListener("change", () => {
        canvas?.takeLook();
        this.takeRows();
      });
      base.parentElement!.addEventListener("wheel", (e) => this.wheel(e), { passive: false });
      this.takeRows();
    },

    /** Draws the rows anew. */
    takeRows(): void {
      const player = live.player;
      if (!canvas || !player) {
        return;
      }

      axis = fitted(axis, this.lengthMs, canvas.width);
      this.showsWhole = isWhole(axis);
      this.rowsFrom = axis.from;
      this.rowsMost = Math.max(axis.length - axis.width * axis.msPerPx, 0);
      const { timeline } = player;
      canvas.draw({
        axis,
        placements: timeline.placements,
        phrases: live.view.phrases,
        boards: timeline.boardSteps.map(({ at, board }) => ({ at, title: timeline.boards[board]?.title ?? "" })),
        marks: live.view.marks,
        colours: timeline.styles.map((s) => s.color),
        chapters: this.chapters.map((c) => ({ at: this.timeOf(c), title: c.title })),
        stops: live.view.stops,
        edits: live.view.edits,
        proposals: live.view.proposals,
        proposal: this.proposal && this.isTab("todo") ? { from: this.proposedFrom, to: this.proposedTo } : null,
      });
      this.takeEdges();
    },

    takeOver(): void {
      canvas?.drawOver(axis, this.ms, this.chosen);
    },

    // Only when they move: the playhead is drawn with every picture.
    takeEdges(): void {
      this.takeOver();
      if (this.chosen) {
        this.edges = { left: xOf(axis, this.chosen.from), right: xOf(axis, this.chosen.to) };
      }
    },

    /** Called with every picture while the lesson plays: the rows follow. */
    followRows(): void {
      if (this.isPlaying && (this.ms < axis.from || this.ms > axis.from + axis.width * axis.msPerPx)) {
        axis = scrolled(axis, this.ms - axis.from - 0.1 * axis.width * axis.msPerPx);
        this.takeRows();
      } else {
        this.takeOver();
      }
    },

    bringIntoSight(from: number, to: number): void {
      axis = showing(axis, from, to);
      this.takeRows();
    },

    get hasChosen(): boolean {
      return this.chosen !== null;
    },

    get hasNotChosen(): boolean {
      return this.chosen === null;
    },

    get chosenWords(): string {
      if (!this.chosen) {
        return "";
      }

      const { phrases, marks } = holds(this.chosen, live.view.phrases, live.view.marks);
      const length = seconds(this.chosen.to - this.chosen.from);
      const counted = (n: number, one: string, several: string) => (n === 0 ? "" : `, ${n} ${n === 1 ? one : several}`);
      return `${length}${counted(phrases, "phrase", "phrases")}${counted(marks, "stroke", "strokes")}`;
    },

    choose(from: number, to: number): void {
      this.chosen = to > from ? { from: Math.max(from, 0), to: Math.min(to, this.lengthMs) } : null;
      this.takeEdges();
    },

    chooseNothing(): void {
      this.chosen = null;
      this.takeOver();
    },

    /** At the playhead; what was chosen keeps its other edge. */
    startChoosing(): void {
      const at = edgeNear(this.ms, live.view.phrases, 150);
      this.choose(at, this.chosen && this.chosen.to > at ? this.chosen.to : edgeBeside(at, live.view.phrases, 1, this.lengthMs));
    },

    endChoosing(): void {
      const at = edgeNear(this.ms, live.view.phrases, 150);
      this.choose(this.chosen && this.chosen.from < at ? this.chosen.from : edgeBeside(at, live.view.phrases, -1, this.lengthMs), at);
    },

    phraseBack(): void {
      this.goAndSee(edgeBeside(this.ms, live.view.phrases, -1, this.lengthMs));
    },

    phraseForward(): void {
      this.goAndSee(edgeBeside(this.ms, live.view.phrases, 1, this.lengthMs));
    },

    /** Goes to a moment and brings it into sight. */
    goAndSee(ms: number): void {
      this.endListening();
      this.go(ms);
      this.bringIntoSight(this.ms, this.ms);
    },

    hearChosen(): void {
      if (this.chosen) {
        this.hearStretch(this.chosen.from, this.chosen.to);
      }
    },

    takeOut(): Promise<void> {
      return this.doToChosen("takeOut", { keepsMarks: this.inkStays });
    },

    makeShort(): Promise<void> {
      return this.doToChosen("makeShort", { restMs: Number(this.restMs) });
    },

    mute(): Promise<void> {
      return this.doToChosen("mute", {});
    },

    /** Records what is chosen anew. */
    sayAgain(): void {
      if (this.chosen) {
        this.recordFor(this.chosen.from, this.chosen.to);
      }
    },

    /** Records something more, between the two phrases that are nearest. */
    recordHere(): void {
      const { phrases } = live.view;
      const isSpoken = countUpTo(phrases.length, (i) => phrases[i]! <= this.ms) % 2 === 1;
      const at = isSpoken ? edgeNear(this.ms, phrases, Infinity) : this.ms;
      this.recordFor(at, at);
    },

    recordFor(from: number, to: number): void {
      const timeline = live.player?.timeline;
      const [first, next] = [timeline?.momentAt(from), timeline?.momentAt(to)];
      if (timeline && first && next && !this.isBusy) {
        // There is no moment at the very end.
        const until = { take: next.take, sample: next.sample + (to >= timeline.length ? 1 : 0) };
        const words = ({ take, sample }: Moment): string => `${take}:${sample}`;
        location.href = `${files}/record?from=${words(first)}&until=${words(until)}`;
      }
    },

    async doToChosen(what: string, more: object): Promise<void> {
      const stretch = this.chosen;
      if (stretch) {
        this.endListening();
        const at = stretch.from;
        if (await this.doStep({ do: what, fromMs: at, toMs: stretch.to, ...more })) {
          this.chooseNothing();
          this.go(at);
        }
      }
    },

    toggleInkStays(): void {
      this.inkStays = !this.inkStays;
    },

    async pauseHere(): Promise<void> {
      await this.doStep({ do: "pause", atMs: this.ms, lengthMs: pauseMs });
    },

    zoomIn(): void {
      this.zoom(closerBy, this.ms);
    },

    zoomOut(): void {
      this.zoom(1 / closerBy, this.ms);
    },

    zoomToWhole(): void {
      axis = wholeAxis(this.lengthMs, canvas?.width ?? 1);
      this.takeRows();
    },

    zoom(factor: number, at: number): void {
      axis = zoomed(axis, factor, at);
      this.takeRows();
    },

    scrollRows(event: Event): void {
      axis = scrolled(axis, Number((event.target as HTMLInputElement).value) - axis.from);
      this.takeRows();
    },

    get rowsFromWords(): string {
      return `from ${clock(this.rowsFrom)}`;
    },

    // Up and down: closer and farther; sideways, or with Shift: along.
    wheel(event: WheelEvent): void {
      event.preventDefault();
      const along = event.shiftKey ? event.deltaY : event.deltaX;
      if (Math.abs(along) > Math.abs(event.shiftKey ? 0 : event.deltaY)) {
        axis = scrolled(axis, along * axis.msPerPx);
        this.takeRows();
      } else {
        this.zoom(Math.exp(event.deltaY / 400), this.msUnder(event.clientX));
      }
    },

    msUnder(clientX: number): number {
      return msAt(axis, this.$refs["rowsBase"]!, clientX);
    },

    /** A free edge with Alt held; else it settles on the end of a phrase. */
    edgeUnder(event: PointerEvent): number {
      const ms = this.msUnder(event.clientX);
      return event.altKey ? ms : edgeNear(ms, live.view.phrases, settleWithin * axis.msPerPx);
    },

    rowsDown(event: PointerEvent): void {
      if (event.button !== 0) {
        return;
      }

      const target = event.currentTarget as HTMLElement;
      target.setPointerCapture(event.pointerId);
      this.endListening();
      if (event.pointerType === "touch") {
        fingers.set(event.pointerId, event.clientX);
        doing = { is: "panning", x: event.clientX, startX: event.clientX };
      } else if (rowAtHeight(event.clientY - target.getBoundingClientRect().top) === "ruler") {
        doing = { is: "scrubbing" };
        this.go(this.msUnder(event.clientX));
      } else {
        doing = { is: "choosing", from: this.edgeUnder(event), x: event.clientX };
      }
    },

    rowsMove(event: PointerEvent): void {
      if (fingers.size === 2 && fingers.has(event.pointerId)) {
        this.pinch(event);
        return;
      }

      switch (doing?.is) {
        case "scrubbing":
          this.go(this.msUnder(event.clientX));
          break;
        case "choosing":
          if (Math.abs(event.clientX - doing.x) >= leastDrag) {
            const stretch = between(doing.from, this.edgeUnder(event));
            this.choose(stretch.from, stretch.to);
          }

          break;
        case "panning":
          axis = scrolled(axis, (doing.x - event.clientX) * axis.msPerPx);
          doing = { ...doing, x: event.clientX };
          this.takeRows();
          break;
        case "edge": {
          const stretch = between(doing.other, this.edgeUnder(event));
          this.choose(stretch.from, stretch.to);
          break;
        }
      }
    },

    rowsUp(event: PointerEvent): void {
      const isPress = (doing?.is === "choosing" && Math.abs(event.clientX - doing.x) < leastDrag)
        || (doing?.is === "panning" && Math.abs(event.clientX - doing.startX) < leastDrag && fingers.size === 1);
      fingers.delete(event.pointerId);
      if (isPress) {
        this.chooseNothing();
        this.go(this.msUnder(event.clientX));
        this.pressMark(this.ms, rowAtHeight(event.clientY - (event.currentTarget as HTMLElement).getBoundingClientRect().top));
      }

      doing = null;
    },

    /** The browser took the pointer away. */
    rowsCancel(event: PointerEvent): void {
      fingers.delete(event.pointerId);
      doing = null;
    },

    // A press on a thinking stop opens it.
    pressMark(ms: number, row: string | null): void {
      const stop = row === "chapters" ? this.view.stops.find((s) => Math.abs(s.atMs - ms) / axis.msPerPx <= 12) : undefined;
      if (stop) {
        this.openStop(stop);
      }
    },

    pinch(event: PointerEvent): void {
      const spread = () => {
        const [a, b] = [...fingers.values()];
        return Math.max(Math.abs(a! - b!), 8);
      };
      const before = spread();
      fingers.set(event.pointerId, event.clientX);
      const [a, b] = [...fingers.values()];
      doing = null;
      this.zoom(before / spread(), this.msUnder((a! + b!) / 2));
    },

    edgeDown(event: PointerEvent): void {
      const isLeft = (event.currentTarget as HTMLElement).dataset["edge"] === "from";
      if (this.chosen) {
        (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
        doing = { is: "edge", other: isLeft ? this.chosen.to : this.chosen.from };
        event.stopPropagation();
      }
    },

    /** By 0.1 s, with Shift to the next end of a phrase. */
    edgeKey(event: KeyboardEvent): void {
      const by = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
      if (by === 0 || !this.chosen) {
        return;
      }

      event.preventDefault();
      event.stopPropagation();
      const isLeft = (event.currentTarget as HTMLElement).dataset["edge"] === "from";
      const was = isLeft ? this.chosen.from : this.chosen.to;
      const next = event.shiftKey ? edgeBeside(was, live.view.phrases, by, this.lengthMs) : was + by * 100;
      if (isLeft && next < this.chosen.to) {
        this.choose(next, this.chosen.to);
      } else if (!isLeft && next > this.chosen.from) {
        this.choose(this.chosen.from, next);
      }
    },

    get fromEdgeStyle(): Record<string, string> {
      return { left: `${this.edges.left}px` };
    },

    get toEdgeStyle(): Record<string, string> {
      return { left: `${this.edges.right}px` };
    },

    get chosenFromWords(): string {
      return this.chosen ? clock(this.chosen.from) : "";
    },

    get chosenToWords(): string {
      return this.chosen ? clock(this.chosen.to) : "";
    },

    get chosenFromMs(): number {
      return Math.round(this.chosen?.from ?? 0);
    },

    get chosenToMs(): number {
      return Math.round(this.chosen?.to ?? 0);
    },
  });
