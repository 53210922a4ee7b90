// What the page says about a recording session: what happened, what is kept, what to do.

import { clock } from "../shared/format";
import type { SessionView } from "./session";

/** Sound that waits for this long, in ms, shows that the line is slower than the voice. */
const slowMs = 4000;

/** A loss shorter than this, in ms, nobody hears. */
const lossWorthSaying = 50;

/** In a few words for the bar: how the saving goes when it doesn't go by itself. */
export function savingWords(view: SessionView): string {
  const { trouble, ms } = view.waiting;
  const since = view.phase === "finishing" ? "" : ` since ${clock(view.savedMs)}`;
  if (!isOpen(view)) {
    return "";
  }

  switch (trouble) {
    case "unreachable":
      return `no connection: kept in this browser${since}, sent when the server answers`;
    case "disk":
      return `the server can't write to its disk: kept in this browser${since}`;
    default:
      return ms > slowMs ? `slow connection: ${clock(ms)} still to send${about(view)}` : view.phase === "finishing" ? "Saving the last seconds…" : "";
  }
}

/** What the teacher should know or do about it, in whole sentences. */
export function adviceWords(view: SessionView): string {
  const words: string[] = [];
  if (isOpen(view) && !view.isKept) {
    words.push("This browser keeps no copy (no room, or a private window). Keep this page open until everything is saved.");
  } else if (view.phase === "finishing" && (view.waiting.trouble || view.waiting.ms > slowMs)) {
    words.push("You may close this page. The rest is kept in this browser and sent when you open it again.");
  }

  if (isOpen(view) && view.waiting.trouble === "disk") {
    words.push("The server's disk is full or broken. Nothing is lost while this browser keeps it; tell whoever runs Arch Talk.");
  }

  if (isOpen(view) && view.missingMs >= lossWorthSaying) {
    words.push(`${(view.missingMs / 1000).toFixed(1)} s of sound never arrived from the microphone; the place is kept silent.`);
  }

  return words.join(" ");
}

function isOpen({ phase }: SessionView): boolean {
  return phase === "recording" || phase === "paused" || phase === "retaking" || phase === "interrupted" || phase === "finishing";
}

/** Where it goes back to, and what happens next. */
export function retakeWords({ retake, liveMs }: SessionView, live: (ms: number) => number): string {
  if (!retake || retake.stage === "looking") {
    return "Held. Looking for the end of the last good phrase…";
  }

  const back = live(retake.back);
  const taken = liveMs > back ? `${clock(liveMs - back)} is taken back. ` : "";
  const rough = retake.isRough ? "Without the server the place was found by loudness alone, which is rougher: listen to it. " : "";
  const next = {
    hearing: "Your last words are played, then it is counted.",
    counting: "Speak when the count is over.",
    waiting: "It goes on when you say so.",
  }[retake.stage];
  return `${rough}Going on from ${clock(back)}. ${taken}${next}`;
}

export function heldWords(view: SessionView): string {
  const kept = `Recording is held, and everything up to ${clock(view.recordedMs)} is kept.`;
  switch (view.cause) {
    case "unplugged":
      return `The microphone was unplugged or taken by another program. ${view.phase === "interrupted" ? `${kept} ` : ""}Choose a microphone ` +
        `and go on.`;
    case "muted":
      return `The microphone gives no sound: there is a call, or it was switched off. ${kept} Go on when it is back.`;
    case "silent":
      return `No sound arrives from the microphone any more. ${kept} Go on when it is back, or choose another microphone.`;
    case "worker":
      return view.phase === "interrupted"
        ? `The part of this page that keeps the sound has stopped. What was said up to about ${clock(view.recordedMs)} is kept; what you do now ` +
          `is not recorded. Press “Go on”, and it begins anew.`
        : "The part of this page that keeps the sound had stopped and was begun anew. Try once more.";
    case "taken":
      return "This take is now being recorded in another tab or window, so this one has stopped. Everything up to here is kept.";
    case "finished":
      return "This take was finished in another tab or window. What you recorded since then is kept in this browser; see what is left here, below.";
    case "refused":
      return "The server takes in no more of this take. What it has is kept, and the rest is kept in this browser; see what is left here, below.";
    default:
      return "";
  }
}

export function checkingWords(view: SessionView): string {
  if (view.cause === "check") {
    return "What this browser still keeps of earlier takes could not be looked at. It is tried again by itself.";
  }

  if (view.waiting.records === 0) {
    return "Looking for what this browser still keeps of earlier takes…";
  }

  const rest = `${clock(view.waiting.ms)} of an earlier take`;
  switch (view.waiting.trouble) {
    case "unreachable":
      return `This browser still keeps ${rest}, and the server can't be reached. It is sent as soon as the server answers; nothing of it is lost.`;
    case "disk":
      return `This browser still keeps ${rest}, and the server can't write to its disk. Tell whoever runs Arch Talk; nothing of it is lost.`;
    default:
      return `Sending ${rest}${about(view)}. You may close this page and open it again meanwhile.`;
  }
}

function about({ waiting }: SessionView): string {
  if (waiting.restMs === null) {
    return "";
  }

  const seconds = Math.ceil(waiting.restMs / 1000);
  return seconds < 90 ? `, about ${seconds} s` : `, about ${Math.round(seconds / 60)} minutes`;
}
