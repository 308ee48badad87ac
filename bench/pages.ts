/**
 * From a lens change to new pixels, on a page with the tag and on one of a site in the same process; and what the mirror adds to a
 * page. Against a running demo: PORT=4300 npm run bench -- --pages.
 */
import { chromium, type Page } from "@playwright/test";
import { createServer, get } from "node:http";
import { pageLineScript } from "../tests/generated/page-line";
import { line, median } from "./measure";

const port = Number(process.env.PORT ?? 4300);
const rounds = 40;
const workbench = `http://localhost:${port}`;

const act = async (page: Page, site: string, name: string, data: unknown[]): Promise<unknown> => {
  const address = `${site ? `/s/${site}` : ""}/act/${name}`;
  const text = await (await page.request.post(address, { headers: { origin: workbench }, data })).text();
  return text === "" ? undefined : JSON.parse(text);
};

/** Milliseconds from telling a page another look until its pixels are there, each round. */
async function changes(page: Page, site: string, url: string): Promise<number[]> {
  const way = (await act(page, site, "wayTo", [new URL(url).pathname])) as { by: "tag"; origin: string };
  await page.goto(`/s/${site}/people`, { waitUntil: "networkidle" });
  await page.evaluate(await pageLineScript());
  const visit = (source: string) => ({
    at: "2026-11-24T10:15:00Z",
    url: `${url}?utm_source=${source}`,
    consent: false,
  });
  const passes: unknown[] = [];
  for (let round = 0; round <= rounds; round++)
    passes.push(
      await act(page, site, "pass", [{ visit: visit(round % 2 ? "letter" : "mossmail"), source: "draft", pins: {} }]),
    );
  return page.evaluate(
    async ({ way, url, passes }) => {
      const frame = document.createElement("iframe");
      frame.style.cssText = "position:fixed;inset:0;width:1280px;height:800px;z-index:9999";
      document.body.append(frame);
      const { pageLink } = (
        window as unknown as {
          line: {
            pageLink: (...of: unknown[]) => {
              look: (w: object) => string | undefined;
              read: (e: MessageEvent) => { mirada: string; turn?: number } | undefined;
            };
          };
        }
      ).line;
      const link = pageLink(way.origin, way.by, () => frame.contentWindow);
      const show = (pass: unknown, turn: number) =>
        new Promise<number>((done) => {
          const began = performance.now();
          const hear = (event: MessageEvent) => {
            const message = link.read(event);
            if (message?.mirada !== "ready" || message.turn !== turn) return;
            window.removeEventListener("message", hear);
            requestAnimationFrame(() => setTimeout(() => done(performance.now() - began)));
          };
          window.addEventListener("message", hear);
          const address = link.look({ url, pass, turn });
          if (address) frame.src = address;
        });
      const out: number[] = [];
      for (const [turn, pass] of passes.entries()) out.push(await show(pass, turn + 1));
      frame.remove();
      // The first opens the page.
      return out.slice(1);
    },
    { way, url, passes },
  );
}

/** Milliseconds until an address has been answered whole. */
const fetched = (at: number, host: string, path: string, more: Record<string, string> = {}): Promise<number> =>
  new Promise((done, failed) => {
    const began = performance.now();
    get({ host: "127.0.0.1", port: at, path, headers: { host, "sec-fetch-dest": "iframe", ...more } }, (response) => {
      if (response.statusCode !== 200) failed(new Error(`${host}${path} answered ${response.statusCode}`));
      response.resume();
      response.on("end", () => done(performance.now() - began));
    }).on("error", failed);
  });

/** Milliseconds until a frame has the page of an address, as often as asked, in turns with another's. */
const framed = (page: Page, addresses: [direct: string, mirrored: string]): Promise<[number[], number[]]> =>
  page.evaluate(
    async ({ addresses, rounds }) => {
      const out: [number[], number[]] = [[], []];
      for (let round = 0; round < rounds; round++)
        for (const [index, address] of addresses.entries()) {
          const frame = document.createElement("iframe");
          frame.src = `${address}?round=${round}`;
          const began = performance.now();
          const there = new Promise((done) => (frame.onload = done));
          document.body.append(frame);
          await there;
          // The first ones open the connections.
          if (round > 4) out[index]?.push(performance.now() - began);
          frame.remove();
        }
      return out;
    },
    { addresses, rounds: rounds + 5 },
  );

