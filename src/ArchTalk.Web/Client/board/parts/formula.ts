import { restMs } from "../page";
import { part } from "../../shared/alpine";
import { messageOf } from "../../shared/api";
import type { BoardPage } from "./whole";

/** The formula of the selected item. What can't be typeset is kept as it is typed, with what is wrong with it. */
export const formula = () =>
  part<BoardPage>()({
    /** Counts what was typed: only the newest is typeset. */
    typedTex: 0,

    async setTex(event: Event): Promise<void> {
      const tex = (event.currentTarget as HTMLTextAreaElement).value;
      const turn = ++this.typedTex;
      const { typeset } = await import("../formula");

      // While the typesetter is loaded, those who wait for it are let go in no order.
      if (turn !== this.typedTex) {
        return;
      }

      let result = { svg: "", mathMl: "", problem: "" };
      try {
        result = { ...typeset(tex), problem: "" };
      } catch (error) {
        result.problem = messageOf(error);
      }

      const one = this.one;
      if (one?.kind === "formula") {
        this.commit(this.items.map((i) => (i.id === one.id ? { ...one, tex, ...result } : i)), restMs);
      }
    },
  });
