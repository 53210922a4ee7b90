import { restMs } from "../page";
import { part } from "../../shared/alpine";
import { messageOf } from "../../shared/api";
import type { BoardPage } from "./whole";

/** The formula of the selected item. */
export const formula = () =>
  part<BoardPage>()({
    formulaFault: "",

    async setTex(event: Event): Promise<void> {
      const tex = (event.currentTarget as HTMLTextAreaElement).value;
      try {
        const { typeset } = await import("../formula");
        const result = typeset(tex);
        this.formulaFault = "";
        const one = this.one;
        if (one?.kind === "formula") {
          this.commit(this.items.map((i) => (i.id === one.id ? { ...one, tex, ...result } : i)), restMs);
        }
      } catch (error) {
        this.formulaFault = `The formula can't be typeset: ${messageOf(error)}. What was there before is kept.`;
      }
    },
  });
