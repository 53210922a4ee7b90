// The items of one board on their way to the server and back. Saves one at a time; undo and redo are the server's, so they
// survive a reload.

import type { PlacedDrawing } from "../ink/drawing";
import { call, messageOf } from "../shared/api";
import type { Item } from "./items";

export interface LabelView {
  id: string;
  number: number;
  text: string;
  termId: string | null;
}

export interface ItemsView {
  section: { content: Item[]; version: number; canUndo: boolean; canRedo: boolean };
  drawings: PlacedDrawing[];
  labels: LabelView[];
  alphabetical: string[];
}

export class ItemStore {
  private version = 0;
  private chain: Promise<void> = Promise.resolve();
  private wanted: Item[] | null = null;
  private timer = 0;

  /**
   * @param show Called with what the server has; `isNewest` is false while later changes still wait to be saved.
   * @param tell Called with how saving goes.
   */
  constructor(
    private readonly path: string,
    private readonly show: (view: ItemsView, isNewest: boolean) => void,
    private readonly tell: (status: string, isFault: boolean) => void,
  ) {}

  load(): Promise<void> {
    return this.queue(async () => this.take(await call<ItemsView>("GET", this.path)));
  }

  /** Saves the items, after a rest when more changes are likely to follow. */
  save(items: Item[], restMs = 0): void {
    this.wanted = JSON.parse(JSON.stringify(items)) as Item[];
    this.tell("Saving…", false);
    clearTimeout(this.timer);
    this.timer = window.setTimeout(() => void this.flush(), restMs);
  }

  /** Saves at once what still waits. */
  flush(): Promise<void> {
    clearTimeout(this.timer);
    return this.queue(async () => {
      if (this.wanted) {
        const content = this.wanted;
        this.wanted = null;
        try {
          this.take(await call<ItemsView>("PUT", this.path, { content, version: this.version }));
          this.tell("Saved", false);
        } catch (error) {
          this.wanted ??= content;
          throw error;
        }
      }
    });
  }

  async step(direction: "undo" | "redo"): Promise<void> {
    await this.flush();
    this.wanted = null;
    await this.queue(async () => {
      this.take(await call<ItemsView>("POST", `${this.path}/${direction}`));
      this.tell(direction === "undo" ? "Undone" : "Put back", false);
    });
  }

  private take(view: ItemsView): void {
    this.version = view.section.version;
    this.show(view, this.wanted === null);
  }

  private queue(work: () => Promise<void>): Promise<void> {
    this.chain = this.chain.then(work).catch((error: unknown) => this.tell(messageOf(error), true));
    return this.chain;
  }
}
