/**
 * Events that wait are on this machine's disk, too: a process that is killed loses none that it has taken. Whichever process comes
 * next takes up what was left; since each event has an id, one that was written already counts once.
 */
import {
  closeSync,
  ftruncateSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  unlinkSync,
  writeSync,
} from "node:fs";
import { createHash, randomBytes } from "node:crypto";
import { join } from "node:path";
import type { SiteKept } from "@/data/events";

/** A file that has grown so long is made anew of what still waits, in bytes. */
const longest = 16_000_000;

const lines = (events: readonly SiteKept[]): string => events.map((event) => `${JSON.stringify(event)}\n`).join("");

/** Whether a process of this machine runs; one with our own number is us, so whoever had it before is gone. */
function runs(pid: number): boolean {
  if (pid === process.pid) return false;
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as { code?: unknown }).code === "EPERM";
  }
}

export class Spool {
  readonly #folder: string;
  #path = "";
  #file: number | undefined;
  #bytes = 0;

  /**
   * @param folder made if it is not there
   * @throws Error if it cannot be written to
   */
  constructor(folder: string) {
    this.#folder = folder;
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    this.#open();
  }

  #open(): void {
    this.#path = join(this.#folder, `${process.pid}-${randomBytes(6).toString("hex")}.jsonl`);
    // Appending: what is added after the file was emptied stands at its beginning.
    this.#file = openSync(this.#path, "ax", 0o600);
    this.#bytes = 0;
  }

  /** Does something with the file. What a disk cannot do (it is full, say) ends the spool, and stops nobody. */
  #use(work: (file: number) => void): void {
    if (this.#file === undefined) return;
    try {
      work(this.#file);
    } catch (error) {
      this.#file = undefined;
      console.error(`Events are not kept on disk any more: ${(error as Error).message}`);
    }
  }

  /** Keeps events. */
  add(events: readonly SiteKept[]): void {
    this.#use((file) => {
      const text = lines(events);
      writeSync(file, text);
      this.#bytes += text.length;
    });
  }

  /** Told whenever some were written. @param waiting those that still wait */
  written(waiting: readonly SiteKept[]): void {
    this.#use((file) => {
      if (waiting.length === 0) {
        if (this.#bytes > 0) ftruncateSync(file);
        this.#bytes = 0;
      } else if (this.#bytes > longest) {
        const path = this.#path;
        this.#open();
        this.add(waiting);
        closeSync(file);
        unlinkSync(path);
      }
    });
  }

  /** What processes left that are gone. What is answered is on disk under our own name first: `take` adds it. */
  takeUp(take: (events: readonly SiteKept[]) => void): void {
    for (const name of readdirSync(this.#folder)) {
      const path = join(this.#folder, name);
      const pid = Number(/^(\d+)-[0-9a-f]+\.jsonl$/.exec(name)?.[1]);
      if (!pid || path === this.#path || runs(pid)) continue;
      // Whoever gives it a name of their own has it: of two that come at once, one.
      const claimed = join(this.#folder, `${process.pid}-${randomBytes(6).toString("hex")}.jsonl`);
      try {
        renameSync(path, claimed);
      } catch {
        continue;
      }
      try {
        const left = readFileSync(claimed, "utf8").split("\n").flatMap(readLine);
        if (left.length > 0) {
          console.error(`${left.length} events are taken up that a process left which was killed`);
          take(left);
        }
        unlinkSync(claimed);
      } catch (error) {
        console.error(`What a process left in ${claimed} could not be read: ${(error as Error).message}`);
      }
    }
  }

  /** Ends it; what waits stays for whoever comes next. */
  close(): void {
    this.#use((file) => {
      closeSync(file);
      this.#file = undefined;
      if (this.#bytes === 0) unlinkSync(this.#path);
    });
  }
}

/** The last line of a process that was killed may be half a line. */
function readLine(line: string): SiteKept[] {
  try {
    return [JSON.parse(line) as SiteKept];
  } catch {
    return [];
  }
}

/** The spool of this process, of those for its database; undefined: where it should lie nothing can be written, which is said. */
export function ownSpool(): Spool | undefined {
  const { MIRADA_SPOOL: base = ".data/events", DATABASE_URL: database } = process.env;
  if (base === "off" || !database) return undefined;
  const folder = join(base, createHash("sha256").update(database).digest("hex").slice(0, 12));
  try {
    return new Spool(folder);
  } catch (error) {
    console.error(`Events that wait are in memory alone: ${folder} cannot be written to (${(error as Error).message})`);
    return undefined;
  }
}
