// Microphones as browsers have them, and the test voice, which is a stream like any other.

import type { OpenMicrophone, WorkerPort } from "./session";

export const testVoice = "test-voice";

/** What can be chosen as a microphone. */
export interface Microphone {
  id: string;
  name: string;
}

/** Off, since they change the voice and its timing; read back, since a browser may not obey. */
const plain = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };

/** Frames of 10 ms that wait while the worker stands still; with the browser's own tenth of a second sound was lost. */
const keptFrames = 1000;
const levelEveryMs = 80;

/** How much later the audio graph gives a sound than the track itself, in ms: measured as 10 to 19 in Chromium 156, more on a busy machine. */
const graphDelayMs = 12;

export function canRecord(): boolean {
  return window.isSecureContext && "mediaDevices" in navigator;
}

/** The microphones there are; asks for permission, since they have no names before. */
export async function microphones(): Promise<Microphone[]> {
  const asked = await navigator.mediaDevices.getUserMedia({ audio: plain });
  const found = await knownMicrophones();
  asked.getTracks().forEach((track) => track.stop());
  return found;
}

/** Those that can be told apart without asking. */
export async function knownMicrophones(): Promise<Microphone[]> {
  const devices = await navigator.mediaDevices.enumerateDevices();
  return devices.filter((d) => d.kind === "audioinput").map((d, i) => ({ id: d.deviceId, name: d.label || `Microphone ${i + 1}` }));
}

/** Whether the browser gives out a track's own frames. */
function givesFrames(): boolean {
  return "MediaStreamTrackProcessor" in window;
}

export interface Scripts {
  worklet: string;
  voice: string;
}

/** @param level Told how loud it is, several times a second. */
export async function openMicrophone(
  id: string, scripts: Scripts, lost: (cause: "unplugged" | "muted") => void, level: (peak: number, rms: number) => void,
): Promise<OpenMicrophone> {
  const context = new AudioContext({ latencyHint: "interactive" });
  try {
    const isTestVoice = id === testVoice;
    const stream = isTestVoice
      ? await speak(context, scripts.voice)
      : await navigator.mediaDevices.getUserMedia({ audio: { ...plain, channelCount: 1, deviceId: id } });
    return new StreamMicrophone(context, stream, isTestVoice, scripts.worklet, lost, level);
  } catch (error) {
    void context.close();
    throw error;
  }
}

async function speak(context: AudioContext, file: string): Promise<MediaStream> {
  const answer = await fetch(file);
  const voice = context.createBufferSource();
  voice.buffer = await context.decodeAudioData(await answer.arrayBuffer());
  voice.loop = true;
  const destination = context.createMediaStreamDestination();
  voice.connect(destination);
  voice.start();
  return destination.stream;
}

class StreamMicrophone implements OpenMicrophone {
  private readonly source: MediaStreamAudioSourceNode;
  private readonly stopMeter: () => void;

  constructor(
    private readonly context: AudioContext,
    private readonly stream: MediaStream,
    readonly isTestVoice: boolean,
    private readonly worklet: string,
    lost: (cause: "unplugged" | "muted") => void,
    level: (peak: number, rms: number) => void,
  ) {
    void context.resume();
    this.track.addEventListener("ended", () => lost("unplugged"));
    this.track.addEventListener("mute", () => lost("muted"));
    this.source = context.createMediaStreamSource(stream);
    this.stopMeter = this.meter(level);
  }

  describe() {
    const settings = this.track.getSettings() as MediaTrackSettings & { latency?: number };
    return {
      deviceRate: settings.sampleRate ?? 48_000,
      inputOffsetMs: Math.round((settings.latency ?? 0) * 10_000) / 10 + (givesFrames() ? 0 : graphDelayMs),
      microphone: this.track.label,
      echoCancellation: settings.echoCancellation === true,
      noiseSuppression: settings.noiseSuppression === true,
      autoGainControl: settings.autoGainControl === true,
      isTestVoice: this.isTestVoice,
    };
  }

  async connect(worker: WorkerPort): Promise<void> {
    if (givesFrames()) {
      const frames = new MediaStreamTrackProcessor({ track: this.track, maxBufferSize: keptFrames }).readable;
      worker.post({ say: "read", frames }, [frames]);
      return;
    }

    if (!this.context.audioWorklet) {
      throw new Error("This browser records over HTTPS only. Ask whoever runs Arch Talk to set it up; everything else works meanwhile.");
    }

    await this.context.audioWorklet.addModule(this.worklet);
    const node = new AudioWorkletNode(this.context, "capture", { numberOfInputs: 1, numberOfOutputs: 0 });
    const channel = new MessageChannel();
    worker.post({ say: "listen", port: channel.port2 }, [channel.port2]);
    node.port.postMessage(channel.port1, [channel.port1]);
    this.source.connect(node);
  }

  close(): void {
    this.stopMeter();
    this.source.disconnect();
    this.stream.getTracks().forEach((track) => track.stop());
    void this.context.close();
  }

  private get track(): MediaStreamAudioTrack {
    return this.stream.getAudioTracks()[0] as MediaStreamAudioTrack;
  }

  private meter(level: (peak: number, rms: number) => void): () => void {
    const analyser = this.context.createAnalyser();
    analyser.fftSize = 2048;
    this.source.connect(analyser);
    const values = new Float32Array(analyser.fftSize);
    const timer = setInterval(() => {
      analyser.getFloatTimeDomainData(values);
      const peak = values.reduce((most, v) => Math.max(most, Math.abs(v)), 0);
      level(peak, Math.sqrt(values.reduce((sum, v) => sum + v * v, 0) / values.length));
    }, levelEveryMs);
    return () => clearInterval(timer);
  }
}
