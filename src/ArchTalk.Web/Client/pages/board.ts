import {
  cellsOf, duplicated, figureWords, freePlace, type Item, type ItemsView, type Kind, kindWords, type LabelView, moved, newBlank, newCover, newFigure, newFormula, newLabel, newTable, newText,
  type TableItem,
} from "../board/items";
import { read, shown, typed, written } from "../board/fields";
import { type Colors, RichText } from "../board/rich-text";
import type { Look } from "../board/runs";
import { Surface } from "../board/surface";
import type { PlacedDrawing } from "../ink/drawing";
import { component, start } from "../shared/alpine";
import { call, messageOf, sendFile } from "../shared/api";
import { pageData } from "../shared/page-data";
import { pickedFiles } from "../shared/picked";
import { SectionList } from "../shared/section-list";
import { tabAfter } from "../shared/tabs";

interface Board {
  id: string;
  title: string;
  kind: string;
  height: number;
  medium: string | null;
  large: string | null;
  notes: string;
  alternativeText: string;
  canBeScanned: boolean;
  clip: { hasPicture: boolean; lengthMs: number; startMs: number; endMs: number; files: string[] } | null;
}

interface Word {
  text: string;
  x: number;
  y: number;
  width: number;
  height: number;
  confidence: number | null;
}

interface Scan {
  turn: number;
  degrees: number;
  left: number;
  top: number;
  right: number;
  bottom: number;
  raisesContrast: boolean;
}

interface Finding {
  kind: number;
  subject: string;
  value: number;
  needed: number;
  x: number;
  y: number;
  width: number;
  height: number;
}

interface Seen {
  screen: { name: string; widthMm: number; distanceMm: number };
  smallestMinutes: number | null;
  findings: Finding[];
}

const page = pageData<{
  lesson: string;
  board: Board;
  boards: { id: string; title: string }[];
  terms: { id: string; word: string }[];
  colors: Colors;
  sizes: Record<string, number>;
}>("page-data");
const api = `/api/lessons/${page.lesson}/boards/${page.board.id}`;
const restMs = 350;
const lookAgainMs = 1000;

// What must not be wrapped in proxies.
let surface: Surface;
let store: SectionList<Item[], ItemsView>;
let writing: RichText;
let drawings: PlacedDrawing[] = [];

