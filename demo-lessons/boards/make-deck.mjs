// Writes the deck of the second lesson: slides with titles, notes, a link and alternative texts, and one slide hidden.
import { createRequire } from "node:module";
import { readFileSync, writeFileSync } from "node:fs";

const Deck = createRequire(new URL("../../src/ArchTalk.Web/package.json", import.meta.url))("pptxgenjs");
const picture = (name) => `image/svg+xml;base64,${readFileSync(new URL(name, import.meta.url)).toString("base64")}`;
const ink = "1E2A2B";
const deck = new Deck();
deck.layout = "LAYOUT_16x9";
deck.defineSlideMaster({
  title: "TALK",
  background: { color: "FFFFFF" },
  objects: [{ placeholder: { options: { name: "head", type: "title", x: 0.6, y: 0.35, w: 8.8, h: 0.8, fontFace: "Noto Sans", fontSize: 30, bold: true, color: ink, align: "left" }, text: "" } }],
});
const slide = (title, notes) => {
  const made = deck.addSlide({ masterName: "TALK" });
  made.addText(title, { placeholder: "head" });
  made.addNotes(notes);
  return made;
};
const lines = (made, texts, y = 1.5, w = 8.8) => made.addText(
  texts.map((text) => ({ text, options: { bullet: true, breakLine: true } })),
  { x: 0.6, y, w, h: 3, fontFace: "Noto Sans", fontSize: 22, color: ink, valign: "top", paraSpaceAfter: 10 });

lines(slide("A dome is an arch turned round", "Turn the paper arch round its keystone while saying it.\nAsk: what has become of the voussoirs? Wait three seconds."),
  ["Take an arch and turn it round its middle.", "Its stones become rings: the hoops.", "The rings lock, so no scaffold is needed for long."]);
const pulled = slide("Where stone is pulled", "Cracks run upwards from the foot. Show it on the section, next board.");
lines(pulled, ["Above: hoops are squeezed. Stone likes that.", "Below: hoops are pulled. Stone cracks.", "The change lies about 52° from the top."], 1.5, 5.4);
pulled.addImage({ data: picture("8-section-of-a-dome.svg"), x: 6, y: 1.7, w: 3.6, h: 2.025, altText: "A dome cut through the middle, standing on two walls with a chain at its foot" });
const ways = slide("Three ways to hold the foot", "They may choose one for the task. Mention the page to play with.");
lines(ways, ["A heavy wall under it", "A chain or ring round it", "Half domes leaning on it"]);
ways.addText([{ text: "A dome to take apart: a model to play with", options: { hyperlink: { url: "https://example.org/dome-model" } } }],
  { x: 0.6, y: 4.4, w: 8, h: 0.6, fontFace: "Noto Sans", fontSize: 18 });
const spare = slide("Spare: who computed the rings first", "Only if somebody asks.");
lines(spare, ["Left out this year."]);
spare.hidden = true;
writeFileSync(new URL("dome-slides.pptx", import.meta.url), await deck.write({ outputType: "nodebuffer" }));
