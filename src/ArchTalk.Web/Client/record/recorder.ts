// The microphone and the take it is recorded to, as the Record page uses them.

import type { BoardEvent } from "../journal/events";
import type { FromWorker, OpenTake, SegmentStart, ToWorker } from "./messages";

export const testVoice = "test-voice";

export interface RecorderNews {
  level(peak: number, rms: number): void;
  recorded(ms: number): void;
  saved(ms: number): void;
  waiting(records: number, reachable: boolean): void;
  fenced(): void;
  refused(message: string): void;
  checked(sent: number): void;
  elsewhere(): void;
  /** The microphone went away (unplugged, taken by the system); recording is paused. */
  microphoneLost(): void;
}

/** What can be chosen as a microphone. */
export interface Microphone {
  id: string;
  name: string;
}

/** Off, since they change the voice and its timing; read back, since a browser may not obey. */
const plain = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };

/** Frames of 10 ms that wait while the worker stands still; with the browser's own tenth of a second sound was lost. */
const keptFrames = 1000;

export class Recorder {
  private readonly worker: Worker;
  private context: AudioContext | null = null;
  private isRecording = false;
  private isNewMicrophone = false;
  private stream: MediaStream | null = null;
  private source: AudioNode | null = null;
  private nextSegment = 0;
  private ended: (() => void) | null = null;

  constructor(
    private readonly scripts: { worker: string; worklet: string; voice: string },
    private readonly news: RecorderNews,
  ) {
    this.worker = new Worker(scripts.worker, { type: "module" });
    this.worker.onmessage = (message: MessageEvent<FromWorker>) => this.hear(message.data);
  }

  /** Sends what an earlier tab left unsent. */
  check(lesson: string): void {
    this.tell({ say: "check", lesson });
  }

  static get canRecord(): boolean {
    return window.isSecureContext && "mediaDevices" in navigator;
  }

  /** The microphones there are; asks for permission, since they have no names before. */
  static async microphones(): Promise<Microphone[]> {
    const asked = await navigator.mediaDevices.getUserMedia({ audio: plain });
    const devices = await navigator.mediaDevices.enumerateDevices();
    asked.getTracks().forEach((track) => track.stop());
    return devices
      .filter((d) => d.kind === "audioinput")
      .map((d, i) => ({ id: d.deviceId, name: d.label || `Microphone ${i + 1}` }));
  }

  /** Opens a microphone and listens, without recording: the volume is shown from now on. */
  async listen(id: string): Promise<void> {
    this.release();
    this.isNewMicrophone = true;
    this.context ??= new AudioContext({ sampleRate: 48_000, latencyHint: "interactive" });
    const context = this.context;
    await context.resume();
    this.stream = id === testVoice ? await this.speak(context) : await navigator.mediaDevices.getUserMedia({ audio: { ...plain, channelCount: 1, deviceId: id } });
    this.stream.getAudioTracks()[0]!.addEventListener("ended", () => this.news.microphoneLost());
    const source = context.createMediaStreamSource(this.stream);
    this.source = source;
    const meter = context.createAnalyser();
    source.connect(meter);
    this.meter(meter);
  }

  /** Begins to record what is heard, as the next segment of the take. */
  async begin(lesson: string, take: OpenTake): Promise<void> {
    this.tell({ say: "open", lesson, take, pageOrigin: performance.timeOrigin });
    this.nextSegment = take.nextSegment;
    void navigator.storage?.persist?.();
    await this.beginSegment();
  }

  /** Goes on after a pause; another microphone, or the same one after it was lost, begins a new segment. */
  async resume(): Promise<void> {
    if (this.isNewMicrophone) {
      await this.beginSegment();
    }

    this.setPaused(false);
  }

