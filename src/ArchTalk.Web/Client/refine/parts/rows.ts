import { part } from "../../shared/alpine";
import { clock } from "../../shared/format";
import { keepChoice, keptChoice } from "../../shared/kept";
import type { Timeline } from "../../timeline/timeline";
import { fitted, isWhole, scrolled, showing, wholeAxis, zoomed } from "../axis";
import { edgeBeside } from "../chosen";
import { layoutOf } from "../layout";
import { loadMarks } from "../marks";
import { files, live, page } from "../page";
import { Peaks } from "../peaks";
import { RowsCanvas } from "../rows-canvas";
import { seen } from "../seen";
import type { RefinePage } from "./whole";

/** Whether the rows are to be drawn with the next picture. */
let isDue = false;

const closerBy = 0.6;
const leastHeight = layoutOf({ terms: false, keyLines: false }).height;

/** The rows below the board: what they show, how close, and from where on. */
export const rowsPart = () =>
  part<RefinePage>()({
    /** Whether the rows show the whole lesson. */
    showsWhole: true,
    rowsFrom: 0,
    rowsMost: 0,
    /** The rows that are switched on by their names. */
    showsTerms: keptChoice("refine-terms", false),
    showsKeyLines: keptChoice("refine-key-lines", false),

    get showsHint(): boolean {
      return this.showsWhole && !this.hasPressed;
    },

    startRows(): void {
      const base = this.$refs["rowsBase"] as HTMLCanvasElement;
      const canvas = new RowsCanvas(base, this.$refs["rowsOver"] as HTMLCanvasElement, new Peaks(`${files}/peaks`, () => this.takeRows()));
      seen.canvas = canvas;
      canvas.takeLook();
      canvas.takeSize();
      seen.axis = wholeAxis(this.lengthMs, canvas.width);
      new ResizeObserver(() => {
        canvas.takeSize();
        this.takeRows();
      }).observe(base);
      matchMedia("(prefers-color-scheme: dark)").addEventListener("change", () => {
        canvas.takeLook();
        this.takeRows();
      });
      base.parentElement!.addEventListener("wheel", (e) => this.wheel(e), { passive: false });
      this.takeExtra();
    },

    /** What was drawn comes into its row by itself, as it lies in the lesson now. */
    async takeMarks(): Promise<void> {
      const { revision } = live.view;
      const marks = await loadMarks(`${files}/marks?revision=${revision}`, () => live.view.revision === revision);
      if (marks) {
        live.marks = marks;
        this.takeRows();
      }
    },

    /** Draws the rows anew with the next picture, however often something about them changes before. */
    takeRows(): void {
      const { canvas } = seen;
      if (!canvas || !live.player) {
        return;
      }

      const axis = (seen.axis = fitted(seen.axis, this.lengthMs, canvas.width));
      this.showsWhole = isWhole(axis);
      this.rowsFrom = axis.from;
      this.rowsMost = Math.max(axis.length - axis.width * axis.msPerPx, 0);
      this.takeEdges();
      if (!isDue) {
        isDue = true;
        requestAnimationFrame(() => {
          isDue = false;
          this.drawRows(canvas, live.player!.timeline);
        });
      }
    },

    drawRows(canvas: RowsCanvas, timeline: Timeline): void {
      const { axis } = seen;
      const { view } = live;
      const placed = (id: string, at: number): number => (seen.moved?.id === id ? seen.moved.at : at);
      canvas.draw({
        axis,
        placements: timeline.placements,
        phrases: view.phrases,
        boards: timeline.boardSteps.map(({ at, board }) => ({ at, title: timeline.boards[board]?.title ?? "" })),
        marks: live.marks,
        colours: timeline.styles.map((s) => s.color),
        chapters: this.chapters.map((c) => ({ at: placed(c.id, this.timeOf(c)), title: c.title })).sort((a, b) => a.at - b.at),
        stops: view.stops.map((s) => ({ ...s, atMs: placed(s.id, s.atMs) })),
        terms: timeline.terms.map(({ at, term }) => ({ at, title: page.terms[term] ?? "" })),
        keyLines: timeline.keyLines.map(({ at, text }) => ({ at, title: text || "(written)" })),
        edits: view.edits,
        proposals: this.view.proposals,
        proposal: this.proposal && this.isTab("todo") ? { from: this.proposedFrom, to: this.proposedTo } : null,
      });
    },

    takeOver(): void {
      seen.canvas?.drawOver(seen.axis, { ms: this.ms, chosen: this.chosen, dragged: seen.moved?.at ?? null });
    },

    /** Called with every picture while the lesson plays: the rows follow. */
    followRows(): void {
      const { axis } = seen;
      if (this.isPlaying && (this.ms < axis.from || this.ms > axis.from + axis.width * axis.msPerPx)) {
        seen.axis = scrolled(axis, this.ms - axis.from - 0.1 * axis.width * axis.msPerPx);
        this.takeRows();
      } else {
        this.takeOver();
      }
    },

    bringIntoSight(from: number, to: number): void {
      seen.axis = showing(seen.axis, from, to);
      this.takeRows();
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

    toggleTerms(): void {
      this.showsTerms = !this.showsTerms;
      keepChoice("refine-terms", this.showsTerms);
      this.takeExtra();
    },

    toggleKeyLines(): void {
      this.showsKeyLines = !this.showsKeyLines;
      keepChoice("refine-key-lines", this.showsKeyLines);
      this.takeExtra();
    },

    takeExtra(): void {
      seen.canvas?.setExtra({ terms: this.showsTerms, keyLines: this.showsKeyLines });

      // The canvases have their height only once the page has taken it.
      this.$nextTick(() => this.takeRows());
    },

    get rowsHeight(): number {
      return layoutOf({ terms: this.showsTerms, keyLines: this.showsKeyLines }).height;
    },

    /** What rows that are switched on take from the board. */
    get pageStyle(): Record<string, string> {
      return { "--more-rows": `${Math.max(this.rowsHeight - leastHeight, 0)}px` };
    },

    get rowsStyle(): Record<string, string> {
      return { height: `${this.rowsHeight}px` };
    },

    zoomIn(): void {
      this.zoom(closerBy, this.ms);
    },

    zoomOut(): void {
      this.zoom(1 / closerBy, this.ms);
    },

    zoomToWhole(): void {
      seen.axis = wholeAxis(this.lengthMs, seen.canvas?.width ?? 1);
      this.takeRows();
    },

    zoom(factor: number, at: number): void {
      seen.axis = zoomed(seen.axis, factor, at);
      this.takeRows();
    },

    scrollRows(event: Event): void {
      seen.axis = scrolled(seen.axis, Number((event.target as HTMLInputElement).value) - seen.axis.from);
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
        seen.axis = scrolled(seen.axis, along * seen.axis.msPerPx);
        this.takeRows();
      } else {
        this.zoom(Math.exp(event.deltaY / 400), this.msUnder(event.clientX));
      }
    },
  });
