import { part } from "./alpine";
import { messageOf } from "./api";

/** What went wrong last, in words, and trying things that may go wrong. Every page shows it at its top and can close it. */
export interface Faults {
  fault: string;
  dismissFault(): void;
  /** Does something; says what went wrong if it fails. True when it was done. */
  attempt(work: () => Promise<unknown>): Promise<boolean>;
}

export const faults = (): Faults =>
  part<Faults>()({
    fault: "",

    dismissFault(): void {
      this.fault = "";
    },

    async attempt(work: () => Promise<unknown>): Promise<boolean> {
      try {
        this.fault = "";
        await work();
        return true;
      } catch (error) {
        this.fault = messageOf(error);
        return false;
      }
    },
  });
