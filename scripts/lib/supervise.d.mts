/** A process of the product, and the line by which it says that it answers. */
export interface Program {
  name: string;
  file: string;
  ready: string;
  env: Record<string, string>;
}
/** All that the product runs, by the port of the application: each of the others has its own beside it. */
export function productPrograms(port: number): Program[];
/** Starts processes one after the other and keeps each running. @returns a function that stops all of them */
export function supervise(programs: readonly Program[]): Promise<() => Promise<unknown>>;
