import { part } from "../../shared/alpine";
import { scrolled, xOf } from "../axis";
import { between, edgeNear } from "../chosen";
import { rowAtHeight, type RowName } from "../layout";
import { live } from "../page";
import { msAt } from "../rows-canvas";
import { seen } from "../seen";
import type { RefinePage } from "./whole";

/** A press that moves less (px) is a press and chooses nothing. */
const leastDrag = 5;

/** An edge settles on the end of a phrase that is this near (px). */
const settleWithin = 14;

/** How near (px) to a chapter's beginning or a stop it is dragged by: a mouse, a finger. */
const reach = { mouse: 8, touch: 22 };

/** What can be dragged along its row. */
interface Movable {
  is: "chapter" | "stop";
  id: string;
  at: number;
}

/** What a pointer that is down does. */
type Doing =
  | { is: "choosing"; from: number; x: number }
  | { is: "scrubbing" }
  | { is: "panning"; x: number; startX: number }
  | { is: "moving"; what: Movable; startX: number }
  | { is: "edge"; beside: number };

let doing: Doing | null = null;

/** Fingers on the rows: two of them bring the rows closer. */
const fingers = new Map<number, number>();

/** Pointers on the rows: choosing, going somewhere, dragging what lies there. */
export const pointing = () =>
  part<RefinePage>()({
    msUnder(clientX: number): number {
      return msAt(seen.axis, this.$refs["rowsBase"]!, clientX);
    },

    rowUnder(event: PointerEvent): RowName | null {
      const top = this.$refs["rowsBase"]!.getBoundingClientRect().top;
      return seen.canvas ? rowAtHeight(seen.canvas.layout, event.clientY - top) : null;
    },

    /**
     * A free edge with Alt held; else it settles on the end of a phrase.
     * @param beside How far from it the pointer took hold, in px.
     */
    edgeUnder(event: PointerEvent, beside = 0): number {
      const ms = this.msUnder(event.clientX - beside);
      return event.altKey ? ms : edgeNear(ms, live.view.phrases, settleWithin * seen.axis.msPerPx);
    },

    /** The thinking stop or the beginning of a chapter under a pointer. The first chapter begins with the lesson. */
    movableUnder(event: PointerEvent): Movable | null {
      if (this.rowUnder(event) !== "chapters") {
        return null;
      }

      const ms = this.msUnder(event.clientX);
      const within = (event.pointerType === "touch" ? reach.touch : reach.mouse) * seen.axis.msPerPx;
      const nearest = (all: Movable[]): Movable | null =>
        all.filter((m) => Math.abs(m.at - ms) <= within).sort((a, b) => Math.abs(a.at - ms) - Math.abs(b.at - ms))[0] ?? null;
      return nearest(this.view.stops.map(({ id, atMs }) => ({ is: "stop", id, at: atMs })))
        ?? nearest(this.chapters.slice(1).map((c) => ({ is: "chapter", id: c.id, at: this.timeOf(c) })));
    },

    rowsDown(event: PointerEvent): void {
      if (event.button !== 0) {
        return;
      }

      (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
      this.endListening();
      this.closeMore();
      this.pressedChapter = "";
      const what = this.movableUnder(event);
      if (event.pointerType === "touch") {
        fingers.set(event.pointerId, event.clientX);
      }

      if (what) {
        doing = { is: "moving", what, startX: event.clientX };
      } else if (event.pointerType === "touch") {
        doing = { is: "panning", x: event.clientX, startX: event.clientX };
      } else if (this.rowUnder(event) === "ruler") {
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
          seen.axis = scrolled(seen.axis, (doing.x - event.clientX) * seen.axis.msPerPx);
          doing = { ...doing, x: event.clientX };
          this.takeRows();
          break;
        case "moving":
          if (seen.moved || Math.abs(event.clientX - doing.startX) >= leastDrag) {
            seen.moved = { id: doing.what.id, at: this.edgeUnder(event) };
            this.takeRows();
          }

          break;
        case "edge":
          this.dragEdge(this.edgeUnder(event, doing.beside), this.msUnder(event.clientX - doing.beside));
          break;
        default:
          (event.currentTarget as HTMLElement).style.cursor = this.movableUnder(event) ? "ew-resize" : "";
      }
    },

    rowsUp(event: PointerEvent): void {
      const was = doing;
      doing = null;
      const wasAlone = fingers.size <= 1;
      fingers.delete(event.pointerId);
      if (was?.is === "moving") {
        void this.drop(was.what);
      } else if (was?.is === "edge") {
        this.dropEdge();
      } else if ((was?.is === "choosing" && Math.abs(event.clientX - was.x) < leastDrag)
        || (was?.is === "panning" && Math.abs(event.clientX - was.startX) < leastDrag && wasAlone)) {
        this.chooseNothing();
        this.go(this.msUnder(event.clientX));
      }
    },

    /** The browser took the pointer away. */
    rowsCancel(event: PointerEvent): void {
      fingers.delete(event.pointerId);
      doing = null;
      seen.moved = null;
      this.leaveEdge();
      this.takeRows();
    },

    /** What was dragged stays there; what was only pressed opens. */
    async drop({ is, id, at }: Movable): Promise<void> {
      const to = seen.moved?.at;
      const chapter = this.chapters.find((c) => c.id === id);
      const stop = this.view.stops.find((s) => s.id === id);
      if (is === "chapter" && chapter && to !== undefined) {
        this.startAt(chapter, to);
      } else if (is === "stop" && stop && to !== undefined) {
        await this.moveStop(stop, to);
      } else if (stop) {
        this.openStop(stop);
      } else {
        this.goAndSee(at);
        this.openChapter(id);
      }

      seen.moved = null;
      this.takeRows();
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
      seen.moved = null;
      this.zoom(before / spread(), this.msUnder((a! + b!) / 2));
    },

    /** A handle is taken hold of. */
    edgeDown(event: PointerEvent): void {
      const handle = event.currentTarget as HTMLElement;
      const at = this.takeHold(handle.dataset["edge"] as "from" | "to");
      if (at !== null) {
        handle.setPointerCapture(event.pointerId);
        doing = { is: "edge", beside: event.clientX - this.$refs["rowsBase"]!.getBoundingClientRect().left - xOf(seen.axis, at) };
        event.stopPropagation();
      }
    },
  });
