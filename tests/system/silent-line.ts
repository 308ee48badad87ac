/** A line to a server that can go silent: connections stay open, and nothing passes any more. It can lead to another server, too. */
import net from "node:net";

export interface SilentLine {
  port: number;
  /** From now on nothing passes, in either direction, on old connections and new ones. */
  silence: () => void;
  /** New connections pass again; the old ones stay as they are, as behind a router that has forgotten them. */
  again: () => void;
  /** New connections lead to another server on this machine. */
  leadTo: (port: number) => void;
  close: () => void;
}

/** @param first the port of the server on this machine that it leads to */
export async function silentLine(first: number): Promise<SilentLine> {
  let port = first;
  let silent = false;
  const open = new Set<[net.Socket, net.Socket]>();
  const server = net.createServer((near) => {
    const far = net.connect(port, "127.0.0.1");
    const pair: [net.Socket, net.Socket] = [near, far];
    open.add(pair);
    for (const [from, to] of [pair, [far, near] as const]) {
      from.on("error", () => undefined);
      from.on("close", () => {
        // What ends at one end of a silent line is not heard of at the other.
        if (!silent) to.destroy();
        open.delete(pair);
      });
      from.pipe(to);
    }
    if (silent) hush(pair);
  });
  const hush = ([near, far]: [net.Socket, net.Socket]) => {
    near.unpipe(far);
    far.unpipe(near);
    near.pause();
    far.pause();
  };
  await new Promise<void>((ready) => server.listen(0, "127.0.0.1", ready));
  return {
    port: (server.address() as net.AddressInfo).port,
    silence() {
      silent = true;
      for (const pair of open) hush(pair);
    },
    again() {
      silent = false;
    },
    leadTo(other) {
      port = other;
    },
    close() {
      server.close();
      for (const pair of open) for (const socket of pair) socket.destroy();
    },
  };
}
