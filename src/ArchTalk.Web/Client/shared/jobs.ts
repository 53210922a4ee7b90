// Long work on the server, as pages follow it.

export interface Job {
  id: string;
  kind: string;
  state: string;
  title: string;
  done: number;
  total: number;
  message: string;
  secondsLeft: number | null;
  pictures: string[];
}

export function isActive(job: { state: string }): boolean {
  return job.state === "waiting" || job.state === "running";
}

/** ", about 20 s left", or nothing as long as that isn't known. */
export function leftWords(job: { secondsLeft: number | null }): string {
  const seconds = job.secondsLeft;
  return seconds === null ? "" : `, about ${seconds < 90 ? `${seconds} s` : `${Math.round(seconds / 60)} min`} left`;
}

const lookAgainMs = 700;

/** Looks at something again and again as long as there is work to follow; one look at a time. */
export class Following {
  private timer = 0;

  /** @param look Looks once, and says whether it is worth looking again. */
  constructor(private readonly look: () => Promise<boolean>) {}

  /** Looks again after a moment, unless it is about to anyway. */
  again(): void {
    if (this.timer === 0) {
      this.timer = window.setTimeout(() => void this.run(), lookAgainMs);
    }
  }

  private async run(): Promise<void> {
    this.timer = 0;
    if (await this.look()) {
      this.again();
    }
  }
}
