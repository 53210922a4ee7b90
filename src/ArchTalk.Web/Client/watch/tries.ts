import { part } from "../shared/alpine";
import { keepChoice, keptChoice } from "../shared/kept";
import type { Place } from "../ink/near";
import { page, player, smallPictures } from "./page";
import type { WatchPage } from "./whole";

/** A blank on the board that is shown, to be tried by the student. */
interface Try {
  key: string;
  number: number;
  /** Left, top, width, height in tenths of a unit. */
  box: readonly number[];
  filledAt: number | null;
  wholeAt: number | null;
}

const memory = `tries-${page.token}`;

/** Room around a blank in its picture, in tenths of a unit. */
const room = 80;

/** The blanks on the board: the student's own try, kept in this browser, and beside it what the teacher writes there. */
export const tries = () =>
  part<WatchPage>()({
    tries: [] as readonly Try[],
    /** The board that they are of, once what lies on it is there. */
    triesOf: "",
    /** By the key of the blank. */
    answers: keptChoice<Record<string, string>>(memory, {}),
    /** The numbers of those that the teacher has filled. */
    filled: "",
    /** The one that the student is at. */
    tried: "",
    /** Where the ring around it lies over the board; empty when there is none. */
    triedPlace: {} as Record<string, string>,

    get hasTries(): boolean {
      return this.tries.length > 0;
    },

    /** With every picture: writes only what changes. */
    takeTries(ms: number): void {
      const timeline = player()?.timeline;
      const board = timeline?.boards[timeline.boardAt(ms)];
      const of = board && board.ink !== null && board.blanks.length > 0 ? board.id : "";
      if (of !== this.triesOf) {
        this.triesOf = of;
        this.tries = Object.freeze((of ? board!.blanks : []).map((b, i) => ({ ...b, key: `${of} ${b.box.join(" ")}`, number: i + 1 })));
        this.tried = "";
      }

      const filled = this.tries.filter((t) => t.wholeAt !== null && t.wholeAt <= ms).map((t) => t.number).join();
      if (filled !== this.filled) {
        this.filled = filled;
      }

      const place = this.placeOfTried();
      if (JSON.stringify(place) !== JSON.stringify(this.triedPlace)) {
        this.triedPlace = place;
      }
    },

    placeOfTried(): Record<string, string> {
      const box = this.tries.find((t) => t.key === this.tried)?.box;
      const view = player()?.view;
      if (!box || !view) {
        return {};
      }

      const [x, y, width, height] = box as [number, number, number, number];
      const share = (n: number, of: number) => `${((100 * n) / of).toFixed(2)}%`;
      const high = (view.width * 9) / 16;
      return { left: share(x - view.x, view.width), top: share(y - view.y, high), width: share(width, view.width), height: share(height, high) };
    },

    get isTrying(): boolean {
      return this.tried !== "";
    },

    isFilled(one: Try): boolean {
      return this.filled.split(",").includes(String(one.number));
    },

    answerOf(one: Try): string {
      return this.answers[one.key] ?? "";
    },

    setAnswer(one: Try, event: Event): void {
      this.answers[one.key] = (event.target as HTMLInputElement).value;
      keepChoice(memory, this.answers);
    },

    tryId(one: Try): string {
      return `try-${one.number}`;
    },

    tryLabel(one: Try): string {
      return `Your answer in blank ${one.number} of ${this.tries.length}`;
    },

    teacherLabel(one: Try): string {
      return `What the teacher writes in blank ${one.number}: go there`;
    },

    /** The voice rests while one writes. */
    beginTry(one: Try): void {
      this.tried = one.key;
      if (this.isPlaying) {
        this.toggle();
      }

      player()?.repaint();
    },

    endTry(): void {
      this.tried = "";
      player()?.repaint();
    },

    nextTry(one: Try): void {
      (document.getElementById(`try-${one.number + 1}`) ?? this.$refs["goOn"])?.focus();
    },

    /** A press on a blank of the board begins to try it; false where there is none. */
    tryAt({ x, y }: Place): boolean {
      const one = this.tries.find(({ box: [left, top, width, height] }) => x >= left! && x <= left! + width! && y >= top! && y <= top! + height!);
      if (one) {
        document.getElementById(this.tryId(one))?.focus();
      }

      return one !== undefined;
    },

    goToFilled(one: Try): void {
      if (one.filledAt !== null) {
        this.goToInk(one.filledAt);
      }
    },

    showFilled(one: Try, canvas: HTMLCanvasElement): void {
      const timeline = player()?.timeline;
      const board = timeline?.boards.findIndex((b) => b.id === this.triesOf) ?? -1;
      const [x, y, width, height] = one.box as [number, number, number, number];
      const part = { board, ms: one.wholeAt!, left: x - room, top: y - room, width: width + 2 * room, height: height + 2 * room };
      void smallPictures()?.show(canvas, part);
    },
  });
