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
      this.formulaFault = "";
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
