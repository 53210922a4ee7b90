import { part } from "../../shared/alpine";
import { keepChoice, keptChoice } from "../../shared/kept";
import { clockTenths, seconds } from "../../shared/format";
import { newId } from "../../shared/ids";
import { samplesPerMs } from "../../timeline/moments";
import { live } from "../page";
import type { Proposal, ProposalKey, ProposalKind } from "../view";
import type { RefinePage } from "./whole";

const titles: Record<ProposalKind, string> = {
  Beginning: "Before you begin",
  FalseStart: "A false start?",
  Ending: "After the end",
  Afterword: "Said after the end?",
  FixLater: "Fix later",
  Silence: "Silence",
  WritingSilence: "Silence while you write",
  Waiting: "Waiting after a question",
  Question: "A question without a stop?",
  Quiet: "Far quieter than the rest",
  ShortSound: "A short sound",
  Unsettled: "A line beside its words",
};

const alike: Record<ProposalKind, string> = {
  Beginning: "beginnings", FalseStart: "false starts", Ending: "ends", Afterword: "afterwords", FixLater: "notes", Silence: "silences",
  WritingSilence: "silences while you write", Waiting: "waits", Question: "questions", Quiet: "quiet stretches", ShortSound: "short sounds",
  Unsettled: "lines",
};

const nudgeMs = 100;

/** What is proposed where something lies, and takes nothing out. */
const withoutEdges: readonly ProposalKind[] = ["Question", "Unsettled"];

function sameKey(a: ProposalKey, b: ProposalKey): boolean {
  return a.kind === b.kind && a.take === b.take && a.start === b.start;
}

