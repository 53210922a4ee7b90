// Typesets TeX once, with MathJax: outlines for every painter, MathML for those who hear it. Loaded only where a formula is typed.

import { liteAdaptor } from "mathjax-full/js/adaptors/liteAdaptor.js";
import { SerializedMmlVisitor } from "mathjax-full/js/core/MmlTree/SerializedMmlVisitor.js";
import { STATE } from "mathjax-full/js/core/MathItem.js";
import type { MmlNode } from "mathjax-full/js/core/MmlTree/MmlNode.js";
import { RegisterHTMLHandler } from "mathjax-full/js/handlers/html.js";
import { TeX } from "mathjax-full/js/input/tex.js";
import "mathjax-full/js/input/tex/ams/AmsConfiguration.js";
import "mathjax-full/js/input/tex/mhchem/MhchemConfiguration.js";
import { mathjax } from "mathjax-full/js/mathjax.js";
import { SVG } from "mathjax-full/js/output/svg.js";

const adaptor = liteAdaptor();
RegisterHTMLHandler(adaptor);

// Without a cache of glyphs every outline stands in the formula itself, so it can be kept by itself.
const typesetter = mathjax.document("", {
  InputJax: new TeX({ packages: ["base", "ams", "mhchem"], formatError: (_: unknown, error: { message: string }) => { throw new Error(error.message); } }),
  OutputJax: new SVG({ fontCache: "none" }),
});
const markup = new SerializedMmlVisitor();

export interface Typeset {
  svg: string;
  mathMl: string;
}

/** @throws When the TeX can't be read; the message says where. */
export function typeset(tex: string): Typeset {
  if (tex.trim() === "") {
    throw new Error("there is nothing in it yet");
  }

  const container = typesetter.convert(tex, { display: true }) as never;
  const svg = adaptor.outerHTML(adaptor.firstChild(container) as never);
  const tree = typesetter.convert(tex, { display: true, end: STATE.CONVERT }) as MmlNode;
  return { svg, mathMl: markup.visitTree(tree) };
}
