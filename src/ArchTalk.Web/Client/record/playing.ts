// Plays a stretch of what was just recorded, to the teacher alone.

import { sampleRate, samplesPerMs } from "../journal/record";

/** A device that never says it has played is not waited for longer than this beyond the sound's length, in ms. */
const graceMs = 400;

export class Playing {
  private context: AudioContext | null = null;
  private stop: () => void = () => undefined;

  /** Stops what is playing; resolves when this was heard or something else is played. */
  play(pcm: Int16Array<ArrayBuffer>): Promise<void> {
    this.stop();
    return pcm.length === 0 ? Promise.resolve() : new Promise((done) => this.begin(pcm, done));
  }

  private begin(pcm: Int16Array<ArrayBuffer>, done: () => void): void {
    this.context ??= new AudioContext({ sampleRate });
    void this.context.resume();
    const source = this.context.createBufferSource();
    source.buffer = this.context.createBuffer(1, pcm.length, sampleRate);
    source.buffer.copyToChannel(Float32Array.from(pcm, (value) => value / 32768), 0);
    source.connect(this.context.destination);
    const timer = setTimeout(() => this.stop(), pcm.length / samplesPerMs + graceMs);
    source.onended = () => this.stop();
    this.stop = () => {
      clearTimeout(timer);
      source.onended = null;
      source.stop();
      source.disconnect();
      this.stop = () => undefined;
      done();
    };
    source.start();
  }
}
