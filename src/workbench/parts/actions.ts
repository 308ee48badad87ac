import type * as server from "@/server/actions";

/** What a screen may ask of the server: handed down by its page. */
export type Actions = Pick<typeof server, "keepLens" | "dropLens" | "change" | "undo" | "redo" | "pass" | "putLive">;
