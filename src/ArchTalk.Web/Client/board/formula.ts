// Typesets TeX once, with MathJax: outlines for every painter, MathML for those who hear it. Loaded only where a formula is typed.

import { liteAdaptor } from "mathjax-full/js/adaptors/liteAdaptor.js";
import { getRange } from "mathjax-full/js/core/MmlTree/OperatorDictionary.js";
import { SerializedMmlVisitor } from "mathjax-full/js/core/MmlTree/SerializedMmlVisitor.js";
import { STATE } from "mathjax-full/js/core/MathItem.js";
import type { MmlNode } from "mathjax-full/js/core/MmlTree/MmlNode.js";
import { RegisterHTMLHandler } from "mathjax-full/js/handlers/html.js";
import { TeX } from "mathjax-full/js/input/tex.js";
import "mathjax-full/js/input/tex/ams/AmsConfiguration.js";
import "mathjax-full/js/input/tex/cancel/CancelConfiguration.js";
import "mathjax-full/js/input/tex/color/ColorConfiguration.js";
import "mathjax-full/js/input/tex/enclose/EncloseConfiguration.js";
import "mathjax-full/js/input/tex/mhchem/MhchemConfiguration.js";
import "mathjax-full/js/input/tex/textmacros/TextMacrosConfiguration.js";
import { mathjax } from "mathjax-full/js/mathjax.js";
import { SVG } from "mathjax-full/js/output/svg.js";
import { family } from "../ink/drawing";

/** Says how wide writing in the boards' faces is, in ems. */
export type Measure = (text: string) => number;

export interface Typeset {
  svg: string;
  mathMl: string;
}

const adaptor = liteAdaptor();
RegisterHTMLHandler(adaptor);
const packages = ["base", "ams", "mhchem", "color", "cancel", "enclose", "textmacros"];

/** Writing within a formula is as large as its letters: both have lower-case letters of one height (MathJax's own figure). */
const writingEm = 0.884;
const markup = new SerializedMmlVisitor();
let measureNow: Measure = onCanvas;

// What TeX's own faces lack, and all that stands in \text, is set in the boards' faces and measured there.
class BoardSvg extends SVG<never, never, never> {
  override measureTextNode(text: never): { w: number; h: number; d: number } {
    return { w: writingEm * measureNow(adaptor.textContent(text)), h: 0.75, d: 0.2 };
  }
}

// Without a cache of glyphs every outline stands in the formula itself, so it can be kept by itself.
const typesetter = mathjax.document("", {
  InputJax: new TeX({ packages, formatError: (_: unknown, error: { message: string }) => { throw new Error(error.message); } }),
  OutputJax: new BoardSvg({ fontCache: "none", mtextFont: "boards" }),
});

/** @throws When the TeX can't be read; the message says what and where. */
export function typeset(tex: string, measure: Measure = onCanvas): Typeset {
  if (tex.trim() === "") {
    throw new Error("there is nothing in it yet");
  }

  measureNow = measure;
  const plain = asTex(tex);
  try {
    const container = typesetter.convert(plain, { display: true }) as never;
    const svg = adaptor.outerHTML(adaptor.firstChild(container) as never);
    const tree = typesetter.convert(plain, { display: true, end: STATE.CONVERT }) as MmlNode;
    return { svg, mathMl: markup.visitTree(tree) };
  } catch (error) {
    throw new Error(said(error instanceof Error ? error.message : String(error), tex), { cause: error });
  }
}

// A sum of money is a sum of money: a dollar sign outside of writing is one, and signs that TeX knows no place for are writing.
function asTex(tex: string): string {
  let open = 0;
  let isText = false;
  return [...tex].map((c, i, all) => {
    if (isText && c === "{" && all[i - 1] !== "\\") {
      open++;
    } else if (isText && c === "}" && all[i - 1] !== "\\") {
      isText = --open > 0;
    } else if (!isText && c === "{" && /\\(text\w*|mbox|hbox)\s*$/.test(all.slice(0, i).join(""))) {
      [isText, open] = [true, 1];
    } else if (!isText && c === "$" && all[i - 1] !== "\\") {
      return "\\$";
    } else if (!isText && c > "\u007f" && !/\s/.test(c) && !getRange(c)) {
      return `\\text{${c}}`;
    }

    return c;
  }).join("");
}

// What the typesetter says, and near which part of what was typed it is.
function said(message: string, tex: string): string {
  const command = /\\[A-Za-z]+/.exec(message)?.[0];
  const at = command ? tex.indexOf(command) : brace(tex);
  return at < 0 ? message : `${message}, near “${tex.slice(Math.max(0, at - 8), at + (command?.length ?? 1) + 8).trim()}” (character ${at + 1})`;
}

/** Where the first bracket stands that isn't closed, or that closes none; -1 when all fit. */
function brace(tex: string): number {
  const open: number[] = [];
  for (let i = 0; i < tex.length; i++) {
    if (tex[i] === "\\") {
      i++;
    } else if (tex[i] === "{") {
      open.push(i);
    } else if (tex[i] === "}" && open.pop() === undefined) {
      return i;
    }
  }

  return open[0] ?? -1;
}

function onCanvas(text: string): number {
  const context = document.createElement("canvas").getContext("2d")!;
  context.font = `400 100px ${family}`;
  return context.measureText(text).width / 100;
}
