// The drawing tools: what each makes of a hand's gesture on the boards.

import type { Gesture, Sample, Surface } from "../input/gesture";
import { Glide, type Region, viewOf } from "../input/glide";
import { pinchGesture, placeOf, slideGesture, type Window } from "../input/looking";
import { type Style, within } from "../scene/scene";
import { across, type Place } from "../ink/near";
import { type Desk, onBoard } from "./desk";
import { straight } from "./straight";

export type Tool = "pen" | "highlighter" | "straight" | "arrow" | "type" | "eraser" | "pointer" | "light" | "slide" | "close-up";

/** Parts of strokes are rubbed out so often, in ms. */
const partsEveryMs = 60;

/** The outline of a region while it is drawn: its breadth in units, and how far apart its places are, in tenths. */
const lightEdge = 5;
const lightEdgeColor = "#B87500";
const lightStep = 60;

/** A region that is smaller either way (tenths of a unit) was only a press. */
const leastLit = 250;

/** What the page has chosen. */
export interface Choice {
  readonly tool: Tool;
  readonly style: Style;
  readonly fingerWrites: boolean;
  /** In tenths of a board unit. */
  readonly eraserRadius: number;
  /** Of a stroke only the part that is rubbed over goes. */
  readonly erasesParts: boolean;
  penSeen(): void;
  /** A stroke is finished, as the hand drew it: x and y in tenths of a unit. It may have been drawn along words. */
  drawn(stroke: number, style: Style, board: string, points: readonly number[]): void;
  /** A place was pressed to type there. */
  type(place: Place): void;
  /** A region is being chosen; null when it isn't any more. */
  frame(region: Region | null): void;
}

