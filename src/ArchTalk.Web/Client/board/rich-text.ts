// Writing edited in place: an editable element over the board. The look of each stretch stands in data attributes, so what is
// read back is exactly what was shown.

import { family } from "../ink/drawing";
import { type Run, plain } from "./items";
import { hasLook, joined, type Look, type Place, withLook } from "./runs";

export interface Colors {
  inks: Record<string, string>;
  highlights: Record<string, string>;
}

export class RichText {
  private last: { from: Place; to: Place } | null = null;

  constructor(
    readonly element: HTMLElement,
    private readonly colors: Colors,
    private readonly changed: () => void,
  ) {
    element.style.fontFamily = family;
    element.addEventListener("input", () => this.changed());

    // Only plain writing comes in; its looks are given here.
    element.addEventListener("paste", (e) => {
      e.preventDefault();
      e.stopPropagation();
      document.execCommand("insertText", false, e.clipboardData?.getData("text/plain") ?? "");
    });
    document.addEventListener("selectionchange", () => {
      this.last = this.selection() ?? this.last;
    });
  }

  show(paragraphs: Run[][]): void {
    this.element.replaceChildren(...(paragraphs.length > 0 ? paragraphs : [[plain("")]]).map((runs) => this.paragraph(runs)));
  }

  read(): Run[][] {
    const blocks = [...this.element.childNodes].filter((n) => n.nodeType === Node.ELEMENT_NODE || n.textContent);
    return blocks.length === 0 ? [[plain("")]] : blocks.map((block) => joined(runsOf(block)));
  }

  /** Gives the selected letters a look, or takes it away where they all have it. */
  apply(look: Look, without: Look): void {
    const place = this.selection() ?? this.last;
    if (!place) {
      return;
    }

    const before = this.read();
    const all =
      place.from.paragraph === place.to.paragraph && place.from.offset === place.to.offset
        ? { from: { paragraph: 0, offset: 0 }, to: { paragraph: before.length - 1, offset: before.at(-1)!.reduce((n, r) => n + r.text.length, 0) } }
        : place;
    this.show(withLook(before, all.from, all.to, hasLook(before, all.from, all.to, look) ? without : look));
    this.element.focus();
    this.select(all.from, all.to);
    this.changed();
  }

  focusAll(): void {
    this.element.focus();
    const range = document.createRange();
    range.selectNodeContents(this.element);
    const selection = getSelection();
    selection?.removeAllRanges();
    selection?.addRange(range);
  }

  private paragraph(runs: Run[]): HTMLElement {
    const block = document.createElement("div");
    block.dir = "auto";
    for (const run of runs) {
      const span = document.createElement("span");
      span.textContent = run.text;
      Object.assign(span.dataset, {
        bold: run.isBold ? "1" : "",
        color: run.color,
        highlight: run.highlight,
        ruby: run.ruby,
        language: run.language,
      });
      span.style.fontWeight = run.isBold ? "700" : "";
      span.style.color = this.colors.inks[run.color] ?? "";
      span.style.backgroundColor = this.colors.highlights[run.highlight] ?? "";
      span.title = run.ruby ? `Reading: ${run.ruby}` : "";
      span.style.textDecoration = run.ruby ? "underline dotted" : "";
      block.append(span);
    }

    if (block.textContent === "") {
      block.append(document.createElement("br"));
    }

    return block;
  }

  private selection(): { from: Place; to: Place } | null {
    const selection = getSelection();
    if (!selection || selection.rangeCount === 0 || !this.element.contains(selection.anchorNode)) {
      return null;
    }

    const range = selection.getRangeAt(0);
    return { from: this.placeOf(range.startContainer, range.startOffset), to: this.placeOf(range.endContainer, range.endOffset) };
  }

  private placeOf(node: Node, offset: number): Place {
    if (node === this.element) {
      return offset >= this.element.childNodes.length
        ? { paragraph: this.element.childNodes.length - 1, offset: this.element.lastChild?.textContent?.length ?? 0 }
        : { paragraph: offset, offset: 0 };
    }

    let block = node;
    while (block.parentNode && block.parentNode !== this.element) {
      block = block.parentNode;
    }

    const range = document.createRange();
    range.selectNodeContents(block);
    range.setEnd(node, offset);
    return { paragraph: [...this.element.childNodes].indexOf(block as ChildNode), offset: range.toString().length };
  }

  private select(from: Place, to: Place): void {
    const range = document.createRange();
    const [start, startAt] = this.find(from);
    const [end, endAt] = this.find(to);
    range.setStart(start, startAt);
    range.setEnd(end, endAt);
    const selection = getSelection();
    selection?.removeAllRanges();
    selection?.addRange(range);
  }

  private find(place: Place): [Node, number] {
    const block = this.element.childNodes[place.paragraph] ?? this.element;
    const walker = document.createTreeWalker(block, NodeFilter.SHOW_TEXT);
    let left = place.offset;
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
      const length = node.textContent!.length;
      if (left <= length) {
        return [node, left];
      }

      left -= length;
    }

    return [block, 0];
  }
}

function runsOf(block: Node): Run[] {
  const runs: Run[] = [];
  const walker = document.createTreeWalker(block, NodeFilter.SHOW_TEXT);
  for (let node = block.nodeType === Node.TEXT_NODE ? block : walker.nextNode(); node; node = walker.nextNode()) {
    const look = node.parentElement?.closest<HTMLElement>("span[data-color]")?.dataset;
    runs.push({
      text: node.textContent ?? "",
      isBold: look?.["bold"] === "1",
      color: look?.["color"] ?? "",
      highlight: look?.["highlight"] ?? "",
      ruby: look?.["ruby"] ?? "",
      language: look?.["language"] ?? "",
    });
  }

  return runs;
}
