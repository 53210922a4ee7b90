import { api, live, type Seen, type Finding } from "../page";
import { part } from "../../shared/alpine";
import { call } from "../../shared/api";
import type { BoardPage } from "./whole";

/** How students see the board on a phone and on a laptop. */
export const seen = () =>
  part<BoardPage>()({
    seen: [] as Seen[],

    async showSeen(): Promise<void> {
      await live.store.settle();
      await this.work(async () => {
        this.seen = await call<Seen[]>("GET", `${api}/seen`);
        this.$nextTick(() => live.surface.copyTo(document.getElementById("phone-board")!));
      });
    },

    get phone(): Seen | null {
      return this.seen[0] ?? null;
    },

    get laptop(): Seen | null {
      return this.seen[1] ?? null;
    },

    isGood(seen: Seen): boolean {
      return seen.groups.length === 0;
    },

    /** How many of a group's findings are not listed. */
    rest(group: Seen["groups"][number]): string {
      const more = group.count - group.findings.length;
      return more > 0 ? `and ${more} more` : "";
    },

    point(f: Finding): void {
      live.surface.mark([{ x: f.x, y: f.y, width: f.width, height: f.height, class: "finding-mark" }]);
      const frame = this.$refs["frame"]!;
      frame.scrollTo({ top: f.y * live.surface.scale - frame.clientHeight / 2 });
    },
  });
