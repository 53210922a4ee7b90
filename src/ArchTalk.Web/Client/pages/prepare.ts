import { component, start } from "../shared/alpine";
import { antiforgeryToken, call, messageOf } from "../shared/api";
import { pageData } from "../shared/page-data";
import { SectionList } from "../shared/section-list";

interface Board {
  id: string;
  title: string;
  kind: string;
  height: number;
  small: string | null;
  source: string;
}

interface Job {
  id: string;
  state: string;
  title: string;
  done: number;
  total: number;
  message: string;
  secondsLeft: number | null;
}

interface Upload {
  name: string;
  share: number;
  stopped: boolean;
  request: XMLHttpRequest;
}

const page = pageData<{ lesson: string; limitMb: number }>("page-data");
const api = `/api/lessons/${page.lesson}`;
const lookAgainMs = 700;

const boards = () =>
  component({
    list: [] as Board[],
    jobs: [] as Job[],
    uploads: [] as Upload[],
    waiting: [] as File[],
    ready: false,
    dropping: false,
    fault: "",
    status: "",
    removed: null as Board | null,
    dragged: null as string | null,

    async init() {
      await this.refresh();
      this.ready = true;
      window.addEventListener("paste", (e) => this.addFiles([...(e.clipboardData?.files ?? [])]));
    },

    async refresh() {
      try {
        const view = await call<{ boards: Board[]; jobs: Job[] }>("GET", `${api}/boards`);
        this.list = view.boards;
        const finished = view.jobs.filter((j) => j.state === "done" || j.state === "cancelled");
        this.jobs = view.jobs.filter((j) => !finished.includes(j));
        if (this.jobs.some((j) => j.state === "waiting" || j.state === "running")) {
          setTimeout(() => void this.refresh(), lookAgainMs);
        }
      } catch (error) {
        this.fault = messageOf(error);
      }
    },

    get isEmpty(): boolean {
      return this.ready && this.list.length === 0 && this.jobs.length === 0 && this.uploads.length === 0;
    },

    get isWorking(): boolean {
      return this.jobs.length + this.uploads.length + this.waiting.length > 0;
    },

    leave(event: Event) {
      (event.target as HTMLElement).blur();
    },

    get count(): string {
      return this.list.length === 1 ? "1 board" : `${this.list.length} boards`;
    },

    number(board: Board): number {
      return this.list.indexOf(board) + 1;
    },

    shape(board: Board): string {
      return board.kind === "empty" ? "Empty, grows as you write" : board.height > 950 ? "Tall, slides" : "";
    },

    pick(event: Event) {
      const input = event.target as HTMLInputElement;
      this.addFiles([...(input.files ?? [])]);
      input.value = "";
    },

    over() {
      this.dropping = true;
    },

    out() {
      this.dropping = false;
    },

    drop(event: DragEvent) {
      this.dropping = false;
      this.addFiles([...(event.dataTransfer?.files ?? [])]);
    },

    addFiles(files: File[]) {
      this.waiting.push(...files);
      this.sendNext();
    },

    // One at a time, so that the boards come in the order of the files.
    sendNext() {
      const file = this.uploads.length === 0 ? this.waiting.shift() : undefined;
      if (!file) {
        return;
      }

      if (file.size > page.limitMb * 1024 * 1024) {
        this.fault = `“${file.name}” is larger than ${page.limitMb} MB, so it was not sent. Save it in parts, or with smaller pictures.`;
        this.sendNext();
        return;
      }

      const request = new XMLHttpRequest();
      this.uploads.push({ name: file.name, share: 0, stopped: false, request });
      const upload = this.uploads[0]!;
      request.upload.onprogress = (e) => (upload.share = e.total > 0 ? Math.round((100 * e.loaded) / e.total) : 0);
      request.onloadend = () => {
        this.uploads = [];
        if (request.status !== 202 && request.status !== 0) {
          const answer = request.responseText.startsWith("{") ? (JSON.parse(request.responseText) as { message?: string }) : {};
          this.fault = answer.message ?? `“${file.name}” could not be sent. Nothing was changed; try again.`;
        } else if (request.status === 0 && !upload.stopped) {
          this.fault = `“${file.name}” could not be sent: the server can't be reached. Try again shortly.`;
        }

        void this.refresh();
        this.sendNext();
      };
      request.open("POST", `${api}/files`);
      request.setRequestHeader("X-Antiforgery", antiforgeryToken());
      request.setRequestHeader("X-File-Name", encodeURIComponent(file.name));
      request.send(file);
    },

    stopUpload(upload: Upload) {
      upload.stopped = true;
      upload.request.abort();
    },

    isActive(job: Job): boolean {
      return job.state === "waiting" || job.state === "running";
    },

    progress(job: Job): string {
      if (job.state === "waiting") {
        return "waits";
      }

      const left = job.secondsLeft === null ? "" : `, about ${job.secondsLeft} s left`;
      return job.total > 0 ? `page ${job.done} of ${job.total}${left}` : "reading";
    },

    async cancel(job: Job) {
      await this.attempt(() => call("POST", `${api}/jobs/${job.id}/cancel`));
    },

    async dismiss(job: Job) {
      await this.attempt(() => call("DELETE", `${api}/jobs/${job.id}`));
    },

    dismissFault() {
      this.fault = "";
    },

    async addEmpty() {
      await this.attempt(() => call("POST", `${api}/boards`, { title: "Empty board" }));
    },

    async rename(board: Board, event: Event) {
      const title = (event.target as HTMLInputElement).value.trim();
      if (title && title !== board.title) {
        board.title = title;
        await this.attempt(() => call("PATCH", `${api}/boards/${board.id}`, { title }));
      }
    },

    async remove(board: Board) {
      await this.attempt(() => call("DELETE", `${api}/boards/${board.id}`));
      this.removed = board;
    },

    async restore() {
      const board = this.removed;
      this.removed = null;
      if (board) {
        await this.attempt(() => call("POST", `${api}/boards/${board.id}/restore`));
      }
    },

    async earlier(board: Board) {
      await this.moveTo(board.id, this.list.indexOf(board) - 1);
    },

    async later(board: Board) {
      await this.moveTo(board.id, this.list.indexOf(board) + 1);
    },

    isFirst(board: Board): boolean {
      return this.list[0] === board;
    },

    isLast(board: Board): boolean {
      return this.list.at(-1) === board;
    },

    lift(board: Board) {
      this.dragged = board.id;
    },

    // The order changes under the hand, and is kept when it is let go.
    hover(board: Board) {
      const from = this.list.findIndex((b) => b.id === this.dragged);
      const to = this.list.indexOf(board);
      if (from >= 0 && from !== to) {
        this.list.splice(to, 0, ...this.list.splice(from, 1));
      }
    },

    async letGo() {
      if (this.dragged) {
        this.dragged = null;
        await this.saveOrder();
      }
    },

    isDragged(board: Board): boolean {
      return this.dragged === board.id;
    },

    async moveTo(id: string, to: number) {
      const from = this.list.findIndex((b) => b.id === id);
      if (to >= 0 && to < this.list.length) {
        this.list.splice(to, 0, ...this.list.splice(from, 1));
        this.status = `${this.list[to]!.title} is now board ${to + 1} of ${this.list.length}.`;
        await this.saveOrder();
        this.$nextTick(() => document.getElementById(`move-${id}`)?.focus());
      }
    },

    async saveOrder() {
      await this.attempt(() => call("PUT", `${api}/boards/order`, this.list.map((b) => b.id)));
    },

    moveId(board: Board): string {
      return `move-${board.id}`;
    },

    async attempt(work: () => Promise<unknown>) {
      try {
        this.fault = "";
        await work();
      } catch (error) {
        this.fault = messageOf(error);
      }

      await this.refresh();
    },
  });

