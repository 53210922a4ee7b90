import { figureWords, handlesOf, type Item, type Kind, kindWords } from "../items";
import { live } from "../page";
import { part } from "../../shared/alpine";
import type { BoardPage } from "./whole";

/** Which items are selected. */
export const selection = () =>
  part<BoardPage>()({
    selected: [] as string[],

    select(ids: string[]): void {
      if (this.editing && !ids.includes(this.editing)) {
        this.endWriting();
      }

      this.selected = ids;
      if (ids.length > 0 && this.tab !== "labels") {
        this.tab = "item";
      }

      this.show();
    },

    selectOne(id: string): void {
      this.select([id]);
      live.surface.focus(id);
    },

    get one(): Item | null {
      return this.selected.length === 1 ? this.items.find((i) => i.id === this.selected[0]) ?? null : null;
    },

    /** What is wrong with the selected item, or isn't drawn of it. */
    get notice(): string {
      return this.one ? this.notices[this.one.id] ?? "" : "";
    },

    get wrongItems(): Item[] {
      return this.items.filter((i) => this.notices[i.id]);
    },

    get hasWrong(): boolean {
      return this.wrongItems.length > 0;
    },

    get wrongWords(): string {
      const [one, ...more] = this.wrongItems;
      return more.length > 0 ? `${more.length + 1} items need a look. Everything on the board is saved as you typed it.`
        : one ? `${this.nameOf(one)}: ${this.notices[one.id]!}` : "";
    },

    /** Selects the next item that needs a look. */
    showWrong(): void {
      const wrong = this.wrongItems;
      const at = wrong.findIndex((i) => this.selected.includes(i.id));
      const next = wrong[(at + 1) % wrong.length];
      if (next) {
        this.selectOne(next.id);
        this.$nextTick(() => this.focusFirstField());
      }
    },

    nameOf(item: Item): string {
      return item.kind === "figure" ? figureWords[item.figure.figure]! : kindWords[item.kind];
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
      return one ? this.nameOf(one) : `${this.selected.length} items`;
    },

    isKind(kind: Kind): boolean {
      return this.one?.kind === kind;
    },

    isFigure(name: string): boolean {
      const one = this.one;
      return one?.kind === "figure" && one.figure.figure === name;
    },

    get canBeWidened(): boolean {
      return this.one !== null && handlesOf(this.one).includes("e");
    },

    get canBeHeightened(): boolean {
      return this.one !== null && handlesOf(this.one).includes("s");
    },

    get isLocked(): boolean {
      return this.items.some((i) => this.selected.includes(i.id) && i.isLocked);
    },

    get lockWord(): string {
      return this.isLocked ? "Let go" : "Hold in place";
    },
  });
