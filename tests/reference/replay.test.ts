/** Lines of access logs, read beside another parser (alpine 0.2.1) and by the example of Apache's documentation. */
import { createRequire } from "node:module";
import { expect, it } from "vitest";
import { LogReader } from "@/core/replay/log-line";
import { report } from "./report";

const require = createRequire(import.meta.url);

it("reads generated lines as another parser does", () => {
  const Alpine = require("alpine") as {
    new (format: string): { parseLine(line: string): Record<string, string> };
    LOGFORMATS: { COMBINED: string };
  };
  const parser = new Alpine(Alpine.LOGFORMATS.COMBINED);
  let state = 99;
  const random = (n: number) => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) >>> 12) % n;
  const pick = <T>(list: readonly T[]) => list[random(list.length)] as T;
  const two = (n: number) => String(n).padStart(2, "0");
  const reader = new LogReader();
  let agree = 0;
  const of = 20_000;
  for (let count = 0; count < of; count++) {
    const month = pick(["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"]);
    const zone = pick(["+0000", "-0700", "+0530"]);
    const day = 1 + random(28);
    const clock = `${two(random(24))}:${two(random(60))}:${two(random(60))}`;
    const target = pick(["/", "/ferns?a=1&b=%20", "/a/b.html", "/x".repeat(1 + random(40))]);
    const line = `${pick(["192.0.2.1", "2001:db8::7", "host.example"])} - ${pick(["-", "wren"])} [${two(day)}/${month}/2026:${clock} ${zone}] "${pick(["GET", "POST", "HEAD"])} ${target} HTTP/${pick(["1.0", "1.1", "2.0"])}" ${pick([200, 301, 304, 404, 500])} ${pick(["-", "0", "51234"])} "${pick(["-", "https://quarry.example/?q=a+b"])}" "${pick(["-", "Mozilla/5.0 (X11; Linux) x/1", "curl/8"])}"`;
    const other = parser.parseLine(line);
    const own = reader.read(line);
    const bare = (text: string | undefined) => (text === "-" ? "" : text);
    const same =
      own?.address === other.remoteHost &&
      `${own?.method} ${own?.target}` === (other.request ?? "").split(" ").slice(0, 2).join(" ") &&
      String(own?.status) === other.status &&
      own?.referrer === bare(other["RequestHeader Referer"]) &&
      own?.userAgent === bare(other["RequestHeader User-agent"]) &&
      own?.at === Date.parse(`${day} ${month} 2026 ${clock} ${zone}`);
    if (same) agree++;
    else throw new Error(`${line}: ${JSON.stringify(own)} is not ${JSON.stringify(other)}`);
  }
  expect(report("access log lines, alpine", agree, of)).toBe(1);
});
