/** iCalendar as text (RFC 5545, sections 3.1 and 3.3.11): lines folded at 75 octets, text escaped, and zones written out. */
import { minute } from "../calendar/calendar";
import { zoneOf } from "../calendar/zone";

const two = (n: number): string => String(n).padStart(2, "0");

/** A wall clock time, ms as though it were UTC: `20261124T100000`. */
export function stamp(local: number): string {
  const d = new Date(local);
  return `${String(d.getUTCFullYear()).padStart(4, "0")}${two(d.getUTCMonth() + 1)}${two(d.getUTCDate())}T${two(d.getUTCHours())}${two(d.getUTCMinutes())}${two(d.getUTCSeconds())}`;
}

export const escapeText = (text: string): string =>
  text
    .replace(/[\\;,]/g, "\\$&")
    .replace(/\r?\n/g, "\\n")
    .replace(/[\u0000-\u0008\u000b-\u001f\u007f]/g, "");

const encoder = new TextEncoder();
/** A content line, folded so that no line is longer than 75 octets and no character is cut. */
export function fold(line: string): string {
  let out = "";
  let octets = 0;
  for (const character of line) {
    const size = encoder.encode(character).length;
    if (octets + size > 75) {
      out += "\r\n ";
      octets = 1;
    }
    out += character;
    octets += size;
  }
  return out;
}

export const calendarText = (lines: readonly string[]): string => `${lines.map(fold).join("\r\n")}\r\n`;

const offset = (ms: number): string => {
  const minutes = Math.abs(Math.round(ms / minute));
  return `${ms < 0 ? "-" : "+"}${two(Math.floor(minutes / 60))}${two(minutes % 60)}`;
};

/** A zone as VTIMEZONE: every clock change in [from, until), written out one by one, as this machine's zone data has them. */
export function zoneLines(id: string, from: number, until: number): string[] {
  const zone = zoneOf(id);
  const offsetAt = (at: number) => zone.toLocal(at) - at;
  const changes = zone.changes(from, until);
  const least = Math.min(...[from, ...changes].map(offsetAt));
  const part = (begins: number, before: number, after: number): string[] => {
    const kind = after > least ? "DAYLIGHT" : "STANDARD";
    return [
      `BEGIN:${kind}`,
      // The wall clock as it stands just before the change.
      `DTSTART:${stamp(begins + before)}`,
      `TZOFFSETFROM:${offset(before)}`,
      `TZOFFSETTO:${offset(after)}`,
      `END:${kind}`,
    ];
  };
  return [
    "BEGIN:VTIMEZONE",
    `TZID:${id}`,
    ...part(from, offsetAt(from), offsetAt(from)),
    ...changes.flatMap((at) => part(at, offsetAt(at - 1), offsetAt(at))),
    "END:VTIMEZONE",
  ];
}
