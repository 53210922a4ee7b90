import { beside } from "../record/parts/beside";
import { boards } from "../record/parts/boards";
import { keyLines } from "../record/parts/key-lines";
import { keys } from "../record/parts/keys";
import { leftovers } from "../record/parts/leftovers";
import { microphone } from "../record/parts/microphone";
import { noted } from "../record/parts/noted";
import { place } from "../record/parts/place";
import { plan } from "../record/parts/plan";
import { retake } from "../record/parts/retake";
import { setup } from "../record/parts/setup";
import { soundCheck } from "../record/parts/sound-check";
import { strip } from "../record/parts/strip";
import { take } from "../record/parts/take";
import { takes } from "../record/parts/takes";
import { toolbar } from "../record/parts/toolbar";
import { typing } from "../record/parts/typing";
import { legible } from "../record/parts/legible";
import { machine } from "../record/page";
import type { RecordPage } from "../record/parts/whole";
import { combined, start } from "../shared/alpine";
import { faults } from "../shared/faults";
import { loading } from "../shared/loading";
import { shortcuts } from "../shared/shortcuts";
import { stepping } from "../shared/stepping";

/** Of the board that is shown; what a hand is just doing is ended first. */
const steps = () =>
  stepping<RecordPage>(function (direction) {
    machine().hands.finish(performance.now());
    machine().desk[direction](performance.now());
    this.afterInput();
  });

start({
  record: () =>
    combined(
      faults(), loading(), shortcuts(), steps(), setup(), microphone(), soundCheck(), take(), retake(), noted(), plan(), place(),
      keys(), keyLines(), typing(), strip(), legible(), takes(), leftovers(), toolbar(), boards(), beside(),
    ),
});
