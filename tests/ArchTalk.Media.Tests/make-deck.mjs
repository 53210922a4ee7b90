// Writes a deck with a general-purpose library from npm: titles, notes, links, alternative texts, a hidden slide.
import { createRequire } from "node:module";
import { writeFileSync } from "node:fs";

const [, , packages, target] = process.argv;
const Deck = createRequire(packages)("pptxgenjs");
const pixel = "image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==";
const deck = new Deck();
deck.defineSlideMaster({ title: "TALK", objects: [{ placeholder: { options: { name: "head", type: "title", x: 0.5, y: 0.3, w: 9, h: 1 }, text: "" } }] });

const first = deck.addSlide({ masterName: "TALK" });
first.addText("Why a dome stands", { placeholder: "head" });
first.addNotes("Begin with the question.\nWait three seconds.");
first.addText([{ text: "A model: " }, { text: "hanging chain", options: { hyperlink: { url: "https://example.org/chain?a=1&b=2" } } }], { x: 1, y: 2, w: 6, h: 1 });

const second = deck.addSlide({ masterName: "TALK" });
second.addText("Hoops", { placeholder: "head" });
second.addImage({ data: pixel, x: 1, y: 2, w: 2, h: 2, altText: "A dome cut in half, its hoops marked" });

const hidden = deck.addSlide({ masterName: "TALK" });
hidden.addText("For the teacher only", { placeholder: "head" });
hidden.hidden = true;

writeFileSync(target, await deck.write({ outputType: "nodebuffer" }));
