import { Hands } from "../../input/hands";
import { onWheel } from "../../input/looking";
import { Painter } from "../../ink/painter";
import { trailMs } from "../../scene/scene";
import { part } from "../../shared/alpine";
import { runKey } from "../../shared/shortcuts";
import { Desk } from "../desk";
import { hasMachine, machine, page, setMachine } from "../page";
import { Recorder } from "../recorder";
import { loadBoards } from "../start";
import { type Choice, toolsOn } from "../tools";
import type { RecordPage } from "./whole";

/** Sets the page up, and keeps what it shows in step with the desk. */
export const setup = () =>
  part<RecordPage>()({
    notice: "",
    hasTried: false,

    async init(): Promise<void> {
      this.checkCanRecord();
      window.addEventListener("keydown", (e) => runKey(e, this.keys, this.singleKeys));
      window.addEventListener("beforeunload", (e) => {
        if (this.isTaking) {
          e.preventDefault();
        }
      });
      await this.loadWith(async () => {
        await this.setUp();
        await this.refreshTakes();
      });
    },

    async setUp(): Promise<void> {
      const recorder = hasMachine() ? machine().recorder : this.newRecorder();
      const canvas = this.$refs["board"] as HTMLCanvasElement;
      const desk = await this.newDesk(recorder);
      const { surface, window } = toolsOn(() => machine().desk, canvas, this.choice(), () => this.afterInput());
      const painter = new Painter(
        canvas,
        () => (desk.boards.length > 0 ? { panes: [machine().desk.pane(performance.now())] } : null),
        (pane) => {
          if (pane.pointer?.trail.some((p) => p.age < trailMs) && pane.pointer.trail.length > 1) {
            painter.repaint();
          }
        },
      );
      const hands = new Hands(canvas, surface);
      canvas.addEventListener("wheel", (e) => onWheel(window, e, { x: e.offsetX, y: e.offsetY }), { passive: false });
      canvas.addEventListener("pointerdown", () => {
        this.noteUse();
        this.closeFamily();
      });
      setMachine({ recorder, desk, painter, hands, window });
      this.afterInput();
      recorder.check(page.lesson);
    },

    /** What the tools ask the page for, each time anew. */
    choice(): Choice {
      const whole = this;
      return {
        get tool() {
          return whole.tool;
        },
        get style() {
          return whole.style;
        },
        get fingerWrites() {
          return whole.fingerWrites;
        },
        eraserRadius: page.rules.eraserRadius,
        penSeen: () => this.setFinger(false),
      };
    },

    newRecorder(): Recorder {
      return new Recorder(page, {
        level: (peak, rms) => this.hear(peak, rms),
        recorded: (ms) => (this.recordedMs = ms),
        saved: (ms) => (this.savedMs = ms),
        waiting: (_, reachable) => (this.reachable = reachable),
        fenced: () => this.shutOut("This take is now being recorded in another tab or window, so this one has stopped. Everything up to here is saved."),
        refused: (message) => this.shutOut(message),
        checked: (sent) => {
          if (sent > 0) {
            this.notice = "What this browser still had of an interrupted take has been sent; nothing is missing.";
          }

          void this.refreshTakes();
        },
        elsewhere: () => (this.isElsewhere = true),
        microphoneLost: () => this.lostMicrophone(),
      });
    },

    async newDesk(recorder: Recorder): Promise<Desk> {
      const empty = new Set(page.boards.filter((b) => b.kind === "empty").map((b) => b.id));
      const { boards, state } = await loadBoards(page.lesson, empty);
      return new Desk(boards, state, page.styles, page.rules.growth, (event) => {
        if (this.isRunning) {
          recorder.happened(event);
        }
      });
    },

    /** The boards anew, after takes were put aside or back. */
    async loadDesk(): Promise<void> {
      machine().hands.drop(performance.now());
      const desk = await this.newDesk(machine().recorder);
      setMachine({ ...machine(), desk });
      this.afterInput();
    },

    afterInput(): void {
      const { desk, painter } = machine();
      if (desk.boards.length === 0) {
        return;
      }

      const view = desk.board.view.value;
      this.takeSteps(desk);
      this.boardIndex = desk.current;
      this.isClose = view.width < 16_000;
      this.viewTop = view.y;
      this.lowestTop = Math.max(0, desk.board.height * 10 - Math.floor((view.width * 9) / 16));
      this.canLengthen = desk.canLengthen;
      this.covers = desk.covers.length;
      this.coversLeft = desk.coversLeft;
      this.hasTried = this.isReady && desk.hasTried;
      painter.repaint();
    },

    get keys(): Record<string, () => void> {
      return {
        PageDown: () => this.nextBoard(), PageUp: () => this.previousBoard(),
        ArrowDown: () => this.slideDown(), ArrowUp: () => this.slideUp(), ArrowLeft: () => this.slideLeft(), ArrowRight: () => this.slideRight(),
        Escape: () => this.closeFamily(),
        "Ctrl+z": () => this.undo(), "Ctrl+y": () => this.redo(), "Ctrl+Shift+z": () => this.redo(),
        "+": () => this.closer(), "-": () => this.farther(), "0": () => this.wholeBoard(),
        "1": () => this.takeTool("pen"), "2": () => this.takeTool("highlighter"), "3": () => this.takeTool("eraser"),
        "4": () => this.takeTool("pointer"), "5": () => this.takeTool("slide"),
      };
    },

    dismissNotice(): void {
      this.notice = "";
    },
  });
