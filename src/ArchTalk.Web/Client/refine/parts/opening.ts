import { Player } from "../../player/player";
import { part } from "../../shared/alpine";
import { clock } from "../../shared/format";
import { runKey } from "../../shared/shortcuts";
import { Timeline } from "../../timeline/timeline";
import { files, live, page } from "../page";
import type { RefinePage } from "./whole";

/** Opens the lesson, and says what the keys do. */
export const opening = () =>
  part<RefinePage>()({
    async init(): Promise<void> {
      const audio = (live.audio = this.$refs["voice"] as HTMLAudioElement);
      this.listenTo(audio);
      window.addEventListener("keydown", (e) => runKey(e, this.keys, this.singleKeys));
      await this.loadWith(async () => {
        const [timeline] = await Promise.all([Timeline.load(`${files}/timeline.json`), this.loadEdits()]);
        this.lengthMs = timeline.length;
        if (!live.player) {
          this.startPlayer(timeline, audio);
          this.startRows();

          // After an edit the sound comes first.
          for (const event of ["loadeddata", "error"]) {
            audio.addEventListener(event, () => void this.takeMarks());
          }
        }

        void this.takeMarks();
        await this.loadChapters();
        await this.loadVoice(audio);
      });
    },

    startPlayer(timeline: Timeline, audio: HTMLAudioElement): void {
      live.player = new Player(this.$refs["board"] as HTMLCanvasElement, audio, timeline, {
        moved: (ms) => {
          this.ms = ms;
          this.listened(ms);
          this.takeCurrent();
          this.followRows();
        },
        inkMissing: (isMissing) => (this.inkMissing = isMissing),
        held: (isHeld) => this.hold(isHeld, audio),
      });
      if (page.lastTakeMs > 0) {
        live.player.seek(page.lastTakeMs);
      }
    },

    get timeOfLength(): string {
      return `${this.time} of ${clock(this.lengthMs)}`;
    },

    /** By the teacher: what was heard for a moment is over. */
    playOrPause(): void {
      this.endListening();
      this.toggle();
    },

    goBack(): void {
      this.endListening();
      this.back();
    },

    goForward(): void {
      this.endListening();
      this.forward();
    },

    goToStart(): void {
      this.goAndSee(0);
    },

    goToEnd(): void {
      this.goAndSee(this.lengthMs);
    },

    /** To the tabs of the card, from wherever the focus is. */
    goToTabs(): void {
      document.getElementById(`tab-${this.tab}`)?.focus();
    },

    get keys(): Record<string, () => void> {
      return {
        " ": () => this.playOrPause(),
        ArrowLeft: () => this.goBack(),
        ArrowRight: () => this.goForward(),
        ArrowUp: () => this.phraseBack(),
        ArrowDown: () => this.phraseForward(),
        Home: () => this.goToStart(),
        End: () => this.goToEnd(),
        s: () => this.startChoosing(),
        e: () => this.endChoosing(),
        o: () => void this.takeOut(),
        Delete: () => void this.takeOut(),
        h: () => (this.chosen ? this.hearChosen() : this.hearAfter()),
        j: () => this.hearJoin(),
        m: () => void this.makeShort(),
        w: () => void this.askHere(),
        c: () => this.add(),
        r: () => (this.chosen ? this.sayAgain() : this.recordHere()),
        n: () => this.nextProposal(),
        b: () => this.previousProposal(),
        a: () => void this.acceptProposal(),
        l: () => void this.leaveProposal(),
        A: () => void this.acceptAll(),
        L: () => void this.leaveAll(),
        t: () => this.goToTabs(),
        "+": () => this.zoomIn(),
        "-": () => this.zoomOut(),
        "0": () => this.zoomToWhole(),
        Escape: () => this.chooseNothing(),
        "Ctrl+z": () => this.undoEdit(),
        "Ctrl+y": () => this.redoEdit(),
        "Ctrl+Shift+z": () => this.redoEdit(),
      };
    },
  });