/** What the vocabulary and the references have in common. */
function listOf<T extends { id: string }>(kind: string, blank: () => T) {
  return component({
    items: [] as T[],
    canUndo: false,
    canRedo: false,
    status: "",
    isFault: false,
    section: null as unknown as SectionList<T[]>,

    init() {
      this.section = new SectionList<T[]>(
        `${api}/sections/${kind}`,
        () => JSON.parse(JSON.stringify(this.items)) as T[],
        (items, canUndo, canRedo) => {
          this.items = items;
          this.canUndo = canUndo;
          this.canRedo = canRedo;
        },
        (status, isFault) => {
          this.status = status;
          this.isFault = isFault;
        },
      );
      void this.section.load();
    },

    changed() {
      this.section.changed();
    },

    add() {
      this.items.push(blank());
      this.$nextTick(() => this.$root.querySelector<HTMLElement>("li:last-of-type input, li:last-of-type select")?.focus());
    },

    remove(item: T) {
      this.items.splice(this.items.indexOf(item), 1);
      void this.section.save();
    },

    earlier(item: T) {
      this.move(item, -1);
    },

    later(item: T) {
      this.move(item, 1);
    },

    move(item: T, by: number) {
      const from = this.items.indexOf(item);
      const to = from + by;
      if (to >= 0 && to < this.items.length) {
        this.items.splice(to, 0, ...this.items.splice(from, 1));
        void this.section.save();
      }
    },

    undo() {
      void this.section.step("undo");
    },

    redo() {
      void this.section.step("redo");
    },

    get noUndo(): boolean {
      return !this.canUndo;
    },

    get noRedo(): boolean {
      return !this.canRedo;
    },

    get isEmpty(): boolean {
      return this.items.length === 0;
    },
  });
}

