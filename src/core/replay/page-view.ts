import type { LogLine } from "./log-line";

/** Whether a path ends in a file extension other than .html, so that it is no page. `text` is a target. */
export function isPage(text: string, from: number, to: number): boolean {
  let dot = -1;
  let end = from;
  for (; end < to; end++) {
    const code = text.charCodeAt(end);
    if (code === 63) break;
    if (code === 47) dot = -1;
    else if (code === 46) dot = end;
  }
  if (end === from && from === to) return false;
  return dot < 0 || dot === end - 1 || (end - dot === 5 && text.slice(dot, end).toLowerCase() === ".html");
}
/** Whether a log line is a page view: a GET answered 200 or 304 whose path ends in no file extension but .html. */
export const isPageView = (line: LogLine): boolean =>
  line.method === "GET" && (line.status === 200 || line.status === 304) && isPage(line.target, 0, line.target.length);
