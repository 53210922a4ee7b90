import { extended } from "../shared/alpine";
import { call, sendFile } from "../shared/api";
import { newId } from "../shared/ids";
import { pickedFiles } from "../shared/picked";
import { api, type Link, linksFound, page } from "./page";
import { listOf } from "./section";

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

const blank = (): Reference => ({ id: newId(), kind: "web", title: "", address: "", pages: "", note: "", accessed: "", stored: "", fileName: "" });
const today = () => new Date().toLocaleDateString("sv");

export const references = () => {
  const base = listOf<Reference>("References", blank);
  const init = base.init;
  return extended(base, {
    proposed: [] as Link[],

    init() {
      init.call(this);
      window.addEventListener(linksFound, (e) => (this.proposed = (e as CustomEvent<Link[]>).detail));
    },

    isWeb: (item: Reference) => item.kind === "web" || item.kind === "tool",
    isBook: (item: Reference) => item.kind === "book" || item.kind === "exercise",
    pagesWord: (item: Reference) => (item.kind === "exercise" ? "Page and number" : "Pages"),
    isFile: (item: Reference) => item.kind === "file",
    hasFile: (item: Reference) => item.stored !== "",
    fileLink: (item: Reference) => `/lessons/${page.lesson}/attachments/${item.stored}`,

    async takeLink(link: Link) {
      this.form.items.push({ ...blank(), title: link.title || link.address, address: link.address, accessed: today() });
      await this.section.save();
      this.proposed = this.proposed.filter((l) => l.address !== link.address);
    },

    async dismissLink(link: Link) {
      await this.attempt(async () => {
        await call("POST", `${api}/links/dismiss`, { address: link.address });
        this.proposed = this.proposed.filter((l) => l.address !== link.address);
      });
    },

    hasProposed(): boolean {
      return this.proposed.length > 0;
    },

    async pickFile(item: Reference, event: Event) {
      const [file] = pickedFiles(event);
      if (file) {
        await this.attempt(async () => {
          this.status = "Sending…";
          this.isFault = false;
          const kept = await sendFile<{ stored: string; fileName: string }>("POST", `${api}/attachments`, file);
          Object.assign(item, { ...kept, title: item.title || kept.fileName });
          await this.section.save();
        });
      }
    },
  });
};
