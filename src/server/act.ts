import { z } from "zod";
import type { Ability } from "@/core/people/roles";
import type { SignedIn } from "@/data/people";

/**
 * One thing that the workbench may ask of the server: who may, what it takes, what it does. Whoever asks is signed in
 * ("signed in" asks no more); arguments come from a browser and are read by a schema.
 */
export interface Action<A extends unknown[], R> {
  needs: Ability | "signed in";
  args: z.ZodType<A>;
  run: (who: SignedIn, ...args: A) => Promise<R>;
}

/** An action, with its arguments' schemas in order. */
export function action<const S extends readonly [z.ZodType, ...z.ZodType[]] | readonly [], R>(
  needs: Action<never, R>["needs"],
  args: S,
  run: (who: SignedIn, ...args: { [K in keyof S]: z.output<S[K]> }) => Promise<R>,
): Action<{ [K in keyof S]: z.output<S[K]> } & unknown[], R> {
  const schema = z.tuple(args as unknown as [z.ZodType, ...z.ZodType[]]);
  return { needs, args: schema as never, run: run as never };
}

/** Something that was asked for cannot be done: said to whoever asked, with a status of HTTP. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}
