import { part } from "./alpine";
import { messageOf } from "./api";

/** What a page shows until its content is there: that it is loading, or why it could not and a way to try again. */
export interface Loading {
  loaded: boolean;
  loadFault: string;
  readonly isLoading: boolean;
  /** Loads, and can be asked to try again. */
  loadWith(work: () => Promise<void>): Promise<void>;
  tryAgain(): void;
}

export const loading = (): Loading => {
  let again: () => Promise<void> = () => Promise.resolve();
  return part<Loading>()({
    loaded: false,
    loadFault: "",

    get isLoading(): boolean {
      return !this.loaded && this.loadFault === "";
    },

    async loadWith(work: () => Promise<void>): Promise<void> {
      again = () => this.loadWith(work);
      this.loadFault = "";
      try {
        await work();
        this.loaded = true;
      } catch (error) {
        this.loadFault = messageOf(error);
      }
    },

    tryAgain(): void {
      void again();
    },
  });
};
