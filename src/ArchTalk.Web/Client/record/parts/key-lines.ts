import type { KeyLine, KeyLineKind } from "../../scene/boards-state";
import type { Style } from "../../scene/scene";
import { part } from "../../shared/alpine";
import { keepChoice, keptChoice } from "../../shared/kept";
import { machine, session } from "../page";
import { settledOn, unanswered } from "../settling";
import type { RecordPage } from "./whole";

/** What the words that a stroke settles on become; empty for no key line. */
type Becomes = KeyLineKind | "";

/** Done when the stroke that was drawn last has settled, or does not. */
let settling = Promise.resolve();

/** Ink that settles on words, and the lines that students are to write down, to mark or to look at. */
export const keyLines = () =>
  part<RecordPage>()({
    settles: keptChoice("settles", true),
    /** For each kind of ink. */
    becomes: keptChoice<Record<string, Becomes>>("key-lines", { pen: "", highlighter: "" }),
    /** The kind that a line written by hand was made last. */
    lastKind: keptChoice<KeyLineKind>("key-line", "write"),

    toggleSettles(): void {
      this.settles = !this.settles;
      keepChoice("settles", this.settles);
    },

    get canSettle(): boolean {
      return this.hasWidths && this.tool !== "arrow";
    },

    get inkBecomes(): string {
      return this.becomes[this.inkKind] ?? "";
    },

    setBecomes(event: Event): void {
      this.becomes = { ...this.becomes, [this.inkKind]: (event.target as HTMLSelectElement).value as Becomes };
      keepChoice("key-lines", this.becomes);
    },

    /** A stroke is finished: when it was drawn along words it settles on them. */
    settle(stroke: number, style: Style, board: string, points: readonly number[]): void {
      if (this.settles) {
        settling = this.settleOn(stroke, style, board, points);
      }
    },

    async settleOn(stroke: number, style: Style, board: string, points: readonly number[]): Promise<void> {
      const { desk } = machine();
      const kind = this.becomes[style.tool] || null;
      const take = session().openTake;
      const settled = await settledOn(board, style, points, take);

      // Another take, or none, by now: the number is of another stroke. Nor is anything changed while a retake shows the boards of before.
      if (!settled || this.isRetaking || machine().desk !== desk || session().openTake !== take) {
        return;
      }

      if (settled === unanswered) {
        desk.leaveUnsettled(stroke, kind, performance.now());
      } else {
        desk.settle(stroke, settled, kind, performance.now());
        this.afterInput();
      }
    },

    /** What was written last becomes a key line; whoever is quick has the words of what has just been underlined. */
    async keyLine(): Promise<void> {
      await settling;
      if (this.canNote) {
        this.holdHands();
        const line = machine().desk.makeKeyLine(this.lastKind, performance.now());
        if (!line) {
          this.notice = "Write or underline something first: the line that was written last becomes a key line.";
        }

        this.afterInput();
      }
    },

    get wordedKey(): KeyLine | null {
      return this.lines.find((l) => l.number === this.wording)?.key ?? null;
    },

    get isWordingKey(): boolean {
      return this.wordedKey !== null;
    },

    get keyKind(): string {
      return this.wordedKey?.kind ?? "write";
    },

    get isMust(): boolean {
      return this.wordedKey?.isMust ?? false;
    },

    setKeyKind(event: Event): void {
      this.lastKind = (event.target as HTMLSelectElement).value as KeyLineKind;
      keepChoice("key-line", this.lastKind);
      this.changeKeyLine({ kind: this.lastKind });
    },

    toggleMust(): void {
      this.changeKeyLine({ isMust: !this.isMust });
    },

    changeKeyLine(change: Partial<KeyLine>): void {
      const line = this.wordedKey;
      if (line && this.canNote) {
        machine().desk.changeKeyLine({ ...line, text: this.wordingText.trim(), ...change }, performance.now());
        this.afterInput();
      }
    },
  });