  private async beginSegment(): Promise<void> {
    this.tell({ say: "segment", start: this.describe() });
    if ("MediaStreamTrackProcessor" in window) {
      const track = this.stream!.getAudioTracks()[0] as MediaStreamAudioTrack;
      const frames = new MediaStreamTrackProcessor({ track, maxBufferSize: keptFrames }).readable;
      this.tell({ say: "read", frames }, [frames]);
    } else {
      await this.listenThroughWorklet();
    }

    this.isRecording = true;
    this.isNewMicrophone = false;
  }

  /** Something was done on the boards. */
  happened(event: BoardEvent): void {
    this.tell({ say: "event", event });
  }

  /** Stops or continues to keep sound; the microphone goes on being heard, so that nothing shifts. */
  setPaused(paused: boolean): void {
    this.tell({ say: "gate", paused });
  }

  /** Ends the take; resolves when everything is on the server. */
  async end(): Promise<void> {
    const done = new Promise<void>((resolve) => (this.ended = resolve));
    this.tell({ say: "end" });
    this.isRecording = false;
    await done;
    this.release();
  }

  /** Lets go of the microphone. */
  release(): void {
    this.source?.disconnect();
    this.stream?.getTracks().forEach((track) => track.stop());
    this.stream = null;
    this.source = null;
  }

  private async listenThroughWorklet(): Promise<void> {
    const context = this.context!;
    await context.audioWorklet.addModule(this.scripts.worklet);
    const node = new AudioWorkletNode(context, "capture", { numberOfInputs: 1, numberOfOutputs: 0 });
    const channel = new MessageChannel();
    this.tell({ say: "listen", port: channel.port2 }, [channel.port2]);
    node.port.postMessage(channel.port1, [channel.port1]);
    this.source!.connect(node);
  }

  private describe(): SegmentStart {
    const track = this.stream!.getAudioTracks()[0]!;
    const settings = track.getSettings() as MediaTrackSettings & { latency?: number };
    return {
      segment: this.nextSegment++,
      deviceRate: settings.sampleRate ?? 48_000,
      inputOffsetMs: Math.round((settings.latency ?? 0) * 10_000) / 10,
      microphone: track.label,
      echoCancellation: settings.echoCancellation === true,
      noiseSuppression: settings.noiseSuppression === true,
      autoGainControl: settings.autoGainControl === true,
    };
  }

  /** The simulated microphone: a recorded voice as a stream like any other. */
  private async speak(context: AudioContext): Promise<MediaStream> {
    const file = await fetch(this.scripts.voice);
    const voice = context.createBufferSource();
    voice.buffer = await context.decodeAudioData(await file.arrayBuffer());
    voice.loop = true;
    const destination = context.createMediaStreamDestination();
    voice.connect(destination);
    voice.start();
    return destination.stream;
  }

  // While nothing is recorded the page measures the volume itself.
  private meter(analyser: AnalyserNode): void {
    const values = new Float32Array(analyser.fftSize);
    const source = this.source;
    const timer = setInterval(() => {
      if (this.source !== source) {
        clearInterval(timer);
      } else if (!this.isRecording) {
        analyser.getFloatTimeDomainData(values);
        const peak = values.reduce((most, v) => Math.max(most, Math.abs(v)), 0);
        this.news.level(peak, Math.sqrt(values.reduce((sum, v) => sum + v * v, 0) / values.length));
      }
    }, 80);
  }

  private hear(message: FromWorker): void {
    switch (message.say) {
      case "level":
        this.news.level(message.peak, message.rms);
        break;
      case "recorded":
        this.news.recorded(message.ms);
        break;
      case "saved":
        this.news.saved(message.ms);
        break;
      case "waiting":
        this.news.waiting(message.records, message.reachable);
        break;
      case "fenced":
        this.news.fenced();
        break;
      case "refused":
        this.news.refused(message.message);
        break;
      case "checked":
        this.news.checked(message.sent);
        break;
      case "elsewhere":
        this.news.elsewhere();
        break;
      case "ended":
        this.ended?.();
        break;
    }
  }

  private tell(message: ToWorker, transfer: Transferable[] = []): void {
    this.worker.postMessage(message, transfer);
  }
}
