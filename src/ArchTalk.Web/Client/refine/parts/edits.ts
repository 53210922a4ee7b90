import { ApiError, call } from "../../shared/api";
import { part } from "../../shared/alpine";
import { Backoff } from "../../shared/backoff";
import { clock, seconds } from "../../shared/format";
import { samplesPerMs } from "../../timeline/moments";
import { Timeline } from "../../timeline/timeline";
import { api, files, live, nothing } from "../page";
import type { Edit, EditKind, RefineView } from "../view";
import type { RefinePage } from "./whole";

/** What a step asks the server for: EditStep in C#. */
export interface Asked extends Record<string, unknown> {
  do: string;
}

const nudgeMs = 100;

/** Kinds of which the edges can be moved. */
const withEdges: readonly EditKind[] = ["TakenOut", "MadeShort", "Muted", "UnderTone"];

/** Which of several questions after a lost answer is the last. */
let asking = 0;

/** What a pause that is put in lasts, until the teacher says otherwise. */
const pauseMs = 2000;

function range([start, end]: readonly [number, number]): { start: number; end: number } {
  return { start, end };
}

/** The edits of the lesson, and what is done with them. */
export const edits = () =>
  part<RefinePage>()({
    /** What the server said last, with the proposals that are wanted. It comes as a whole: what is frozen isn't watched part by part. */
    view: nothing,
    isBusy: false,
    /** What was done last, in words. */
    said: "",
    /** The edit of which the edges are shown. */
    openEdit: "",

    async loadEdits(): Promise<void> {
      this.takeView(await call<RefineView>("GET", `${api}/edits`));
    },

    /** Does a step; false when it could not be done, and then the page says why. */
    doStep(step: Asked): Promise<boolean> {
      return this.change(() => call<RefineView>("POST", `${api}/edits`, { step, version: this.view.version }));
    },

    goToState(number: number): Promise<boolean> {
      return this.change(() => call<RefineView>("POST", `${api}/edits/go-to`, { number, version: this.view.version }));
    },

    undoEdit(): void {
      if (this.view.canUndo) {
        void this.goToState(this.view.version - 1);
      }
    },

    redoEdit(): void {
      if (this.view.canRedo) {
        void this.goToState(this.view.version + 1);
      }
    },

    get noUndoEdit(): boolean {
      return !this.view.canUndo || this.isBusy;
    },

    get noRedoEdit(): boolean {
      return !this.view.canRedo || this.isBusy;
    },

    // What is heard stays heard: the page goes on from the same moment, wherever that is now.
    async change(work: () => Promise<RefineView>): Promise<boolean> {
      if (this.isBusy) {
        return false;
      }

      this.isBusy = true;
      const before = this.view.version;
      try {
        await this.showView(await work());
        this.said = this.view.version === before ? "" : this.doneWords(before);
        this.fault = "";
        return true;
      } catch (error) {
        this.fault = error instanceof Error ? error.message : String(error);
        // Another window was quicker, or the list is another one now: this one catches up.
        if (error instanceof ApiError && error.status >= 400 && error.status < 500 && error.status !== 401) {
          await this.catchUp();
        } else if (error instanceof ApiError && error.status === 0) {
          void this.askAgain();
        }

        return false;
      } finally {
        this.isBusy = false;
      }
    },

    /** Nobody answered: whether it was done all the same is known when the server can be reached again. */
    async askAgain(): Promise<void> {
      const { version } = this.view;
      const pauses = new Backoff(500, 4000);
      const mine = ++asking;
      const isOver = () => mine !== asking || this.isBusy || this.view.version !== version;
      for (;;) {
        await pauses.wait();
        try {
          const view = isOver() ? null : await call<RefineView>("GET", `${api}/edits`);
          if (view && !isOver()) {
            await this.showView(view);
            this.fault = "";
            if (view.version === version) {
              this.said = "The server is there again. That was not done.";
            } else {
              this.said = this.doneWords(version);
              this.chooseNothing();
            }
          }

          return;
        } catch (error) {
          if (!(error instanceof ApiError && error.status === 0)) {
            return;
          }
        }
      }
    },

    async catchUp(): Promise<void> {
      try {
        await this.showView(await call<RefineView>("GET", `${api}/edits`));
      } catch {
        // The fault that is shown says enough.
      }
    },

    takeView(view: RefineView): void {
      live.view = view;
      this.takeProposals();
    },

    async showView(view: RefineView): Promise<void> {
      const player = live.player;
      if (player && view.revision !== this.view.revision) {
        const moment = player.timeline.momentAt(this.ms);
        const timeline = await this.loadTimeline();
        const at = moment ? (timeline.timeOf(moment) ?? Math.min(this.ms, timeline.length)) : 0;

        // The sound takes the longest: the lists are drawn meanwhile.
        this.hearLesson(at, view.revision);
        player.show(timeline);
        this.takeView(view);
        this.lengthMs = timeline.length;
        this.chosen = this.chosen && this.chosen.to <= timeline.length ? this.chosen : null;
        this.go(at);
        this.sort();
      } else {
        this.takeView(view);
      }

      this.takeRows();
    },

    /** The lesson as it is now. The edit was done: while the server can't be reached it is asked for again, and nothing else is done. */
    async loadTimeline(): Promise<Timeline> {
      const pauses = new Backoff(500, 4000);
      for (;;) {
        try {
          return await Timeline.load(`${files}/timeline.json`);
        } catch (error) {
          // So a browser says that there was no answer at all.
          if (!(error instanceof TypeError)) {
            throw error;
          }

          this.fault = "That was done, but the server can't be reached to show it. It is tried again by itself.";
          await pauses.wait();
        }
      }
    },

    hearLesson(at: number, revision: number): void {
      const { audio } = live;
      if (!audio) {
        return;
      }

      // Another source ends what plays without a word about it.
      audio.pause();
      audio.src = `${files}/voice.wav?revision=${revision}`;
      audio.currentTime = at / 1000;
    },

    doneWords(before: number): string {
      const { version, steps } = this.view;
      const said = (number: number) => steps.find((s) => s.number === number)?.said ?? "";
      return version === before + 1 ? said(version) : version < before ? `Undone: ${said(version + 1)}` : `Redone: ${said(version)}`;
    },

    /** What the cleaning has done: "2:21 → 1:58". */
    get measureWords(): string {
      const { wholeMs, lengthMs } = this.view;
      return Math.abs(wholeMs - lengthMs) < 50 ? clock(lengthMs) : `${clock(wholeMs)} → ${clock(lengthMs)}`;
    },

    get measureSpoken(): string {
      return `Recorded ${clock(this.view.wholeMs)}, the lesson is ${clock(this.view.lengthMs)} long`;
    },

    /** Whether something holds only this time. */
    get hasTemporary(): boolean {
      return this.view.edits.some((e) => e.kind === "OnlyThisTime");
    },

    toggleTemporary(): void {
      void this.doStep({ do: "leaveOutTemporary", isOut: !this.view.leavesOutTemporary });
    },

    get hasEdits(): boolean {
      return this.view.edits.length > 0;
    },

    get hasNoEdits(): boolean {
      return !this.hasEdits;
    },

    editKey({ kind, take, source }: Edit): string {
      return `${kind} ${take} ${source[0]} ${source[1]}`;
    },

    editWords({ kind, lengthMs, restMs }: Edit): string {
      switch (kind) {
        case "TakenOut":
          return `${seconds(lengthMs)} taken out`;
        case "MadeShort":
          return `Silence ${seconds(lengthMs)} → ${seconds(restMs)}`;
        case "Muted":
          return `${seconds(lengthMs)} muted`;
        case "UnderTone":
          return `${seconds(lengthMs)} under a tone`;
        case "OnlyThisTime":
          return `${seconds(lengthMs)} only this time${restMs > 0 ? "" : ", left out"}`;
        case "Settled":
          return "A line laid on its words";
        case "TakenBack":
          return restMs > 0 ? `${seconds(lengthMs)} that a retake had taken back` : `${seconds(lengthMs)} taken back by a retake`;
        case "SaidAgain":
          return lengthMs > 0 ? `Said again: ${seconds(lengthMs)} → ${seconds(restMs)}` : `${seconds(restMs)} put in`;
        default:
          return `Pause of ${seconds(restMs)}`;
      }
    },

    editTime(edit: Edit): string {
      return clock(edit.atMs);
    },

    putBackWord({ kind, lengthMs, restMs }: Edit): string {
      if (kind === "OnlyThisTime") {
        return "Let it hold always";
      }

      if (kind === "Settled") {
        return "As it was drawn";
      }

      const isAdded = kind === "Paused" || (kind === "SaidAgain" && lengthMs === 0) || (kind === "TakenBack" && restMs > 0);
      return isAdded ? "Take out" : "Put back";
    },

    /** Goes there, and shows its edges. */
    goToEdit(edit: Edit): void {
      this.openEdit = this.openEdit === this.editKey(edit) ? "" : this.editKey(edit);
      this.endListening();
      this.go(Math.max(edit.atMs - 1500, 0));
      this.bringIntoSight(edit.atMs, edit.atMs);
    },

    isOpenEdit(edit: Edit): boolean {
      return this.openEdit === this.editKey(edit);
    },

    isOpenWithEdges(edit: Edit): boolean {
      return withEdges.includes(edit.kind) && this.isOpenEdit(edit);
    },

    isOpenPause(edit: Edit): boolean {
      return edit.kind === "Paused" && this.isOpenEdit(edit);
    },

    /** Puts in a pause, and shows it so that it can be made longer. */
    async pauseHere(): Promise<void> {
      const before = new Set(this.view.edits.map((e) => this.editKey(e)));
      if (await this.doStep({ do: "pause", atMs: this.ms, lengthMs: pauseMs })) {
        const put = this.view.edits.find((e) => !before.has(this.editKey(e)));
        this.openEdit = put ? this.editKey(put) : "";
        this.showTabOf("out");
      }
    },

    setPause({ take, source }: Edit, event: Event): void {
      void this.doStep({ do: "changePause", take, at: source[0], lengthMs: Number((event.target as HTMLSelectElement).value) });
    },

    hearEditJoin({ atMs, restMs }: Edit): void {
      this.hearAround(atMs, atMs + restMs);
    },

    /** The join that is nearest to what is shown. */
    hearJoin(): void {
      const joins = this.view.edits.filter((e) => e.kind === "TakenOut");
      const nearest = joins.sort((a, b) => Math.abs(a.atMs - this.ms) - Math.abs(b.atMs - this.ms))[0];
      if (nearest) {
        this.bringIntoSight(nearest.atMs, nearest.atMs);
        this.hearEditJoin(nearest);
      }
    },

    beginEarlier(edit: Edit): void {
      void this.moveEdges(edit, -nudgeMs, 0);
    },

    beginLater(edit: Edit): void {
      void this.moveEdges(edit, nudgeMs, 0);
    },

    endEarlier(edit: Edit): void {
      void this.moveEdges(edit, 0, -nudgeMs);
    },

    endLater(edit: Edit): void {
      void this.moveEdges(edit, 0, nudgeMs);
    },

    async moveEdges({ kind, take, source }: Edit, from: number, to: number): Promise<void> {
      const [start, end] = [Math.max(0, Math.round(source[0] + from * samplesPerMs)), Math.round(source[1] + to * samplesPerMs)];
      if (end > start && (await this.doStep({ do: "moveEdges", kind, take, source: range(source), to: range([start, end]) }))) {
        const now = this.view.edits.find((e) => e.kind === kind && e.take === take && e.source[0] <= start && end <= e.source[1]);
        this.openEdit = now ? this.editKey(now) : "";
        this.takeEdges();
      }
    },

    canHearEdit({ kind }: Edit): boolean {
      return kind !== "Paused" && kind !== "Settled";
    },

    hearEditWords(edit: Edit): string {
      return `Hear what was there: ${this.editWords(edit)} at ${this.editTime(edit)}`;
    },

    /** As it was recorded. */
    hearEdit({ take, source }: Edit): void {
      this.hearRecordedStretch(take, source[0] / samplesPerMs, source[1] / samplesPerMs);
    },

    async putBack({ kind, take, source }: Edit): Promise<void> {
      await this.doStep({ do: "putBack", kind, take, source: range(source) });
      document.getElementById("tab-out")?.focus();
    },
  });
