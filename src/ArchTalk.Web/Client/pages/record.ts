import { Painter, PictureStore } from "../ink/painter";
import { BoardInput, type InputState, type Tool } from "../record/board-input";
import { closeIn, type LiveBoard, LiveBoards, type LiveStroke } from "../record/live-boards";
import type { OpenTake } from "../record/messages";
import { type Microphone, Recorder, testVoice } from "../record/recorder";
import { component, start } from "../shared/alpine";
import { call, messageOf } from "../shared/api";
import { clock } from "../shared/format";
import { pageData } from "../shared/page-data";
import { type Style, Timeline, uncoveredAt } from "../timeline/timeline";

interface BoardInfo {
  id: string;
  title: string;
  kind: string;
  small: string | null;
  notes: string;
}

interface TakeInfo {
  id: string;
  number: number;
  lengthMs: number;
  isOpen: boolean;
}

interface Term {
  id: string;
  word: string;
  reading: string;
}

const page = pageData<{
  lesson: string;
  boards: BoardInfo[];
  styles: Style[];
  terms: Term[];
  worker: string;
  worklet: string;
  voice: string;
}>("page-data");
const api = `/api/lessons/${page.lesson}`;

type Phase = "ready" | "counting" | "recording" | "paused" | "saving";

/** What is on the boards for good: what was recorded, not what is tried out. */
interface Kept {
  strokes: Set<LiveStroke>;
  uncovered: Set<string>;
}

/** Everything that must not be reactive: Alpine would wrap it in proxies and slow the pen down. */
interface Machine {
  recorder: Recorder;
  live: LiveBoards;
  painter: Painter;
  input: InputState;
  kept: Kept;
  frame: number;
}

let machine: Machine | null = null;
const loudnessFloorDb = -60;
const loud = 0.98;
const slideShare = 0.4;

