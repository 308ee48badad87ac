/** Where the demo's parts stand. */

/** Other people's sites that this application makes up, each on a name of its own. */
export const standIns: readonly string[] = ["quarry", "mossmail", "quiz"];

/** The origin of the workbench. */
export const workbench = (): string => process.env.MIRADA_ORIGIN ?? "http://localhost:4300";
