// Where the browser doesn't give out the microphone's own frames: runs on the audio thread, mixes to mono, and hands blocks of
// about 20 ms straight to the worker that writes the journal, at the device's own rate.

import type { SoundBlock } from "./intake";

interface WorkletScope {
  registerProcessor(name: string, processor: unknown): void;
  AudioWorkletProcessor: new () => { port: MessagePort };
  sampleRate: number;
  currentFrame: number;
}

const scope = globalThis as unknown as WorkletScope;
const blockLength = Math.round(scope.sampleRate / 50);

class Capture extends scope.AudioWorkletProcessor {
  private target: MessagePort | null = null;
  private block = new Float32Array(blockLength);
  private filled = 0;
  private stamp = 0;

  constructor() {
    super();
    this.port.onmessage = (message: MessageEvent<MessagePort>) => (this.target = message.data);
  }

  process(inputs: Float32Array[][]): boolean {
    const channels = inputs[0] ?? [];
    const length = channels[0]?.length ?? 0;
    for (let i = 0; i < length; i++) {
      if (this.filled === 0) {
        this.stamp = ((scope.currentFrame + i) * 1000) / scope.sampleRate;
      }

      let sum = 0;
      for (const channel of channels) {
        sum += channel[i]!;
      }

      this.block[this.filled++] = sum / channels.length;
      if (this.filled === blockLength) {
        const block: SoundBlock = { samples: this.block, rate: scope.sampleRate, stamp: this.stamp };
        this.target?.postMessage(block, [block.samples.buffer]);
        this.block = new Float32Array(blockLength);
        this.filled = 0;
      }
    }

    return true;
  }
}

scope.registerProcessor("capture", Capture);
