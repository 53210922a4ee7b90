import { Hands } from "../../input/hands";
import { onWheel } from "../../input/looking";
import { Painter } from "../../ink/painter";
import { trailMs } from "../../scene/scene";
import { part } from "../../shared/alpine";
import { messageOf } from "../../shared/api";
import { refreshArch } from "../../shared/arch";
import { clock } from "../../shared/format";
import { runKey } from "../../shared/shortcuts";
import { Desk } from "../desk";
import { hasMachine, machine, page, session, setMachine, setSession } from "../page";
import type { Leftover, OpenTake } from "../messages";
import { Playing } from "../playing";
import { RecordingSession } from "../session";
import { loadBoards } from "../start";
import { boardsOfRetake, surroundings } from "../surroundings";
import { type Choice, toolsOn } from "../tools";
import type { RecordPage } from "./whole";

/** Sets the page up, and keeps what it shows in step with the desk. */
export const setup = () =>
  part<RecordPage>()({
    notice: "",
    hasTried: false,

    async init(): Promise<void> {
      window.addEventListener("keydown", (e) => runKey(e, this.keys, this.singleKeys));
      window.addEventListener("beforeunload", (e) => {
        if (this.isTaking || (!this.view.isKept && this.view.left.length > 0)) {
          e.preventDefault();
        }
      });
      this.beginSession();
      this.watchMicrophones();
      await this.loadWith(async () => {
        await this.setUp();
        await this.refreshTakes();
      });
    },

    // The session is there at once: a microphone can be tried while the boards are still loading.
    beginSession(): void {
      const playing = new Playing();
      const boards = boardsOfRetake(() => this.afterInput());
      const news = {
        changed: () => this.show(),
        level: (peak: number, rms: number) => this.hear(peak, rms),
        begun: (opened: OpenTake) => this.beginOnBoards(opened),
        takesChanged: () => this.loadAgain(),
        ended: () => this.ended(),
        play: (pcm: Int16Array<ArrayBuffer>) => playing.play(pcm),
        wav: (file: ArrayBuffer, left: Leftover) => this.download(file, left),
        fault: (error: unknown) => (this.fault = messageOf(error)),
      };
      const made = new RecordingSession(surroundings(news, boards, (peak, rms) => !this.isRecording && this.hear(peak, rms)));
      setSession(made);
      made.begin();
    },

    /** Takes and boards anew, after something was sent; nothing is loaded twice when the page is opened. */
    async loadAgain(): Promise<void> {
      if (hasMachine()) {
        await this.attempt(() => this.loadDesk());
      }

      await this.refreshTakes();
      void refreshArch();
      const { sentMs, left } = session().view;
      if (sentMs > 0) {
        this.notice = `What this browser still had of an interrupted take (${clock(sentMs)}) has been ` +
          `sent${left.length === 0 ? "; nothing is left behind" : ""}.`;
      }
    },

    async setUp(): Promise<void> {
      const canvas = this.$refs["board"] as HTMLCanvasElement;
      const desk = await this.newDesk();
      const { surface, window, glide } = toolsOn(
        () => machine().desk,
        canvas,
        this.choice(),
        () => this.afterInput(),
      );
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
      setMachine({ desk, painter, hands, window, glide });
      this.afterInput();
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
        get erasesParts() {
          return whole.erasesParts;
        },
        penSeen: () => this.setFinger(false),
        type: (place) => this.typeAt(place),
        drawn: (stroke, style, board, points) => {
          this.settle(stroke, style, board, points);
          this.lookHowItIsSeen(style);
        },
        frame: (region) => (this.frame = region),
      };
    },

    async newDesk(): Promise<Desk> {
      const loaded = await loadBoards(page, page.boards);
      const { boards, state, terms } = loaded;
      this.saidBefore = terms;
      this.takePlace(loaded);
      return new Desk(boards, state, page.styles, page.rules.growth, (event) => session().happened(event));
    },

    /** The boards anew, after takes were put aside or back. */
    async loadDesk(): Promise<void> {
      machine().hands.drop(performance.now());
      const desk = await this.newDesk();
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
      this.takeNotes();
      this.placeTyping();
      this.boardIndex = desk.current;
      this.isClose = view.width < 16_000;
      this.viewTop = view.y;
      this.lowestTop = Math.max(0, desk.board.height * 10 - Math.floor((view.width * 9) / 16));
      this.canLengthen = desk.canLengthen;
      this.canClear = desk.canClear;
      this.isLit = desk.board.light !== null;
      this.covers = desk.covers.length;
      this.coversLeft = desk.coversLeft;
      this.hasTried = this.isReady && desk.hasTried;
      painter.repaint();
    },

    get keys(): Record<string, () => void> {
      if (this.isRetaking) {
        return { [this.ownKeys.retake]: () => this.retake(), Escape: () => this.keepAll() };
      }

      return {
        ...this.deedsByKey,
        "?": () => this.showKeys(),
        PageDown: () => this.nextBoard(),
        PageUp: () => this.previousBoard(),
        ArrowDown: () => this.slideDown(),
        ArrowUp: () => this.slideUp(),
        ArrowLeft: () => this.slideLeft(),
        ArrowRight: () => this.slideRight(),
        Escape: () => this.closeFamily(),
        "Ctrl+z": () => this.undo(),
        "Ctrl+y": () => this.redo(),
        "Ctrl+Shift+z": () => this.redo(),
      };
    },

    dismissNotice(): void {
      this.notice = "";
    },
  });
