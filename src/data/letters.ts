import { pool } from "./pool";

/** Keeps the address of somebody who asked the demo shop for its letter. Asking twice is asking once. */
export async function keepLetterAddress(site: string, address: string): Promise<void> {
  await pool().query("insert into shop_letters (site, address) values ($1, $2) on conflict do nothing", [
    site,
    address,
  ]);
}
