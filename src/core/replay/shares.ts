/** Some lines of a log: whole ones, each with its line break, and their numbers in the log, from 1. */
export interface Lines {
  bytes: Uint8Array<ArrayBuffer>;
  numbers: Uint32Array<ArrayBuffer>;
}

/** A line that goes on over more bytes than these from one piece to the next is cut: no line of a log is, and nobody holds it whole. */
export const longestLine = 1 << 16;
const lineBreak = 10;
const space = 32;

/** A number by which visitors are told apart: of their address, with which a line begins. */
function markOf(bytes: Uint8Array, from: number, to: number): number {
  let mark = 0;
  for (let at = from; at < to && bytes[at] !== space; at++) mark = (Math.imul(mark, 31) + (bytes[at] as number)) | 0;
  return (mark ^ (mark >>> 15)) >>> 0;
}

/**
 * Shares the lines of a log out, so that several replays can work on it at once: all lines of a visitor go to the same one, in
 * their order, and what the replays count can be added up. It works on bytes: what is shared out may be handed over whole.
 */
export class LineShares {
  #rest = new Uint8Array(0);
  /** Whether the line that has begun was cut: what comes of it goes. */
  #isCut = false;
  #lines = 0;
  constructor(readonly of: number) {}

  /** Lines met so far. */
  get lines(): number {
    return this.#lines;
  }

  /** Takes a piece of the log, cut anywhere. @returns the lines that each replay gets */
  take(piece: Uint8Array): Lines[] {
    let bytes = piece;
    if (this.#isCut) {
      const end = piece.indexOf(lineBreak);
      bytes = end < 0 ? new Uint8Array(0) : piece.subarray(end);
      this.#isCut = end < 0;
    }
    if (this.#rest.length > 0) {
      const more = bytes;
      bytes = new Uint8Array(this.#rest.length + more.length);
      bytes.set(this.#rest);
      bytes.set(more, this.#rest.length);
    }
    const whole = bytes.lastIndexOf(lineBreak) + 1;
    this.#isCut ||= bytes.length - whole > longestLine;
    this.#rest = bytes.slice(whole, whole + longestLine);
    return this.#share(bytes.subarray(0, whole));
  }

  /** Ends a file: its last line need not end with a line break. */
  end(): Lines[] {
    if (this.#rest.length === 0) return [];
    return this.take(Uint8Array.of(lineBreak));
  }

  #share(bytes: Uint8Array): Lines[] {
    const out = Array.from({ length: this.of }, () => ({
      bytes: new Uint8Array(bytes.length),
      size: 0,
      numbers: [] as number[],
    }));
    // Neighbouring lines of one share are copied together.
    let share = -1;
    let begin = 0;
    const copy = (to: number) => {
      const part = out[share];
      if (!part || to === begin) return;
      part.bytes.set(bytes.subarray(begin, to), part.size);
      part.size += to - begin;
      begin = to;
    };
    for (let from = 0; from < bytes.length;) {
      const end = bytes.indexOf(lineBreak, from);
      const own = this.of === 1 ? 0 : markOf(bytes, from, end) % this.of;
      if (own !== share) {
        copy(from);
        share = own;
      }
      this.#lines += 1;
      out[own]?.numbers.push(this.#lines);
      from = end + 1;
    }
    copy(bytes.length);
    return out.map((part) => ({ bytes: part.bytes.slice(0, part.size), numbers: Uint32Array.from(part.numbers) }));
  }
}
