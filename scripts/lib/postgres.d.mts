export interface PrivatePostgres {
  url: string;
  data: string;
  stop(): void;
  /** Ends it as a power cut would. */
  kill(): void;
  /** Starts it anew, on the same port. */
  again(): void;
}
export function startPostgres(
  name: string,
  options?: { reset?: boolean; throwaway?: boolean; durable?: boolean },
): Promise<PrivatePostgres>;
