// Turns what pen, mouse, fingers and wheel do on the canvas into actions on the boards.

import type { Style } from "../timeline/timeline";
import { boardWidth } from "../timeline/timeline";
import { closeIn, type Journal, type LiveBoards } from "./live-boards";

export type Tool = "pen" | "highlighter" | "eraser" | "pointer" | "move";

export interface InputState {
  readonly boards: LiveBoards;
  readonly tool: Tool;
  readonly style: Style;
  /** Where the pointer is shown on this page. */
  pointer: { x: number; y: number } | null;
}

const eraserRadius = 90; // tenths of a unit
const mousePressure = 0.5;

export class BoardInput {
  private penSeen = false;
  private active: number | null = null;
  private swept: { x: number; y: number } | null = null;
  private fingers = new Map<number, { x: number; y: number }>();

  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly state: InputState,
    private readonly journal: Journal,
    private readonly changed: () => void,
  ) {
    canvas.addEventListener("pointerdown", (e) => this.down(e));
    canvas.addEventListener("pointermove", (e) => this.move(e));
    canvas.addEventListener("pointerup", (e) => this.up(e));
    canvas.addEventListener("pointercancel", (e) => this.cancel(e));
    canvas.addEventListener("pointerleave", (e) => this.leave(e));
    canvas.addEventListener("wheel", (e) => this.wheel(e), { passive: false });
    canvas.addEventListener("contextmenu", (e) => e.preventDefault());
  }

  private down(e: PointerEvent): void {
    if (e.pointerType === "mouse" && e.button !== 0) {
      return;
    }

    e.preventDefault();
    this.canvas.setPointerCapture(e.pointerId);
    this.penSeen ||= e.pointerType === "pen";
    if (e.pointerType === "touch") {
      this.fingers.set(e.pointerId, { x: e.clientX, y: e.clientY });
    }

    // Two fingers, or a hand beside a pen, move the view.
    if (this.moves(e)) {
      if (this.active !== null && this.fingers.has(this.active)) {
        this.state.boards.cancelStroke();
        this.active = null;
      }

      this.changed();
      return;
    }

    this.active = e.pointerId;
    const { boards, tool, style } = this.state;
    if (tool === "pen" || tool === "highlighter") {
      boards.beginStroke(style);
      boards.addPoints(this.point(e));
    } else if (tool === "eraser") {
      this.erase(e);
    } else if (tool === "pointer") {
      // Pointing at a cover lifts it, and once more puts it back.
      const at = this.place(e);
      this.showPointer(e);
      boards.touchCover(at.x, at.y, e.timeStamp);
    }

    this.changed();
  }

  private move(e: PointerEvent): void {
    const before = this.fingers.get(e.pointerId);
    if (before && this.moves(e)) {
      this.moveFinger(e, before);
      return;
    }

    const { boards, tool } = this.state;
    if (e.pointerId !== this.active) {
      if (tool === "pointer" && e.pointerType !== "touch") {
        this.showPointer(e);
      }

      return;
    }

    const events = e.getCoalescedEvents?.() ?? [];
    const all = events.length > 0 ? events : [e];
    if (tool === "pen" || tool === "highlighter") {
      boards.addPoints(all.flatMap((one) => this.point(one)));
    } else if (tool === "eraser") {
      all.forEach((one) => this.erase(one));
    } else if (tool === "pointer") {
      this.showPointer(e);
    } else {
      this.slide(e.movementX, e.movementY, e.timeStamp);
    }

    this.changed();
  }

  private up(e: PointerEvent): void {
    this.fingers.delete(e.pointerId);
    if (e.pointerId === this.active) {
      this.active = null;
      this.swept = null;
      this.state.boards.endStroke();
      this.state.boards.endSweep();
      if (e.pointerType === "touch") {
        this.away(e.timeStamp);
      }

      this.changed();
    }
  }

  private cancel(e: PointerEvent): void {
    if (e.pointerId === this.active) {
      this.state.boards.cancelStroke();
    }

    this.up(e);
  }

  private leave(e: PointerEvent): void {
    if (this.state.pointer && e.pointerId !== this.active) {
      this.away(e.timeStamp);
      this.changed();
    }
  }

  private wheel(e: WheelEvent): void {
    e.preventDefault();
    const { boards } = this.state;
    if (e.ctrlKey) {
      const at = this.place(e);
      boards.look(closeIn(boards.board.view, at.x, at.y, Math.exp(-e.deltaY / 300)), e.timeStamp);
    } else {
      this.slide(-e.deltaX, -e.deltaY, e.timeStamp);
    }

    this.changed();
  }

  private moves(e: PointerEvent): boolean {
    return e.pointerType === "touch" && (this.fingers.size >= 2 || this.penSeen);
  }

  private moveFinger(e: PointerEvent, before: { x: number; y: number }): void {
    const { boards } = this.state;
    const other = [...this.fingers].find(([id]) => id !== e.pointerId)?.[1];
    if (other) {
      const was = Math.hypot(before.x - other.x, before.y - other.y);
      const is = Math.hypot(e.clientX - other.x, e.clientY - other.y);
      const middle = this.place({ clientX: (e.clientX + other.x) / 2, clientY: (e.clientY + other.y) / 2 });
      boards.look(closeIn(boards.board.view, middle.x, middle.y, was > 0 ? is / was : 1), e.timeStamp);
      this.slide((e.clientX - before.x) / 2, (e.clientY - before.y) / 2, e.timeStamp);
    } else {
      this.slide(e.clientX - before.x, e.clientY - before.y, e.timeStamp);
    }

    this.fingers.set(e.pointerId, { x: e.clientX, y: e.clientY });
    this.changed();
  }

  private slide(dx: number, dy: number, time: number): void {
    const { boards } = this.state;
    const { view } = boards.board;
    const perPixel = view.width / this.canvas.clientWidth;
    boards.look({ ...view, x: view.x - dx * perPixel, y: view.y - dy * perPixel }, time);
  }

  private erase(e: PointerEvent): void {
    // Along the way from the last event, so that a quick sweep misses nothing.
    const at = this.place(e);
    const from = this.swept ?? at;
    const steps = Math.max(1, Math.ceil(Math.hypot(at.x - from.x, at.y - from.y) / eraserRadius));
    for (let i = 1; i <= steps; i++) {
      const share = i / steps;
      this.state.boards.erase(from.x + share * (at.x - from.x), from.y + share * (at.y - from.y), eraserRadius, e.timeStamp);
    }

    this.swept = at;
  }

  private showPointer(e: PointerEvent): void {
    const at = this.place(e);
    this.state.pointer = at;
    this.journal({ e: "pointer", b: this.state.boards.board.id, d: [Math.round(at.x), Math.round(at.y), Math.round(e.timeStamp * 10)] });
    this.changed();
  }

  private away(time: number): void {
    this.state.pointer = null;
    this.journal({ e: "away", t: time });
  }

  /** x, y, pressure, time. */
  private point(e: PointerEvent): number[] {
    const at = this.place(e);
    const pressure = e.pointerType === "mouse" || e.pressure === 0 ? mousePressure : e.pressure;
    return [at.x, at.y, pressure * 255, e.timeStamp];
  }

  private place(e: { clientX: number; clientY: number }): { x: number; y: number } {
    const box = this.canvas.getBoundingClientRect();
    const { view } = this.state.boards.board;
    const perPixel = view.width / box.width;
    return {
      x: Math.min(boardWidth, Math.max(0, view.x + (e.clientX - box.left) * perPixel)),
      y: Math.max(0, view.y + (e.clientY - box.top) * perPixel),
    };
  }
}
