import type { TableItem } from "../items";
import { page, plainCopy, restMs } from "../page";
import { part } from "../../shared/alpine";
import type { BoardPage } from "./whole";

/** The cells of the selected table. */
export const table = () =>
  part<BoardPage>()({
    get rows(): { cells: { row: number; column: number; text: string; isBlank: boolean; answers: string }[] }[] {
      const one = this.one;
      return one?.kind === "table"
        ? one.rows.map((r, row) => ({
            cells: r.map((c, column) => ({ row, column, text: c.text, isBlank: c.isBlank, answers: c.answers.join("; ") })),
          }))
        : [];
    },

    setCell(event: Event): void {
      const input = event.currentTarget as HTMLInputElement;
      const what = input.dataset["what"]!;
      this.changeTable((t) => {
        const cell = t.rows[Number(input.dataset["row"])]![Number(input.dataset["column"])]!;
        if (what === "blank") {
          cell.isBlank = input.checked;
        } else if (what === "answers") {
          cell.answers = input.value
            .split(";")
            .map((a) => a.trim())
            .filter(Boolean);
        } else {
          cell.text = input.value;
        }
      });
    },

    addRow(): void {
      this.changeTable((t) => t.rows.push(t.rows[0]!.map(() => ({ text: "", isBlank: false, answers: [] }))));
    },

    addColumn(): void {
      this.changeTable((t) => {
        t.rows.forEach((r) => r.push({ text: "", isBlank: false, answers: [] }));
        t.width = Math.max(t.width, Math.min(page.templates.widestTable, t.width + page.templates.tableColumn));
      });
    },

    removeRow(): void {
      this.changeTable((t) => t.rows.length > 1 && t.rows.pop());
    },

    removeColumn(): void {
      this.changeTable((t) => t.rows.forEach((r) => r.length > 1 && r.pop()));
    },

    changeTable(change: (table: TableItem) => void): void {
      const one = this.one;
      if (one?.kind === "table") {
        const table = plainCopy([one])[0] as TableItem;
        change(table);
        this.commit(
          this.items.map((i) => (i.id === one.id ? table : i)),
          restMs,
        );
      }
    },
  });
