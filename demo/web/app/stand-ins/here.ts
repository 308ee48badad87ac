import { headers } from "next/headers";
import { workbench } from "../../places";

/** Where a stand-in is asked: its own address, and those of the shop and the workbench beside it. */
export async function standInHere() {
  const incoming = await headers();
  const host = incoming.get("host") ?? "localhost";
  const port = host.split(":")[1];
  const search = incoming.get("x-mirada-search") ?? "";
  const shop = `http://brackenfold.localhost${port ? `:${port}` : ""}`;
  return { origin: `http://${host}`, search, shop, workbench: workbench() };
}
