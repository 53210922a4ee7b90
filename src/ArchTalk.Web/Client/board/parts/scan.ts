import { api, live, type Scan, type Spot, type Word } from "../page";
import { part } from "../../shared/alpine";
import { call } from "../../shared/api";
import { Following, isActive } from "../../shared/jobs";
import type { BoardPage } from "./whole";

/** Words that the reading is less sure of than this, in percent, are shown so. */
const sure = 70;

const isUnsure = (word: Word) => (word.confidence ?? 100) < sure;

// The page as it is now, turned by quarters: corners and crop turn with it. The rule of ScanSettings.Turned in C#.
function turned(scan: Scan, quarters: number): Scan {
  if (quarters === 0) {
    return scan;
  }

  const turn = (s: Spot): Spot => ({ x: 1 - s.y, y: s.x });
  const c = scan.corners;
  const once = {
    ...scan, turn: scan.turn + 1, left: scan.bottom, top: scan.left, right: scan.top, bottom: scan.right,
    corners: c ? { topLeft: turn(c.bottomLeft), topRight: turn(c.topLeft), bottomRight: turn(c.topRight), bottomLeft: turn(c.bottomRight) } : null,
  };
  return turned(once, quarters - 1);
}

/** A photographed page set straight, and the words found in it. */
export const scan = () =>
  part<BoardPage>()({
    words: [] as Word[],
    showsWords: false,
    reading: "",
    /** What to know of the words that were read. */
    readingRemark: "",
    scan: null as Scan | null,
    /** The settings before each step that was taken since the page was opened. */
    scanSteps: [] as Scan[],
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

    get noScanSteps(): boolean {
      return this.isWorking || this.scanSteps.length === 0;
    },

    /** Takes back the last of the steps. */
    async undoScan(): Promise<void> {
      const before = this.scanSteps.at(-1);
      if (before) {
        await this.work(async () => {
          await this.applyScan(before);
          this.scanSteps = this.scanSteps.slice(0, -2);
        });
      }
    },

    /** A double page becomes two boards. */
    async divideScan(): Promise<void> {
      await this.work(async () => {
        await call("POST", `${api}/scan/divide`);
        this.scan = await call<Scan>("GET", `${api}/scan`);
        await this.reload();
        this.status = "Divided: the right page is the next board";
      });
    },

    async resetScan(): Promise<void> {
      await this.work(() => this.applyScan({ turn: 0, degrees: 0, left: 0, top: 0, right: 0, bottom: 0, raisesContrast: false }));
    },

    async turnLeft(): Promise<void> {
      await this.work(() => this.applyScan(turned(this.scan!, 3)));
    },

    async turnRight(): Promise<void> {
      await this.work(() => this.applyScan(turned(this.scan!, 1)));
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
      const before = this.scan!;
      await call("PUT", `${api}/scan`, scan);
      this.scanSteps = [...this.scanSteps, before];
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
        this.readingRemark = answer.reading?.state === "done" ? answer.reading.message : "";
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