const record = () =>
  component({
    phase: "ready" as Phase,
    countdown: 0,
    countFrom: "3",
    microphones: [] as Microphone[],
    microphone: "",
    microphoneFault: "",
    level: 0,
    isLoud: false,
    loudUntil: 0,
    recordedMs: 0,
    savedMs: 0,
    unsent: 0,
    reachable: true,
    fault: "",
    notice: "",
    boardIndex: 0,
    tool: "pen" as Tool,
    inks: { pen: "blue-black", highlighter: "yellow" } as Record<string, string>,
    widths: { pen: "medium", highlighter: "medium" } as Record<string, string>,
    canUndo: false,
    canRedo: false,
    takes: [] as TakeInfo[],
    removed: null as TakeInfo | null,
    said: [] as string[],
    isElsewhere: false,
    isClose: false,
    hasTried: false,
    covers: 0,
    coversLeft: 0,
    loaded: false,

    async init() {
      try {
        await this.setUp();
      } catch (error) {
        this.fault = messageOf(error);
      }

      this.loaded = true;
      await this.refreshTakes();
      if (!Recorder.canRecord) {
        this.microphoneFault =
          "This browser only lets a page record over HTTPS (or on this computer itself). Ask whoever runs Arch Talk to set up HTTPS; everything else works meanwhile, and the test voice shows how recording feels.";
      }

      window.addEventListener("keydown", (e) => this.key(e));
      window.addEventListener("beforeunload", (e) => {
        if (this.isRunning) {
          e.preventDefault();
        }
      });
    },

    async setUp() {
      const canvas = this.$refs["board"] as HTMLCanvasElement;
      const recorder = new Recorder(page, {
        level: (peak, rms) => this.hear(peak, rms),
        recorded: (ms) => (this.recordedMs = ms),
        saved: (ms) => (this.savedMs = ms),
        waiting: (records, reachable) => {
          this.unsent = records;
          this.reachable = reachable;
        },
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
      const journal = (event: object) => {
        if (this.isRunning) {
          recorder.happened(event);
        }
      };
      const live = new LiveBoards(await loadBoards(), journal);
      const painter = new Painter(canvas, new PictureStore(), () => this.repaint());
      const pick = () => this.style;
      const tool = () => this.tool;
      const input: InputState = {
        boards: live,
        get tool() {
          return tool();
        },
        get style() {
          return pick();
        },
        pointer: null,
      };
      machine = { recorder, live, painter, input, kept: keptOf(live), frame: 0 };
      new BoardInput(canvas, input, journal, () => this.afterInput());
      new ResizeObserver(() => this.repaint()).observe(canvas);
      this.boardIndex = live.current;
      this.repaint();
      recorder.check(page.lesson);
    },

    // The microphone

    async findMicrophones() {
      try {
        this.microphoneFault = "";
        this.microphones = await Recorder.microphones();
        if (this.microphones.length === 0) {
          throw new DOMException("", "NotFoundError");
        }

        this.microphone = this.microphones[0]!.id;
      } catch (error) {
        this.microphoneFault = microphoneMessage(error);
        this.microphone = testVoice;
      }

      await this.listen();
    },

    async useTestVoice() {
      this.microphone = testVoice;
      await this.listen();
    },

    async listen() {
      if (!machine || this.microphone === "") {
        return;
      }

      try {
        await machine.recorder.listen(this.microphone);
      } catch (error) {
        this.microphoneFault = microphoneMessage(error);
        this.microphone = "";
      }
    },

    hear(peak: number, rms: number) {
      const db = 20 * Math.log10(Math.max(rms, 1e-6));
      this.level = Math.round(Math.min(100, Math.max(0, (100 * (db - loudnessFloorDb)) / -loudnessFloorDb)));
      if (peak >= loud) {
        this.loudUntil = performance.now() + 1500;
      }

      this.isLoud = performance.now() < this.loudUntil;
    },

    lostMicrophone() {
      if (this.phase === "recording") {
        this.pause();
      }

      this.microphone = "";
      this.microphoneFault = "The microphone was unplugged or taken by another program. Recording is paused and everything is kept. Choose a microphone and go on.";
    },

    // Recording

    get isRunning(): boolean {
      return this.phase === "recording" || this.phase === "paused";
    },

    get isReady(): boolean {
      return this.phase === "ready";
    },

    get isRecording(): boolean {
      return this.phase === "recording";
    },

    get isPaused(): boolean {
      return this.phase === "paused";
    },

    get isCounting(): boolean {
      return this.phase === "counting";
    },

    get isSaving(): boolean {
      return this.phase === "saving";
    },

    get cannotStart(): boolean {
      return this.phase !== "ready" || this.microphone === "" || page.boards.length === 0;
    },

    get cannotResume(): boolean {
      return this.microphone === "";
    },

    get openTake(): TakeInfo | undefined {
      return this.phase === "ready" ? this.takes.find((t) => t.isOpen) : undefined;
    },

    get hasOpenTake(): boolean {
      return this.openTake !== undefined;
    },

    get openTakeLength(): string {
      return clock(this.openTake?.lengthMs ?? 0);
    },

    async start() {
      await this.record(() => call<OpenTake>("POST", `${api}/takes`));
    },

    async goOn() {
      const take = this.openTake!;
      if (this.microphone === "") {
        await this.findMicrophones();
      }

      await this.record(() => call<OpenTake>("POST", `${api}/takes/${take.id}/reopen`));
    },

    async record(open: () => Promise<OpenTake>) {
      if (!machine || !(await this.countDown())) {
        return;
      }

      try {
        this.fault = "";
        const take = await open();
        machine.live.clear(machine.kept.strokes, machine.kept.uncovered);
        this.hasTried = false;
        this.recordedMs = this.savedMs = take.savedMs;
        this.unsent = 0;
        this.reachable = true;
        await machine.recorder.begin(page.lesson, take);
        this.phase = "recording";
        machine.live.beginTake(take.nextAction, performance.now());
        this.afterInput();
      } catch (error) {
        this.phase = "ready";
        this.fault = messageOf(error);
      }
    },

    async countDown(): Promise<boolean> {
      this.phase = "counting";
      for (this.countdown = Number(this.countFrom); this.countdown > 0; this.countdown--) {
        await new Promise((later) => setTimeout(later, 1000));
        if (!this.isCounting) {
          return false;
        }
      }

      return this.isCounting;
    },

    stopCounting() {
      this.phase = "ready";
    },

    pause() {
      machine?.recorder.setPaused(true);
      this.phase = "paused";
    },

    async resume() {
      try {
        await machine?.recorder.resume();
        this.microphoneFault = "";
        this.phase = "recording";
      } catch (error) {
        this.microphoneFault = microphoneMessage(error);
      }
    },

    async stop() {
      if (!machine || !this.isRunning) {
        return;
      }

      this.phase = "saving";
      await machine.recorder.end();
      machine.kept = keptOf(machine.live);
      location.href = `/lessons/${page.lesson}/refine?take=last`;
    },

    shutOut(message: string) {
      this.fault = message;
      machine?.recorder.release();
      this.phase = "ready";
      this.microphone = "";
      void this.refreshTakes();
    },

    get status(): string {
      if (this.phase === "saving") {
        return this.reachable ? "Saving the last seconds…" : "The server can't be reached. Keep this page open; the rest is sent as soon as it answers.";
      }

      if (!this.isRunning) {
        return "";
      }

      return this.reachable
        ? `saved up to ${clock(this.savedMs)}`
        : `no connection: kept in this browser since ${clock(this.savedMs)}, sent when the server answers`;
    },

    get time(): string {
      return clock(this.recordedMs);
    },

    get levelWidth(): object {
      return { width: `${this.level}%` };
    },

    // Takes

    async refreshTakes() {
      try {
        this.takes = await call<TakeInfo[]>("GET", `${api}/takes`);
      } catch (error) {
        this.fault = messageOf(error);
      }
    },

    takeName(take: TakeInfo): string {
      return `Take ${take.number}`;
    },

    takeLength(take: TakeInfo): string {
      return clock(take.lengthMs);
    },

    async finishOpen() {
      await this.attempt(() => call("POST", `${api}/takes/${this.openTake!.id}/finish`));
    },

    async removeTake(take: TakeInfo) {
      await this.attempt(() => call("DELETE", `${api}/takes/${take.id}`));
      this.removed = take;
    },

    async restoreTake() {
      const take = this.removed;
      this.removed = null;
      if (take) {
        await this.attempt(() => call("POST", `${api}/takes/${take.id}/restore`));
      }
    },

    async attempt(work: () => Promise<unknown>) {
      try {
        await work();
        location.reload();
      } catch (error) {
        this.fault = messageOf(error);
      }

      await this.refreshTakes();
    },

    // Boards and tools

    get style(): Style {
      const kind = this.tool === "highlighter" ? "highlighter" : "pen";
      return page.styles.find((s) => s.tool === kind && s.ink === this.inks[kind] && s.width === this.widths[kind]) ?? page.styles[0]!;
    },

    get inkKind(): string {
      return this.tool === "highlighter" ? "highlighter" : "pen";
    },

    pickTool(event: Event) {
      this.tool = (event.currentTarget as HTMLElement).dataset["tool"] as Tool;
      if (machine?.input.pointer) {
        machine.input.pointer = null;
        machine.recorder.happened({ e: "away", t: performance.now() });
      }

      this.repaint();
    },

    isTool(name: string): boolean {
      return this.tool === name;
    },

    pickInk(event: Event) {
      const { kind, ink } = (event.currentTarget as HTMLElement).dataset;
      this.inks[kind!] = ink!;
      this.tool = kind as Tool;
    },

    isInk(kind: string, ink: string): boolean {
      return this.inks[kind] === ink;
    },

    showsInks(kind: string): boolean {
      return this.inkKind === kind;
    },

    pickWidth(event: Event) {
      this.widths[this.inkKind] = (event.currentTarget as HTMLElement).dataset["width"]!;
    },

    isWidth(width: string): boolean {
      return this.widths[this.inkKind] === width;
    },

    undo() {
      machine?.live.undo(performance.now());
      this.afterInput();
    },

    redo() {
      machine?.live.redo(performance.now());
      this.afterInput();
    },

    get noUndo(): boolean {
      return !this.canUndo;
    },

    get noRedo(): boolean {
      return !this.canRedo;
    },

    showBoard(event: Event) {
      this.goTo(Number((event.currentTarget as HTMLElement).dataset["index"]));
    },

    goTo(index: number) {
      machine?.live.show(index, performance.now());
      this.afterInput();
      document.getElementById(`strip-${this.boardIndex}`)?.scrollIntoView({ block: "nearest" });
    },

    isShown(index: number): boolean {
      return this.boardIndex === index;
    },

    previousBoard() {
      this.goTo(this.boardIndex - 1);
    },

    nextBoard() {
      this.goTo(this.boardIndex + 1);
    },

    get boardTitle(): string {
      return page.boards[this.boardIndex]?.title ?? "";
    },

    /** The speaking notes of the board shown. */
    get notes(): string {
      return page.boards[this.boardIndex]?.notes ?? "";
    },

    get boardPlace(): string {
      return `${this.boardIndex + 1} of ${page.boards.length}`;
    },

    get isEmptyBoard(): boolean {
      return page.boards[this.boardIndex]?.kind === "empty";
    },

    slideDown() {
      this.slide(slideShare);
    },

    slideUp() {
      this.slide(-slideShare);
    },

    slide(share: number) {
      const view = machine?.live.board.view;
      if (view) {
        machine!.live.look({ ...view, y: view.y + (view.width * 9 * share) / 16 }, performance.now());
        this.afterInput();
      }
    },

    closer() {
      this.zoom(1.25);
    },

    farther() {
      this.zoom(0.8);
    },

    zoom(factor: number) {
      const view = machine?.live.board.view;
      if (view) {
        machine!.live.look(closeIn(view, view.x + view.width / 2, view.y + (view.width * 9) / 32, factor), performance.now());
        this.afterInput();
      }
    },

    wholeWidth() {
      const view = machine?.live.board.view;
      if (view) {
        machine!.live.look({ x: 0, y: view.y, width: 16_000 }, performance.now());
        this.afterInput();
      }
    },

    lengthen() {
      machine?.live.lengthen(performance.now());
      this.slide(slideShare);
    },

    uncoverNext() {
      machine?.live.uncoverNext(performance.now());
      this.afterInput();
    },

    get noCoversLeft(): boolean {
      return this.coversLeft === 0;
    },

    get uncoverWord(): string {
      return this.coversLeft === 0 ? "All uncovered" : this.coversLeft === 1 ? "Uncover the last" : `Uncover next of ${this.coversLeft}`;
    },

    afterInput() {
      const live = machine!.live;
      this.canUndo = live.canUndo;
      this.canRedo = live.canRedo;
      this.boardIndex = live.current;
      this.isClose = live.board.view.width < 16_000;
      this.covers = live.covers.length;
      this.coversLeft = live.covers.filter((c) => !live.board.uncovered.includes(c.id)).length;
      this.hasTried = this.isReady && live.boards.some((b) => b.strokes.some((s) => !machine!.kept.strokes.has(s)) || b.uncovered.some((u) => !machine!.kept.uncovered.has(u)));
      this.repaint();
    },

    repaint() {
      if (machine && machine.frame === 0) {
        machine.frame = requestAnimationFrame(() => this.paint());
      }
    },

    paint() {
      const { live, painter, input } = machine!;
      machine!.frame = 0;
      if (live.boards.length === 0) {
        return;
      }

      painter.resize();
      const board = live.board;
      painter.paint(
        { boardId: board.id, pictures: board.pictures, items: board.items, uncovered: board.uncovered, height: board.height, view: board.view, strokes: live.visible, pointer: input.pointer },
        0,
      );
      if (painter.isFading) {
        this.repaint();
      }
    },

    // Terms still to be said

    tick(event: Event) {
      const id = (event.currentTarget as HTMLElement).dataset["term"]!;
      this.said = this.said.includes(id) ? this.said.filter((s) => s !== id) : [...this.said, id];
    },

    isSaid(id: string): boolean {
      return this.said.includes(id);
    },

    dismissNotice() {
      this.notice = "";
    },

    dismissFault() {
      this.fault = "";
    },

    key(event: KeyboardEvent) {
      const target = event.target as HTMLElement;
      if (target.matches("input, textarea, select")) {
        return;
      }

      if (event.ctrlKey || event.metaKey) {
        const key = event.key.toLowerCase();
        if (key === "z" || key === "y") {
          event.preventDefault();
          if (key === "y" || event.shiftKey) {
            this.redo();
          } else {
            this.undo();
          }
        }

        return;
      }

      const actions: Record<string, () => void> = {
        PageDown: () => this.nextBoard(),
        PageUp: () => this.previousBoard(),
        ArrowDown: () => this.slideDown(),
        ArrowUp: () => this.slideUp(),
        "+": () => this.closer(),
        "-": () => this.farther(),
        "0": () => this.wholeWidth(),
        "1": () => (this.tool = "pen"),
        "2": () => (this.tool = "highlighter"),
        "3": () => (this.tool = "eraser"),
        "4": () => (this.tool = "pointer"),
        "5": () => (this.tool = "move"),
      };
      const action = actions[event.key];
      if (action) {
        event.preventDefault();
        action();
      }
    },
  });

function keptOf(live: LiveBoards): Kept {
  return { strokes: new Set(live.boards.flatMap((b) => b.strokes)), uncovered: new Set(live.boards.flatMap((b) => b.uncovered)) };
}

/** The boards with the ink that earlier takes left on them. */
async function loadBoards(): Promise<LiveBoard[]> {
  const timeline = await Timeline.load(`/lessons/${page.lesson}/timeline.json`);
  await Promise.all(timeline.boards.map((_, i) => timeline.loadInk(i)));
  const end = timeline.length;
  return timeline.boards.map((board, i) => {
    const alive = (board.strokes ?? []).filter((s) => s.lives.at(-1)! < 0);
    const view = board.views.at(-1);
    return {
      id: board.id,
      title: board.title,
      kind: page.boards[i]!.kind,
      height: board.heights.at(-1)?.[1] ?? board.height,
      view: view && end > 0 ? { x: view[1]!, y: view[2]!, width: view[3]! } : { x: 0, y: 0, width: 16_000 },
      pictures: board.pictures,
      items: board.items,
      uncovered: uncoveredAt(board, end),
      strokes: alive.map((s) => ({ ...s, alive: true })),
    };
  });
}

function microphoneMessage(error: unknown): string {
  switch (error instanceof DOMException ? error.name : "") {
    case "NotAllowedError":
      return "The browser was told not to let this page use the microphone. Allow it at the address bar and press “Use a microphone” again, or take the test voice.";
    case "NotFoundError":
      return "No microphone was found. Plug one in and press “Use a microphone” again, or take the test voice.";
    case "NotReadableError":
      return "The microphone is in use by another program. Close that program and try again, or take the test voice.";
    default:
      return `The sound could not be opened (${messageOf(error)}). Try again, or choose another microphone.`;
  }
}

start({ record });
