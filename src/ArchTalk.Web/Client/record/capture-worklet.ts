// Runs on the audio thread: mixes the microphone to mono, counts every sample it receives, and hands blocks of 20 ms
// straight to the worker that writes the journal. While paused it goes on counting and sends no sound: suspending the
// audio would shift everything after it.

interface WorkletScope {
  registerProcessor(name: string, processor: unknown): void;
  AudioWorkletProcessor: new () => { port: MessagePort };
}

const scope = globalThis as unknown as WorkletScope;
const blockLength = 960;

export interface Block {
  /** Index of the first sample after this block. */
  end: number;
  /** 16-bit samples; null while paused. */
  pcm: Int16Array<ArrayBuffer> | null;
  /** Greatest and mean level, 0 to 1. */
  peak: number;
  rms: number;
  /** Set on the first block after a change: the sample at which the pause began or ended. */
  paused?: number;
  resumed?: number;
}

class Capture extends scope.AudioWorkletProcessor {
  private target: MessagePort | null = null;
  private block = new Float32Array(blockLength);
  private filled = 0;
  private received = 0;
  private gated = false;

  constructor() {
    super();
    this.port.onmessage = (message: MessageEvent<{ target?: MessagePort; gate?: boolean }>) => {
      if (message.data.target) {
        this.target = message.data.target;
      }

      if (message.data.gate !== undefined && message.data.gate !== this.gated) {
        this.send(message.data.gate ? { paused: this.received } : { resumed: this.received });
        this.gated = message.data.gate;
      }
    };
  }

  process(inputs: Float32Array[][]): boolean {
    const channels = inputs[0];
    const length = channels?.[0]?.length ?? 0;
    for (let i = 0; i < length; i++) {
      let sum = 0;
      for (const channel of channels!) {
        sum += channel[i]!;
      }

      this.block[this.filled++] = sum / channels!.length;
      this.received++;
      if (this.filled === blockLength) {
        this.send({});
      }
    }

    return true;
  }

  private send(change: { paused?: number; resumed?: number }): void {
    let peak = 0;
    let square = 0;
    const pcm = new Int16Array(this.filled);
    for (let i = 0; i < this.filled; i++) {
      const value = this.block[i]!;
      peak = Math.max(peak, Math.abs(value));
      square += value * value;
      pcm[i] = Math.max(-32768, Math.min(32767, Math.round(value * 32767)));
    }

    const block: Block = {
      end: this.received,
      pcm: this.gated ? null : pcm,
      peak,
      rms: this.filled > 0 ? Math.sqrt(square / this.filled) : 0,
      ...change,
    };
    this.target?.postMessage(block, [pcm.buffer]);
    this.filled = 0;
  }
}

scope.registerProcessor("capture", Capture);
