import { component, start } from "../shared/alpine";
import { call, messageOf } from "../shared/api";
import { pageData } from "../shared/page-data";

interface Job {
  id: string;
  state: string;
  done: number;
  total: number;
  message: string;
}

const page = pageData<{ lesson: string; link: string }>("page-data");
const api = `/api/lessons/${page.lesson}`;
const lookAgainMs = 500;
const parts = ["Compiling the lesson", "Copying the boards", "Bringing the voice to one level and encoding it", "Writing chapters and words", "Done"];

const publish = () =>
  component({
    job: null as Job | null,
    fault: "",
    copied: false,

    async init() {
      const jobs = await call<Job[]>("GET", `${api}/publish/jobs`);
      const active = jobs.find((j) => j.state === "waiting" || j.state === "running");
      if (active) {
        this.job = active;
        this.watch();
      }
    },

    get isBusy(): boolean {
      return this.job !== null;
    },

    get part(): string {
      return this.job?.state === "waiting" ? "Waiting for other work to finish" : (parts[this.job?.done ?? 0] ?? "");
    },

    get done(): number {
      return this.job?.done ?? 0;
    },

    async publish() {
      try {
        this.fault = "";
        await call("POST", `${api}/publish`);
        this.job = { id: "", state: "waiting", done: 0, total: 4, message: "" };
        this.watch();
      } catch (error) {
        this.fault = messageOf(error);
      }
    },

    watch() {
      setTimeout(() => void this.look(), lookAgainMs);
    },

    async look() {
      try {
        const job = (await call<Job[]>("GET", `${api}/publish/jobs`)).at(-1);
        if (!job || job.state === "done") {
          location.reload();
        } else if (job.state === "failed" || job.state === "cancelled") {
          this.job = null;
          this.fault = job.message || "Publishing was cancelled. Nothing was changed for students.";
          await call("DELETE", `${api}/jobs/${job.id}`);
        } else {
          this.job = job;
          this.watch();
        }
      } catch (error) {
        this.fault = messageOf(error);
        this.watch();
      }
    },

    async cancel() {
      if (this.job?.id) {
        await call("POST", `${api}/jobs/${this.job.id}/cancel`);
      }
    },

    async withdraw() {
      await this.change("withdraw");
    },

    async reopen() {
      await this.change("reopen");
    },

    async change(what: string) {
      try {
        await call("POST", `${api}/${what}`);
        location.reload();
      } catch (error) {
        this.fault = messageOf(error);
      }
    },

    async copy() {
      await navigator.clipboard.writeText(page.link);
      this.copied = true;
    },

    get copyWord(): string {
      return this.copied ? "Copied" : "Copy the link";
    },
  });

start({ publish });
