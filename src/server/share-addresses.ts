import { networkInterfaces } from "node:os";

/** The port on which shared links are served to the network, beside the workbench's own. */
export const sharePort = (): number => Number(process.env.PORT ?? 4300) + 2;

/** The addresses under which a phone on the same network finds shared links, the likeliest first; then this machine's own. */
export function shareAddresses(): string[] {
  const found = Object.values(networkInterfaces())
    .flat()
    .filter((item) => item !== undefined && !item.internal && item.family === "IPv4")
    .map((item) => item?.address ?? "");
  return [...found, "localhost"].map((host) => `http://${host}:${sharePort()}`);
}
