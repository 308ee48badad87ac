import { get } from "node:http";

/** Asks the running storefront of a site for a page with a preview pass, as a browser would, and reads which variants stand in it. */
export function askPage(
  site: string,
  path: string,
  pass: string,
): Promise<{ slots: Record<string, string[]>; status: number } | undefined> {
  const port = Number(process.env.PORT ?? 4300);
  return new Promise((resolve) => {
    const request = get(
      {
        host: "127.0.0.1",
        port,
        path: `${path}?look=${encodeURIComponent(pass)}`,
        headers: { host: `${site}.localhost:${port}` },
        timeout: 10_000,
      },
      (response) => {
        let html = "";
        response.setEncoding("utf8");
        response.on("data", (part: string) => (html += part));
        response.on("end", () => resolve({ slots: slotsIn(html), status: response.statusCode ?? 0 }));
      },
    );
    request.on("error", () => resolve(undefined));
    request.on("timeout", () => request.destroy());
  });
}

/** The variants that a page names in its slots; "" is the fallback. */
function slotsIn(html: string): Record<string, string[]> {
  const out: Record<string, string[]> = {};
  for (const match of html.matchAll(/data-mirada-slot="([^"]*)" data-mirada-variants="([^"]*)"/g))
    out[match[1] as string] = (match[2] as string).split(" ");
  return out;
}
