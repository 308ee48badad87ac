// Two made-up websites, served by a program that knows nothing of who looks at them: files in folders, by host name. Each page may
// have a place for tags of others (<!-- tags -->), as an agency would paste them there: TAGS, a JSON object by site, fills it.
import { createHash } from "node:crypto";
import { createServer } from "node:http";
import { existsSync, readFileSync, statSync } from "node:fs";
import { extname, join, normalize } from "node:path";

const port = Number(process.env.PORT ?? 4320);
const begun = Date.now();
const tags = JSON.parse(process.env.TAGS ?? "{}");
const types = {
  ".html": "text/html; charset=utf-8",
  ".css": "text/css; charset=utf-8",
  ".js": "text/javascript; charset=utf-8",
  ".svg": "image/svg+xml",
  ".xml": "application/xml; charset=utf-8",
};
/** How each site is served: whether all addresses are one page, and whether it may be framed. */
const sites = {
  "stone-and-moss": { single: false, frames: true },
  "lantern-quay": { single: true, frames: false },
};

const shop = process.env.SHOP ?? "http://brackenfold.localhost:4310";
const made = (name, html, path) =>
  html
    .replace("<!-- tags -->", () => tags[name]?.pages?.[path] ?? tags[name]?.html ?? "")
    .replaceAll("http://brackenfold.localhost:4310", shop);

/** A policy that allows the page's own scripts and styles, and the tag's, if it has one. */
function policyOf(name, html) {
  const { frames } = sites[name];
  const hashes = [...html.matchAll(/<script>([\s\S]*?)<\/script>/g)].map(
    ([, code]) => `'sha256-${createHash("sha256").update(code).digest("base64")}'`,
  );
  const other = tags[name]?.origin ?? "";
  const ancestors = frames ? (tags[name]?.framedBy ?? "*") : "'none'";
  return `default-src 'none'; script-src 'self' ${hashes.join(" ")} ${other}; connect-src 'self' ${other}; style-src 'self' 'unsafe-inline'; img-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors ${ancestors}`;
}

createServer((request, response) => {
  const name = (request.headers.host ?? "").split(".")[0];
  const site = sites[name];
  const end = (status, headers, body) => response.writeHead(status, headers).end(request.method === "HEAD" ? "" : body);
  if (!site) return end(404, { "content-type": "text/plain" }, "There is no such site.\n");
  if (request.method !== "GET" && request.method !== "HEAD") return end(405, { allow: "GET, HEAD" }, "");
  const folder = join(import.meta.dirname, name);
  let path = normalize(decodeURIComponent(new URL(request.url, "http://here").pathname));
  if (path.endsWith("/")) path += "index.html";
  let file = join(folder, path);
  if (!extname(file)) file = site.single ? join(folder, "index.html") : `${file}.html`;
  if (!file.startsWith(folder) || !existsSync(file) || !statSync(file).isFile())
    return end(
      404,
      { "content-type": "text/html; charset=utf-8" },
      "<!doctype html><title>Not found</title><p>There is no such page.</p>",
    );
  // Value to insertto pages is given at the start.
  const changed = new Date(Math.max(statSync(file).mtimeMs, begun));
  const headers = {
    "content-type": types[extname(file)] ?? "application/octet-stream",
    "cache-control": "public, max-age=600",
    "last-modified": changed.toUTCString(),
  };
  const known = Date.parse(request.headers["if-modified-since"] ?? "");
  if (known >= Math.floor(changed.getTime() / 1000) * 1000) return end(304, headers, "");
  if (extname(file) !== ".html") {
    const own = readFileSync(file);
    // A sitemap tells addresses, and those go by where the site stands.
    const told = extname(file) === ".xml" ? own.toString().replaceAll("ORIGIN", `http://${request.headers.host}`) : own;
    return end(200, headers, told);
  }
  const html = made(name, readFileSync(file, "utf8"), path.replace(/index\.html$/, ""));
  if (!site.frames) headers["x-frame-options"] = "DENY";
  return end(200, { ...headers, "content-security-policy": policyOf(name, html) }, html);
}).listen(port, "127.0.0.1", () => console.log(`sites ready on ${port}`));

for (const name of ["SIGINT", "SIGTERM", "disconnect"]) process.once(name, () => process.exit(0));
