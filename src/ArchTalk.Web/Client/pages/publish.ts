import { combined, part, start } from "../shared/alpine";
import { call } from "../shared/api";
import { type Faults, faults } from "../shared/faults";
import { Following, isActive, type Job, leftWords } from "../shared/jobs";
import { type Loading, loading } from "../shared/loading";
import { pageData } from "../shared/page-data";

interface PublishPage extends Faults, Loading, ReturnType<typeof publish> {}

const page = pageData<{ lesson: string; link: string; isWithdrawn: boolean }>("page-data");
const api = `/api/lessons/${page.lesson}`;

const publish = () =>
  part<PublishPage>()({
    job: null as Job | null,
    isUnchanged: false,
    copied: "",
    following: null as Following | null,

    async init(): Promise<void> {
      this.following = new Following(() => this.look());
      await this.loadWith(async () => {
        this.job = (await call<Job[]>("GET", `${api}/publish/jobs`)).find(isActive) ?? null;
        if (this.job) {
          this.following?.again();
        }
      });
    },

    get isBusy(): boolean {
      return this.job !== null;
    },

    get part(): string {
      if (this.job?.state === "waiting") {
        return "Waiting for other work to finish";
      }

      return this.job ? `${this.job.message}${leftWords(this.job)}` : "";
    },

    get share(): number {
      return this.job && this.job.total > 0 ? this.job.done / this.job.total : 0;
    },

    async publish(): Promise<void> {
      let begun: { job: string | null } | null = null;
      this.isUnchanged = false;
      if (!(await this.attempt(async () => (begun = await call<{ job: string | null }>("POST", `${api}/publish`))))) {
        return;
      }

      // Nothing is published twice; a link that was closed is open again.
      if (begun!.job === null && page.isWithdrawn) {
        location.reload();
      } else if (begun!.job === null) {
        this.isUnchanged = true;
      } else {
        this.job = {
          id: "",
          kind: "publish",
          state: "waiting",
          title: "",
          done: 0,
          total: 0,
          message: "",
          secondsLeft: null,
          pictures: [],
        };
        this.following?.again();
      }
    },

    // A look that fails (the line was away) doesn't end the following: the work goes on without this page.
    async look(): Promise<boolean> {
      let job: Job | undefined;
      if (!(await this.attempt(async () => (job = (await call<Job[]>("GET", `${api}/publish/jobs`)).at(-1))))) {
        return true;
      }

      if (job && isActive(job)) {
        this.job = job;
        return true;
      }

      if (!job || job.state === "done") {
        location.reload();
        return false;
      }

      this.job = null;
      const { id, message } = job;
      await this.attempt(() => call("DELETE", `${api}/jobs/${id}`));
      this.fault = message || "Publishing was cancelled. Nothing was changed for students.";
      return false;
    },

    async cancel(): Promise<void> {
      const id = this.job?.id;
      if (id) {
        await this.attempt(() => call("POST", `${api}/jobs/${id}/cancel`));
      }
    },

    /** With or without what holds only this time: an edit of the lesson, which Refine shows and can undo. */
    async setTemporary(event: Event): Promise<void> {
      const isOut = !(event.target as HTMLInputElement).checked;
      await this.attempt(async () => {
        const { version } = await call<{ version: number }>("GET", `${api}/edits`);
        await call("POST", `${api}/edits`, { version, step: { do: "leaveOutTemporary", isOut } });
      });
      location.reload();
    },

    async withdraw(): Promise<void> {
      await this.change("withdraw");
    },

    async reopen(): Promise<void> {
      await this.change("reopen");
    },

    async keepOpen(event: Event): Promise<void> {
      await this.setKeptOpen(event, true);
    },

    async close(event: Event): Promise<void> {
      await this.setKeptOpen(event, false);
    },

    async setKeptOpen(event: Event, is: boolean): Promise<void> {
      const number = (event.currentTarget as HTMLElement).dataset["number"];
      if (await this.attempt(() => call("PUT", `${api}/publications/${number}/kept-open`, { is }))) {
        location.reload();
      }
    },

    async setFindable(event: Event): Promise<void> {
      const box = event.currentTarget as HTMLInputElement;
      if (!(await this.attempt(() => call("PUT", `${api}/findable`, { is: box.checked })))) {
        box.checked = !box.checked;
      }
    },

    async change(what: string): Promise<void> {
      if (await this.attempt(() => call("POST", `${api}/${what}`))) {
        location.reload();
      }
    },

    // Over plain HTTP a page may not write to the clipboard; then the link is selected, ready to be copied by hand.
    async copy(): Promise<void> {
      try {
        await navigator.clipboard.writeText(page.link);
        this.copied = "Copied";
      } catch {
        const range = document.createRange();
        range.selectNodeContents(this.$refs["link"]!);
        getSelection()?.removeAllRanges();
        getSelection()?.addRange(range);
        this.copied = "Selected: press Ctrl+C to copy it";
      }
    },

    get copyWord(): string {
      return this.copied || "Copy the link";
    },
  });

start({ publish: () => combined(faults(), loading(), publish()) });