const vocabulary = () =>
  listOf("Terms", () => ({ id: crypto.randomUUID(), word: "", reading: "", meaning: "", language: "" }));

const references = () =>
  Object.assign(listOf("References", () => ({ id: crypto.randomUUID(), kind: "web", title: "", address: "", pages: "", note: "" })), {
    isWeb: (item: { kind: string }) => item.kind === "web",
    isBook: (item: { kind: string }) => item.kind === "book",
  });

interface TaskContent {
  steps: string[];
  ready: string;
  handIn: string;
  where: string;
  when: string;
}

const task = () =>
  component({
    steps: [] as { text: string }[],
    ready: "",
    handIn: "",
    where: "",
    when: "",
    canUndo: false,
    canRedo: false,
    status: "",
    isFault: false,
    section: null as unknown as SectionList<TaskContent>,

    init() {
      this.section = new SectionList<TaskContent>(
        `${api}/sections/Task`,
        () => ({ steps: this.steps.map((s) => s.text), ready: this.ready, handIn: this.handIn, where: this.where, when: this.when }),
        (content, canUndo, canRedo) => {
          if (content.steps.join("\n") !== this.steps.map((s) => s.text).join("\n")) {
            this.steps = content.steps.map((text) => ({ text }));
          }

          Object.assign(this, { ready: content.ready, handIn: content.handIn, where: content.where, when: content.when, canUndo, canRedo });
        },
        (status, isFault) => {
          this.status = status;
          this.isFault = isFault;
        },
      );
      void this.section.load();
    },

    changed() {
      this.section.changed();
    },

    addStep() {
      this.steps.push({ text: "" });
      this.$nextTick(() => this.$root.querySelector<HTMLElement>("ol li:last-of-type input")?.focus());
    },

    removeStep(step: { text: string }) {
      this.steps.splice(this.steps.indexOf(step), 1);
      void this.section.save();
    },

    earlier(step: { text: string }) {
      this.move(step, -1);
    },

    later(step: { text: string }) {
      this.move(step, 1);
    },

    move(step: { text: string }, by: number) {
      const from = this.steps.indexOf(step);
      const to = from + by;
      if (to >= 0 && to < this.steps.length) {
        this.steps.splice(to, 0, ...this.steps.splice(from, 1));
        void this.section.save();
      }
    },

    undo() {
      void this.section.step("undo");
    },

    redo() {
      void this.section.step("redo");
    },

    get noUndo(): boolean {
      return !this.canUndo;
    },

    get noRedo(): boolean {
      return !this.canRedo;
    },
  });

/** Which list is shown beside the boards. */
const tabs = () =>
  component({
    shown: "vocabulary",

    show(event: Event) {
      this.shown = (event.currentTarget as HTMLElement).dataset["tab"]!;
    },

    step(event: KeyboardEvent) {
      const all = [...this.$root.querySelectorAll<HTMLElement>("[data-tab]")];
      const by = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
      if (by !== 0) {
        const next = all[(all.findIndex((t) => t.dataset["tab"] === this.shown) + by + all.length) % all.length]!;
        this.shown = next.dataset["tab"]!;
        next.focus();
      }
    },

    is(name: string): boolean {
      return this.shown === name;
    },

    tabIndex(name: string): number {
      return this.shown === name ? 0 : -1;
    },
  });

start({ boards, vocabulary, references, task, tabs });
