import { get, type IncomingHttpHeaders } from "node:http";
import { answerSays, type SiteAnswer } from "@/core/checks/site";

/** Asks the running storefront of a site for a page with a preview pass, as a browser would, and reads what stands in it. */
export async function askPage(site: string, path: string, pass: string): Promise<SiteAnswer | undefined> {
  const page = await fetchPage(site, `${path}?look=${encodeURIComponent(pass)}`);
  return page && answerSays(page.status, page.headers, page.body);
}

/** The longest page that is read, in characters. */
const longest = 60_000_000;

/** Fetches something of the running site, through the door that visitors come in by; undefined if it cannot be reached. */
export function fetchPage(
  site: string,
  path: string,
): Promise<{ body: string; status: number; headers: IncomingHttpHeaders } | undefined> {
  const port = Number(process.env.PORT ?? 4300);
  return new Promise((resolve) => {
    const request = get(
      {
        host: "127.0.0.1",
        port,
        path,
        headers: { host: `${site}.localhost:${port}` },
        timeout: 10_000,
      },
      (response) => {
        let body = "";
        response.setEncoding("utf8");
        response.on("data", (part: string) => {
          body += part;
          if (body.length > longest) request.destroy();
        });
        response.on("end", () => resolve({ body, status: response.statusCode ?? 0, headers: response.headers }));
      },
    );
    request.on("error", () => resolve(undefined));
    request.on("timeout", () => request.destroy());
  });
}
