/** How the browser of the tests is started. */
export const launch = {
  executablePath: "/usr/bin/chromium",
  // Where the clock of the tests is set (scripts/days.mjs), the browser keeps its own: it takes the time from the server.
  env: { ...(process.env as Record<string, string>), LD_PRELOAD: "" },
  args: [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ],
};

/**
 * One process for frames of other sites, too: with a process for each, the driver loses a frame for good whose address changes
 * while it is still being opened, though the page in it stands and answers (seen with Playwright 1.65 on a busy machine).
 */
export const oneProcess = { ...launch, args: [...launch.args, "--disable-site-isolation-trials"] };
