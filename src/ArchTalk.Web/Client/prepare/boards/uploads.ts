import { part } from "../../shared/alpine";
import { call, messageOf, type Sending, sending } from "../../shared/api";
import { isActive, type Job, leftWords } from "../../shared/jobs";
import { pickedFiles } from "../../shared/picked";
import { api, page } from "../page";
import type { BoardsPage } from "./whole";

interface Upload {
  name: string;
  share: number;
  isStopped: boolean;
}

/** What is being sent; it must not be reactive. */
let current: Sending<unknown> | null = null;

/** Files on their way to the server, and what becomes of them there. */
export const uploads = () =>
  part<BoardsPage>()({
    jobs: [] as Job[],
    uploads: [] as Upload[],
    waiting: [] as File[],
    dropping: false,

    get isWorking(): boolean {
      return this.jobs.length + this.uploads.length + this.waiting.length > 0;
    },

    pick(event: Event): void {
      this.addFiles(pickedFiles(event));
    },

    over(): void {
      this.dropping = true;
    },

    out(): void {
      this.dropping = false;
    },

    drop(event: DragEvent): void {
      this.dropping = false;
      this.addFiles([...(event.dataTransfer?.files ?? [])]);
    },

    addFiles(files: File[]): void {
      this.waiting.push(...files);
      void this.sendNext();
    },

    // One at a time, so that the boards come in the order of the files.
    async sendNext(): Promise<void> {
      const file = this.uploads.length === 0 ? this.waiting.shift() : undefined;
      if (!file) {
        return;
      }

      if (file.size > page.limitMb * 1024 * 1024) {
        this.fault = `“${file.name}” is larger than ${page.limitMb} MB, so it was not sent. Save it in parts, or with smaller pictures.`;
      } else {
        await this.sendOne(file);
      }

      await this.sendNext();
    },

    async sendOne(file: File): Promise<void> {
      this.uploads.push({ name: file.name, share: 0, isStopped: false });
      const upload = this.uploads[0]!;
      current = sending("POST", `${api}/files`, file, (share) => (upload.share = share));
      try {
        await current.answer;
      } catch (error) {
        this.fault = upload.isStopped ? this.fault : `“${file.name}” could not be sent. ${messageOf(error)}`;
      }

      current = null;
      this.uploads = [];
      await this.look();
    },

    stopUpload(upload: Upload): void {
      upload.isStopped = true;
      current?.stop();
    },

    isActive(job: Job): boolean {
      return isActive(job);
    },

    progress(job: Job): string {
      if (job.state === "waiting") {
        return "waits";
      }

      const left = leftWords(job);
      const parts = job.total === 0 ? "" : job.kind === "film" ? `${job.done} %${left}` : `page ${job.done} of ${job.total}${left}`;
      return [job.message, parts].filter(Boolean).join(": ") || "reading";
    },

    async cancel(job: Job): Promise<void> {
      await this.change(() => call("POST", `${api}/jobs/${job.id}/cancel`));
    },

    async dismiss(job: Job): Promise<void> {
      await this.change(() => call("DELETE", `${api}/jobs/${job.id}`));
    },

    hasPictures(job: Job): boolean {
      return job.pictures.length > 0;
    },
  });
