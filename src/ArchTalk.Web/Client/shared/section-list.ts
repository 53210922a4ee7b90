import { call, messageOf } from "./api";

export interface SectionView<T> {
  content: T;
  version: number;
  canUndo: boolean;
  canRedo: boolean;
}

/**
 * One section of the lesson (a list, the items of a board) while it is edited: saves shortly after each change, one save at a
 * time, and steps through what was there before.
 */
export class SectionList<T, View extends SectionView<T> = SectionView<T>> {
  private version = 0;
  private timer = 0;
  private queued = 0;
  private chain: Promise<void> = Promise.resolve();

  /**
   * @param read Gives what is to be saved, as it is when its turn comes.
   * @param show Given what the server has; `isSaved` when it answers a save, so that what the page holds needn't be rewritten.
   * @param tell Told how saving goes.
   */
  constructor(
    private readonly path: string,
    private readonly read: () => T,
    private readonly show: (view: View, isSaved: boolean) => void,
    private readonly tell: (status: string, isFault: boolean) => void,
  ) {}

  /** Whether changes wait to be saved, so that the page holds something newer than the server. */
  get isWaiting(): boolean {
    return this.timer !== 0 || this.queued > 0;
  }

  load(): Promise<void> {
    return this.queue(async () => this.take(await call<View>("GET", this.path), false));
  }

  /** Called on every keystroke; saves when the teacher rests. */
  changed(restMs = 600): void {
    this.tell("Saving…", false);
    clearTimeout(this.timer);
    this.timer = window.setTimeout(() => void this.save(), restMs);
  }

  save(): Promise<void> {
    clearTimeout(this.timer);
    this.timer = 0;
    this.queued++;
    return this.queue(async () => {
      this.queued--;
      this.take(await call<View>("PUT", this.path, { content: this.read(), version: this.version }), true);
      this.tell("Saved", false);
    });
  }

  /** Saves what still rests, and waits until all is saved. */
  settle(): Promise<void> {
    return this.timer !== 0 ? this.save() : this.chain;
  }

  async step(direction: "undo" | "redo"): Promise<void> {
    await this.settle();
    await this.queue(async () => {
      this.take(await call<View>("POST", `${this.path}/${direction}`), false);
      this.tell(direction === "undo" ? "Undone" : "Put back", false);
    });
  }

  /** Does something to the whole on the server, which is told the state it starts from; true when it was done. */
  async run(work: (version: number) => Promise<View>, said: string): Promise<boolean> {
    await this.settle();
    let done = false;
    await this.queue(async () => {
      this.take(await work(this.version), false);
      this.tell(said, false);
      done = true;
    });
    return done;
  }

  private take(view: View, isSaved: boolean): void {
    this.version = view.version;
    this.show(view, isSaved);
  }

  private queue(work: () => Promise<void>): Promise<void> {
    this.chain = this.chain.then(work).catch((error: unknown) => this.tell(messageOf(error), true));
    return this.chain;
  }
}
