// The board while its items are placed: shows them, and turns what the hand does into changes. It knows no rules of its own.

import { element, type PlacedDrawing, toSvg } from "../ink/drawing";
import { handlesOf, type Item, kindWords, moved, pulled, wordsOf } from "./items";
import { type Box, type Guide, snap } from "./snapping";

export interface SurfaceEvents {
  /** The selection as the hand made it. */
  selected(ids: string[]): void;
  /** Items as they are after a move or pull that has ended. */
  changed(items: Item[]): void;
  /** An item was double-clicked, or Enter was pressed on it. */
  opened(id: string): void;
  /** A place was clicked while one was asked for, in board units. */
  placed(x: number, y: number): void;
}

interface Drag {
  start: { x: number; y: number };
  at: { x: number; y: number };
  items: Item[];
  handle: string;
  hasMoved: boolean;
}

const reachPx = 7;
const handlePx = 5;

/** Half the side of what can be hit around a handle (WCAG 2.2, 2.5.8 asks for 24 px; fingers get 44). */
const hitPx = matchMedia("(pointer: coarse)").matches ? 22 : 12;

export class Surface {
  isPlacing = false;
  private items: Item[] = [];
  private drawings = new Map<string, PlacedDrawing>();
  private ids: string[] = [];
  private wrong: string[] = [];
  private readonly groups = new Map<string, { group: SVGGElement; drawing: PlacedDrawing }>();
  private readonly picture = element("image", { x: 0, y: 0, width: 1600, preserveAspectRatio: "xMinYMin meet" });
  private readonly beyond = element("g", { class: "board-beyond" });
  private readonly layer = element("g", {});
  private readonly over = element("g", {});
  private readonly marks = element("g", {});
  private drag: Drag | null = null;
  private height = 900;

  constructor(
    readonly svg: SVGSVGElement,
    private readonly events: SurfaceEvents,
  ) {
    svg.append(this.picture, this.marks, this.layer, this.beyond, this.over);
    svg.addEventListener("pointerdown", (e) => this.down(e));
    svg.addEventListener("pointermove", (e) => this.move(e));
    svg.addEventListener("pointerup", (e) => this.up(e));
    svg.addEventListener("pointercancel", () => this.cancel());
    svg.addEventListener("dblclick", (e) => {
      const id = idAt(e.target);
      if (id) {
        this.events.opened(id);
      }
    });
  }

  /** How many pixels a board unit is now. */
  get scale(): number {
    return this.svg.clientWidth / 1600;
  }

  get isDragging(): boolean {
    return this.drag !== null;
  }

  setBoard(height: number, picture: string | null): void {
    this.height = height;
    this.picture.setAttribute("height", String(height));
    this.showEnd();
    if (picture) {
      this.picture.setAttribute("href", picture);
    } else {
      this.picture.removeAttribute("href");
    }
  }

  // What lies beyond the board's end is shown there, shaded: nobody else will see it.
  private showEnd(): void {
    const lowest = Math.max(0, ...this.items.map((i) => i.y + i.height));
    const shown = lowest > this.height ? Math.ceil(lowest) + 20 : this.height;
    this.svg.setAttribute("viewBox", `0 0 1600 ${shown}`);
    this.beyond.replaceChildren();
    if (shown > this.height) {
      const words = element("text", { x: 24, y: this.height + 40, "font-size": 30 });
      words.textContent = "The board ends here: students don't see what is below";
      this.beyond.append(
        element("rect", { x: 0, y: this.height, width: 1600, height: shown - this.height }),
        element("line", { x1: 0, x2: 1600, y1: this.height, y2: this.height }),
        words,
      );
    }
  }

  /** Shows the items, from back to front, which are selected, and which need a look. */
  show(items: Item[], drawings: PlacedDrawing[], selected: string[], wrong: string[]): void {
    this.items = items;
    this.wrong = wrong;
    this.drawings = new Map(drawings.map((d) => [d.id, d]));
    this.ids = selected;
    const gone = new Set(this.groups.keys());
    const focused = document.activeElement;
    items.forEach((item, i) => {
      gone.delete(item.id);

      // Only what stands at another place is moved: an element that is moved loses the focus.
      const group = this.groupOf(item);
      if (this.layer.children[i] !== group) {
        this.layer.insertBefore(group, this.layer.children[i] ?? null);
      }
    });
    if (focused instanceof SVGGElement && focused !== document.activeElement && this.layer.contains(focused)) {
      focused.focus();
    }

    gone.forEach((id) => {
      this.groups.get(id)!.group.remove();
      this.groups.delete(id);
    });
    this.showEnd();
    this.showSelection([]);
  }

  hide(id: string | null): void {
    this.groups.forEach((g, key) => g.group.classList.toggle("invisible", key === id));
  }

  /** Boxes that point at something: found words, findings. */
  mark(boxes: (Box & { class: string })[]): void {
    this.marks.replaceChildren(...boxes.map((b) => element("rect", { x: b.x, y: b.y, width: b.width, height: b.height, class: b.class })));
  }

