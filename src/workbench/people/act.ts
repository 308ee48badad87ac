/** Asks the server for several things, one after the other; says what went wrong last, or that all is done. */
export type Act = (asks: readonly (() => Promise<unknown>)[], done: string) => Promise<void>;
