// What lies around a join, heard again and again while its edges are dragged. The take's own sound is fetched once on either side, so
// that no edge asks the server.

import type { Stretch } from "./chosen";

/** Heard before and behind the join, in ms. */
const aroundMs = 1500;

/** So far the edges can be dragged within what is fetched, in ms. */
const reachMs = 6000;

const restMs = 400;

/** Two sounds that don't belong together fade into each other, in s. */
const fade = 0.004;

/** An edge that rests so long is heard, in ms. */
const restsMs = 120;

interface Side {
  /** Where in the take it begins, in ms. */
  from: number;
  sound: AudioBuffer;
}

export class JoinLoop {
  private readonly context = new AudioContext();
  private readonly playing = new Set<AudioBufferSourceNode>();
  private before: Side | null = null;
  private after: Side | null = null;
  private edges: Stretch = { from: 0, to: 0 };
  private timer: ReturnType<typeof setTimeout> | undefined;
  private isStopped = false;

  /** @param address Of the take's sound between two moments, in ms. */
  constructor(private readonly address: (from: number, to: number) => string) {}

  /** @param edges Of what is taken out, in ms of the take. */
  async start(edges: Stretch): Promise<void> {
    this.edges = edges;
    try {
      [this.before, this.after] = await Promise.all([
        this.side(edges.from - aroundMs - reachMs, edges.from + reachMs),
        this.side(edges.to - reachMs, edges.to + aroundMs + reachMs),
      ]);
      this.play();
    } catch (error) {
      // Let go of before the sound had come, there is nothing to hear it with.
      if (!this.isStopped) {
        throw error;
      }
    }
  }

  /** Goes on with other edges, as soon as they rest. */
  move(edges: Stretch): void {
    this.edges = edges;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.play(), restsMs);
  }

  stop(): void {
    this.isStopped = true;
    clearTimeout(this.timer);
    void this.context.close();
  }

  private async side(from: number, to: number): Promise<Side> {
    const start = Math.max(from, 0);
    const answer = await fetch(this.address(start, to));
    if (!answer.ok) {
      throw new Error(`The sound could not be loaded (${answer.status}).`);
    }

    return { from: start, sound: await this.context.decodeAudioData(await answer.arrayBuffer()) };
  }

  private play(): void {
    clearTimeout(this.timer);
    if (this.isStopped || !this.before || !this.after) {
      return;
    }

    this.playing.forEach((p) => p.stop());
    this.playing.clear();
    const start = this.context.currentTime + 0.02;
    const first = Math.min(aroundMs, this.edges.from - this.before.from);
    this.playPart(this.before, this.edges.from - first, first, start);
    this.playPart(this.after, this.edges.to, aroundMs, start + first / 1000);
    this.timer = setTimeout(() => this.play(), first + aroundMs + restMs);
  }

  private playPart({ from, sound }: Side, at: number, length: number, when: number): void {
    const [offset, seconds] = [(at - from) / 1000, Math.min(length / 1000, sound.duration - (at - from) / 1000)];
    if (offset < 0 || seconds <= 2 * fade) {
      return;
    }

    const source = new AudioBufferSourceNode(this.context, { buffer: sound });
    const gain = new GainNode(this.context, { gain: 0 });
    gain.gain.setValueAtTime(0, when);
    gain.gain.linearRampToValueAtTime(1, when + fade);
    gain.gain.setValueAtTime(1, when + seconds - fade);
    gain.gain.linearRampToValueAtTime(0, when + seconds);
    source.connect(gain).connect(this.context.destination);
    source.start(when, offset, seconds);
    this.playing.add(source);
    source.addEventListener("ended", () => this.playing.delete(source));
  }
}
