import { createHash } from "node:crypto";
import { deliveryAddress } from "@/server/site";
import { partnerKey } from "@/storefront/stand-ins/partner-key";
import { partnerPage } from "@/storefront/stand-ins/stone-and-moss";

/** The partner's page. One text for everybody: a cache may hold it. */
export function GET(request: Request): Response {
  const port = Number((request.headers.get("host") ?? "").split(":")[1] ?? 80);
  const server = deliveryAddress();
  const page = partnerPage(
    server,
    partnerKey,
    `http://brackenfold.localhost:${port}`,
    `http://localhost:${port}`,
    `http://stone-and-moss.localhost:${port}/`,
  );
  const hashes = [...page.matchAll(/<script>(.*?)<\/script>/gs)].map(
    ([, code]) =>
      `'sha256-${createHash("sha256")
        .update(code as string)
        .digest("base64")}'`,
  );
  const policy = `default-src 'none'; script-src ${hashes.join(" ")} ${server}; connect-src ${server}; style-src 'unsafe-inline'; img-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'`;
  return new Response(page, {
    headers: {
      "content-type": "text/html; charset=utf-8",
      "cache-control": "public, max-age=600",
      "content-security-policy": policy,
    },
  });
}
