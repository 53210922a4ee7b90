import { transport } from "../player/transport";
import { combined, start } from "../shared/alpine";
import { faults } from "../shared/faults";
import { loading } from "../shared/loading";
import { shortcuts } from "../shared/shortcuts";
import { clip } from "../watch/clip";
import { closer } from "../watch/closer";
import { drawn } from "../watch/drawn";
import { keyLines } from "../watch/key-lines";
import { lesson } from "../watch/lesson";
import { player } from "../watch/page";
import { screen } from "../watch/screen";
import { seek } from "../watch/seek";
import { stops } from "../watch/stops";
import { tries } from "../watch/tries";
import { vocabulary } from "../watch/vocabulary";
import type { WatchPage } from "../watch/whole";

const voice = () =>
  transport<WatchPage>(player, function () {
    this.fault = "The browser did not let the voice play. Press Play once more.";
  });

start({
  watch: () =>
    combined(
      faults(), loading(), shortcuts(), voice(), lesson(), clip(), closer(), screen(), seek(), stops(), keyLines(), vocabulary(), drawn(), tries(),
    ),
});
