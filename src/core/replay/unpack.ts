import { t } from "../messages/t";
import { Gunzip } from "fflate";
import { LineShares, type Lines } from "./shares";

/** What a piece of a file brought. */
export interface LogPiece {
  /** The lines of each share. */
  shares: Lines[];
  /** What is wrong with the file from here on; what came before counts. */
  damage?: string;
}

const crcTable = Uint32Array.from({ length: 256 }, (_, byte) => {
  let value = byte;
  for (let bit = 0; bit < 8; bit++) value = value & 1 ? (value >>> 1) ^ 0xedb88320 : value >>> 1;
  return value;
});
/** CRC-32 as gzip has it (RFC 1952, section 8), carried on over pieces. */
function crc32(crc: number, bytes: Uint8Array): number {
  let value = ~crc;
  for (let at = 0; at < bytes.length; at++)
    value = (crcTable[(value ^ (bytes[at] as number)) & 255] as number) ^ (value >>> 8);
  return ~value >>> 0;
}

/** So many bytes that came before are kept: where a packed part ends may show only after the whole heading of the next. */
const kept = 2048;
/** So many bytes of a piece are unpacked at once (to a thousand times as many, at most); and so many of what came out are enough for a part. */
const atOnce = 1 << 14;
const enough = 4 << 20;
const damaged = (): string => t("It is damaged: what it unpacks to is not what was packed. What could be read counts.");

/**
 * Reads the files of a log piece by piece: unpacks those that are packed (gzip, RFC 1952, also of several members, each held
 * against its checksum), and shares their lines out.
 */
export class LogUnpacker {
  readonly #shares: LineShares;
  #found: Lines[][] = [];
  #gunzip: Gunzip | undefined;
  #crc = 0;
  #length = 0;
  /** The last bytes that were met, and how many there were before them. */
  #window = new Uint8Array(0);
  #before = 0;
  #damage: string | undefined;

  constructor(of: number) {
    this.#shares = new LineShares(of);
  }

  /**
   * Takes a piece of a file, as `take` does, and brings what it unpacks to part by part: however small it was packed, no more of it is
   * held at once than a bound.
   */
  *parts(bytes: Uint8Array, first: boolean, last: boolean): Generator<LogPiece> {
    const isPacked = first ? bytes[0] === 0x1f && bytes[1] === 0x8b : this.#gunzip !== undefined;
    const step = isPacked ? atOnce : Math.max(1, bytes.length);
    let held: Lines[][] = [];
    let size = 0;
    for (let at = 0; at === 0 || at < bytes.length; at += step) {
      const isLast = at + step >= bytes.length;
      const { shares, damage } = this.take(bytes.subarray(at, at + step), first && at === 0, last && isLast);
      held.push(shares);
      size += shares.reduce((sum, share) => sum + share.bytes.length, 0);
      if (size < enough && !isLast && damage === undefined) continue;
      yield { shares: this.#joined(held), ...(damage === undefined ? {} : { damage }) };
      if (damage !== undefined) return;
      held = [];
      size = 0;
    }
  }

  /** Takes a piece of a file; `first` (of two bytes or more, if there are so many) begins another one, `last` ends it. After damage a file is not to be read on. */
  take(bytes: Uint8Array, first: boolean, last: boolean): LogPiece {
    this.#found = [];
    if (first) this.#begin(bytes);
    if (!this.#gunzip) this.#found.push(this.#shares.take(bytes));
    else this.#unpack(this.#gunzip, bytes, last);
    const damage = this.#damage;
    if (last || damage !== undefined) this.#found.push(this.#shares.end());
    const shares = this.#joined(this.#found);
    return { shares, ...(damage === undefined ? {} : { damage }) };
  }

  #joined(parts: readonly Lines[][]): Lines[] {
    return Array.from({ length: this.#shares.of }, (_, share) => joined(parts.flatMap((part) => part[share] ?? [])));
  }

  #begin(bytes: Uint8Array): void {
    this.#damage = undefined;
    this.#window = new Uint8Array(0);
    this.#before = 0;
    this.#crc = 0;
    this.#length = 0;
    this.#gunzip = undefined;
    if (bytes[0] !== 0x1f || bytes[1] !== 0x8b) return;
    this.#gunzip = new Gunzip((part) => {
      this.#crc = crc32(this.#crc, part);
      this.#length += part.length;
      this.#found.push(this.#shares.take(part));
    });
    this.#gunzip.onmember = (start) => {
      this.#check(start);
      this.#crc = 0;
      this.#length = 0;
    };
  }

  #unpack(gunzip: Gunzip, bytes: Uint8Array, last: boolean): void {
    const old = this.#window.subarray(-kept);
    this.#before += this.#window.length - old.length;
    this.#window = new Uint8Array(old.length + bytes.length);
    this.#window.set(old);
    this.#window.set(bytes, old.length);
    try {
      gunzip.push(bytes, last);
    } catch (error) {
      this.#damage ??= t("It cannot be unpacked any further: {message}. What was read up to there counts.", {
        message: (error as Error).message,
      });
    }
    if (last) this.#check(this.#before + this.#window.length);
  }

  /** A member ends with the checksum and the length of what it packs: are they those of what came out? */
  #check(end: number): void {
    const at = end - 8 - this.#before;
    const said = at >= 0 && at + 8 <= this.#window.length ? new DataView(this.#window.buffer, at, 8) : undefined;
    if (said?.getUint32(0, true) !== this.#crc || said.getUint32(4, true) !== this.#length % 2 ** 32)
      this.#damage ??= damaged();
  }
}

/** Several lists of lines as one. */
function joined(parts: readonly Lines[]): Lines {
  const [only] = parts;
  if (only && parts.length === 1) return only;
  const bytes = new Uint8Array(parts.reduce((sum, part) => sum + part.bytes.length, 0));
  const numbers = new Uint32Array(parts.reduce((sum, part) => sum + part.numbers.length, 0));
  let [byte, line] = [0, 0];
  for (const part of parts) {
    bytes.set(part.bytes, byte);
    numbers.set(part.numbers, line);
    byte += part.bytes.length;
    line += part.numbers.length;
  }
  return { bytes, numbers };
}
