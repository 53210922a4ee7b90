import assert from "node:assert/strict";
import { test } from "node:test";
import { crc32c } from "../journal/crc32c";
import { audioPayload, encodeRecord, Kind, lostPayload } from "../journal/record";

// RFC 3720, B.4 (from memory).
test("CRC-32C gives the published check value", () => {
  assert.equal(crc32c(new TextEncoder().encode("123456789")), 0xe3069283);
  assert.equal(crc32c(new Uint8Array(32)), 0x8a9136aa);
});

test("a record is laid out as the format says", () => {
  const bytes = encodeRecord(Kind.lost, 3, 0x01020304, lostPayload(7));
  assert.deepEqual([...bytes.subarray(0, 16)], [4, 0, 0, 0, Kind.lost, 0, 3, 0, 4, 3, 2, 1, 7, 0, 0, 0]);
  assert.equal(new DataView(bytes.buffer).getUint32(16, true), crc32c(bytes.subarray(0, 16)));
});

test("sound is journalled with its segment and first sample", () => {
  const payload = audioPayload(2, 48_000, Int16Array.from([1, -2]));
  const view = new DataView(payload.buffer);
  assert.equal(view.getInt32(0, true), 2);
  assert.equal(view.getBigInt64(4, true), 48_000n);
  assert.deepEqual([view.getInt16(12, true), view.getInt16(14, true)], [1, -2]);
});
