import { wordBreakClasses, wordBreakRanges } from "./unicode";

type Class = (typeof wordBreakClasses)[number];
const number = (name: Class): number => wordBreakClasses.indexOf(name) + 1;
const set = (...names: Class[]): boolean[] => {
  const flags = new Array<boolean>(wordBreakClasses.length + 1).fill(false);
  for (const name of names) flags[number(name)] = true;
  return flags;
};

const starts: number[] = [];
const ends: number[] = [];
const kinds: number[] = [];
{
  let at = 0;
  for (const item of wordBreakRanges.split(";")) {
    const [gap, length, kind] = item.split(",") as [string, string, string];
    at += parseInt(gap, 36);
    starts.push(at);
    ends.push(at + (length === "" ? 0 : parseInt(length, 36)));
    kinds.push(parseInt(kind, 36));
  }
}

function search(point: number): number {
  let low = 0;
  let high = starts.length - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    if (point < (starts[middle] as number)) high = middle - 1;
    else if (point > (ends[middle] as number)) low = middle + 1;
    else return kinds[middle] as number;
  }
  return 0;
}

const latin = Uint8Array.from({ length: 0x300 }, (_, point) => search(point));
const classOf = (point: number): number => (point < 0x300 ? (latin[point] as number) : search(point));

const [CR, LF, ZWJ, RI] = [number("CR"), number("LF"), number("ZWJ"), number("Regional_Indicator")];
const [SPACE, NUMERIC, KATAKANA] = [number("WSegSpace"), number("Numeric"), number("Katakana")];
const [HEBREW, SINGLE, DOUBLE, JOIN] = [
  number("Hebrew_Letter"),
  number("Single_Quote"),
  number("Double_Quote"),
  number("ExtendNumLet"),
];
const breaking = set("CR", "LF", "Newline");
const ignored = set("Extend", "Format", "ZWJ");
const letter = set("ALetter", "Hebrew_Letter");
const midLetter = set("MidLetter", "MidNumLet", "Single_Quote");
const midNumber = set("MidNum", "MidNumLet", "Single_Quote");
const joinable = set("ALetter", "Hebrew_Letter", "Numeric", "Katakana", "ExtendNumLet");
const pictograph = /^\p{Extended_Pictographic}/u;
const wordLike = /[\p{L}\p{N}]/u;

/** The segments of a text by UAX #29's default word boundary rules (WB1 to WB999), without dictionaries. */
export function segments(text: string): string[] {
  const chars = Array.from(text);
  const kind = chars.map((char) => classOf(char.codePointAt(0) as number));
  /** The nearest place from `i` on in direction `step` that WB4 does not pass over; -1 if there is none. */
  const seen = (i: number, step: 1 | -1): number => {
    while (i >= 0 && i < kind.length && ignored[kind[i] as number]) i += step;
    return i >= 0 && i < kind.length ? i : -1;
  };
  const at = (i: number): number => (i < 0 ? 0 : (kind[i] as number));
  const flags: number[] = [];

  const breaks = (i: number): boolean => {
    const [left, right] = [kind[i - 1] as number, kind[i] as number];
    if (left === CR && right === LF) return false;
    if (breaking[left] || breaking[right]) return true;
    if (left === ZWJ && pictograph.test(chars[i] as string)) return false;
    if (left === SPACE && right === SPACE) return false;
    if (ignored[right]) return false;
    const before = seen(i - 1, -1);
    const a = at(before);
    const b = right;
    if (letter[a] && letter[b]) return false;
    const after = at(seen(i + 1, 1));
    const earlier = before < 0 ? 0 : at(seen(before - 1, -1));
    if (letter[a] && midLetter[b] && letter[after]) return false;
    if (midLetter[a] && letter[b] && letter[earlier]) return false;
    if (a === HEBREW && b === SINGLE) return false;
    if (a === HEBREW && b === DOUBLE && after === HEBREW) return false;
    if (a === DOUBLE && b === HEBREW && earlier === HEBREW) return false;
    if ((a === NUMERIC || letter[a]) && b === NUMERIC) return false;
    if (a === NUMERIC && letter[b]) return false;
    if (midNumber[a] && b === NUMERIC && earlier === NUMERIC) return false;
    if (a === NUMERIC && midNumber[b] && after === NUMERIC) return false;
    if (a === KATAKANA && b === KATAKANA) return false;
    if (joinable[a] && b === JOIN) return false;
    if (a === JOIN && joinable[b] && b !== JOIN) return false;
    // WB15, WB16: regional indicators pair up from the start of their run.
    if (a === RI && b === RI) return (flags[before] as number) % 2 === 0;
    return true;
  };

  const out: string[] = [];
  let current = "";
  for (let i = 0; i < chars.length; i++) {
    const before = kind[i] === RI && i > 0 ? seen(i - 1, -1) : -1;
    flags[i] = before >= 0 && kind[before] === RI ? (flags[before] as number) + 1 : 1;
    if (i > 0 && breaks(i)) {
      out.push(current);
      current = "";
    }
    current += chars[i] as string;
  }
  if (current !== "") out.push(current);
  return out;
}

/** The words of a text: those of its segments that hold a letter or a digit (`\p{L}` or `\p{N}`). */
export const words = (text: string): string[] => segments(text).filter((segment) => wordLike.test(segment));
