// Runs the product's processes and starts each again when it ends.
import { spawn } from "node:child_process";
import { join } from "node:path";
import { root } from "./steps.mjs";

const folder = join(root, ".next/mirada");

/** The product's processes. `ready`: the line by which each says that it answers. */
const application = (port) => ({
  name: "the application",
  file: join(folder, "application.mjs"),
  ready: "application ready",
  env: { PORT: String(port), MIRADA_ROOT: root, NODE_ENV: "production", NEXT_TELEMETRY_DISABLED: "1" },
});
const delivery = (port) => ({
  name: "the delivery server",
  file: join(folder, "delivery.mjs"),
  ready: "delivery ready",
  env: { PORT: String(port), NODE_ENV: "production" },
});
const mirror = (port) => ({
  name: "the mirror",
  file: join(folder, "mirror.mjs"),
  ready: "mirror ready",
  env: { PORT: String(port), NODE_ENV: "production" },
});
/** All that the product runs, by the port of the application: each of the others has its own beside it. */
export const productPrograms = (port) => [application(port), delivery(port + 1), mirror(port + 3)];

/** A process that ends is started again after so many milliseconds: twice as long each time, until it has run for a while. */
const firstPause = 250;
const longestPause = 10_000;
const steady = 30_000;
/** How long a process may take to end when it is asked to, in milliseconds. */
const patience = 15_000;

/** Starts a process and keeps it running. @returns a promise of a function that stops it, once it is ready */
function keep({ name, file, ready, env }) {
  let child;
  let stopping = false;
  let timer;
  let pause = firstPause;
  const start = (onReady, onEnd) => {
    const began = performance.now();
    // By the channel a process notices that this one is gone, and ends: nothing is left behind on a port.
    child = spawn(process.execPath, [file], {
      cwd: root,
      env: { ...process.env, ...env },
      stdio: ["ignore", "pipe", "inherit", "ipc"],
    });
    child.stdout.on("data", (text) => {
      if (onReady && String(text).includes(ready)) onReady();
      else process.stdout.write(text);
    });
    child.once("exit", (code, signal) => onEnd(code ?? signal, performance.now() - began));
  };
  const again = (how, ran) => {
    if (stopping) return;
    pause = ran > steady ? firstPause : Math.min(longestPause, pause * 2);
    console.error(`${name} ended (${how}); it is started again in ${pause / 1000} s`);
    timer = setTimeout(() => start(undefined, again), pause);
  };
  const stop = () =>
    new Promise((stopped) => {
      stopping = true;
      clearTimeout(timer);
      if (child.exitCode !== null || child.signalCode !== null) return stopped();
      const hard = setTimeout(() => child.kill("SIGKILL"), patience);
      child.once("exit", () => {
        clearTimeout(hard);
        stopped();
      });
      child.kill("SIGTERM");
    });
  return new Promise((resolve, reject) => {
    let isReady = false;
    start(
      () => {
        isReady = true;
        resolve(stop);
      },
      (how, ran) => (isReady ? again(how, ran) : reject(new Error(`${name} ended before it was ready (${how})`))),
    );
  });
}

/** Starts processes one after the other and keeps each running. @returns a function that stops all of them */
export async function supervise(programs) {
  const stops = [];
  const stopAll = () => Promise.all(stops.map((stop) => stop()));
  try {
    for (const program of programs) stops.push(await keep(program));
  } catch (error) {
    await stopAll();
    throw error;
  }
  return stopAll;
}
