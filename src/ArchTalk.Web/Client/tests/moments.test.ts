import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { test } from "node:test";
import type { PlacementEntry } from "../timeline/files";
import { momentAt, placesOf } from "../timeline/moments";

interface Case {
  name: string;
  placements: PlacementEntry[];
  places: { take: string; sample: number; snap: number[]; drop: number[] }[];
  moments: { at: number; take: string; sample: number }[];
}

// The same file holds Arrangement in C# (ArchTalk.Core.Tests, PlacesCasesTests). Times in it are samples.
const cases = JSON.parse(readFileSync(join(process.cwd(), "../../tests/Shared/places.json"), "utf8")) as Case[];

for (const { name, placements, places, moments } of cases) {
  test(`where a moment is: ${name}`, () => {
    for (const { take, sample, snap, drop } of places) {
      assert.deepEqual(placesOf(placements, { take, sample }, "snap").map((ms) => ms * 48), snap, `${sample} snapped`);
      assert.deepEqual(placesOf(placements, { take, sample }, "drop").map((ms) => ms * 48), drop, `${sample} dropped`);
    }

    for (const { at, take, sample } of moments) {
      assert.deepEqual(momentAt(placements, at / 48), { take, sample }, `at ${at}`);
    }
  });
}
