/** One line of an access log in the Combined Log Format. */
export interface LogLine {
  address: string;
  /** Epoch ms. */
  at: number;
  method: string;
  /** What was asked for, as it stands in the request. */
  target: string;
  status: number;
  /** "" where none was sent. */
  referrer: string;
  userAgent: string;
}

const months = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

/** Where a quoted field ends that begins at `from`: at the first quote that no backslash stands before. */
function endOfQuoted(line: string, from: number): number {
  let end = line.indexOf('"', from);
  while (end > 0) {
    let slashes = 0;
    while (line.charCodeAt(end - 1 - slashes) === 92) slashes += 1;
    if (slashes % 2 === 0) return end;
    end = line.indexOf('"', end + 1);
  }
  return -1;
}

const utf8 = new TextDecoder("utf-8", { fatal: true });
/** A run of escaped bytes as text: in UTF-8 if it is that, else each byte by itself. */
function bytesAsText(run: string): string {
  const bytes = Uint8Array.from(run.slice(2).split(/\\x/i), (hex) => parseInt(hex, 16));
  try {
    return utf8.decode(bytes);
  } catch {
    return String.fromCharCode(...bytes);
  }
}

/** A quoted field as it was sent: escapes of the log taken back, "-" is nothing. */
export function fieldOf(text: string): string {
  if (text === "-") return "";
  if (!text.includes("\\")) return text;
  return text.replace(/(?:\\x[0-9a-f]{2})+|\\./gi, (run) => {
    if (/^\\x../i.test(run)) return bytesAsText(run);
    const one = run[1] as string;
    return one === "t" ? "\t" : one === "n" ? "\n" : one === "r" ? "\r" : one;
  });
}

const digit = (line: string, at: number): number => {
  const code = line.charCodeAt(at) - 48;
  return code >= 0 && code <= 9 ? code : NaN;
};
const pair = (line: string, at: number): number => digit(line, at) * 10 + digit(line, at + 1);

/** A text of its own: one that is cut out of a log would keep the whole piece of the log in memory. */
export const ownText = (text: string): string => (text.length < 13 ? text : ` ${text}`.slice(1));

/** Whether [from, to) of a text is a number of bytes: digits, or "-" for none. */
function isByteCount(text: string, from: number, to: number): boolean {
  if (to === from + 1 && text.charCodeAt(from) === 45) return true;
  for (let at = from; at < to; at++) if (Number.isNaN(digit(text, at))) return false;
  return to > from;
}

/** How far a search for a character has come in a text: what was found ahead is not searched for twice. */
class Ahead {
  #found = -1;
  constructor(private readonly what: string) {}
  reset(): void {
    this.#found = -1;
  }
  /** The first place at or after `from`; Infinity if there is none. Asked with growing places of one text. */
  at(text: string, from: number): number {
    if (this.#found < from) {
      const found = text.indexOf(this.what, from);
      this.#found = found < 0 ? Infinity : found;
    }
    return this.#found;
  }
}

/**
 * Reads lines of an access log in the Combined Log Format of Apache's httpd:
 * `host ident user [day/month/year:hour:minute:second zone] "request" status bytes "referrer" "user agent"`.
 * What stands after that is left alone. It goes by places in the text, without a pattern for the whole and without cutting
 * anything out: logs are long. After `scan` the fields tell where everything stands.
 */
export class LogReader {
  readonly #open = new Ahead("[");
  #minute = "?";
  #minuteAt = NaN;
  #zone = "?";
  hostEnd = 0;
  /** Epoch ms. */
  at = NaN;
  status = 0;
  methodFrom = 0;
  methodEnd = 0;
  targetFrom = 0;
  targetEnd = 0;
  referrerFrom = 0;
  referrerEnd = 0;
  agentFrom = 0;
  agentEnd = 0;

  /** Begins a text of several lines. */
  begin(): void {
    this.#open.reset();
  }

  /** A line read; undefined if it is in another format. */
  read(line: string): LogLine | undefined {
    this.begin();
    if (!this.scan(line, 0, line.length)) return undefined;
    return {
      address: line.slice(0, this.hostEnd),
      at: this.at,
      method: line.slice(this.methodFrom, this.methodEnd),
      target: fieldOf(line.slice(this.targetFrom, this.targetEnd)),
      status: this.status,
      referrer: fieldOf(line.slice(this.referrerFrom, this.referrerEnd)),
      userAgent: fieldOf(line.slice(this.agentFrom, this.agentEnd)),
    };
  }

