// Where the browser doesn't give out the microphone's own frames: runs on the audio thread, mixes to mono, counts every
// sample it receives, and hands blocks of 20 ms straight to the worker that writes the journal.

import { toBlock } from "./capture-block";

interface WorkletScope {
  registerProcessor(name: string, processor: unknown): void;
  AudioWorkletProcessor: new () => { port: MessagePort };
}

const scope = globalThis as unknown as WorkletScope;
const blockLength = 960;

class Capture extends scope.AudioWorkletProcessor {
  private target: MessagePort | null = null;
  private block = new Float32Array(blockLength);
  private filled = 0;
  private received = 0;

  constructor() {
    super();
    this.port.onmessage = (message: MessageEvent<MessagePort>) => (this.target = message.data);
  }

  process(inputs: Float32Array[][]): boolean {
    const channels = inputs[0] ?? [];
    const length = channels[0]?.length ?? 0;
    for (let i = 0; i < length; i++) {
      let sum = 0;
      for (const channel of channels) {
        sum += channel[i]!;
      }

      this.block[this.filled++] = sum / channels.length;
      this.received++;
      if (this.filled === blockLength) {
        const block = toBlock(this.block, blockLength, this.received);
        this.target?.postMessage(block, [block.pcm.buffer]);
        this.filled = 0;
      }
    }

    return true;
  }
}

scope.registerProcessor("capture", Capture);
