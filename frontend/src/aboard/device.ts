/** What is kept on this device: what waits to be sent, answers of boats taken aboard, which those are. */
import { openDB, type DBSchema, type IDBPDatabase } from "idb";

export interface KeptAnswer {
  person: string;
  /** Method, path, query, and for computed states the body. */
  address: string;
  job: string;
  text: string;
  at: string;
}

export interface Taken {
  person: string;
  job: string;
  variant: string;
  name: string;
  /** Ids that addresses of this boat name: the job, its variants. */
  ids: string[];
  at: string;
  bytes: number;
  answers: number;
}

/** Something that waits; its order is that of `order`. */
export interface Waiting {
  key: string;
  order: number;
}

interface Device extends DBSchema {
  outbox: { key: string; value: Waiting };
  answers: { key: [string, string]; value: KeptAnswer; indexes: { job: [string, string] } };
  taken: { key: [string, string]; value: Taken };
}

let opened: Promise<IDBPDatabase<Device>> | null = null;

function open(): Promise<IDBPDatabase<Device>> {
  if (opened) return opened;
  const opening = openDB<Device>("strom", 1, {
    upgrade(db) {
      db.createObjectStore("outbox", { keyPath: "key" });
      const answers = db.createObjectStore("answers", { keyPath: ["person", "address"] });
      answers.createIndex("job", ["person", "job"]);
      db.createObjectStore("taken", { keyPath: ["person", "job"] });
    },
    terminated() {
      opened = null;
    },
  });
  opened = opening;
  // A full disk may have room the next time.
  opening.catch(() => opened === opening && (opened = null));
  return opening;
}

/** Everything that waits, in the order in which it was entered. */
export async function waitingEntries<T extends Waiting>(): Promise<T[]> {
  const found = await (await open()).getAll("outbox");
  return (found as T[]).sort((a, b) => a.order - b.order);
}

/** Keep something that waits; done once it is on the disk. */
export async function keepEntry(entry: Waiting): Promise<void> {
  const tx = (await open()).transaction("outbox", "readwrite", { durability: "strict" });
  await tx.store.put(entry);
  await tx.done;
}

export async function dropEntry(key: string): Promise<void> {
  await (await open()).delete("outbox", key);
}

export async function answerOf(person: string, address: string): Promise<KeptAnswer | undefined> {
  return (await open()).get("answers", [person, address]);
}

export async function keepAnswer(answer: KeptAnswer): Promise<void> {
  await (await open()).put("answers", answer);
}

export async function takenBy(person: string): Promise<Taken[]> {
  const all = await (await open()).getAll("taken");
  return all.filter((one) => one.person === person);
}

export async function keepTaken(taken: Taken): Promise<void> {
  await (await open()).put("taken", taken);
}

/** Bytes of the answers of a boat. */
export async function bytesOf(person: string, job: string): Promise<number> {
  const found = await (await open()).getAllFromIndex("answers", "job", [person, job]);
  return found.reduce((sum, answer) => sum + answer.text.length, 0);
}

/** Let a boat go: its answers, and that it was taken. */
export async function letGo(person: string, job: string): Promise<void> {
  const tx = (await open()).transaction(["answers", "taken"], "readwrite");
  for (const key of await tx.objectStore("answers").index("job").getAllKeys([person, job])) {
    await tx.objectStore("answers").delete(key);
  }
  await tx.objectStore("taken").delete([person, job]);
  await tx.done;
}

/** Everything that was taken aboard by somebody goes; what waits to be sent stays. */
export async function wipe(person: string): Promise<void> {
  const tx = (await open()).transaction(["answers", "taken"], "readwrite");
  for (const name of ["answers", "taken"] as const) {
    const store = tx.objectStore(name);
    for (const key of await store.getAllKeys()) {
      if (key[0] === person) await store.delete(key);
    }
  }
  await tx.done;
}

/** For tests: forget that the database is open. */
export function closed() {
  opened = null;
}
