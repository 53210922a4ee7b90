import { call, messageOf } from "./api";

export interface SectionView<T> {
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
    /** Given null for the content when what the fields hold was saved as it is. */
    private readonly show: (content: T | null, canUndo: boolean, canRedo: boolean) => void,
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

  /** Does something to the whole on the server, which is told the state it starts from; true when it was done. */
  async run(work: (version: number) => Promise<SectionView<T>>, said: string): Promise<boolean> {
    if (this.timer !== 0) {
      await this.save();
    }

    let done = false;
    await this.queue(async () => {
      this.take(await work(this.version), true);
      this.tell(said, false);
      done = true;
    });
    return done;
  }

  private take(view: SectionView<T>, rewrite: boolean): void {
    this.version = view.version;
    this.show(rewrite ? view.content : null, view.canUndo, view.canRedo);
  }

  private queue(work: () => Promise<void>): Promise<void> {
    this.chain = this.chain.then(work).catch((error: unknown) => this.tell(messageOf(error), true));
    return this.chain;
  }
}
