import type { Box } from "../scene/scene";
import { part } from "../shared/alpine";
import { clock } from "../shared/format";
import { player } from "./page";
import type { WatchPage } from "./whole";

/** Strokes that follow each other more closely than this (ms) are drawn at one go. */
const goOnWithin = 2000;

interface Drawn {
  at: number;
  time: string;
  name: string;
}

/** What has been drawn on the board that is shown, as a list: what can be pressed on the board can be chosen here by key. */
export const drawn = () =>
  part<WatchPage>()({
    drawnList: [] as Drawn[],

    /** Made anew when the list is opened. */
    listDrawn(event: Event): void {
      if ((event.target as HTMLDetailsElement).open) {
        this.drawnList = goesOf(player()?.drawn ?? []);
      }
    },

    get hasNothingDrawn(): boolean {
      return this.drawnList.length === 0;
    },

    goToDrawn(drawn: Drawn): void {
      this.goToInk(drawn.at);
      (this.$refs["board"] as HTMLElement).focus();
    },
  });

/** @param strokes In the order they were drawn. */
function goesOf(strokes: readonly { from: number; to: number; style: string; box: Box; height: number }[]): Drawn[] {
  const goes: { from: number; to: number; style: string; box: Box; height: number }[] = [];
  for (const stroke of strokes) {
    const last = goes.at(-1);
    if (last && stroke.from - last.to < goOnWithin && stroke.style === last.style) {
      last.to = Math.max(last.to, stroke.to);
    } else {
      goes.push({ ...stroke });
    }
  }

  return goes.map((g) => ({ at: g.from, time: clock(g.from), name: `${g.style}, ${placeName(g.box, g.height)}` }));
}

function placeName(box: Box, height: number): string {
  const third = (share: number, names: readonly [string, string, string]) => names[Math.min(2, Math.max(0, Math.floor(share * 3)))]!;
  const across = third((box.left + box.right) / 2 / 16_000, ["left", "middle", "right"]);
  const down = third((box.top + box.bottom) / 2 / (height * 10), ["at the top", "half way down", "at the bottom"]);
  return `${down}, ${across}`;
}
