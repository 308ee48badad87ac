/** What every process of the application does by itself, besides answering. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== "nodejs" || !process.env.DATABASE_URL) return;
  const { startTimers } = await import("@/server/timers");
  startTimers();
}
