import { isReadByServer, read, shown, typed, written } from "../fields";
import type { Item } from "../items";
import { live, page, plainCopy, restMs } from "../page";
import { part } from "../../shared/alpine";
import type { BoardPage } from "./whole";

/** The fields of the selected item. */
export const fields = () =>
  part<BoardPage>()({
    // What is being typed is never replaced under the hands; it counts once it was taken over.
    field(path: string, type: string): string {
      const typing = document.activeElement;
      if (typing instanceof HTMLElement && typing.dataset["path"] === path && "value" in typing) {
        return String(typing.value);
      }

      const own = read(this.one, "figure.locale");
      return this.one?.typed?.[path] ?? shown(read(this.one, path), type, typeof own === "string" && own ? own : page.language);
    },

    flag(path: string): boolean {
      return read(this.one, path) === true;
    },

    is(path: string, value: string): boolean {
      return read(this.one, path) === value;
    },

    set(event: Event): void {
      const input = event.currentTarget as HTMLInputElement;
      const type = input.dataset["type"] ?? "text";
      const path = input.dataset["path"]!;
      if (isReadByServer(type)) {
        this.write("typed", { ...this.one?.typed, [path]: input.value });
      } else {
        this.write(path, type === "bool" ? input.checked : typed(input.value, type));
      }
    },

    choose(event: Event): void {
      const button = event.currentTarget as HTMLElement;
      this.write(button.dataset["path"]!, button.dataset["value"]!);
    },

    write(path: string, value: unknown): void {
      const one = this.one;
      if (one && value !== undefined) {
        const changed = written(plainCopy([one])[0]!, path, value);
        this.commit(this.items.map((i) => (i.id === one.id ? changed : i)), restMs);
      }
    },

    commit(items: Item[], rest = 0): void {
      this.items = plainCopy(items);
      this.show();
      live.store.changed(rest);
    },
  });
