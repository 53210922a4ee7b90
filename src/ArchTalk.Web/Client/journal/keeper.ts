// What the server hasn't acknowledged is kept in the browser, so that a closed tab or a dead battery loses nothing. Records are
// named as in the journal: take, epoch, sequence. So no writer can ever overwrite what another one left.

import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { SegmentStart } from "../record/messages";

/** One tab's run of writing to a take. */
export interface KeptWriter {
  take: string;
  epoch: number;
  lesson: string;
  token: string;
  /** When it began, in ms since 1970. */
  startedAt: number;
  /** The microphones it recorded with, so that what is left can be understood by itself. */
  segments: SegmentStart[];
}

export interface KeptRecord {
  sequence: number;
  bytes: Uint8Array<ArrayBuffer>;
}

export interface Keeper {
  putWriter(writer: KeptWriter): Promise<void>;
  writers(): Promise<KeptWriter[]>;
  /** Resolves when the record is kept as safely as this keeper can. */
  add(take: string, epoch: number, sequence: number, bytes: Uint8Array<ArrayBuffer>): Promise<void>;
  /** One record; undefined when the browser threw it away. */
  get(take: string, epoch: number, sequence: number): Promise<Uint8Array<ArrayBuffer> | undefined>;
  /** A writer's records from a sequence number on, in order. */
  rest(take: string, epoch: number, from?: number): Promise<KeptRecord[]>;
  /** Forgets a writer's records up to and with a sequence number: the server has them. */
  forget(take: string, epoch: number, through: number): Promise<void>;
  /** Forgets a writer with all that is left of it. */
  forgetWriter(take: string, epoch: number): Promise<void>;
}

interface Schema extends DBSchema {
  writers: { key: [string, number]; value: KeptWriter };
  named: { key: [string, number, number]; value: Uint8Array<ArrayBuffer> };
}

/** In the browser's own database, on its disk. */
export class DiskKeeper implements Keeper {
  private constructor(private readonly db: IDBPDatabase<Schema>) {}

  static async open(): Promise<DiskKeeper> {
    const db = await openDB<Schema>("archtalk-recorder", 2, {
      async upgrade(created, before, _, transaction) {
        created.createObjectStore("writers", { keyPath: ["take", "epoch"] });
        created.createObjectStore("named");
        if (before === 1) {
          await nameOldRecords(created as unknown as IDBPDatabase, transaction as unknown as OldTransaction);
        }
      },
      blocking: (_from, _to, event) => (event.target as IDBDatabase).close(),
    });
    return new DiskKeeper(db);
  }

  async putWriter(writer: KeptWriter): Promise<void> {
    await this.db.put("writers", writer);
  }

  writers(): Promise<KeptWriter[]> {
    return this.db.getAll("writers");
  }

  async add(take: string, epoch: number, sequence: number, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
    const transaction = this.db.transaction("named", "readwrite", { durability: "strict" });
    await transaction.store.put(bytes, [take, epoch, sequence]);
    await transaction.done;
  }

  get(take: string, epoch: number, sequence: number): Promise<Uint8Array<ArrayBuffer> | undefined> {
    return this.db.get("named", [take, epoch, sequence]);
  }

  async rest(take: string, epoch: number, from = 0): Promise<KeptRecord[]> {
    const range = IDBKeyRange.bound([take, epoch, from], [take, epoch, Number.MAX_SAFE_INTEGER]);
    const { store } = this.db.transaction("named");
    const [keys, values] = await Promise.all([store.getAllKeys(range), store.getAll(range)]);
    return keys.map((key, i) => ({ sequence: key[2], bytes: values[i]! }));
  }

  async forget(take: string, epoch: number, through: number): Promise<void> {
    await this.db.delete("named", IDBKeyRange.bound([take, epoch, 0], [take, epoch, through]));
  }

  async forgetWriter(take: string, epoch: number): Promise<void> {
    await this.forget(take, epoch, Number.MAX_SAFE_INTEGER);
    await this.db.delete("writers", [take, epoch]);
  }
}

interface OldTransaction {
  objectStore(name: string): {
    getAll(): Promise<unknown[]>;
    getAllKeys(): Promise<IDBValidKey[]>;
    put(value: unknown, key?: IDBValidKey): Promise<unknown>;
  };
}

