import type { PlacedDrawing } from "../../ink/drawing";
import { part } from "../../shared/alpine";
import { SectionList } from "../../shared/section-list";
import type { Item, ItemsView } from "../items";
import { api, live, page, plainCopy } from "../page";
import { RichText } from "../rich-text";
import { Surface } from "../surface";
import type { BoardPage } from "./whole";

/** Sets the page up, and keeps what it shows in step with the server. */
export const setup = () =>
  part<BoardPage>()({
    items: [] as Item[],
    /** What is wrong with items, by their identity. */
    notices: {} as Record<string, string>,
    status: "",
    isFault: false,
    /** What is only spoken. */
    said: "",

    init(): void {
      live.surface = new Surface(this.$refs["surface"] as unknown as SVGSVGElement, {
        selected: (ids) => this.select(ids),
        changed: (items) => this.commit(items),
        opened: (id) => this.open(id),
        placed: (x, y) => this.placeLabel(x, y),
      });
      live.frame = this.$refs["frame"]!;
      live.writing = new RichText(this.$refs["writing"]!, page.colors, () => this.keepWriting());
      live.surface.setBoard(this.board.height, this.board.large ?? this.board.medium);
      live.store = new SectionList<Item[], ItemsView>(
        `${api}/items`,
        () => plainCopy(this.items),
        (view) => this.take(view),
        (status, isFault) => {
          this.status = status;
          this.isFault = isFault;
        },
      );
      new ResizeObserver(() => {
        this.show();
        this.placeWriting();
      }).observe(live.surface.svg);
      window.addEventListener("paste", (e) => this.paste(e));
      window.addEventListener("pagehide", () => this.flushAbout());
      void this.loadWith(() => live.store.load());
    },

    // Also after a save: writing, tables and labels come back as large as they were drawn.
    take(view: ItemsView): void {
      this.takeSteps(view);
      this.notices = view.notices;
      this.labels = view.labels;
      this.alphabetical = view.alphabetical;
      live.drawings = keepSame(live.drawings, view.drawings);
      if (!live.store.isWaiting) {
        this.items = view.content;
        this.selected = this.selected.filter((id) => this.items.some((i) => i.id === id));
      }

      if (!live.surface.isDragging) {
        this.show();
      }
    },

    show(): void {
      live.surface.show(plainCopy(this.items), live.drawings, [...this.selected], Object.keys(this.notices));
      live.surface.hide(this.editing);
    },
  });

// Drawings that did not change stay the same objects, so that their outlines are not made again.
function keepSame(before: PlacedDrawing[], after: PlacedDrawing[]): PlacedDrawing[] {
  const known = new Map(before.map((d) => [d.id, d]));
  return after.map((d) => {
    const old = known.get(d.id);
    return old && JSON.stringify(old.drawing) === JSON.stringify(d.drawing) ? Object.assign(old, { x: d.x, y: d.y }) : d;
  });
}