  /** Shows the board once more, as it is now, in another place. */
  copyTo(target: Element): void {
    target.setAttribute("viewBox", `0 0 1600 ${this.height}`);
    target.replaceChildren(
      this.picture.cloneNode(),
      ...[...this.layer.children].map((g) => {
        const copy = g.cloneNode(true) as Element;
        ["tabindex", "role", "aria-label", "data-id"].forEach((name) => copy.removeAttribute(name));
        return copy;
      }),
    );
  }

  focus(id: string): void {
    this.groups.get(id)?.group.focus();
  }

  // What is stored is as large as what was drawn.
  private boxOf(item: Item): Box {
    return { x: item.x, y: item.y, width: item.width, height: item.height };
  }

  private groupOf(item: Item): SVGGElement {
    const drawing = this.drawings.get(item.id) ?? {
      id: item.id,
      x: item.x,
      y: item.y,
      drawing: { width: item.width, height: item.height, shapes: [] },
      isCover: false,
    };
    let known = this.groups.get(item.id);
    if (!known || known.drawing !== drawing) {
      const group = toSvg(drawing);
      const box = this.boxOf(item);
      group.append(element("rect", { x: -6, y: -6, width: box.width + 12, height: box.height + 12, class: "item-hit" }));
      group.classList.add("item");
      group.setAttribute("tabindex", "0");
      group.setAttribute("role", "img");
      group.dataset["id"] = item.id;
      group.addEventListener("focus", () => {
        if (!this.ids.includes(item.id) && !this.drag) {
          this.events.selected([item.id]);
        }
      });
      if (known?.group === document.activeElement) {
        queueMicrotask(() => group.focus());
      }

      known?.group.replaceWith(group);
      known = { group, drawing };
      this.groups.set(item.id, known);
    }

    known.group.classList.toggle("is-wrong", this.wrong.includes(item.id));
    known.group.setAttribute("transform", `translate(${item.x} ${item.y})`);
    known.group.setAttribute(
      "aria-label",
      `${kindWords[item.kind]}: ` +
        `${wordsOf(item).slice(0, 80)}${item.isLocked ? " (held in place)" : ""}${this.wrong.includes(item.id) ? " (needs a look)" : ""}`,
    );
    return known.group;
  }

  private showSelection(guides: Guide[]): void {
    const unit = 1 / Math.max(this.scale, 0.05);
    const shown = this.drag?.items ?? this.items;
    const chosen = shown.filter((i) => this.ids.includes(i.id));
    const parts = chosen.flatMap((item) => this.selectionOf(item, unit, chosen.length === 1));
    this.over.replaceChildren(
      ...parts,
      ...guides.map((g) => element("line", { x1: g.x1, y1: g.y1, x2: g.x2, y2: g.y2, class: "item-guide", "stroke-width": 1.5 * unit })),
    );
  }

  private selectionOf(item: Item, unit: number, isAlone: boolean): SVGElement[] {
    const box = this.boxOf(item);
    const frame = element("rect", { ...box, class: item.isLocked ? "item-frame is-locked" : "item-frame", "stroke-width": 2 * unit });
    if (!isAlone || item.isLocked) {
      return [frame];
    }

    const size = handlePx * unit;
    const hit = (x: number, y: number, name: string) =>
      element("rect", {
        x: x - hitPx * unit,
        y: y - hitPx * unit,
        width: 2 * hitPx * unit,
        height: 2 * hitPx * unit,
        class: `item-handle-hit is-${name}`,
        "data-handle": name,
      });
    const handles = handlesOf(item).flatMap((name) => {
      const x = box.x + (name.includes("w") ? 0 : name.includes("e") ? box.width : box.width / 2);
      const y = box.y + (name.includes("n") ? 0 : name.includes("s") ? box.height : box.height / 2);
      return [
        element("rect", { x: x - size, y: y - size, width: 2 * size, height: 2 * size, class: "item-handle", "stroke-width": unit }),
        hit(x, y, name),
      ];
    });
    if (item.kind === "label") {
      const tip = element("circle", { cx: item.tipX, cy: item.tipY, r: 1.8 * size, class: "item-handle", "stroke-width": unit });
      const live = this.drag
        ? [
            element("line", {
              x1: box.x + box.width / 2,
              y1: box.y + box.height / 2,
              x2: item.tipX,
              y2: item.tipY,
              class: "item-guide",
              "stroke-width": 2 * unit,
            }),
          ]
        : [];
      handles.push(...live, tip, hit(item.tipX, item.tipY, "tip"));
    }

    return [frame, ...handles];
  }