const board = () =>
  component({
    board: page.board,
    items: [] as Item[],
    selected: [] as string[],
    labels: [] as LabelView[],
    alphabetical: [] as string[],
    canUndo: false,
    canRedo: false,
    status: "",
    isFault: false,
    fault: "",
    tab: "item",
    placing: false,
    editing: null as string | null,
    menu: "",
    ticked: [] as string[],
    pasted: null as File | null,
    formulaFault: "",
    words: [] as Word[],
    showsWords: false,
    reading: "",
    scan: null as Scan | null,
    isWorking: false,
    seen: [] as Seen[],

    init() {
      surface = new Surface(this.$refs["surface"] as unknown as SVGSVGElement, {
        selected: (ids) => this.select(ids),
        changed: (items) => this.commit(items),
        opened: (id) => this.open(id),
        placed: (x, y) => this.placeLabel(x, y),
      });
      writing = new RichText(this.$refs["writing"]!, page.colors, () => this.keepWriting());
      surface.setBoard(this.board.height, this.board.large ?? this.board.medium);
      store = new SectionList<Item[], ItemsView>(
        `${api}/items`,
        () => plainCopy(this.items),
        (view) => this.take(view),
        (status, isFault) => {
          this.status = status;
          this.isFault = isFault;
        },
      );
      void store.load();
      new ResizeObserver(() => {
        this.show();
        this.placeWriting();
      }).observe(surface.svg);
      window.addEventListener("paste", (e) => this.paste(e));
      window.addEventListener("beforeunload", (e) => {
        if (store.isWaiting) {
          void store.settle();
          e.preventDefault();
        }
      });
    },

    // Also after a save: writing, tables and labels come back as large as they were drawn.
    take(view: ItemsView) {
      this.canUndo = view.canUndo;
      this.canRedo = view.canRedo;
      this.labels = view.labels;
      this.alphabetical = view.alphabetical;
      drawings = keepSame(drawings, view.drawings);
      if (!store.isWaiting) {
        this.items = view.content;
        this.selected = this.selected.filter((id) => this.items.some((i) => i.id === id));
      }

      if (!surface.isDragging) {
        this.show();
      }
    },

    show() {
      surface.show(plainCopy(this.items), drawings, [...this.selected]);
      surface.hide(this.editing);
    },

    // --- What is selected ---

    select(ids: string[]) {
      if (this.editing && !ids.includes(this.editing)) {
        this.endWriting();
      }

      this.selected = ids;
      this.formulaFault = "";
      if (ids.length > 0 && this.tab !== "labels") {
        this.tab = "item";
      }

      this.show();
    },

    selectOne(id: string) {
      this.select([id]);
      surface.focus(id);
    },

    get one(): Item | null {
      return this.selected.length === 1 ? this.items.find((i) => i.id === this.selected[0]) ?? null : null;
    },

    get hasSelection(): boolean {
      return this.selected.length > 0;
    },

    get nothing(): boolean {
      return this.selected.length === 0;
    },

    get isBare(): boolean {
      return this.items.length === 0 && !this.board.medium;
    },

    get selectionName(): string {
      const one = this.one;
      return one ? (one.kind === "figure" ? figureWords[one.figure.figure]! : kindWords[one.kind]) : `${this.selected.length} items`;
    },

    isKind(kind: Kind): boolean {
      return this.one?.kind === kind;
    },

    isFigure(name: string): boolean {
      const one = this.one;
      return one?.kind === "figure" && one.figure.figure === name;
    },

    get isLocked(): boolean {
      return this.items.some((i) => this.selected.includes(i.id) && i.isLocked);
    },

    get lockWord(): string {
      return this.isLocked ? "Let go" : "Hold in place";
    },

    // --- Fields of the selected item ---

    // What is being typed is never replaced under the hands; it counts once it was taken over.
    field(path: string, type: string): string {
      const typing = document.activeElement;
      if (typing instanceof HTMLElement && typing.dataset["path"] === path && "value" in typing) {
        return String(typing.value);
      }

      return shown(read(this.one, path), type);
    },

    flag(path: string): boolean {
      return read(this.one, path) === true;
    },

    is(path: string, value: string): boolean {
      return read(this.one, path) === value;
    },

    set(event: Event) {
      const input = event.currentTarget as HTMLInputElement;
      const type = input.dataset["type"] ?? "text";
      this.write(input.dataset["path"]!, type === "bool" ? input.checked : typed(input.value, type));
    },

    choose(event: Event) {
      const button = event.currentTarget as HTMLElement;
      this.write(button.dataset["path"]!, button.dataset["value"]!);
    },

    write(path: string, value: unknown) {
      const one = this.one;
      if (one && value !== undefined) {
        const changed = written(plainCopy([one])[0]!, path, value);
        this.commit(this.items.map((i) => (i.id === one.id ? changed : i)), restMs);
      }
    },

    commit(items: Item[], rest = 0) {
      this.items = plainCopy(items);
      this.show();
      store.changed(rest);
    },

    // --- Adding ---

    addText() {
      this.addFree(newText(0, 0, ""));
      this.open(this.selected[0]!);
    },

    async addFormula() {
      await this.work(async () => {
        const tex = "F = m a";
        const { typeset } = await import("../board/formula");
        this.addFree({ ...newFormula(0, 0), tex, ...typeset(tex) });
      });
    },

    addTable() {
      this.addFree(newTable(0, 0, [["", ""], ["", ""], ["", ""]]));
    },

    addCover() {
      this.addFree(newCover(0, 0));
    },

    addBlank() {
      this.addFree(newBlank(0, 0));
    },

    addFigure(event: Event) {
      this.menu = "";
      this.addFree(newFigure(0, 0, (event.currentTarget as HTMLElement).dataset["figure"]!));
    },

    add(item: Item) {
      this.commit([...this.items, item]);
      this.select([item.id]);
      this.tab = "item";
    },

    /** Adds an item where the board is seen and free. */
    addFree(item: Item) {
      const top = Math.round(this.$refs["frame"]!.scrollTop / surface.scale);
      this.add({ ...item, ...freePlace(item, this.items, top, this.board.height) });
    },

    startLabel() {
      this.askForPlace(!this.placing);
    },

    placeLabel(x: number, y: number) {
      this.askForPlace(false);
      this.add(newLabel(Math.round(x), Math.round(y), this.board.height));
      this.$nextTick(() => this.$root.querySelector<HTMLInputElement>("#label-text")?.select());
    },

    askForPlace(isAsked: boolean) {
      this.placing = surface.isPlacing = isAsked;
    },

    // --- Writing in place ---

    open(id: string) {
      const item = this.items.find((i) => i.id === id);
      if (item?.kind === "text") {
        this.selected = [id];
        this.tab = "item";
        this.editing = id;
        this.show();
        this.$nextTick(() => {
          writing.show(item.paragraphs);
          this.placeWriting();
          writing.focusAll();
        });
      } else if (item) {
        this.$nextTick(() => this.$root.querySelector<HTMLElement>("#panel-item input, #panel-item textarea")?.focus());
      }
    },

    placeWriting() {
      const item = this.items.find((i) => i.id === this.editing);
      if (item?.kind !== "text") {
        return;
      }

      const scale = surface.scale;
      const indent = item.list === "none" ? 0 : item.list === "dots" ? 0.8 : item.paragraphs.length >= 10 ? 1.7 : 1.2;
      const size = page.sizes[item.size]!;
      Object.assign(this.$refs["writing"]!.style, {
        left: `${(item.x + indent * size) * scale}px`, top: `${item.y * scale}px`, width: `${(item.width - indent * size) * scale}px`,
        fontSize: `${size * scale}px`, textAlign: item.align === "middle" ? "center" : item.align,
      });
    },

    keepWriting() {
      const id = this.editing;
      if (id) {
        const paragraphs = writing.read();
        this.items = this.items.map((i) => (i.id === id && i.kind === "text" ? { ...i, paragraphs } : i));
        store.changed(restMs);
      }
    },

    endWriting() {
      const id = this.editing;
      if (!id) {
        return;
      }

      const empty = writing.read().every((p) => p.every((r) => r.text.trim() === ""));
      this.editing = null;
      if (empty) {
        this.commit(this.items.filter((i) => i.id !== id));
        this.selected = [];
      }

      this.show();
    },

    look(event: Event) {
      const { look, without } = lookOf(event.currentTarget as HTMLElement);
      if (this.editing) {
        writing.apply(look, without);
        return;
      }

      // Without a selection of letters the whole writing takes the look.
      const one = this.one;
      if (one?.kind === "text") {
        const all = one.paragraphs.every((p) => p.every((r) => Object.entries(look).every(([k, v]) => r[k as keyof typeof r] === v)));
        this.write("paragraphs", one.paragraphs.map((p) => p.map((r) => ({ ...r, ...(all ? without : look) }))));
      }
    },

    ruby(event: Event) {
      const value = (event.currentTarget as HTMLInputElement).value.trim();
      writing.apply({ ruby: value }, { ruby: "" });
    },

    language(event: Event) {
      const value = (event.currentTarget as HTMLInputElement).value.trim();
      writing.apply({ language: value }, { language: "" });
    },

    get isWriting(): boolean {
      return this.editing !== null;
    },

    // --- Formula ---

    async setTex(event: Event) {
      const tex = (event.currentTarget as HTMLTextAreaElement).value;
      try {
        const { typeset } = await import("../board/formula");
        const result = typeset(tex);
        this.formulaFault = "";
        const one = this.one;
        if (one?.kind === "formula") {
          this.commit(this.items.map((i) => (i.id === one.id ? { ...one, tex, ...result } : i)), restMs);
        }
      } catch (error) {
        this.formulaFault = `The formula can't be typeset: ${messageOf(error)}. What was there before is kept.`;
      }
    },

    // --- Table ---

    get rows(): { cells: { row: number; column: number; text: string; isBlank: boolean; answers: string }[] }[] {
      const one = this.one;
      return one?.kind === "table"
        ? one.rows.map((r, row) => ({ cells: r.map((c, column) => ({ row, column, text: c.text, isBlank: c.isBlank, answers: c.answers.join("; ") })) }))
        : [];
    },

    setCell(event: Event) {
      const input = event.currentTarget as HTMLInputElement;
      const what = input.dataset["what"]!;
      this.changeTable((t) => {
        const cell = t.rows[Number(input.dataset["row"])]![Number(input.dataset["column"])]!;
        if (what === "blank") {
          cell.isBlank = input.checked;
        } else if (what === "answers") {
          cell.answers = input.value.split(";").map((a) => a.trim()).filter(Boolean);
        } else {
          cell.text = input.value;
        }
      });
    },

    addRow() {
      this.changeTable((t) => t.rows.push(t.rows[0]!.map(() => ({ text: "", isBlank: false, answers: [] }))));
    },

    addColumn() {
      this.changeTable((t) => t.rows.forEach((r) => r.push({ text: "", isBlank: false, answers: [] })));
    },

    removeRow() {
      this.changeTable((t) => t.rows.length > 1 && t.rows.pop());
    },

    removeColumn() {
      this.changeTable((t) => t.rows.forEach((r) => r.length > 1 && r.pop()));
    },

    changeTable(change: (table: TableItem) => void) {
      const one = this.one;
      if (one?.kind === "table") {
        const table = plainCopy([one])[0] as TableItem;
        change(table);
        this.write("rows", table.rows);
      }
    },

    // --- What is done with the selection ---

    remove() {
      const word = this.selectionName;
      this.commit(this.items.filter((i) => !this.selected.includes(i.id)));
      this.select([]);
      this.status = `${word} removed. Undo brings it back.`;
    },

    duplicate() {
      const copies = duplicated(plainCopy(this.items.filter((i) => this.selected.includes(i.id))));
      this.commit([...this.items, ...copies]);
      this.select(copies.map((c) => c.id));
    },

    toggleLock() {
      const isLocked = !this.isLocked;
      this.commit(this.items.map((i) => (this.selected.includes(i.id) ? { ...i, isLocked } : i)));
    },

    toFront() {
      this.commit([...this.items.filter((i) => !this.selected.includes(i.id)), ...this.items.filter((i) => this.selected.includes(i.id))]);
    },

    toBack() {
      this.commit([...this.items.filter((i) => this.selected.includes(i.id)), ...this.items.filter((i) => !this.selected.includes(i.id))]);
    },

    nudge(dx: number, dy: number) {
      const isWhole = this.selected.length > 1;
      this.commit(this.items.map((i) => (this.selected.includes(i.id) && !i.isLocked ? moved(i, dx, dy, isWhole) : i)), restMs);
    },

    undo() {
      this.endWriting();
      void store.step("undo");
    },

    redo() {
      this.endWriting();
      void store.step("redo");
    },

    get noUndo(): boolean {
      return !this.canUndo;
    },

    get noRedo(): boolean {
      return !this.canRedo;
    },

    keys(event: KeyboardEvent) {
      const step = event.shiftKey ? 20 : 2;
      const command = event.ctrlKey || event.metaKey;
      const act: (() => void) | undefined = command
        ? { z: () => (event.shiftKey ? this.redo() : this.undo()), y: () => this.redo(), d: () => this.duplicate(), a: () => this.select(this.items.map((i) => i.id)) }[event.key.toLowerCase()]
        : {
            ArrowLeft: () => this.nudge(-step, 0), ArrowRight: () => this.nudge(step, 0), ArrowUp: () => this.nudge(0, -step), ArrowDown: () => this.nudge(0, step),
            Delete: () => this.remove(), Backspace: () => this.remove(), Escape: () => this.escape(), Enter: () => this.enter(),
          }[event.key];
      const needsSelection = !command && !["Escape", "Enter"].includes(event.key);
      if (act && (!needsSelection || this.hasSelection)) {
        event.preventDefault();
        act();
      }
    },

    enter() {
      if (this.placing) {
        this.placeLabel(800, Math.min(450, this.board.height / 2));
      } else if (this.one) {
        this.open(this.one.id);
      }
    },

    escape() {
      this.askForPlace(false);
      this.menu = "";
      this.endWriting();
      this.select([]);
    },

    writingKeys(event: KeyboardEvent) {
      event.stopPropagation();
      if (event.key === "Escape") {
        const id = this.editing!;
        this.endWriting();
        surface.focus(id);
      } else if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "b") {
        event.preventDefault();
        writing.apply({ isBold: true }, { isBold: false });
      }
    },

    toggleMenu(event: Event) {
      const name = (event.currentTarget as HTMLElement).dataset["menu"]!;
      this.menu = this.menu === name ? "" : name;
    },

    isMenu(name: string): boolean {
      return this.menu === name;
    },

    tick(event: Event) {
      const box = event.currentTarget as HTMLInputElement;
      this.ticked = box.checked ? [...this.ticked, box.value] : this.ticked.filter((b) => b !== box.value);
    },

    get noneTicked(): boolean {
      return this.ticked.length === 0;
    },

    async copyTo() {
      await store.settle();
      await this.attempt(async () => {
        await call("POST", `${api}/items/copy`, { ids: this.selected, to: this.ticked });
        this.status = `Copied to ${this.ticked.length === 1 ? "1 board" : `${this.ticked.length} boards`}`;
        this.menu = "";
      });
    },

    // --- Pasting ---

    paste(event: ClipboardEvent) {
      if (event.target instanceof HTMLElement && event.target.closest("input, textarea, [contenteditable=true]")) {
        return;
      }

      const file = [...(event.clipboardData?.files ?? [])].find((f) => f.type.startsWith("image/"));
      const text = event.clipboardData?.getData("text/plain") ?? "";
      if (file) {
        this.pasted = file;
      } else if (text.trim()) {
        event.preventDefault();
        const cells = cellsOf(text);
        this.addFree(cells ? newTable(0, 0, cells) : newText(0, 0, text.trim()));
      }
    },

    async usePasted() {
      const file = this.pasted;
      this.pasted = null;
      if (file) {
        await this.replacePicture(file);
      }
    },

    async addPasted() {
      const file = this.pasted;
      this.pasted = null;
      if (file) {
        await this.attempt(async () => {
          await sendFile("POST", `/api/lessons/${page.lesson}/files`, file);
          this.status = "Added as a new board";
        });
      }
    },

    dropPasted() {
      this.pasted = null;
    },

    // --- Labels ---

    get labelList(): { id: string; number: number; text: string; term: string }[] {
      return this.labels.map((l) => ({ id: l.id, number: l.number, text: l.text, term: page.terms.find((t) => t.id === l.termId)?.word ?? "" }));
    },

    get alphabet(): { id: string; number: number; text: string }[] {
      return this.alphabetical.map((id) => this.labels.find((l) => l.id === id)!).filter(Boolean);
    },

    get hasLabels(): boolean {
      return this.labels.length > 0;
    },

    get hasNoLabels(): boolean {
      return this.labels.length === 0;
    },

    async addUnlabelled() {
      await store.settle();
      await this.attempt(async () => {
        const copy = await call<{ id: string }>("POST", `${api}/unlabelled`);
        location.href = `/lessons/${page.lesson}/prepare/${copy.id}`;
      });
    },

    // --- The board itself ---

    async change(event: Event) {
      const input = event.currentTarget as HTMLInputElement;
      const name = input.dataset["member"]!;
      await this.attempt(async () => {
        this.status = "Saving…";
        await call("PATCH", api, { [name]: input.value });
        this.status = "Saved";
      });
    },

    async changeClip(event: Event) {
      const input = event.currentTarget as HTMLInputElement;
      const ms = Math.round(Number(input.value.replace(",", ".")) * 1000);
      await this.attempt(async () => {
        await call("PATCH", api, { [input.dataset["member"]!]: ms });
        await this.reload();
        this.status = "Saved";
      });
    },

    get clipStart(): number {
      return (this.board.clip?.startMs ?? 0) / 1000;
    },

    get clipEnd(): number {
      return (this.board.clip?.endMs ?? 0) / 1000;
    },

    // Plays only the part that students will see.
    holdClip(event: Event) {
      const media = event.currentTarget as HTMLMediaElement;
      if (media.currentTime > this.clipEnd) {
        media.pause();
        media.currentTime = this.clipStart;
      } else if (media.currentTime < this.clipStart - 0.2) {
        media.currentTime = this.clipStart;
      }
    },

    async pickPicture(event: Event) {
      const [file] = pickedFiles(event);
      if (file) {
        await this.replacePicture(file);
      }
    },

    async replacePicture(file: File) {
      await this.work(async () => {
        await sendFile("PUT", `${api}/picture`, file);
        await this.reload();
        this.status = "Picture replaced; everything on it was kept";
      });
    },

    async reload() {
      this.board = await call<Board>("GET", api);
      surface.setBoard(this.board.height, this.board.large ?? this.board.medium);
      this.words = [];
      if (this.showsWords) {
        await this.loadWords();
      }
    },

    // --- Scans and words ---

    async showPicture() {
      if (this.board.canBeScanned && !this.scan) {
        await this.attempt(async () => {
          this.scan = await call<Scan>("GET", `${api}/scan`);
        });
      }
    },

    async proposeScan() {
      await this.work(async () => this.applyScan(await call<Scan>("GET", `${api}/scan/proposal`)));
    },

    async resetScan() {
      await this.work(() => this.applyScan({ turn: 0, degrees: 0, left: 0, top: 0, right: 0, bottom: 0, raisesContrast: false }));
    },

    async turnLeft() {
      await this.work(() => this.applyScan({ ...this.scan!, turn: this.scan!.turn + 3 }));
    },

    async turnRight() {
      await this.work(() => this.applyScan({ ...this.scan!, turn: this.scan!.turn + 1 }));
    },

    async setScan(event: Event) {
      const input = event.currentTarget as HTMLInputElement;
      const value = input.type === "checkbox" ? input.checked : Number(input.value) / Number(input.dataset["per"] ?? 1);
      await this.work(() => this.applyScan({ ...this.scan!, [input.dataset["member"]!]: value }));
    },

    scanValue(name: keyof Scan, per: number): number {
      return this.scan ? Math.round(Number(this.scan[name]) * per * 10) / 10 : 0;
    },

    async applyScan(scan: Scan) {
      await call("PUT", `${api}/scan`, scan);
      this.scan = await call<Scan>("GET", `${api}/scan`);
      await this.reload();
      this.status = "Page set; the words are read anew";
    },

    async toggleWords() {
      this.showsWords = !this.showsWords;
      if (this.showsWords) {
        await this.loadWords();
      } else {
        surface.mark([]);
      }
    },

    async loadWords() {
      await this.attempt(async () => {
        const answer = await call<{ words: Word[]; reading: { state: string; message: string } | null }>("GET", `${api}/words`);
        this.words = answer.words;
        const isReading = answer.reading?.state === "waiting" || answer.reading?.state === "running";
        this.reading = isReading ? "Reading…" : answer.reading?.state === "failed" ? answer.reading.message : "";
        surface.mark(this.showsWords ? this.words.map((w) => ({ ...w, class: (w.confidence ?? 100) < 70 ? "word-mark is-unsure" : "word-mark" })) : []);
        if (isReading && this.showsWords) {
          setTimeout(() => void this.loadWords(), lookAgainMs);
        }
      });
    },

    async readWords() {
      await this.attempt(async () => {
        await call("POST", `${api}/words`);
        this.showsWords = true;
        await this.loadWords();
      });
    },

    get wordCount(): string {
      const unsure = this.words.filter((w) => (w.confidence ?? 100) < 70).length;
      const found = this.words.length === 1 ? "1 word found" : `${this.words.length} words found`;
      return this.reading || (unsure > 0 ? `${found}, ${unsure} of them unsure (dashed)` : found);
    },

    // --- How they see it ---

    async showSeen() {
      await store.settle();
      await this.work(async () => {
        this.seen = await call<Seen[]>("GET", `${api}/seen`);
        this.$nextTick(() => surface.copyTo(document.getElementById("phone-board")!));
      });
    },

    get phone(): Seen | null {
      return this.seen[0] ?? null;
    },

    get laptop(): Seen | null {
      return this.seen[1] ?? null;
    },

    smallest(seen: Seen): string {
      return seen.smallestMinutes === null ? "No writing on this board yet."
        : `Smallest writing: ${seen.smallestMinutes.toFixed(1)}′ (16′ needed, 20′ better).`;
    },

    isGood(seen: Seen): boolean {
      return seen.findings.length === 0;
    },

    finding(f: Finding): string {
      switch (f.kind) {
        case 0:
          return `“${f.subject}” is too small: ${f.value.toFixed(1)}′ of ${f.needed}′.`;
        case 1:
          return `“${f.subject}” is too pale: ${f.value.toFixed(2)}:1 of ${f.needed}:1.`;
        default:
          return `The ${f.subject} ink would not show here: ${f.value.toFixed(2)}:1 of ${f.needed}:1.`;
      }
    },

    point(f: Finding) {
      surface.mark([{ x: f.x, y: f.y, width: f.width, height: f.height, class: "finding-mark" }]);
      const frame = this.$refs["frame"]!;
      frame.scrollTo({ top: f.y * surface.scale - frame.clientHeight / 2 });
    },

    // --- Tabs and faults ---

    showTab(event: Event) {
      this.tab = (event.currentTarget as HTMLElement).dataset["tab"]!;
      surface.mark([]);
      this.showsWords = false;
      if (this.tab === "picture") {
        void this.showPicture();
      } else if (this.tab === "seen") {
        void this.showSeen();
      }
    },

    isTab(name: string): boolean {
      return this.tab === name;
    },

    tabIndex(name: string): number {
      return this.tab === name ? 0 : -1;
    },

    stepTab(event: KeyboardEvent) {
      const next = tabAfter(this.$root, this.tab, event.key);
      next?.focus();
      next?.click();
    },

    dismissFault() {
      this.fault = "";
    },

    async work(task: () => Promise<unknown>) {
      this.isWorking = true;
      await this.attempt(task);
      this.isWorking = false;
    },

    async attempt(task: () => Promise<unknown>) {
      try {
        this.fault = "";
        await task();
      } catch (error) {
        this.fault = messageOf(error);
        this.status = "";
      }
    },
  });

// Drawings that did not change stay the same objects, so that their outlines are not made again.
function keepSame(before: PlacedDrawing[], after: PlacedDrawing[]): PlacedDrawing[] {
  const known = new Map(before.map((d) => [d.id, d]));
  return after.map((d) => {
    const old = known.get(d.id);
    return old && JSON.stringify(old.drawing) === JSON.stringify(d.drawing) ? Object.assign(old, { x: d.x, y: d.y }) : d;
  });
}

function plainCopy(items: Item[]): Item[] {
  return JSON.parse(JSON.stringify(items)) as Item[];
}

function lookOf(button: HTMLElement): { look: Look; without: Look } {
  const name = button.dataset["look"]!;
  const value = button.dataset["value"] ?? "";
  return name === "bold" ? { look: { isBold: true }, without: { isBold: false } } : { look: { [name]: value }, without: { [name]: "" } };
}

start({ board });
