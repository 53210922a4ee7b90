import { family } from "../../ink/drawing";
import { isFromRight, lineHeight, widthOf } from "../../ink/typed";
import { changedLooks, inksOf, looksAfter, lookOf, type Writing } from "../../ink/letter-looks";
import type { Place } from "../../ink/near";
import { boardWidth } from "../../scene/scene";
import { part } from "../../shared/alpine";
import { keepChoice, keptChoice } from "../../shared/kept";
import type { Typing } from "../desk";
import { type Blank, machine, page } from "../page";
import type { RecordPage } from "./whole";

/** Letters come no nearer to the side of a board than this, in tenths of a unit. */
const edge = 100;

const atEdge = "The line has reached the edge of the board. Press Enter for the next one.";
const atEnd = "Here the board ends. Press somewhere else to type there.";

/** Writing on the board by keyboard, letter by letter, and filling a blank. */
export const typing = () =>
  part<RecordPage>()({
    /** What is being typed; null when nothing is. */
    typing: null as Typing | null,
    blank: null as Blank | null,
    typedText: "",
    /** Of the typed text's letters. */
    typedLooks: "",
    /** What letters are highlighted with; empty for nothing. */
    letterHighlight: "",
    typingFault: "",
    typingSize: keptChoice("typing-size", "reading"),
    /** Where the field lies over the board, in CSS pixels. */
    typingPlace: {} as Record<string, string>,

    get isTyping(): boolean {
      return this.typing !== null;
    },

    setTypingSize(event: Event): void {
      this.typingSize = (event.target as HTMLSelectElement).value;
      keepChoice("typing-size", this.typingSize);
    },

    /** Types at a place of the board: on with what stands there, in a blank, or something new. */
    typeAt(place: Place): void {
      this.endTyping();
      const { desk } = machine();
      const known = desk.textAt(place);
      const blank = page.blanks[desk.board.id]?.find((b) => isIn(b, place)) ?? null;
      const size = page.rules.sizes[this.typingSize]! * 10;
      this.blank = blank;
      this.typing = known ?? (blank
        ? desk.newText({ x: Math.round(blank.x * 10), y: Math.round(blank.y * 10) }, Math.round(blank.size * 10), this.style)
        : desk.newText({ x: place.x, y: place.y - size * (lineHeight / 2) }, size, this.style));
      this.typedText = this.typing.before.text;
      this.typedLooks = this.typing.before.looks;
      this.typingFault = "";
      this.placeTyping();
      const field = this.$refs["typing"] as HTMLTextAreaElement;
      field.value = this.typedText;
      field.hidden = false;
      field.focus();
    },

    typed(): void {
      const { typing, blank } = this;
      const field = this.$refs["typing"] as HTMLTextAreaElement;
      if (!typing) {
        return;
      }

      const { desk } = machine();
      const text = field.value;
      const width = widthOf(text, typing.size);
      const left = isFromRight(text) ? typing.place.x - width : typing.place.x;
      const bottom = typing.place.y + text.split("\n").length * lineHeight * typing.size;
      const isWide = left < edge || left + width > boardWidth - edge;
      this.typingFault = "";
      if (text.length > this.typedText.length && !blank && (isWide || !desk.hasRoomTo(bottom, performance.now()))) {
        this.typingFault = isWide ? atEdge : atEnd;
        const caret = Math.max(0, field.selectionStart - (text.length - this.typedText.length));
        field.value = this.typedText;
        field.setSelectionRange(caret, caret);
        return;
      }

      const look = lookOf(page.styles, inkIn(typing, this.style.ink), this.letterHighlight);
      this.typedLooks = looksAfter(this.typedText, this.typedLooks, text, field.selectionEnd, look);
      this.typedText = text;
      desk.type(typing, this.writing, performance.now());
      this.placeTyping();
      this.afterInput();
    },

    get writing(): Writing {
      return { text: this.typedText, looks: this.typedLooks };
    },

    /** What letters are highlighted with from now on, and those that are chosen. */
    pickHighlight(event: Event): void {
      this.highlightLetters((event.currentTarget as HTMLSelectElement).value);
      if (this.typing) {
        (this.$refs["typing"] as HTMLElement).focus();
      }
    },

    highlightLetters(highlight: string): void {
      this.letterHighlight = highlight;
      this.changeLetters({ highlight });
    },

    /** By key: the next ink, the next highlight. */
    nextLetterInk(): void {
      this.takeInk("pen", after(this.style.ink, inksOf(page.styles, "pen").map((s) => s.ink)));
    },

    nextHighlight(): void {
      this.highlightLetters(after(this.letterHighlight, ["", ...inksOf(page.styles, "highlighter").map((s) => s.ink)]));
    },

    /** The letters that are chosen in the field look different from now on. */
    changeLetters(change: { ink?: string; highlight?: string }): void {
      const { typing } = this;
      const { selectionStart: from, selectionEnd: to } = this.$refs["typing"] as HTMLTextAreaElement;
      if (typing && from < to) {
        const own = change.ink === undefined ? change : { ...change, ink: inkIn(typing, change.ink) };
        this.typedLooks = changedLooks(this.typedLooks, from, to, page.styles, own);
        machine().desk.type(typing, this.writing, performance.now());
        this.afterInput();
      }
    },

    /** Colour and highlight of letters are chosen without leaving them. */
    leaveField(event: FocusEvent): void {
      const to = event.relatedTarget as HTMLElement | null;
      if (to !== this.$refs["typing"] && !to?.closest("[data-letters]")) {
        this.endTyping();
      }
    },

    endTyping(): void {
      const { typing } = this;
      if (typing) {
        this.typing = null;
        this.blank = null;
        this.typingFault = "";
        machine().desk.endText(typing, this.writing, performance.now());
        (this.$refs["typing"] as HTMLElement).hidden = true;
        this.afterInput();
      }
    },

    leaveTyping(): void {
      this.endTyping();
      (this.$refs["board"] as HTMLElement).focus();
    },

    /** The field lies where its letters are painted. */
    placeTyping(): void {
      const { typing } = this;
      if (typing) {
        const { view, width } = machine().window;
        const scale = width / view.width;
        const wide = (widthOf(this.typedText, typing.size) + 1.5 * typing.size) * scale;
        const isRight = isFromRight(this.typedText);
        const x = (typing.place.x - view.x) * scale;
        this.typingPlace = {
          left: `${isRight ? x - wide : x}px`,
          top: `${(typing.place.y - view.y) * scale}px`,
          width: `${wide}px`,
          height: `${this.typedText.split("\n").length * lineHeight * typing.size * scale}px`,
          "font-family": family,
          "font-size": `${typing.size * scale}px`,
          direction: isRight ? "rtl" : "ltr",
        };
      }
    },

    get isFilling(): boolean {
      return this.blank !== null && this.blank.answers.length > 0;
    },

    /** For the teacher alone: what counts as right in the blank, and whether this is it. */
    get answerWords(): string {
      const answers = this.blank?.answers ?? [];
      const said = plain(this.typedText);
      const right = `Right here: ${answers.join(" or ")}.`;
      return said === "" ? right : answers.some((a) => plain(a) === said) ? "That is right." : `Not yet. ${right}`;
    },
  });

// An ink as letters of a text name it: empty for the text's own.
function inkIn(typing: Typing, ink: string): string {
  return ink === typing.ink ? "" : ink;
}

// The one that follows, the first after the last.
function after(name: string, names: readonly string[]): string {
  return names[(names.indexOf(name) + 1) % names.length]!;
}

function isIn(blank: Blank, { x, y }: Place): boolean {
  return x >= blank.x * 10 && x <= (blank.x + blank.width) * 10 && y >= blank.y * 10 && y <= (blank.y + blank.height) * 10;
}

function plain(text: string): string {
  return text.normalize("NFC").toLocaleLowerCase().replace(/\s+/g, " ").trim();
}
