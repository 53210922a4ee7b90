import { about } from "../board/parts/about";
import { actions } from "../board/parts/actions";
import { adding } from "../board/parts/adding";
import { clipboard } from "../board/parts/clipboard";
import { corners } from "../board/parts/corners";
import { fields } from "../board/parts/fields";
import { formula } from "../board/parts/formula";
import { labels } from "../board/parts/labels";
import { panels, working } from "../board/parts/panels";
import { scan } from "../board/parts/scan";
import { seen } from "../board/parts/seen";
import { selection } from "../board/parts/selection";
import { setup } from "../board/parts/setup";
import { table } from "../board/parts/table";
import { writing } from "../board/parts/writing";
import type { BoardPage } from "../board/parts/whole";
import { live } from "../board/page";
import { combined, start } from "../shared/alpine";
import { faults } from "../shared/faults";
import { loading } from "../shared/loading";
import { stepping } from "../shared/stepping";

const steps = () =>
  stepping<BoardPage>(function (direction) {
    this.endWriting();
    void live.store.step(direction);
  });

start({
  board: () =>
    combined(
      faults(), loading(), steps(),
      setup(), selection(), fields(), adding(), writing(), formula(), table(),
      actions(), clipboard(), labels(), about(), scan(), corners(), seen(), panels(), working(),
    ),
});
