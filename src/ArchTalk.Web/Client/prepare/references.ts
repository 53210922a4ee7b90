import { antiforgeryToken, call, messageOf } from "../shared/api";
import { api, type Link, linksFound, page } from "./page";
import { extended, listOf } from "./section";

interface Reference {
  id: string;
  kind: string;
  title: string;
  address: string;
  pages: string;
  note: string;
  accessed: string;
  stored: string;
  fileName: string;
}

type List = ReturnType<typeof listOf<Reference>>;

const blank = (): Reference => ({ id: crypto.randomUUID(), kind: "web", title: "", address: "", pages: "", note: "", accessed: "", stored: "", fileName: "" });
const today = () => new Date().toLocaleDateString("sv");

export const references = () => {
  const base = listOf<Reference>("References", blank);
  const init = base.init;
  return extended(base, {
    proposed: [] as Link[],

    init(this: List & { proposed: Link[] }) {
      init.call(this);
      window.addEventListener(linksFound, (e) => (this.proposed = (e as CustomEvent<Link[]>).detail));
    },

    isWeb: (item: Reference) => item.kind === "web",
    isBook: (item: Reference) => item.kind === "book",
    isFile: (item: Reference) => item.kind === "file",
    hasFile: (item: Reference) => item.stored !== "",
    fileLink: (item: Reference) => `/lessons/${page.lesson}/attachments/${item.stored}`,

    async takeLink(this: List & { proposed: Link[] }, link: Link) {
      this.form.items.push({ ...blank(), title: link.title || link.address, address: link.address, accessed: today() });
      await this.section.save();
      this.proposed = this.proposed.filter((l) => l.address !== link.address);
    },

    async dismissLink(this: List & { proposed: Link[] }, link: Link) {
      await call("POST", `${api}/links/dismiss`, { address: link.address });
      this.proposed = this.proposed.filter((l) => l.address !== link.address);
    },

    hasProposed(this: { proposed: Link[] }): boolean {
      return this.proposed.length > 0;
    },

    async pickFile(this: List, item: Reference, event: Event) {
      const input = event.currentTarget as HTMLInputElement;
      const file = input.files?.[0];
      input.value = "";
      if (!file) {
        return;
      }

      try {
        this.status = "Sending…";
        this.isFault = false;
        const answer = await fetch(`${api}/attachments`, {
          method: "POST", body: file, headers: { "X-Antiforgery": antiforgeryToken(), "X-File-Name": encodeURIComponent(file.name) },
        });
        const body = (await answer.json()) as { stored: string; fileName: string; message?: string };
        if (!answer.ok) {
          throw new Error(body.message ?? "The file could not be sent. Nothing was changed; try again.");
        }

        Object.assign(item, { stored: body.stored, fileName: body.fileName, title: item.title || body.fileName });
        await this.section.save();
      } catch (error) {
        this.status = messageOf(error);
        this.isFault = true;
      }
    },
  });
};
