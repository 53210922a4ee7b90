import { alive } from "../../scene/boards-state";
import type { Style } from "../../scene/scene";
import { part } from "../../shared/alpine";
import { isTooPale, isTooSmall } from "../legible";
import { machine, page } from "../page";
import { lastLine } from "../written";
import type { RecordPage } from "./whole";

const small = "On a phone this writing is too small to be read. Write larger, or glide closer before you write.";
const pale = "This ink can hardly be seen here. Take another one.";

/** The places around a stroke at which the ground is looked at: shares of its box, a little outside it. */
const around = [[-0.1, -0.1], [0.5, -0.15], [1.1, -0.1], [-0.1, 1.1], [0.5, 1.15], [1.1, 1.1]] as const;

/** A quiet sign at the edge when what was just written is too small or too pale for students. */
export const legible = () =>
  part<RecordPage>()({
    legibleSign: "",

    /** Looks at a pen's stroke that was just finished. */
    lookHowItIsSeen(style: Style): void {
      const { desk, painter } = machine();
      const own = alive(desk.board).filter((i) => i.number > 0 && !i.words);
      const last = own.at(-1);
      if (!last || style.tool !== "pen") {
        return;
      }

      const { view } = desk.board;
      const width = last.box.right - last.box.left;
      const height = last.box.bottom - last.box.top;
      const places = around.map(([x, y]) => [last.box.left + x * width, last.box.top + y * height] as const);
      const ground = painter.coloursAt(desk.boards[desk.current]!.ground.pictures, places);
      const line = lastLine(own.filter((i) => i.style.tool === "pen"));
      this.legibleSign = isTooPale(style, ground)
        ? pale
        : isTooSmall(line, page.rules.leastCapital * 10, view.value.width) ? small : "";
    },

    closeLegible(): void {
      this.legibleSign = "";
    },
  });