// The first release named records by take and sequence only; the epoch stands in each of them.
async function nameOldRecords(db: IDBPDatabase, transaction: OldTransaction): Promise<void> {
  const takes = (await transaction.objectStore("takes").getAll()) as { take: string; lesson: string; token: string }[];
  const keys = (await transaction.objectStore("records").getAllKeys()) as [string, number][];
  const values = (await transaction.objectStore("records").getAll()) as Uint8Array<ArrayBuffer>[];
  for (const [i, [take, sequence]] of keys.entries()) {
    const epoch = new DataView(values[i]!.buffer, values[i]!.byteOffset).getUint16(6, true);
    const known = takes.find((t) => t.take === take);
    await transaction.objectStore("named").put(values[i], [take, epoch, sequence]);
    await transaction
      .objectStore("writers")
      .put({ take, epoch, lesson: known?.lesson ?? "", token: known?.token ?? "", startedAt: Date.now(), segments: [] });
  }

  db.deleteObjectStore("takes");
  db.deleteObjectStore("records");
}

/** In the memory of this page: what is left of it when the page is closed is gone. */
export class MemoryKeeper implements Keeper {
  private readonly kept = new Map<string, { writer: KeptWriter | null; records: Map<number, Uint8Array<ArrayBuffer>> }>();

  async putWriter(writer: KeptWriter): Promise<void> {
    this.of(writer.take, writer.epoch).writer = structuredClone(writer);
  }

  async writers(): Promise<KeptWriter[]> {
    return [...this.kept.values()].flatMap((k) => (k.writer ? [k.writer] : []));
  }

  async add(take: string, epoch: number, sequence: number, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
    this.of(take, epoch).records.set(sequence, bytes);
  }

  async get(take: string, epoch: number, sequence: number): Promise<Uint8Array<ArrayBuffer> | undefined> {
    return this.of(take, epoch).records.get(sequence);
  }

  async rest(take: string, epoch: number, from = 0): Promise<KeptRecord[]> {
    return [...this.of(take, epoch).records]
      .filter(([sequence]) => sequence >= from)
      .sort(([a], [b]) => a - b)
      .map(([sequence, bytes]) => ({ sequence, bytes }));
  }

  async forget(take: string, epoch: number, through: number): Promise<void> {
    const { records } = this.of(take, epoch);
    [...records.keys()].filter((s) => s <= through).forEach((s) => records.delete(s));
  }

  async forgetWriter(take: string, epoch: number): Promise<void> {
    this.kept.delete(`${take}/${epoch}`);
  }

  private of(take: string, epoch: number) {
    const key = `${take}/${epoch}`;
    const known = this.kept.get(key) ?? { writer: null, records: new Map() };
    this.kept.set(key, known);
    return known;
  }
}

/**
 * On the disk as long as it can be, and in memory from the first failure on (no room, a private window): what was written before
 * stays where it is, and nothing that follows is refused.
 */
export class SafeKeeper implements Keeper {
  private readonly memory = new MemoryKeeper();
  private told = false;

  /** @param disk Null when there is none. @param failed Told once, when records are kept in memory only from now on. */
  constructor(
    private readonly disk: Keeper | null,
    private readonly failed: () => void,
  ) {
    if (!disk) {
      this.fail();
    }
  }

  async putWriter(writer: KeptWriter): Promise<void> {
    await this.memory.putWriter(writer);
    await this.onDisk((disk) => disk.putWriter(writer));
  }

  async writers(): Promise<KeptWriter[]> {
    const found = [...((await this.onDisk((disk) => disk.writers())) ?? []), ...(await this.memory.writers())];
    return [...new Map(found.map((w) => [`${w.take}/${w.epoch}`, w])).values()];
  }

  async add(take: string, epoch: number, sequence: number, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
    if ((await this.onDisk(async (disk) => (await disk.add(take, epoch, sequence, bytes), true))) !== true) {
      await this.memory.add(take, epoch, sequence, bytes);
    }
  }

  async get(take: string, epoch: number, sequence: number): Promise<Uint8Array<ArrayBuffer> | undefined> {
    return (await this.memory.get(take, epoch, sequence)) ?? (await this.onDisk((disk) => disk.get(take, epoch, sequence)));
  }

  async rest(take: string, epoch: number, from = 0): Promise<KeptRecord[]> {
    const found = [...((await this.onDisk((disk) => disk.rest(take, epoch, from))) ?? []), ...(await this.memory.rest(take, epoch, from))];
    return found.sort((a, b) => a.sequence - b.sequence);
  }

  async forget(take: string, epoch: number, through: number): Promise<void> {
    await this.memory.forget(take, epoch, through);
    await this.onDisk((disk) => disk.forget(take, epoch, through));
  }

  async forgetWriter(take: string, epoch: number): Promise<void> {
    await this.memory.forgetWriter(take, epoch);
    await this.onDisk((disk) => disk.forgetWriter(take, epoch));
  }

  private async onDisk<T>(work: (disk: Keeper) => Promise<T>): Promise<T | undefined> {
    if (!this.disk) {
      return undefined;
    }

    try {
      return await work(this.disk);
    } catch {
      this.fail();
      return undefined;
    }
  }

  private fail(): void {
    if (!this.told) {
      this.told = true;
      this.failed();
    }
  }
}
