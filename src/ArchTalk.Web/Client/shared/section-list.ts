import { ApiError, call, messageOf, sendOnLeaving } from "./api";
import { Backoff } from "./backoff";
import type { Direction } from "./stepping";

export interface SectionView<T> {
  content: T;
  version: number;
  canUndo: boolean;
  canRedo: boolean;
}

const restMs = 600;

/**
 * One section of the lesson (a list, the items of a board) while it is edited: saves shortly after each change, one save at a
 * time, and steps through what was there before. What could not be saved is tried again, and sent when the page is left.
 */
export class SectionList<T, View extends SectionView<T> = SectionView<T>> {
  private version = 0;
  private timer = 0;
  private chain: Promise<void> = Promise.resolve();
  private readonly pauses = new Backoff();
  /** Counts changes; `saved` is the count that the server has. */
  private changes = 0;
  private saved = 0;
  private isSending = false;
  private isLoaded = false;
  private couldNotSave = false;

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
  ) {
    // Whoever leaves a field may press a link next: what was typed is then on its way already.
    window.addEventListener("focusout", () => {
      if (this.isWaiting && !this.couldNotSave) {
        void this.send();
      }
    });
    window.addEventListener("pagehide", () => this.leave());
    window.addEventListener("pageshow", (e) => {
      // Come back to by the browser's own Back: the server may have more than the page knows of.
      if (e.persisted) {
        void this.load().catch(() => undefined);
      }
    });
    window.addEventListener("beforeunload", (e) => {
      // Asked only when leaving would lose something: what is merely on its way is sent along.
      if (this.couldNotSave) {
        e.preventDefault();
      }
    });
  }

  /** Whether the page holds something newer than the server. */
  get isWaiting(): boolean {
    return this.changes !== this.saved;
  }

  /** @throws When it could not be loaded. */
  async load(): Promise<void> {
    const view = await call<View>("GET", this.path);
    this.isLoaded = true;
    this.saved = this.changes;
    this.take(view, false);
  }

  /** Called on every keystroke; saves when the teacher rests. */
  changed(rest = restMs): void {
    this.changes++;
    this.tell("Saving…", false);
    this.saveIn(rest);
  }

  /** Saves a change at once. */
  save(): Promise<void> {
    this.changes++;
    return this.send();
  }

  /** Saves what still rests, and waits until all is saved. */
  settle(): Promise<void> {
    return this.isWaiting ? this.send() : this.chain;
  }

  async step(direction: Direction): Promise<void> {
    await this.settle();
    await this.queue(async () => {
      this.take(await call<View>("POST", `${this.path}/${direction}`, { version: this.version }), false);
      this.tell(direction === "undo" ? "Undone" : "Put back", false);
    });
  }

  /** Does something to the whole on the server, which is told the state it starts from; true when it was done. */
  async run(work: (version: number) => Promise<View & { said?: string }>, said: string): Promise<boolean> {
    await this.settle();
    let done = false;
    await this.queue(async () => {
      const view = await work(this.version);
      this.take(view, false);
      this.tell(view.said ?? said, false);
      done = true;
    });
    return done;
  }

  private saveIn(ms: number): void {
    clearTimeout(this.timer);
    this.timer = window.setTimeout(() => void this.send(), ms);
  }

  private send(): Promise<void> {
    clearTimeout(this.timer);
    return this.queue(() => this.sendNow());
  }

  private async sendNow(): Promise<void> {
    if (!this.isWaiting || !this.isLoaded) {
      return;
    }

    const count = this.changes;
    this.isSending = true;
    try {
      const view = await call<View>("PUT", this.path, { content: this.read(), version: this.version });
      this.saved = count;
      this.couldNotSave = false;
      this.pauses.reset();
      this.take(view, true);
      if (!this.isWaiting) {
        this.tell("Saved", false);
      }
    } catch (error) {
      this.couldNotSave = true;
      this.notSaved(error);
    } finally {
      this.isSending = false;
    }
  }

  // What the server refuses must be changed by the teacher; everything else may work in a moment.
  private notSaved(error: unknown): void {
    const isRefused = error instanceof ApiError && error.status >= 400 && error.status < 500 && error.status !== 401;
    this.tell(isRefused ? messageOf(error) : `Not saved yet; it is tried again. ${messageOf(error)}`, true);
    if (!isRefused) {
      this.saveIn(this.pauses.next());
    }
  }

  // A save on its way will have counted the version up.
  private leave(): void {
    if (this.isWaiting && this.isLoaded) {
      clearTimeout(this.timer);
      sendOnLeaving("PUT", this.path, { content: this.read(), version: this.version + (this.isSending ? 1 : 0) });
    }
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
