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

/** A quoted field as it was sent: escapes of the log taken back, "-" is nothing. */
function fieldOf(text: string): string {
  if (text === "-") return "";
  if (!text.includes("\\")) return text;
  return text.replace(/\\(x([0-9a-f]{2})|.)/gi, (_, one: string, hex: string | undefined) =>
    hex ? String.fromCharCode(parseInt(hex, 16)) : one === "t" ? "\t" : one === "n" ? "\n" : one === "r" ? "\r" : one,
  );
}

const digit = (line: string, at: number): number => {
  const code = line.charCodeAt(at) - 48;
  return code >= 0 && code <= 9 ? code : NaN;
};
const pair = (line: string, at: number): number => digit(line, at) * 10 + digit(line, at + 1);

/**
 * Reads lines of an access log in the Combined Log Format of Apache's httpd:
 * `host ident user [day/month/year:hour:minute:second zone] "request" status bytes "referrer" "user agent"`.
 * What stands after that is left alone. It goes by places in the line, without a pattern for the whole: logs are long.
 */
export class LogReader {
  #day = "";
  #midnight = NaN;

  /** A line read; undefined if it is in another format. */
  read(line: string): LogLine | undefined {
    const host = line.indexOf(" ");
    const open = line.indexOf("[", host);
    if (host <= 0 || open < 0 || line[open + 27] !== "]" || line[open - 1] !== " ") return undefined;
    const at = this.#time(line, open + 1);
    if (!Number.isFinite(at)) return undefined;
    if (line[open + 29] !== '"') return undefined;
    const requestEnd = endOfQuoted(line, open + 30);
    if (requestEnd < 0) return undefined;
    const status = digit(line, requestEnd + 2) * 100 + pair(line, requestEnd + 3);
    if (!Number.isFinite(status) || line[requestEnd + 5] !== " ") return undefined;
    const bytesEnd = line.indexOf(" ", requestEnd + 6);
    if (bytesEnd < 0 || line[bytesEnd + 1] !== '"') return undefined;
    const referrerEnd = endOfQuoted(line, bytesEnd + 2);
    if (referrerEnd < 0 || line[referrerEnd + 2] !== '"') return undefined;
    const agentEnd = endOfQuoted(line, referrerEnd + 3);
    if (agentEnd < 0) return undefined;
    const request = line.slice(open + 30, requestEnd);
    const first = request.indexOf(" ");
    const last = request.lastIndexOf(" ");
    return {
      address: line.slice(0, host),
      at,
      method: first < 0 ? request : request.slice(0, first),
      target: first < 0 ? "" : fieldOf(request.slice(first + 1, last > first ? last : undefined)),
      status,
      referrer: fieldOf(line.slice(bytesEnd + 2, referrerEnd)),
      userAgent: fieldOf(line.slice(referrerEnd + 3, agentEnd)),
    };
  }

  /** `24/Nov/2026:10:15:00 +0000` at a place of the line; NaN if it is no time. Days are worked out once. */
  #time(line: string, from: number): number {
    const day = line.slice(from, from + 11);
    if (day !== this.#day) {
      this.#day = day;
      const month = months.indexOf(day.slice(3, 6));
      const number = pair(day, 0);
      const year = pair(day, 7) * 100 + pair(day, 9);
      const made = Date.UTC(year, month, number);
      const fits = day[2] === "/" && day[6] === "/" && month >= 0 && new Date(made).getUTCDate() === number;
      this.#midnight = fits ? made : NaN;
    }
    const sign = line[from + 21];
    const hour = pair(line, from + 12);
    const minute = pair(line, from + 15);
    const second = pair(line, from + 18);
    const offset = pair(line, from + 22) * 60 + pair(line, from + 24);
    if (hour > 23 || minute > 59 || second > 60 || (sign !== "+" && sign !== "-")) return NaN;
    if (line[from + 11] !== ":" || line[from + 14] !== ":" || line[from + 17] !== ":" || line[from + 20] !== " ") return NaN;
    return this.#midnight + ((hour * 60 + minute - (sign === "+" ? offset : -offset)) * 60 + second) * 1000;
  }
} // prettier-ignore
