import { boardWidth } from "../scene/scene";
import { part } from "../shared/alpine";
import { clock } from "../shared/format";
import type { KeyLineEntry } from "../timeline/files";
import type { Timeline } from "../timeline/timeline";
import { smallPictures } from "./page";
import type { WatchPage } from "./whole";

type Kind = KeyLineEntry["kind"];

const headings: Record<Kind, string> = { write: "Write down", mark: "Mark in your book", look: "Look at" };

/** Room around a key line in its picture: a share of its height. */
const room = 0.5;

/** No picture is of a narrower part of the board, in tenths of a unit. */
const narrowest = boardWidth / 4;

interface Group {
  kind: Kind;
  heading: string;
  lines: KeyLineEntry[];
}

/** The lines that students are to write down, to mark in their own book, or to look at. */
export const keyLines = () =>
  part<WatchPage>()({
    keyGroups: [] as Group[],
    copied: "",

    takeKeyLines(timeline: Timeline): void {
      this.keyGroups = (["write", "mark", "look"] as const)
        .map((kind) => ({ kind, heading: headings[kind], lines: timeline.keyLines.filter((l) => l.kind === kind) }))
        .filter((g) => g.lines.length > 0);
    },

    get hasKeyLines(): boolean {
      return this.keyGroups.length > 0;
    },

    keyName(line: KeyLineEntry): string {
      return line.text || "As it is written on the board";
    },

    keyTime(line: KeyLineEntry): string {
      return clock(line.at);
    },

    goToKeyLine(line: KeyLineEntry): void {
      this.goToInk(line.at);
    },

    showKeyPicture(line: KeyLineEntry, canvas: HTMLCanvasElement): void {
      const [x, y, width, height] = line.box.map((n) => n * 10) as [number, number, number, number];
      const margin = Math.max(200, height * room);
      const wide = Math.min(boardWidth, Math.max(narrowest, width + 2 * margin));
      const left = Math.min(Math.max(0, x + width / 2 - wide / 2), boardWidth - wide);
      const part = { board: line.board, ms: line.wholeAt, left, top: Math.max(0, y - margin), width: wide, height: height + 2 * margin };

      // Boards are loaded for it only when it comes into sight.
      const watch = new IntersectionObserver((entries) => {
        if (entries.some((e) => e.isIntersecting)) {
          watch.disconnect();
          void smallPictures()?.show(canvas, part);
        }
      });
      watch.observe(canvas);
    },

    get canCopy(): boolean {
      return "clipboard" in navigator;
    },

    async copyKeyLines(): Promise<void> {
      const text = this.keyGroups.map((g) => [g.heading, ...g.lines.map((l) => `- ${this.keyName(l)}`)].join("\n")).join("\n\n");
      try {
        await navigator.clipboard.writeText(text);
        this.copied = "Copied.";
      } catch {
        this.copied = "The browser did not let it be copied. Print them, or mark the lines and copy them yourself.";
      }
    },

    /** Prints the key lines and nothing else of the page. */
    printKeyLines(): void {
      document.body.classList.add("prints-key-lines");
      window.addEventListener("afterprint", () => document.body.classList.remove("prints-key-lines"), { once: true });
      window.print();
    },
  });
