import { headers } from "next/headers";

/** Where a stand-in is asked: its own address, and those of the shop and the workbench beside it. */
export async function standInHere() {
  const incoming = await headers();
  const host = incoming.get("host") ?? "localhost";
  const port = host.split(":")[1];
  const at = (name: string) => `http://${name}${port ? `:${port}` : ""}`;
  const search = incoming.get("x-mirada-search") ?? "";
  return { origin: `http://${host}`, search, shop: at("brackenfold.localhost"), workbench: at("localhost") };
}
