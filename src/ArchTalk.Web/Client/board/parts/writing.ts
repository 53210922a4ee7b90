import type { Look } from "../runs";
import { live, page, restMs } from "../page";
import { part } from "../../shared/alpine";
import type { BoardPage } from "./whole";

/** Writing a text item where it stands. */
export const writing = () =>
  part<BoardPage>()({
    editing: null as string | null,

    open(id: string): void {
      const item = this.items.find((i) => i.id === id);
      if (item?.kind === "text") {
        this.selected = [id];
        this.tab = "item";
        this.editing = id;
        this.show();
        this.$nextTick(() => {
          live.writing.show(item.paragraphs);
          this.placeWriting();
          live.writing.focusAll();
        });
      } else if (item) {
        this.$nextTick(() => this.focusFirstField());
      }
    },

    /** The first field of what the item says; its place and size are folded away. */
    focusFirstField(): void {
      const fields = [...this.$root.querySelectorAll<HTMLElement>("#panel-item input, #panel-item textarea")];
      fields.find((f) => f.checkVisibility() && !f.closest("details"))?.focus();
    },

    placeWriting(): void {
      const item = this.items.find((i) => i.id === this.editing);
      if (item?.kind !== "text") {
        return;
      }

      const scale = live.surface.scale;
      const indent = item.list === "none" ? 0 : item.list === "dots" ? 0.8 : item.paragraphs.length >= 10 ? 1.7 : 1.2;
      const size = page.sizes[item.size]!;
      Object.assign(this.$refs["writing"]!.style, {
        left: `${(item.x + indent * size) * scale}px`, top: `${item.y * scale}px`, width: `${(item.width - indent * size) * scale}px`,
        fontSize: `${size * scale}px`, textAlign: item.align === "middle" ? "center" : item.align,
      });
    },

    keepWriting(): void {
      const id = this.editing;
      if (id) {
        const paragraphs = live.writing.read();
        this.items = this.items.map((i) => (i.id === id && i.kind === "text" ? { ...i, paragraphs } : i));
        live.store.changed(restMs);
      }
    },

    endWriting(): void {
      const id = this.editing;
      if (!id) {
        return;
      }

      const empty = live.writing.read().every((p) => p.every((r) => r.text.trim() === ""));
      this.editing = null;
      if (empty) {
        this.commit(this.items.filter((i) => i.id !== id));
        this.selected = [];
      }

      this.show();
    },

    look(event: Event): void {
      const { look, without } = lookOf(event.currentTarget as HTMLElement);
      if (this.editing) {
        live.writing.apply(look, without);
        return;
      }

      // Without a selection of letters the whole writing takes the look.
      const one = this.one;
      if (one?.kind === "text") {
        const all = one.paragraphs.every((p) => p.every((r) => Object.entries(look).every(([k, v]) => r[k as keyof typeof r] === v)));
        this.write("paragraphs", one.paragraphs.map((p) => p.map((r) => ({ ...r, ...(all ? without : look) }))));
      }
    },

    ruby(event: Event): void {
      const value = (event.currentTarget as HTMLInputElement).value.trim();
      live.writing.apply({ ruby: value }, { ruby: "" });
    },

    language(event: Event): void {
      const value = (event.currentTarget as HTMLInputElement).value.trim();
      live.writing.apply({ language: value }, { language: "" });
    },

    get isWriting(): boolean {
      return this.editing !== null;
    },
  });

function lookOf(button: HTMLElement): { look: Look; without: Look } {
  const name = button.dataset["look"]!;
  const value = button.dataset["value"] ?? "";
  return name === "bold" ? { look: { isBold: true }, without: { isBold: false } } : { look: { [name]: value }, without: { [name]: "" } };
}
