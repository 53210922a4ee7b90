import { transport } from "../player/transport";
import { live, page } from "../refine/page";
import { chapters, stepChapters } from "../refine/parts/chapters";
import { choosing } from "../refine/parts/choosing";
import { edges } from "../refine/parts/edges";
import { edits } from "../refine/parts/edits";
import { history } from "../refine/parts/history";
import { listening } from "../refine/parts/listening";
import { moving } from "../refine/parts/moving";
import { opening } from "../refine/parts/opening";
import { pointing } from "../refine/parts/pointing";
import { rowsPart } from "../refine/parts/rows";
import { stops } from "../refine/parts/stops";
import { toDo } from "../refine/parts/to-do";
import type { RefinePage } from "../refine/parts/whole";
import { voice } from "../refine/voice";
import { combined, start } from "../shared/alpine";
import { faults } from "../shared/faults";
import { loading } from "../shared/loading";
import { shortcuts } from "../shared/shortcuts";
import { stepping } from "../shared/stepping";
import { tabs } from "../shared/tabs";

start({
  refine: () =>
    combined(
      faults(),
      loading(),
      shortcuts(),
      transport<RefinePage>(
        () => live.player,
        function () {
          this.fault = "The browser did not let the voice play. Press Play once more.";
        },
      ),
      stepping<RefinePage>(stepChapters),
      opening(),
      edits(),
      history(),
      listening(),
      toDo(),
      rowsPart(),
      choosing(),
      pointing(),
      edges(),
      stops(),
      // A proposal is framed in the rows while it is on the card.
      tabs<RefinePage>("todo", function () {
        this.takeRows();
      }),
      chapters(),
      moving(),
      voice(page.lesson),
    ),
});
