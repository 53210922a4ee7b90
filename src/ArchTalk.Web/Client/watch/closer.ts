import { Hands } from "../input/hands";
import type { Sample } from "../input/gesture";
import { pinchGesture, placeOf, slideGesture, type Window } from "../input/looking";
import { closeIn, type View } from "../scene/scene";
import { part } from "../shared/alpine";
import { player } from "./page";
import type { WatchPage } from "./whole";

const step = 1.5;
const slideShare = 0.25;

/** What was drawn is hit within so many CSS pixels: a target of 24 (WCAG 2.2, 2.5.8). */
const touchPx = 12;

/** Looking closer than the teacher did: two fingers, a button, arrow keys on the board; one button leads back. */
export const closer = () =>
  part<WatchPage>()({
    isCloser: false,

    lookCloserOn(canvas: HTMLCanvasElement): void {
      const window: Window = {
        get view() {
          return player()!.view;
        },
        get width() {
          return canvas.clientWidth;
        },
        look: (view) => this.look(view),
      };
      const drawnAt = (sample: Sample) => player()?.drawnAt(placeOf(window, sample), touchPx * (window.view.width / window.width)) ?? null;
      const tapped = (sample: Sample) => this.tapped(drawnAt(sample), placeOf(window, sample));
      new Hands(canvas, {
        begin: (sample) => slideGesture(window, sample, undefined, tapped),
        slide: (sample) => slideGesture(window, sample, undefined, tapped),
        pinch: (spread) => pinchGesture(window, spread),
        hover: (sample) => {
          this.showControls();
          canvas.classList.toggle("is-on-ink", sample !== null && drawnAt(sample) !== null);
        },
        fingerWrites: false,
        penSeen: () => undefined,
      });
    },

    look(view: View): void {
      player()?.look(view);
      this.isCloser = player()?.isCloser ?? false;
    },

    lookCloser(): void {
      const view = player()?.view;
      if (view) {
        this.look(closeIn(view, view.x + view.width / 2, view.y + (view.width * 9) / 32, step));
      }
    },

    backToTeacher(): void {
      player()?.look(null);
      this.isCloser = false;
    },

    /** Arrow keys while the board has the focus. */
    slideByKey(event: KeyboardEvent): void {
      const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
      const view = player()?.view;
      if (by && view && this.isCloser && !event.shiftKey) {
        event.preventDefault();
        event.stopPropagation();
        this.look({ ...view, x: view.x + by[0]! * view.width * slideShare, y: view.y + (by[1]! * view.width * slideShare * 9) / 16 });
      }
    },
  });
