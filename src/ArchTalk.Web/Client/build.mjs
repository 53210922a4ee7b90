// Builds everything under wwwroot/app: scripts by esbuild, styles by Tailwind, fonts and icons from their packages.
import { build } from "esbuild";
import { execFileSync } from "node:child_process";
import { copyFileSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const client = dirname(fileURLToPath(import.meta.url));
const root = dirname(client);
const out = join(root, "wwwroot", "app");
rmSync(out, { recursive: true, force: true });
mkdirSync(join(out, "fonts"), { recursive: true });

// Pages share chunks; the worker and the worklet run where no other file can be imported.
const common = { bundle: true, minify: true, format: "esm", target: "es2022", legalComments: "none", logLevel: "warning" };
const pages = readdirSync(join(client, "pages")).map((name) => join(client, "pages", name));
await build({ ...common, entryPoints: pages, outdir: out, splitting: true, chunkNames: "chunk-[hash]" });
await build({ ...common, entryPoints: [join(client, "record/capture-worker.ts"), join(client, "record/capture-worklet.ts")], outdir: out });

execFileSync(
  process.execPath,
  [join(root, "node_modules/@tailwindcss/cli/dist/index.mjs"), "-i", join(client, "site.css"), "-o", join(out, "site.css"), "--minify"],
  { cwd: root, stdio: ["ignore", "ignore", "pipe"] });

const fonts = [
  ["atkinson-hyperlegible-next", ["400", "600", "700"]],
  ["source-serif-4", ["400", "600"]],
];
for (const [family, weights] of fonts) {
  for (const weight of weights) {
    for (const script of ["latin", "latin-ext"]) {
      const name = `${family}-${script}-${weight}-normal.woff2`;
      copyFileSync(join(root, "node_modules/@fontsource", family, "files", name), join(out, "fonts", name));

      // The server measures writing with the same face; it reads the older form.
      const measured = name.replace(/2$/, "");
      copyFileSync(join(root, "node_modules/@fontsource", family, "files", measured), join(out, "fonts", measured));
    }
  }
}

const icons = readFileSync(join(client, "icons.txt"), "utf8").split(/\s+/).filter(Boolean);
const symbols = icons.map((name) => {
  const svg = readFileSync(join(root, "node_modules/lucide-static/icons", `${name}.svg`), "utf8");
  const inner = svg.slice(svg.indexOf(">", svg.indexOf("<svg")) + 1, svg.lastIndexOf("</svg>")).trim();
  return `<symbol id="${name}" viewBox="0 0 24 24">${inner}</symbol>`;
});
writeFileSync(join(out, "icons.svg"), `<svg xmlns="http://www.w3.org/2000/svg">${symbols.join("")}</svg>`);
copyFileSync(join(client, "test-voice.m4a"), join(out, "test-voice.m4a"));
writeFileSync(join(out, "stamp.txt"), "");
