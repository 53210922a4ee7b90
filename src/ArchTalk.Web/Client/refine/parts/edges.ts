import { part } from "../../shared/alpine";
import { clockTenths } from "../../shared/format";
import { samplesPerMs } from "../../timeline/moments";
import { xOf } from "../axis";
import { edgeBeside, type Stretch } from "../chosen";
import { JoinLoop } from "../join-loop";
import { files, live } from "../page";
import { seen } from "../seen";
import type { Edit } from "../view";
import type { RefinePage } from "./whole";

/** Of what the two handles on the rows are the edges: what is chosen, what is proposed, or what was taken out at a join. */
type Handled = "chosen" | "proposal" | "join";

const words: Record<Handled, string> = { chosen: "what is chosen", proposal: "what is proposed", join: "what is taken out" };

const nudgeMs = 100;

/** Edges don't come closer than this, in ms. */
const closest = 50;

let held: "from" | "to" | null = null;
let loop: JoinLoop | null = null;

/** The two handles on the rows: by pointer and by keyboard. */
export const edges = () =>
  part<RefinePage>()({
    /** Where they are on the page, in px; null for one that is out of sight. */
    edges: { left: null as number | null, right: null as number | null },
    /** How far the edges at a join are dragged, in ms. */
    joinMoved: { from: 0, to: 0 },

    get handled(): Handled | null {
      return this.chosen ? "chosen"
        : this.isTab("todo") && this.hasProposedEdges ? "proposal"
        : this.isTab("out") && this.openJoin ? "join"
        : null;
    },

    /** The edges in the lesson of what has handles; at a join both lie on it until they are dragged. */
    handledEdges(): Stretch | null {
      switch (this.handled) {
        case "chosen":
          return this.chosen;
        case "proposal":
          return { from: this.proposedFrom, to: this.proposedTo };
        case "join":
          return { from: this.openJoin!.atMs + this.joinMoved.from, to: this.openJoin!.atMs + this.joinMoved.to };
        default:
          return null;
      }
    },

    // Written only when they move: the playhead is drawn with every picture.
    takeEdges(): void {
      this.takeOver();
      const stretch = this.handledEdges();
      const inSight = (ms: number): number | null => {
        const x = xOf(seen.axis, ms);
        return x >= -1 && x <= seen.axis.width + 1 ? x : null;
      };
      const [left, right] = stretch ? [inSight(stretch.from), inSight(stretch.to)] : [null, null];
      if (left !== this.edges.left || right !== this.edges.right) {
        this.edges = { left, right };
      }
    },

    /** What was taken out where a join's edges are shown. */
    get openJoin(): Edit | null {
      return this.view.edits.find((e) => e.kind === "TakenOut" && this.isOpenEdit(e)) ?? null;
    },

    /** Takes hold of an edge that has handles; where it is, in ms. */
    takeHold(edge: "from" | "to"): number | null {
      held = this.handled ? edge : null;
      const join = this.openJoin;
      if (held && this.handled === "join" && join) {
        this.endListening();
        this.said = "What lies around the join is heard again and again.";
        loop = new JoinLoop((from, to) => `${files}/voice.wav?as=Recorded&take=${join.take}&from=${Math.round(from)}&to=${Math.round(to)}`);
        void loop.start(this.joinSource(join)).catch(() => this.sayNotHeard());
      }

      return held === null ? null : this.handledEdges()![held];
    },

    sayNotHeard(): void {
      this.said = "The sound around the join could not be loaded. Drag the edge all the same, or try once more.";
    },

    // Its edges in the take, in ms, as they are dragged.
    joinSource({ source }: Edit): Stretch {
      return { from: source[0] / samplesPerMs + this.joinMoved.from, to: source[1] / samplesPerMs + this.joinMoved.to };
    },

    /** @param settled Where it settles on the end of a phrase. @param free Where the pointer is: at a join no phrase is seen to settle on. */
    dragEdge(settled: number, free: number): void {
      if (held) {
        seen.moved = { id: "", at: this.handled === "join" ? free : settled };
        this.setEdge(held, seen.moved.at);
      }
    },

    setEdge(edge: "from" | "to", at: number): void {
      const stretch = this.handledEdges();
      if (!stretch) {
        return;
      }

      const next = { ...stretch, [edge]: at };
      const join = this.openJoin;
      if (this.handled === "join" && join) {
        const was = this.joinMoved;
        this.joinMoved = { from: next.from - join.atMs, to: next.to - join.atMs };
        const { from, to } = this.joinSource(join);
        if (from < 0 || to - from < closest) {
          this.joinMoved = was;
        }

        loop?.move(this.joinSource(join));
        this.takeEdges();
      } else if (next.to - next.from >= closest && this.handled === "chosen") {
        this.choose(next.from, next.to);
      } else if (next.to - next.from >= closest) {
        this.setProposed(next.from, next.to);
      }
    },

    dropEdge(): void {
      const join = this.openJoin;
      const { from, to } = this.joinMoved;
      const isJoin = this.handled === "join";
      this.leaveEdge();
      if (join && isJoin && (from !== 0 || to !== 0)) {
        void this.moveEdges(join, from, to);
      } else if (isJoin) {
        this.said = "";
      }

      this.takeRows();
    },

    leaveEdge(): void {
      held = null;
      seen.moved = null;
      loop?.stop();
      loop = null;
      this.joinMoved = { from: 0, to: 0 };
    },

    /** By 0.1 s, with Shift to the next end of a phrase. */
    edgeKey(event: KeyboardEvent): void {
      const by = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
      const stretch = this.handledEdges();
      if (by === 0 || !stretch) {
        return;
      }

      event.preventDefault();
      event.stopPropagation();
      const edge = (event.currentTarget as HTMLElement).dataset["edge"] as "from" | "to";
      const join = this.openJoin;
      if (this.handled === "join" && join) {
        void this.moveEdges(join, edge === "from" ? by * nudgeMs : 0, edge === "to" ? by * nudgeMs : 0);
      } else {
        this.setEdge(edge, event.shiftKey ? edgeBeside(stretch[edge], live.view.phrases, by, this.lengthMs) : stretch[edge] + by * nudgeMs);
      }
    },

    handleStyle(x: number | null): Record<string, string> {
      return { left: `${x ?? 0}px`, visibility: x === null ? "hidden" : "visible" };
    },

    get hasHandles(): boolean {
      return this.edges.left !== null || this.edges.right !== null;
    },

    get fromEdgeStyle(): Record<string, string> {
      return this.handleStyle(this.edges.left);
    },

    get toEdgeStyle(): Record<string, string> {
      return this.handleStyle(this.edges.right);
    },

    get fromEdgeLabel(): string {
      return this.handled ? `Where ${words[this.handled]} begins` : "";
    },

    get toEdgeLabel(): string {
      return this.handled ? `Where ${words[this.handled]} ends` : "";
    },

    edgeMs(edge: "from" | "to"): number {
      return this.edges ? Math.round(this.handledEdges()?.[edge] ?? 0) : 0;
    },

    get fromEdgeMs(): number {
      return this.edgeMs("from");
    },

    get toEdgeMs(): number {
      return this.edgeMs("to");
    },

    get fromEdgeWords(): string {
      return clockTenths(this.edgeMs("from"));
    },

    get toEdgeWords(): string {
      return clockTenths(this.edgeMs("to"));
    },
  });
