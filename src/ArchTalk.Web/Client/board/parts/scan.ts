import { api, live, type Scan, type Word } from "../page";
import { part } from "../../shared/alpine";
import { call } from "../../shared/api";
import { Following, isActive } from "../../shared/jobs";
import type { BoardPage } from "./whole";

/** Words that the reading is less sure of than this, in percent, are shown so. */
const sure = 70;

const isUnsure = (word: Word) => (word.confidence ?? 100) < sure;

/** A photographed page set straight, and the words found in it. */
export const scan = () =>
  part<BoardPage>()({
    words: [] as Word[],
    showsWords: false,
    reading: "",
    scan: null as Scan | null,
    followingWords: null as Following | null,

    async showPicture(): Promise<void> {
      if (this.board.canBeScanned && !this.scan) {
        await this.attempt(async () => {
          this.scan = await call<Scan>("GET", `${api}/scan`);
        });
      }
    },

    async proposeScan(): Promise<void> {
      await this.work(async () => this.applyScan(await call<Scan>("GET", `${api}/scan/proposal`)));
    },

    async resetScan(): Promise<void> {
      await this.work(() => this.applyScan({ turn: 0, degrees: 0, left: 0, top: 0, right: 0, bottom: 0, raisesContrast: false }));
    },

    async turnLeft(): Promise<void> {
      await this.work(() => this.applyScan({ ...this.scan!, turn: this.scan!.turn + 3 }));
    },

    async turnRight(): Promise<void> {
      await this.work(() => this.applyScan({ ...this.scan!, turn: this.scan!.turn + 1 }));
    },

    async setScan(event: Event): Promise<void> {
      const input = event.currentTarget as HTMLInputElement;
      const value = input.type === "checkbox" ? input.checked : Number(input.value) / Number(input.dataset["per"] ?? 1);
      await this.work(() => this.applyScan({ ...this.scan!, [input.dataset["member"]!]: value }));
    },

    scanValue(name: keyof Scan, per: number): number {
      return this.scan ? Math.round(Number(this.scan[name]) * per * 10) / 10 : 0;
    },

    async applyScan(scan: Scan): Promise<void> {
      await call("PUT", `${api}/scan`, scan);
      this.scan = await call<Scan>("GET", `${api}/scan`);
      await this.reload();
      this.status = "Page set; the words are read anew";
    },

    async toggleWords(): Promise<void> {
      this.showsWords = !this.showsWords;
      if (this.showsWords) {
        await this.loadWords();
      } else {
        live.surface.mark([]);
      }
    },

    async loadWords(): Promise<void> {
      if (await this.lookForWords()) {
        this.followingWords ??= new Following(() => this.lookForWords());
        this.followingWords.again();
      }
    },

    /** Shows the words there are; true while more are being read. */
    async lookForWords(): Promise<boolean> {
      let isReading = false;
      await this.attempt(async () => {
        const answer = await call<{ words: Word[]; reading: { state: string; message: string } | null }>("GET", `${api}/words`);
        this.words = answer.words;
        isReading = answer.reading !== null && isActive(answer.reading);
        this.reading = isReading ? "Reading…" : answer.reading?.state === "failed" ? answer.reading.message : "";
        const marks = this.words.map((w) => ({ ...w, class: isUnsure(w) ? "word-mark is-unsure" : "word-mark" }));
        live.surface.mark(this.showsWords ? marks : []);
      });
      return isReading && this.showsWords;
    },

    async readWords(): Promise<void> {
      await this.attempt(async () => {
        await call("POST", `${api}/words`);
        this.showsWords = true;
        await this.loadWords();
      });
    },

    get wordCount(): string {
      const unsure = this.words.filter(isUnsure).length;
      const found = this.words.length === 1 ? "1 word found" : `${this.words.length} words found`;
      return this.reading || (unsure > 0 ? `${found}, ${unsure} of them unsure (dashed)` : found);
    },
  });
