// Typesets the demo's formula with the application's own typesetter, as a browser would.
import { createRequire } from "node:module";
import { writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";

const web = new URL("../../src/ArchTalk.Web/", import.meta.url);
const { build } = createRequire(new URL("package.json", web))("esbuild");
const bundle = await build({
  entryPoints: [fileURLToPath(new URL("Client/board/formula.ts", web))], bundle: true, format: "esm", platform: "node", write: false, logLevel: "warning",
});
const { typeset } = await import(`data:text/javascript;base64,${Buffer.from(bundle.outputFiles[0].contents).toString("base64")}`);
const tex = "F = \\frac{240\\,\\mathrm{kN}}{4} = 60\\,\\mathrm{kN}";
writeFileSync(new URL("formula.json", import.meta.url), `${JSON.stringify({ tex, ...typeset(tex) })}\n`);