  /** Finds the fields of the line that stands at [from, to) of a text; false if it is in another format. */
  scan(text: string, from: number, to: number): boolean {
    const host = text.indexOf(" ", from);
    const open = this.#open.at(text, from);
    if (host <= from || host > open || open + 30 >= to) return false;
    // Between host and time stand ident and user, which may be several words but never nothing.
    const user = text.indexOf(" ", host + 1);
    if (user <= host + 1 || user >= open - 2) return false;
    if (text.charCodeAt(open + 27) !== 93 || text.charCodeAt(open - 1) !== 32 || text.charCodeAt(open + 29) !== 34)
      return false;
    const at = this.#time(text, open + 1);
    if (!Number.isFinite(at)) return false;
    const request = open + 30;
    const requestEnd = endOfQuoted(text, request);
    if (requestEnd < 0 || requestEnd + 6 >= to) return false;
    const status = digit(text, requestEnd + 2) * 100 + pair(text, requestEnd + 3);
    if (!Number.isFinite(status) || text.charCodeAt(requestEnd + 5) !== 32) return false;
    const bytesEnd = text.indexOf(" ", requestEnd + 6);
    if (bytesEnd < 0 || bytesEnd >= to || text.charCodeAt(bytesEnd + 1) !== 34) return false;
    if (!isByteCount(text, requestEnd + 6, bytesEnd)) return false;
    const referrerEnd = endOfQuoted(text, bytesEnd + 2);
    if (referrerEnd < 0 || referrerEnd + 2 >= to || text.charCodeAt(referrerEnd + 2) !== 34) return false;
    const agentEnd = endOfQuoted(text, referrerEnd + 3);
    if (agentEnd < 0 || agentEnd >= to) return false;
    let first = request;
    while (first < requestEnd && text.charCodeAt(first) !== 32) first += 1;
    let last = requestEnd - 1;
    while (last > first && text.charCodeAt(last) !== 32) last -= 1;
    this.hostEnd = host;
    this.at = at;
    this.status = status;
    this.methodFrom = request;
    this.methodEnd = first;
    this.targetFrom = Math.min(first + 1, requestEnd);
    this.targetEnd = last > first ? last : requestEnd;
    this.referrerFrom = bytesEnd + 2;
    this.referrerEnd = referrerEnd;
    this.agentFrom = referrerEnd + 3;
    this.agentEnd = agentEnd;
    return true;
  }

  /** `24/Nov/2026:10:15:00 +0000` at a place of the text; NaN if it is no time. Lines of one minute are worked out once. */
  #time(text: string, from: number): number {
    const second = pair(text, from + 18);
    if (!(second <= 60)) return NaN;
    if (!text.startsWith(this.#minute, from) || !text.startsWith(this.#zone, from + 20)) {
      this.#minute = "?";
      const at = this.#minuteOf(text, from);
      if (!Number.isFinite(at)) return NaN;
      this.#minuteAt = at;
      this.#minute = ownText(text.slice(from, from + 18));
      this.#zone = text.slice(from + 20, from + 26);
    }
    return this.#minuteAt + second * 1000;
  }

  #minuteOf(text: string, from: number): number {
    const month = months.indexOf(text.slice(from + 3, from + 6));
    const number = pair(text, from);
    const midnight = Date.UTC(pair(text, from + 7) * 100 + pair(text, from + 9), month, number);
    const slashed = text.charCodeAt(from + 2) === 47 && text.charCodeAt(from + 6) === 47;
    if (!slashed || month < 0 || new Date(midnight).getUTCDate() !== number) return NaN;
    const sign = text[from + 21];
    const hour = pair(text, from + 12);
    const minute = pair(text, from + 15);
    const [hours, minutes] = [pair(text, from + 22), pair(text, from + 24)];
    // No zone is a day away from another, and an hour has sixty minutes.
    if (!(hours < 24 && minutes < 60)) return NaN;
    const offset = hours * 60 + minutes;
    if (hour > 23 || minute > 59 || (sign !== "+" && sign !== "-")) return NaN;
    if (text[from + 11] !== ":" || text[from + 14] !== ":" || text[from + 17] !== ":" || text[from + 20] !== " ")
      return NaN;
    return midnight + (hour * 60 + minute - (sign === "+" ? offset : -offset)) * 60_000;
  }
}