export async function pageFigures(): Promise<void> {
  const browser = await chromium.launch({
    executablePath: "/usr/bin/chromium",
    args: ["--no-sandbox", "--disable-gpu"],
  });
  const page = await browser.newPage({ baseURL: workbench, viewport: { width: 1280, height: 800 } });
  await page.request.post("/enter", {
    headers: { origin: workbench },
    data: { email: "owner@brackenfold.example", password: "owner of the ferns" },
  });
  const [inProcess, tagged] = [
    await changes(page, "brackenfold", `http://brackenfold.localhost:${port + 10}/`),
    await changes(page, "stone-and-moss", `http://stone-and-moss.localhost:${port + 20}/stones`),
  ];
  line({
    figure: "a lens change to new pixels, page with the tag beside one in the same process",
    rounds,
    milliseconds: { tag: Math.round(median(tagged)), process: Math.round(median(inProcess)) },
    ratio: Number((median(tagged) / median(inProcess)).toFixed(2)),
  });
  await mirrorFigure(page, "stone-and-moss", port + 20, "/stones", "on the same machine");
  await frameFigure(page, "stone-and-moss", `http://stone-and-moss.localhost:${port + 20}`, "/stones");
  await overNetwork(page);
  await browser.close();
}

/** What the mirror adds to a page of a site, beside the page fetched from it. */
async function mirrorFigure(page: Page, site: string, at: number, path: string, where: string): Promise<void> {
  const { origin } = (await act(page, site, "mirror", [])) as { origin: string };
  const [direct, mirrored, anew]: [number[], number[], number[]] = [[], [], []];
  // Both warm: as a process is that has run for a while.
  for (let round = 0; round < 10 * rounds; round++) {
    if (round === 5 * rounds) direct.length = mirrored.length = anew.length = 0;
    direct.push(await fetched(at, `${site}.localhost:${at}`, path));
    mirrored.push(await fetched(port + 3, new URL(origin).host, path));
    // As a page that is loaded anew: whatever the site calls fresh, it is asked.
    anew.push(await fetched(port + 3, new URL(origin).host, path, { "cache-control": "no-cache" }));
  }
  line({
    figure: `a page through the mirror beside the same page fetched, ${where}`,
    rounds: direct.length,
    milliseconds: {
      mirror: Number(median(mirrored).toFixed(1)),
      "mirror, asked anew": Number(median(anew).toFixed(1)),
      fetch: Number(median(direct).toFixed(1)),
    },
    ratio: Number((median(mirrored) / median(direct)).toFixed(2)),
    "ratio, asked anew": Number((median(anew) / median(direct)).toFixed(2)),
  });
}

/** The same as whoever looks has it: the page in a frame of the workbench, until all of it is there. */
async function frameFigure(page: Page, site: string, direct: string, path: string): Promise<void> {
  const { origin } = (await act(page, site, "mirror", [])) as { origin: string };
  await page.goto(`/s/${site}/people`, { waitUntil: "networkidle" });
  const [fetched, mirrored] = await framed(page, [`${direct}${path}`, `${origin}${path}`]);
  line({
    figure: "a page in a frame, through the mirror beside the page itself, on the same machine",
    rounds: fetched.length,
    milliseconds: { mirror: Number(median(mirrored).toFixed(1)), page: Number(median(fetched).toFixed(1)) },
    ratio: Number((median(mirrored) / median(fetched)).toFixed(2)),
  });
}

/** As sites are: a page that is there after the way over a network. */
async function overNetwork(page: Page): Promise<void> {
  const delay = 20;
  const html = `<!doctype html><html lang="en"><head><title>A page</title></head><body>${"<p>Moss and <a href='/more'>stones</a></p>".repeat(500)}</body></html>`;
  const server = createServer((_, response) =>
    setTimeout(() => response.writeHead(200, { "content-type": "text/html; charset=utf-8" }).end(html), delay),
  );
  await new Promise<void>((ready) => server.listen(0, "127.0.0.1", ready));
  const { port: at } = server.address() as { port: number };
  const site = `bench-${at}`;
  await act(page, "", "makeSite", [
    {
      name: site,
      id: site,
      origin: `http://${site}.localhost:${at}`,
      zone: "UTC",
      currency: "EUR",
      language: "en",
      copyOf: "",
    },
  ]);
  try {
    await mirrorFigure(page, site, at, "/", `${delay} ms away`);
  } finally {
    await act(page, "", "archiveSite", [site, true]);
    await act(page, "", "deleteSite", [site, site]);
    server.close();
  }
}
