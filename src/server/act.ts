import * as z from "zod";
import type { Ability } from "@/core/people/roles";
import type { SignedIn } from "@/data/people";
import type { SignedInAccount } from "@/data/sessions";

/**
 * One thing that the workbench may ask of the server: who may, what it takes, what it does. Whoever asks is signed in
 * ("signed in" asks no more); arguments come from a browser and are read by a schema.
 */
export interface Action<Who, A extends unknown[], R> {
  needs: Ability | "administrator" | "signed in";
  args: z.ZodType<A>;
  run: (who: Who, ...args: A) => Promise<R>;
}

/** Makes actions that are run by some `Who`, with their arguments' schemas in order. */
const actionsOf =
  <Who, Needs extends Action<Who, never, unknown>["needs"]>() =>
  <const S extends readonly [z.ZodType, ...z.ZodType[]] | readonly [], R>(
    needs: Needs,
    args: S,
    run: (who: Who, ...args: { [K in keyof S]: z.output<S[K]> }) => Promise<R>,
  ): Action<Who, { [K in keyof S]: z.output<S[K]> } & unknown[], R> => {
    // That a list of schemas reads a list of what each reads, the library's types cannot tell.
    const schema = z.tuple(args as unknown as [z.ZodType, ...z.ZodType[]]);
    return { needs, args: schema as never, run: run as never };
  };

/** Something asked on a site. */
export const action = actionsOf<SignedIn, Ability | "signed in">();
/** Something asked of the installation, whatever the site. */
export const installationAction = actionsOf<SignedInAccount, "administrator" | "signed in">();

/** Something that was asked for cannot be done: said to whoever asked, with a status of HTTP. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}
