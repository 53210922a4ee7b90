import { call, messageOf } from "./api";

interface SectionView<T> {
  content: T;
  version: number;
  canUndo: boolean;
  canRedo: boolean;
}

/**
 * One list of the lesson while it is edited: saves shortly after each change, one save at a time, and steps through what
 * was there before.
 */
export class SectionList<T> {
  private version = 0;
  private timer = 0;
  private chain: Promise<void> = Promise.resolve();

  constructor(
    private readonly path: string,
    private readonly read: () => T,
    private readonly show: (content: T, canUndo: boolean, canRedo: boolean) => void,
    private readonly tell: (status: string, isFault: boolean) => void,
  ) {}

  load(): Promise<void> {
    return this.queue(async () => this.take(await call<SectionView<T>>("GET", this.path), true));
  }

  /** Called on every keystroke; saves when the teacher rests. */
  changed(): void {
    this.tell("Saving…", false);
    clearTimeout(this.timer);
    this.timer = window.setTimeout(() => void this.save(), 600);
  }

  save(): Promise<void> {
    clearTimeout(this.timer);
    this.timer = 0;
    return this.queue(async () => {
      const view = await call<SectionView<T>>("PUT", this.path, { content: this.read(), version: this.version });

      // The fields are not rewritten by a save, so that nothing jumps under the teacher's hands.
      this.take(view, false);
      this.tell("Saved", false);
    });
  }

  async step(direction: "undo" | "redo"): Promise<void> {
    if (this.timer !== 0) {
      await this.save();
    }

    await this.queue(async () => {
      this.take(await call<SectionView<T>>("POST", `${this.path}/${direction}`), true);
      this.tell(direction === "undo" ? "Undone" : "Put back", false);
    });
  }

  private take(view: SectionView<T>, rewrite: boolean): void {
    this.version = view.version;
    this.show(rewrite ? view.content : this.read(), view.canUndo, view.canRedo);
  }

  private queue(work: () => Promise<void>): Promise<void> {
    this.chain = this.chain.then(work).catch((error: unknown) => this.tell(messageOf(error), true));
    return this.chain;
  }
}