/** Uses the chosen tool on the desk; `done` is called after everything that changes what is seen. */
export function toolsOn(
  on: () => Desk, canvas: HTMLElement, choice: Choice, done: () => void,
): { surface: Surface; window: Window; glide: Glide } {
  const seen: Window = {
    get view() {
      return on().board.view.value;
    },
    get width() {
      return canvas.clientWidth;
    },
    look(view, stamp) {
      on().look(view, stamp);
      done();
    },
  };
  const glide = new Glide(seen);

  // Whoever looks elsewhere by hand ends a glide.
  const window: Window = {
    get view() {
      return seen.view;
    },
    get width() {
      return seen.width;
    },
    look(view, stamp) {
      glide.stop();
      seen.look(view, stamp);
    },
  };
  const placed = (sample: Sample): Place => onBoard(placeOf(window, sample));

  function write(from: Sample): Gesture {
    const rows = (samples: readonly Sample[]) => samples.flatMap((s) => [placed(s).x, placed(s).y, s.pressure * 255, s.stamp]);
    const desk = on();
    const { style } = choice;
    const board = desk.board.id;
    const stroke = desk.beginStroke(style);
    const places: number[] = [];
    const add = (samples: readonly Sample[]) => {
      const points = rows(samples);
      places.push(...points.filter((_, i) => i % 4 < 2));
      desk.addPoints(stroke, points);
      done();
    };
    add([from]);
    return {
      move: add,
      up(sample) {
        desk.endStroke(stroke, sample.stamp);
        done();
        choice.drawn(stroke, style, board, places);
      },
      cancel() {
        desk.cancelStroke(stroke);
        done();
      },
    };
  }

  function line(from: Sample, hasHead: boolean): Gesture {
    const desk = on();
    const { style } = choice;
    const begin = placed(from);
    const points = (to: Sample) => straight(begin, placed(to), from.stamp, to.stamp, hasHead);
    return {
      move(samples) {
        desk.sketchStroke(style, points(samples.at(-1)!));
        done();
      },
      up(sample) {
        desk.dropSketch();
        const stroke = desk.beginStroke(style);
        const all = points(sample);
        desk.addPoints(stroke, all);
        desk.endStroke(stroke, sample.stamp);
        done();
        if (!hasHead) {
          choice.drawn(stroke, style, desk.board.id, all.filter((_, i) => i % 4 < 2));
        }
      },
      cancel() {
        desk.dropSketch();
        done();
      },
    };
  }

  // A press without a region puts the light out.
  function light(from: Sample): Gesture {
    const desk = on();
    const first = placed(from);
    const outline = [first.x, first.y];
    const style = { ...choice.style, units: lightEdge, color: lightEdgeColor };
    const rows = () => Array.from({ length: outline.length / 2 }, (_, i) => [outline[2 * i]!, outline[2 * i + 1]!, 128, i]);
    const sketch = () => desk.sketchStroke(style, rows().flat());
    const drop = () => {
      desk.dropSketch();
      done();
    };
    return {
      move(samples) {
        const isFar = (p: Place) => Math.hypot(p.x - outline.at(-2)!, p.y - outline.at(-1)!) > lightStep;
        samples.map(placed).filter(isFar).forEach((p) => outline.push(p.x, p.y));
        sketch();
        done();
      },
      up(sample) {
        if (outline.length >= 6 && across(outline, 0) > leastLit && across(outline, 1) > leastLit) {
          desk.lightUp(outline, sample.stamp);
        } else {
          desk.putOut(sample.stamp);
        }

        drop();
      },
      cancel: drop,
    };
  }

  function closeUp(from: Sample): Gesture {
    let last = from;
    return {
      move(samples) {
        last = samples.at(-1)!;
        choice.frame({ from, to: last });
      },
      up() {
        choice.frame(null);
        const view = viewOf(window, { from, to: last });
        if (view) {
          glide.to(within(view, on().board.height));
        }
      },
      cancel() {
        choice.frame(null);
      },
    };
  }

  function erase(from: Sample): Gesture {
    const desk = on();
    let last = placed(from);
    const actions: number[] = [];
    let erasedAt = -Infinity;
    const sweep = (to: Place, stamp: number) => {
      if (choice.erasesParts) {
        actions.push(...desk.erasePart(last, to, choice.eraserRadius, stamp));
      } else {
        const action = desk.erase(last, to, choice.eraserRadius, stamp);
        actions.push(...(action === null ? [] : [action]));
      }

      last = to;
      erasedAt = stamp;
      done();
    };
    sweep(last, from.stamp);
    return {
      move(samples) {
        if (!choice.erasesParts) {
          samples.forEach((s) => sweep(placed(s), s.stamp));
          return;
        }

        // What is left of a stroke is journalled anew each time it is cut, so that isn't done for every point.
        const latest = samples.at(-1)!;
        if (latest.stamp - erasedAt >= partsEveryMs) {
          sweep(placed(latest), latest.stamp);
        }
      },
      up(sample) {
        if (choice.erasesParts) {
          sweep(placed(sample), sample.stamp);
        }

        desk.endSweep(actions, sample.stamp);
        done();
      },
      cancel(stamp) {
        desk.endSweep(actions, stamp);
        if (actions.length > 0) {
          desk.undo(stamp);
        }

        done();
      },
    };
  }

  function point(from: Sample, kind: string): Gesture {
    const desk = on();
    const show = (sample: Sample) => {
      desk.point(placed(sample), sample.stamp);
      done();
    };

    // A finger is lifted away; a pen or mouse goes on pointing above the board.
    const leave = (stamp: number) => {
      if (kind === "touch") {
        desk.hidePointer(stamp);
        done();
      }
    };
    show(from);
    desk.touchCover(placed(from), from.stamp);
    done();
    return { move: (samples) => samples.forEach(show), up: (sample) => leave(sample.stamp), cancel: leave };
  }

  const surface: Surface = {
    begin(sample, kind) {
      glide.stop();
      switch (choice.tool) {
        case "pen":
        case "highlighter":
          return write(sample);
        case "straight":
        case "arrow":
          return line(sample, choice.tool === "arrow");
        case "close-up":
          return closeUp(sample);
        case "type":
          // The place where it was pressed, whatever the hand does until it is lifted: only then may a field take the focus.
          return { move: () => undefined, up: () => choice.type(placed(sample)), cancel: () => undefined };
        case "light":
          return light(sample);
        case "eraser":
          return erase(sample);
        case "pointer":
          return point(sample, kind);
        case "slide":
          return slideGesture(window, sample, 0);
      }
    },
    slide: (sample) => slideGesture(window, sample),
    pinch: (spread) => pinchGesture(window, spread),
    hover(sample, stamp) {
      const desk = on();
      if (sample && choice.tool === "pointer") {
        const before = desk.state;
        desk.point(placed(sample), sample.stamp);
        if (desk.state !== before) {
          done();
        }
      } else if (!sample && desk.state.pointer) {
        desk.hidePointer(stamp);
        done();
      }
    },
    get fingerWrites() {
      return choice.fingerWrites;
    },
    penSeen: () => choice.penSeen(),
  };
  return { surface, window, glide };
}
