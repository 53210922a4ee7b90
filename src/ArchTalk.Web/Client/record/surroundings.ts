// What a recording session needs, as this browser and this server give it.

import { call } from "../shared/api";
import { openMicrophone } from "./devices";
import type { FromWorker, OpenTake, ToWorker } from "./messages";
import { api, machine, page } from "./page";
import type { Boards } from "./retaking";
import type { Surroundings, WorkerPort } from "./session";

/** @param level How loud the microphone is, also while nothing is recorded. */
export function surroundings(news: Surroundings["news"], boards: Boards, level: (peak: number, rms: number) => void): Surroundings {
  return {
    lesson: page.lesson,
    startWorker,
    openMicrophone: (id, lost) => openMicrophone(id, page, lost, level),
    server: {
      start: () => call<OpenTake>("POST", `${api}/takes`),
      reopen: (take) => call<OpenTake>("POST", `${api}/takes/${take}/reopen`),
      finish: (take) => call("POST", `${api}/takes/${take}/finish`),
    },
    wakeLock: screenLock(),
    boards,
    clock: {
      pageOrigin: performance.timeOrigin,
      now: () => performance.now(),
      after(ms, then) {
        const timer = setTimeout(then, ms);
        return () => clearTimeout(timer);
      },
    },
    news,
  };
}

/** The boards of the page, as a retake sets them back. @param done Called when they are seen otherwise. */
export function boardsOfRetake(done: () => void): Boards {
  const seen = <T>(result: T): T => (done(), result);
  return {
    get begunAt() {
      return machine().desk.begunAt;
    },
    get lastDeed() {
      return machine().desk.lastDeed;
    },
    goBack: (from, to) => seen(machine().desk.goBack(from, to)),
    putBack: () => seen(machine().desk.putBack()),
    goOn: (stamp) => seen(machine().desk.goOn(stamp)),
  };
}

function startWorker(hear: (message: FromWorker) => void, failed: () => void): WorkerPort {
  const worker = new Worker(page.worker, { type: "module" });
  worker.onmessage = (message: MessageEvent<FromWorker>) => hear(message.data);
  worker.onerror = failed;
  return {
    post: (message: ToWorker, transfer: Transferable[] = []) => worker.postMessage(message, transfer),
    end: () => worker.terminate(),
  };
}

// Browsers let go of the lock when the page is hidden, so it is asked for again when it is back.
function screenLock(): Surroundings["wakeLock"] {
  let wanted = false;
  let lock: WakeLockSentinel | null = null;
  const ask = async (): Promise<boolean> => {
    try {
      lock = wanted ? await navigator.wakeLock.request("screen") : null;
      return lock !== null;
    } catch {
      // Denied, or the browser has none: the page says so.
      return false;
    }
  };
  document.addEventListener("visibilitychange", () => {
    if (wanted && document.visibilityState === "visible") {
      void ask();
    }
  });
  return {
    hold: () => ((wanted = true), ask()),
    release: () => {
      wanted = false;
      void lock?.release();
    },
  };
}
