// Bundles the client's tests and runs them in Node's test runner.
import { build } from "esbuild";
import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const tests = join(dirname(fileURLToPath(import.meta.url)), "tests");
const out = mkdtempSync(join(tmpdir(), "archtalk-client-"));
await build({
  entryPoints: readdirSync(tests).map((name) => join(tests, name)),
  outdir: out, bundle: true, format: "esm", platform: "node", outExtension: { ".js": ".mjs" }, logLevel: "warning",
});
const files = readdirSync(out).map((name) => join(out, name));
const run = spawnSync(process.execPath, ["--test", "--test-reporter=tap", ...files], { stdio: ["ignore", "pipe", "inherit"], encoding: "utf8" });
rmSync(out, { recursive: true, force: true });
const failed = run.status !== 0;
console.log(failed ? run.stdout : run.stdout.split("\n").filter((line) => /^# (tests|pass|fail) /.test(line)).join("\n"));
process.exit(failed ? 1 : 0);
