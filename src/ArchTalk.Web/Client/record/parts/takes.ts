import { part } from "../../shared/alpine";
import { call, messageOf } from "../../shared/api";
import { refreshArch } from "../../shared/arch";
import { clock, day } from "../../shared/format";
import { api, page } from "../page";
import type { RecordPage } from "./whole";

export interface TakeInfo {
  id: string;
  number: number;
  startedAt: string;
  lengthMs: number;
  isOpen: boolean;
  isAside: boolean;
  /** The list had lost it; it was found on the server's disk. */
  isFound: boolean;
  /** The number its next record must have. */
  next: number;
  /** The writer of its last record; 0 when there is none. */
  lastEpoch: number;
}

/** The takes there are, an interrupted one, and those that were put aside. */
export const takes = () =>
  part<RecordPage>()({
    takes: [] as TakeInfo[],
    aside: [] as TakeInfo[],
    toldOfFound: false,

    async refreshTakes(): Promise<void> {
      try {
        const all = await call<TakeInfo[]>("GET", `${api}/takes`);
        this.takes = all.filter((t) => !t.isAside);
        this.aside = all.filter((t) => t.isAside);
        if (this.aside.some((t) => t.isFound) && !this.toldOfFound) {
          this.toldOfFound = true;
          this.notice = "A recording was found that the list of takes had lost. It is under “Put aside”; put it back if it belongs here.";
        }
      } catch (error) {
        this.fault = messageOf(error);
      }
    },

    get openTake(): TakeInfo | undefined {
      return this.isBetweenTakes ? this.takes.find((t) => t.isOpen) : undefined;
    },

    get hasOpenTake(): boolean {
      return this.openTake !== undefined;
    },

    /** Whether another tab of this browser is recording it. */
    get isElsewhere(): boolean {
      return this.view.elsewhere.includes(this.openTake?.id ?? "");
    },

    get openTakeLength(): string {
      return clock(this.openTake?.lengthMs ?? 0);
    },

    /** Whether there is something to go on to Refine with. */
    get hasTake(): boolean {
      return this.takes.some((t) => !t.isOpen && t.lengthMs > 0);
    },

    get hasNoTake(): boolean {
      return this.takes.length === 0;
    },

    get hasAside(): boolean {
      return this.aside.length > 0;
    },

    takeName(take: TakeInfo): string {
      return `Take ${take.number}`;
    },

    takeLength(take: TakeInfo): string {
      return clock(take.lengthMs);
    },

    /** When a take that was put aside was begun, since it has no number. */
    takeDay(take: TakeInfo): string {
      return `${day(take.startedAt)}${take.isFound ? ", found again" : ""}`;
    },

    async finishOpen(): Promise<void> {
      if (this.isReady) {
        const finish = async (): Promise<void> => {
          await call("POST", `${api}/takes/${this.openTake!.id}/finish`);
          page.unfinished = null;
        };
        await this.changeTakes(finish, "The take is finished.");
      }
    },

    async removeTake(take: TakeInfo): Promise<void> {
      await this.changeTakes(() => call("DELETE", `${api}/takes/${take.id}`), `${this.takeName(take)} was put aside.`);
      this.$nextTick(() => document.getElementById("aside-takes")?.focus());
    },

    async restoreTake(take: TakeInfo): Promise<void> {
      await this.changeTakes(() => call("POST", `${api}/takes/${take.id}/restore`), "The take is back in its place.");
      this.$nextTick(() => document.getElementById("takes-heading")?.focus());
    },

    // Ink belongs to takes, so the boards are loaded anew.
    async changeTakes(work: () => Promise<unknown>, said: string): Promise<void> {
      if (await this.attempt(work)) {
        this.notice = said;
        void refreshArch();
        await this.attempt(() => this.loadDesk());
      }

      await this.refreshTakes();
    },
  });
