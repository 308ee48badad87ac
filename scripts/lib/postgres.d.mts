export interface PrivatePostgres {
  url: string;
  data: string;
  stop(): void;
  /** Ends it as a power cut would. */
  kill(): void;
  /** Starts it anew, on the same port. */
  again(): void;
}
export function findBin(): string | undefined;
/** How a program is run as the user who may own the data: its name and arguments. */
export function asOwner(path: string, args: readonly string[]): [path: string, args: string[]];
/** Runs a PostgreSQL program as that user. */
export function program(
  bin: string,
  name: string,
  args: readonly string[],
): { status: number | null; stdout: string; stderr: string };
/** Makes a folder that belongs to that user alone. */
export function ownFolder(path: string): void;
/** Where the data of a private database lies. */
export function dataFolder(name: string): string;
export function startPostgres(
  name: string,
  options?: { reset?: boolean; throwaway?: boolean; durable?: boolean },
): Promise<PrivatePostgres>;
