// What the server hasn't acknowledged is kept in the browser, so that a closed tab or a dead battery loses nothing.

import { type DBSchema, type IDBPDatabase, openDB } from "idb";

/** What is needed to send the rest of a take from another tab. */
export interface StoredTake {
  take: string;
  lesson: string;
  token: string;
}

interface Schema extends DBSchema {
  takes: { key: string; value: StoredTake };
  records: { key: [string, number]; value: Uint8Array<ArrayBuffer> };
}

export class RecordStore {
  private constructor(private readonly db: IDBPDatabase<Schema>) {}

  static async open(): Promise<RecordStore> {
    const db = await openDB<Schema>("archtalk-recorder", 1, {
      upgrade(created) {
        created.createObjectStore("takes", { keyPath: "take" });
        created.createObjectStore("records");
      },
    });
    return new RecordStore(db);
  }

  async addTake(take: StoredTake): Promise<void> {
    await this.db.put("takes", take);
  }

  takes(): Promise<StoredTake[]> {
    return this.db.getAll("takes");
  }

  /** Resolves when the record is on the disk, not only in memory. */
  async add(take: string, sequence: number, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
    const transaction = this.db.transaction("records", "readwrite", { durability: "strict" });
    await transaction.store.put(bytes, [take, sequence]);
    await transaction.done;
  }

  /** The records of a take from a sequence number on, in order. */
  async rest(take: string, from: number): Promise<{ sequence: number; bytes: Uint8Array<ArrayBuffer> }[]> {
    const range = IDBKeyRange.bound([take, from], [take, Number.MAX_SAFE_INTEGER]);
    const transaction = this.db.transaction("records");
    const [keys, values] = await Promise.all([transaction.store.getAllKeys(range), transaction.store.getAll(range)]);
    return keys.map((key, i) => ({ sequence: key[1], bytes: values[i]! }));
  }

  /** Forgets the records before a sequence number: the server has them. */
  async forgetBefore(take: string, sequence: number): Promise<void> {
    await this.db.delete("records", IDBKeyRange.bound([take, 0], [take, sequence], false, true));
  }

  async forgetTake(take: string): Promise<void> {
    await this.forgetBefore(take, Number.MAX_SAFE_INTEGER);
    await this.db.delete("takes", take);
  }
}
