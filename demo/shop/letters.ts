import { pool } from "@/data/pool";

/** Keeps the address of somebody who asked the shop for its letter, in a table of the shop's own. Asking twice is asking once. */
export async function keepLetterAddress(address: string): Promise<void> {
  await pool().query("create schema if not exists brackenfold");
  await pool().query("create table if not exists brackenfold.letters (address text primary key)");
  await pool().query("insert into brackenfold.letters (address) values ($1) on conflict do nothing", [address]);
}
