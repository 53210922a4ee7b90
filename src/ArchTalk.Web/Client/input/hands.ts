// Tells apart pen, mouse, fingers and resting palms, once, so that gestures needn't: a hand never does anything while a pen is
// down, and what it began before the pen came is taken back.

import type { Gesture, PinchGesture, Sample, Spread, Surface } from "./gesture";

const mousePressure = 0.5;

/** A finger that rests while a pen is near is the writing hand; a pen counts as near for so long after it was seen, in ms. */
const penStaysNearMs = 700;

/** A contact as broad as this, in CSS pixels, is no finger tip. */
const palmPx = 70;

interface Active {
  id: number;
  kind: "pen" | "mouse" | "touch";
  gesture: Gesture;
  last: Sample;
}

export class Hands {
  private active: Active | null = null;
  private pinch: PinchGesture | null = null;
  private readonly fingers = new Map<number, Sample>();
  /** Pointers of which nothing more is heard until they are lifted. */
  private readonly ignored = new Set<number>();
  private penNearUntil = -1;
  private hasSeenPen = false;

  constructor(
    private readonly canvas: HTMLElement,
    private readonly surface: Surface,
  ) {
    canvas.addEventListener("pointerdown", (e) => this.down(e));
    canvas.addEventListener("pointermove", (e) => this.move(e));
    canvas.addEventListener("pointerup", (e) => this.up(e));
    canvas.addEventListener("pointercancel", (e) => this.lost(e));
    canvas.addEventListener("lostpointercapture", (e) => this.lost(e));
    canvas.addEventListener("pointerleave", (e) => this.leave(e));
    canvas.addEventListener("contextmenu", (e) => e.preventDefault());

    // Where no gesture is the browser's it is told so once more: it takes a quick lift for a flick all the same, and then passes over
    // what is pressed within the next third of a second, wherever that is. Where a finger may scroll the page it goes on doing so.
    canvas.addEventListener("touchstart", (e) => getComputedStyle(canvas).touchAction === "none" && e.preventDefault(), { passive: false });
  }

  /** Takes back what is being done and hears nothing more of the pointers that are down. */
  drop(stamp: number): void {
    this.letGo((active) => active.gesture.cancel(stamp));
  }

  /** Ends what is being done as if the hand were lifted: another board is about to be shown, or a deed to be undone. */
  finish(stamp: number): void {
    this.letGo((active) => active.gesture.up({ ...active.last, stamp }));
  }

  private letGo(end: (active: Active) => void): void {
    const { active } = this;
    this.active = null;
    if (active) {
      this.ignored.add(active.id);
      end(active);
    }

    this.fingers.forEach((_, id) => this.ignored.add(id));
    this.fingers.clear();
    this.endPinch();
  }

  private down(e: PointerEvent): void {
    if (e.pointerType === "mouse" && e.button !== 0) {
      return;
    }

    e.preventDefault();
    this.canvas.setPointerCapture?.(e.pointerId);
    if (e.pointerType === "touch") {
      this.fingerDown(e);
    } else {
      this.notePen(e);
      if (this.active?.kind === "touch" || this.fingers.size > 0) {
        this.drop(e.timeStamp);
      }

      if (this.active) {
        this.ignored.add(e.pointerId);
      } else {
        this.begin(e, e.pointerType === "pen" ? "pen" : "mouse");
      }
    }
  }

  private fingerDown(e: PointerEvent): void {
    const isPalm = e.timeStamp < this.penNearUntil || Math.max(e.width, e.height) > palmPx;
    if (isPalm || this.active?.kind === "pen" || this.active?.kind === "mouse" || this.fingers.size >= 2) {
      this.ignored.add(e.pointerId);
      return;
    }

    this.fingers.set(e.pointerId, this.sample(e));
    if (this.fingers.size === 2) {
      // The first finger only came a moment earlier: what it began was not meant.
      this.active?.gesture.cancel(e.timeStamp);
      this.active = null;
      this.pinch = this.surface.pinch(this.spread(e.timeStamp));
    } else {
      this.begin(e, "touch");
    }
  }

  private begin(e: PointerEvent, kind: Active["kind"]): void {
    const sample = this.sample(e);
    const gesture = kind === "touch" && !this.surface.fingerWrites ? this.surface.slide(sample) : this.surface.begin(sample, kind);
    this.active = gesture && { id: e.pointerId, kind, gesture, last: sample };
  }

  private move(e: PointerEvent): void {
    this.notePen(e);
    if (this.ignored.has(e.pointerId)) {
      return;
    }

    if (this.fingers.has(e.pointerId)) {
      this.fingers.set(e.pointerId, this.sample(e));
    }

    if (this.pinch) {
      if (this.fingers.has(e.pointerId)) {
        this.pinch.move(this.spread(e.timeStamp));
      }
    } else if (e.pointerId === this.active?.id) {
      const events = e.getCoalescedEvents?.() ?? [];
      const samples = (events.length > 0 ? events : [e]).map((one) => this.sample(one));
      this.active.last = samples.at(-1)!;
      this.active.gesture.move(samples);
    } else if (e.pointerType !== "touch" && !this.active) {
      this.surface.hover(this.sample(e), e.timeStamp);
    }
  }

  private up(e: PointerEvent): void {
    this.ignored.delete(e.pointerId);
    const wasFinger = this.fingers.delete(e.pointerId);
    if (this.pinch && wasFinger) {
      this.endPinch();

      // The finger that is left doesn't write where it happens to lie.
      this.fingers.forEach((_, id) => this.ignored.add(id));
      this.fingers.clear();
    } else if (e.pointerId === this.active?.id) {
      const { gesture } = this.active;
      this.active = null;
      gesture.up(this.sample(e));
    }
  }

  // Taken over by the system (a call, a swipe from the edge), or the element lost the pointer. After "up" nothing is left.
  private lost(e: PointerEvent): void {
    this.ignored.delete(e.pointerId);
    if (this.fingers.delete(e.pointerId)) {
      this.endPinch();
    }

    if (e.pointerId === this.active?.id) {
      const { gesture } = this.active;
      this.active = null;
      gesture.cancel(e.timeStamp);
    }
  }

  private leave(e: PointerEvent): void {
    if (!this.active && e.pointerType !== "touch") {
      this.surface.hover(null, e.timeStamp);
    }
  }

  private endPinch(): void {
    this.pinch?.up();
    this.pinch = null;
  }

  private notePen(e: PointerEvent): void {
    if (e.pointerType === "pen") {
      this.penNearUntil = e.timeStamp + penStaysNearMs;
      if (!this.hasSeenPen) {
        this.hasSeenPen = true;
        this.surface.penSeen();
      }
    }
  }

  private spread(stamp: number): Spread {
    const [a, b] = [...this.fingers.values()] as [Sample, Sample];
    return { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2, apart: Math.hypot(a.x - b.x, a.y - b.y), stamp };
  }

  private sample(e: PointerEvent): Sample {
    const box = this.canvas.getBoundingClientRect();
    const pressure = e.pointerType === "mouse" || e.pressure === 0 ? mousePressure : e.pressure;
    return { x: e.clientX - box.left, y: e.clientY - box.top, pressure, stamp: e.timeStamp };
  }
}