  private down(e: PointerEvent): void {
    if (e.button !== 0) {
      return;
    }

    const at = this.at(e);
    if (this.isPlacing) {
      this.events.placed(at.x, at.y);
      return;
    }

    const handle = e.target instanceof Element ? (e.target.getAttribute("data-handle") ?? "") : "";
    const id = idAt(e.target);
    let ids = this.ids;
    if (!handle) {
      ids =
        id === null
          ? e.shiftKey
            ? ids
            : []
          : e.shiftKey
            ? ids.includes(id)
              ? ids.filter((i) => i !== id)
              : [...ids, id]
            : ids.includes(id)
              ? ids
              : [id];
      this.ids = ids;
      this.events.selected(ids);
    }

    this.svg.setPointerCapture(e.pointerId);
    this.drag = { start: at, at, items: this.items, handle: handle || (id ? "move" : "frame"), hasMoved: false };
  }

  private move(e: PointerEvent): void {
    const drag = this.drag;
    if (!drag) {
      return;
    }

    drag.at = this.at(e);
    const [dx, dy] = [drag.at.x - drag.start.x, drag.at.y - drag.start.y];
    if (!drag.hasMoved && Math.hypot(dx, dy) * this.scale < 3) {
      return;
    }

    drag.hasMoved = true;
    if (drag.handle === "frame") {
      this.showFrame(drag);
      return;
    }

    const guides = this.dragTo(drag, dx, dy, e.altKey);
    for (const item of drag.items.filter((i) => this.ids.includes(i.id))) {
      this.groups.get(item.id)?.group.setAttribute("transform", `translate(${item.x} ${item.y})`);
    }

    this.showSelection(guides);
  }

  // Alt lets an item lie anywhere.
  private dragTo(drag: Drag, dx: number, dy: number, isFree: boolean): Guide[] {
    const chosen = this.items.filter((i) => this.ids.includes(i.id) && !i.isLocked);
    if (chosen.length === 0) {
      return [];
    }

    const others = this.items.filter((i) => !this.ids.includes(i.id)).map((i) => this.boxOf(i));
    const board = { width: 1600, height: this.height };
    const reach = isFree ? 0 : reachPx / this.scale;
    if (drag.handle === "move") {
      const whole = union(chosen.map((i) => this.boxOf(i)));
      const rest = snap({ ...whole, x: whole.x + dx, y: whole.y + dy }, others, board, reach);
      const isWhole = chosen.length > 1;
      drag.items = this.items.map((i) => (chosen.includes(i) ? moved(i, dx + rest.dx, dy + rest.dy, isWhole) : i));
      return isFree ? [] : rest.guides;
    }

    const item = chosen[0]!;
    if (drag.handle === "tip" && item.kind === "label") {
      drag.items = this.items.map((i) => (i === item ? { ...item, tipX: drag.at.x, tipY: drag.at.y } : i));
      return [];
    }

    // The pulled edges snap as a box without width or height would.
    const edge = {
      x: drag.handle.includes("w") ? item.x + dx : item.x + item.width + dx,
      y: drag.handle.includes("n") ? item.y + dy : item.y + item.height + dy,
      width: 0,
      height: 0,
    };
    const rest = snap(edge, others, board, reach);
    drag.items = this.items.map((i) => (i === item ? pulled(item, drag.handle, dx + rest.dx, dy + rest.dy) : i));
    return rest.guides;
  }

  private showFrame(drag: Drag): void {
    const box = between(drag.start, drag.at);
    const unit = 1 / this.scale;
    this.over.replaceChildren(element("rect", { ...box, class: "item-frame", "stroke-width": unit, "stroke-dasharray": 6 * unit }));
  }

  private up(e: PointerEvent): void {
    const drag = this.drag;
    this.drag = null;
    this.svg.releasePointerCapture(e.pointerId);
    if (drag?.hasMoved && drag.handle === "frame") {
      const box = between(drag.start, drag.at);
      this.events.selected(this.items.filter((i) => overlaps(box, this.boxOf(i))).map((i) => i.id));
    } else if (drag?.hasMoved) {
      this.events.changed(drag.items);
    }
  }

  // The page itself is slid (a finger on the bare board), or the system took over.
  private cancel(): void {
    this.drag = null;
    this.show(this.items, [...this.drawings.values()], this.ids, this.wrong);
  }

  /** Where on the board a pointer is, in board units. */
  at(e: MouseEvent): { x: number; y: number } {
    const place = this.svg.getBoundingClientRect();
    return { x: ((e.clientX - place.left) / place.width) * 1600, y: ((e.clientY - place.top) / place.width) * 1600 };
  }
}

function idAt(target: EventTarget | null): string | null {
  return target instanceof Element ? (target.closest<SVGGElement>("g.item")?.dataset["id"] ?? null) : null;
}

function between(a: { x: number; y: number }, b: { x: number; y: number }): Box {
  return { x: Math.min(a.x, b.x), y: Math.min(a.y, b.y), width: Math.abs(a.x - b.x), height: Math.abs(a.y - b.y) };
}

function union(boxes: Box[]): Box {
  const x = Math.min(...boxes.map((b) => b.x));
  const y = Math.min(...boxes.map((b) => b.y));
  return { x, y, width: Math.max(...boxes.map((b) => b.x + b.width)) - x, height: Math.max(...boxes.map((b) => b.y + b.height)) - y };
}

function overlaps(a: Box, b: Box): boolean {
  return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
}
