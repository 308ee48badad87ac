import type * as server from "@/server/actions";

/** What a screen may ask of the server: handed down by the layout. */
export type Actions = typeof server;