/** What is proposed, one at a time. */
export const toDo = () =>
  part<RefinePage>()({
    /** The place of the proposal on the card among all of them. */
    at: 0,
    /** By how much the teacher moved its edges, in ms. */
    moved: { from: 0, to: 0 },
    /** What silences become, in ms. */
    restMs: keptChoice("refine-rest", "400"),
    /** Whether short sounds are proposed: they may be words. */
    wantsShortSounds: keptChoice("refine-short-sounds", false),

    get hasProposal(): boolean {
      return this.view.proposals.length > 0;
    },

    get hasNoProposal(): boolean {
      return !this.hasProposal;
    },

    get proposal(): Proposal | null {
      return this.view.proposals[this.at] ?? null;
    },

    // After an edit the next one of what is left stands on the card.
    takeProposals(): void {
      this.view = Object.freeze({ ...live.view, proposals: live.view.proposals.filter((p) => this.isProposed(p)) });
      this.at = Math.max(0, Math.min(this.at, this.view.proposals.length - 1));
      this.moved = { from: 0, to: 0 };
    },

    get placeWords(): string {
      return `${this.at + 1} of ${this.view.proposals.length}`;
    },

    get proposalTitle(): string {
      return this.proposal ? titles[this.proposal.key.kind] : "";
    },

    get proposalReason(): string {
      const p = this.proposal;
      if (!p) {
        return "";
      }

      const length = seconds(p.toMs - p.fromMs);
      switch (p.key.kind) {
        case "Beginning":
          return `Nobody speaks for the first ${length}.${p.keepsMarks ? " What you drew meanwhile stays." : ""}`;
        case "FalseStart":
          return "You say a few words, wait, and then begin.";
        case "Ending":
          return `Nobody speaks in the last ${length}.${p.keepsMarks ? " What you drew meanwhile stays." : ""}`;
        case "Afterword":
          return "A long silence, and then a few words more.";
        case "FixLater":
          return `You noted this while recording${p.text ? `: “${p.text}”` : ""}. What you had just said is proposed to be taken out.`;
        case "Silence":
          return `Nobody speaks and nothing happens for ${length}.`;
        case "WritingSilence":
          return `Nobody speaks for ${length} while you draw. What you drew is drawn faster, at most eight times.`;
        case "Question":
          return `You wait ${length} and then uncover something. With a thinking stop students wait as long as they need, until they have the answer shown.`;
        case "ShortSound":
          return `A sound of ${length} by itself: a cough, a knock, a hesitation? It may be a word. Hear it first.`;
        case "Unsettled":
          return `You drew this along “${p.text}”, and the server did not answer in time. It can still be laid straight on these words.`;
        case "Quiet":
          return "Students hear it raised, and the noise of the room with it. If it can't be understood well, say it again.";
        default:
          return `You waited ${length} after a thinking stop. Students wait there by themselves.`;
      }
    },

    /** What accepting does. */
    get acceptWords(): string {
      const p = this.proposal;
      return !p ? ""
        : p.key.kind === "Question" ? "Ask and wait here"
        : p.key.kind === "Unsettled" ? "Lay it on its words"
        : this.isQuiet ? "Say it again"
        : p.restMs === null ? `Take out ${seconds(this.proposedTo - this.proposedFrom)}` : `Make it ${seconds(this.restOf(p))}`;
    },

    get savesWords(): string {
      const p = this.proposal;
      const length = this.proposedTo - this.proposedFrom;
      return p && this.takesOut ? `Saves ${seconds(length - (p.restMs === null ? 0 : this.restOf(p)))}.` : "";
    },

    // What is drawn in it may need more than the teacher wants; before another board a second is left.
    restOf(p: Proposal): number {
      const length = p.toMs - p.fromMs;
      const least = p.key.kind === "WritingSilence" ? length / 8 : 0;
      return Math.min(Math.max(p.restMs! > 400 && least === 0 ? p.restMs! : Number(this.restMs), least), length);
    },

    get proposedFrom(): number {
      return (this.proposal?.fromMs ?? 0) + this.moved.from;
    },

    get proposedTo(): number {
      return (this.proposal?.toMs ?? 0) + this.moved.to;
    },

    get proposedFromWords(): string {
      return clockTenths(this.proposedFrom);
    },

    get proposedToWords(): string {
      return clockTenths(this.proposedTo);
    },

    /** Whether something becomes shorter by it. */
    get takesOut(): boolean {
      return this.hasProposedEdges && !this.isQuiet;
    },

    get hasProposedEdges(): boolean {
      return this.proposal !== null && !withoutEdges.includes(this.proposal.key.kind);
    },

    get isOfSilence(): boolean {
      return this.proposal !== null && this.proposal.restMs !== null;
    },

    fromEarlier(): void {
      this.nudge(-nudgeMs, 0);
    },

    fromLater(): void {
      this.nudge(nudgeMs, 0);
    },

    toEarlier(): void {
      this.nudge(0, -nudgeMs);
    },

    toLater(): void {
      this.nudge(0, nudgeMs);
    },

    nudge(from: number, to: number): void {
      this.setProposed(this.proposedFrom + from, this.proposedTo + to);
    },

    /** With other edges. */
    setProposed(from: number, to: number): void {
      const p = this.proposal;
      if (p && from >= 0 && to <= this.lengthMs && to - from >= nudgeMs) {
        this.moved = { from: from - p.fromMs, to: to - p.toMs };
        this.takeRows();
      }
    },

    isProposed({ key }: Proposal): boolean {
      return this.wantsShortSounds || key.kind !== "ShortSound";
    },

    toggleShortSounds(): void {
      this.wantsShortSounds = !this.wantsShortSounds;
      keepChoice("refine-short-sounds", this.wantsShortSounds);
      this.takeProposals();
      this.takeRows();
    },

    setRest(event: Event): void {
      this.restMs = (event.target as HTMLSelectElement).value;
      keepChoice("refine-rest", this.restMs);
    },

    nextProposal(): void {
      this.showProposal(this.at + 1);
    },

    previousProposal(): void {
      this.showProposal(this.at - 1);
    },

    showProposal(index: number): void {
      const count = this.view.proposals.length;
      if (count > 0) {
        this.at = (index + count) % count;
        this.moved = { from: 0, to: 0 };
        this.seeProposal();
      }
    },

    /** Goes to where it begins, or to where a line is all there, and brings it into sight. */
    seeProposal(): void {
      const p = this.proposal;
      if (p) {
        this.endListening();
        this.go(p.key.kind === "Unsettled" ? p.toMs : Math.max(p.fromMs - 1000, 0));
        this.bringIntoSight(p.fromMs, p.toMs);
      }
    },

    hearBefore(): void {
      this.hearAround(this.proposedFrom, this.proposedTo);
    },

    hearAfter(): void {
      const p = this.proposal;
      if (p) {
        const rest = p.restMs === null ? 0 : this.restOf(p);
        this.hearWithout(this.proposedFrom + rest / 2, this.proposedTo - rest / 2);
      }
    },

    async acceptProposal(): Promise<void> {
      if (this.isQuiet) {
        this.recordFor(this.proposedFrom, this.proposedTo);
        return;
      }

      await this.decide("accept", (p) => [this.accepted(p, this.moved)]);
    },

    get isQuiet(): boolean {
      return this.proposal?.key.kind === "Quiet";
    },

    /** Instead of being said again. */
    async takeOutQuiet(): Promise<void> {
      if (await this.doStep({ do: "takeOut", fromMs: this.proposedFrom, toMs: this.proposedTo })) {
        this.seeProposal();
      }
    },

    leaveProposal(): Promise<void> {
      return this.decide("leave", (p) => [p.key]);
    },

    /** Does something about what is on the card, and goes on to the next. */
    async decide(what: "accept" | "leave", proposals: (shown: Proposal) => object[]): Promise<void> {
      const p = this.proposal;
      if (p && (await this.doStep({ do: what, proposals: proposals(p) }))) {
        this.seeProposal();
      }
    },

    accepted(p: Proposal, moved: { from: number; to: number }): object {
      const [start, end] = [p.source[0] + moved.from * samplesPerMs, p.source[1] + moved.to * samplesPerMs];
      const isMoved = moved.from !== 0 || moved.to !== 0;
      return {
        key: p.key,
        ...(isMoved ? { source: { start: Math.max(0, Math.round(start)), end: Math.round(end) } } : {}),
        ...(p.restMs === null ? {} : { restMs: this.restOf(p) }),
        ...(p.key.kind === "Question" ? { stop: newId() } : {}),
      };
    },

    /** The others of its kind. */
    get others(): Proposal[] {
      const p = this.proposal;
      return p ? this.view.proposals.filter((o) => o.key.kind === p.key.kind && !sameKey(o.key, p.key)) : [];
    },

    /** What has to be said again is said one after the other. */
    get hasOthers(): boolean {
      return this.others.length > 0 && !this.isQuiet;
    },

    get othersWords(): string {
      const p = this.proposal;
      return p ? `This and the other ${alike[p.key.kind]} like it (Shift+A)` : "";
    },

    get acceptAllWords(): string {
      return `Accept all ${this.others.length + 1}`;
    },

    async acceptAll(): Promise<void> {
      if (this.isQuiet) {
        return;
      }

      await this.decide("accept", (p) => [this.accepted(p, this.moved), ...this.others.map((o) => this.accepted(o, { from: 0, to: 0 }))]);
    },

    leaveAll(): Promise<void> {
      return this.decide("leave", (p) => [p.key, ...this.others.map((o) => o.key)]);
    },
  });
