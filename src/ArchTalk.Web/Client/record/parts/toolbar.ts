import type { Style } from "../../scene/scene";
import { part } from "../../shared/alpine";
import { keepChoice, keptChoice } from "../../shared/kept";
import { machine, page } from "../page";
import type { Tool } from "../tools";
import type { RecordPage } from "./whole";

export type Family = "write" | "point" | "look" | "open";

const familyOf: Record<Tool, Family> = {
  pen: "write", highlighter: "write", straight: "write", arrow: "write", type: "write", eraser: "write",
  pointer: "point", light: "point", slide: "look", "close-up": "look",
};

/** What a tool does, said below the board until it has been used once. */
const hints: Record<Tool, string> = {
  pen: "Pen: write on the board with a pen, the mouse or a finger. The arrow at Write has more tools.",
  highlighter: "Highlighter: drag along words; it settles on their line. Undo brings back what you drew.",
  straight: "Straight: drag from one end to the other; nearly level or plumb lines become so.",
  arrow: "Arrow: drag from its beginning to where it points.",
  type: "Type: press where the text is to begin, or on a blank, and type. Enter begins a new line; F8 and F9 change colour and highlight.",
  eraser: "Eraser: rub over what you drew; whole strokes go. Undo brings them back.",
  pointer: "Pointer: a red dot with a trail that students see. Press on a cover to lift it.",
  light: "Light up: draw around what counts; the rest is dimmed. A press beside it puts the light out.",
  "close-up": "Close-up: drag over a detail and the view glides there; “Whole board” goes back.",
  slide: "Slide: drag the board. The wheel and two fingers do it with any tool.",
};

/** The drawing tools in their families, inks and widths, undo. */
export const toolbar = () =>
  part<RecordPage>()({
    tool: "pen" as Tool,
    lastTools: { write: "pen", point: "pointer", look: "slide" } as Record<string, Tool>,
    openFamily: "" as Family | "",
    inks: { pen: "blue-black", highlighter: "yellow" } as Record<string, string>,
    widths: { pen: "medium", highlighter: "medium" } as Record<string, string>,
    used: keptChoice<Tool[]>("used-tools", []),
    erasesParts: keptChoice("erases-parts", false),
    fingerWrites: keptChoice("finger-writes", true),
    hasTouch: navigator.maxTouchPoints > 0,

    get style(): Style {
      const kind = this.inkKind;
      return page.styles.find((s) => s.tool === kind && s.ink === this.inks[kind] && s.width === this.widths[kind]) ?? page.styles[0]!;
    },

    get inkKind(): string {
      return this.tool === "highlighter" ? "highlighter" : "pen";
    },

    /** Every way to a tool leads through here: the pointer leaves the lesson when another tool is taken. */
    takeTool(tool: Tool): void {
      const { desk, hands } = machine();
      hands.finish(performance.now());
      desk.hidePointer(performance.now());
      this.tool = tool;
      this.lastTools[familyOf[tool]] = tool;
      this.afterInput();
    },

    pickTool(event: Event): void {
      this.takeTool((event.currentTarget as HTMLElement).dataset["tool"] as Tool);
    },

    isTool(name: string): boolean {
      return this.tool === name;
    },

    takeFamily(event: Event): void {
      this.takeTool(this.lastTools[(event.currentTarget as HTMLElement).dataset["family"]!]!);
    },

    isFamily(name: string): boolean {
      return familyOf[this.tool] === name;
    },

    /** Which of a family's tools it shows. */
    shows(family: string, tool: string): boolean {
      return this.lastTools[family] === tool;
    },

    toggleFamily(event: Event): void {
      const family = (event.currentTarget as HTMLElement).dataset["family"] as Family;
      this.openFamily = this.openFamily === family ? "" : family;
    },

    isOpen(family: string): boolean {
      return this.openFamily === family;
    },

    closeFamily(): void {
      this.openFamily = "";
    },

    get writes(): boolean {
      return familyOf[this.tool] === "write" && this.tool !== "eraser";
    },

    get hasWidths(): boolean {
      return this.writes && this.tool !== "type";
    },

    toggleErasesParts(): void {
      this.erasesParts = !this.erasesParts;
      keepChoice("erases-parts", this.erasesParts);
    },

    get erases(): boolean {
      return this.tool === "eraser";
    },

    get types(): boolean {
      return this.tool === "type";
    },

    pickInk(event: Event): void {
      const { kind, ink } = (event.currentTarget as HTMLElement).dataset;
      this.takeInk(kind!, ink!);
    },

    takeInk(kind: string, ink: string): void {
      this.inks[kind] = ink;
      this.changeLetters({ ink });
      this.takeTool(this.inkKind === kind ? this.tool : (kind as Tool));
    },

    isInk(kind: string, ink: string): boolean {
      return this.inks[kind] === ink;
    },

    showsInks(kind: string): boolean {
      return this.writes && this.inkKind === kind;
    },

    pickWidth(event: Event): void {
      this.widths[this.inkKind] = (event.currentTarget as HTMLElement).dataset["width"]!;
    },

    isWidth(width: string): boolean {
      return this.widths[this.inkKind] === width;
    },

    get hint(): string {
      return this.used.includes(this.tool) ? "" : hints[this.tool];
    },

    /** The chosen tool was used: its first-time line has done its work. */
    noteUse(): void {
      if (!this.used.includes(this.tool)) {
        this.used = [...this.used, this.tool];
        keepChoice("used-tools", this.used);
      }
    },

    toggleFinger(): void {
      this.setFinger(!this.fingerWrites);
    },

    setFinger(writes: boolean): void {
      this.fingerWrites = writes;
      keepChoice("finger-writes", writes);
    },

    get fingerWord(): string {
      return this.fingerWrites ? "Finger writes" : "Finger moves";
    },
  });
