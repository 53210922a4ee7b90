import { part } from "../../shared/alpine";
import { call, messageOf, sending } from "../../shared/api";
import { Following, isActive, type Job } from "../../shared/jobs";
import { pickedFiles } from "../../shared/picked";
import { api, type BoardInfo, hasMachine, machine, page } from "../page";
import { loadBoards } from "../start";
import type { RecordPage } from "./whole";

/** The boards at the side, and others brought in without leaving the page. */
export const strip = () =>
  part<RecordPage>()({
    strip: [...page.boards],
    addsBoards: false,
    /** What is on its way: "" when nothing is. */
    bringing: "",
    following: null as Following | null,
    /** Jobs that were there before, or were told of. */
    toldJobs: [] as string[],

    stripNumber(board: BoardInfo): number {
      return this.strip.indexOf(board);
    },

    isShownBoard(board: BoardInfo): boolean {
      return this.strip.indexOf(board) === this.boardIndex;
    },

    toggleAddsBoards(): void {
      this.addsBoards = !this.addsBoards;
    },

    get cannotBringIn(): boolean {
      return !this.loaded || this.isRetaking || this.isCounting || this.bringing !== "";
    },

    async addEmptyBoard(): Promise<void> {
      await this.addBoard("empty-after");
    },

    /** The same board without what was drawn on it. */
    async addCleanCopy(): Promise<void> {
      await this.addBoard("clean-copy");
    },

    async addBoard(how: string): Promise<void> {
      const board = this.strip[this.boardIndex];
      if (!board || this.cannotBringIn) {
        return;
      }

      this.addsBoards = false;
      this.bringing = "Adding a board…";
      await this.attempt(async () => {
        const { id } = await call<{ id: string }>("POST", `${api}/boards/${board.id}/${how}`);
        await this.takeNewBoards();
        this.goTo(this.strip.findIndex((b) => b.id === id));
      });
      this.bringing = "";
    },

    async bringInFile(event: Event): Promise<void> {
      const file = pickedFiles(event)[0];
      this.addsBoards = false;
      if (!file || this.cannotBringIn) {
        return;
      }

      this.bringing = `Bringing in “${file.name}”…`;
      try {
        const { jobs } = await call<{ jobs: Job[] }>("GET", `${api}/boards`);
        this.toldJobs = jobs.filter((j) => !isActive(j)).map((j) => j.id);
        await sending("POST", `${api}/files`, file).answer;
        this.following ??= new Following(() => this.lookForBoards());
        this.following.again();
      } catch (error) {
        this.bringing = "";
        this.fault = `“${file.name}” could not be sent. ${messageOf(error)}`;
      }
    },

    // As long as something is made of the file; boards come when it is done.
    async lookForBoards(): Promise<boolean> {
      try {
        const { jobs } = await call<{ jobs: Job[] }>("GET", `${api}/boards`);
        // A retake shows the boards as they were; they come when it is over.
        if (this.isRetaking || jobs.some(isActive)) {
          return true;
        }

        const before = this.strip.length;
        await this.takeNewBoards();
        const failed = jobs.find((j) => j.state === "failed" && !this.toldJobs.includes(j.id));
        this.fault = failed?.message ?? this.fault;
        const count = this.strip.length - before;
        if (count > 0) {
          this.notice = count === 1 ? "Brought in: it is in the strip of boards." : `Brought in: ${count} boards are in the strip.`;
        }
      } catch (error) {
        this.fault = messageOf(error);
      }

      this.bringing = "";
      return false;
    },

    /** Boards that were added meanwhile, here or in another window, are there from now on. */
    async takeNewBoards(): Promise<void> {
      const { boards } = await call<{ boards: BoardInfo[] }>("GET", `${api}/boards`);
      const known = new Map(page.boards.map((b) => [b.id, b]));
      const fresh = boards.filter((b) => !known.has(b.id));
      if (fresh.length === 0 || !hasMachine()) {
        return;
      }

      const { desk, painter } = machine();
      const loaded = await loadBoards(page, boards);
      const order = boards.filter((b) => loaded.state.boards.has(b.id));
      const brought = order.filter((b) => !known.has(b.id));
      desk.bringIn(
        order.map((b) => desk.boards.find((d) => d.ground.id === b.id) ?? loaded.boards.find((l) => l.ground.id === b.id)!),
        brought.map((b) => loaded.state.boards.get(b.id)!),
        performance.now(),
      );
      page.boards.splice(0, page.boards.length, ...order.map((b) => known.get(b.id) ?? b));
      this.strip = [...page.boards];
      brought.forEach((b) => painter.prepare(desk.boards.find((d) => d.ground.id === b.id)!.ground.pictures));
      this.afterInput();
    },
  });
