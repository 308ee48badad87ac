import { t } from "@/core/messages/t";
import type { Actions } from "@/server/actions";
import type { InstallationActions } from "@/server/actions/installation";
import { siteBase } from "./desk/site-address";
export type { Actions } from "@/server/actions";

/** The server would not do something, and says why. */
export class ActionError extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

/** Told when a session has ended; whoever hears it lets one sign in again and then resolves. */
type SignInAgain = () => Promise<void>;
let signInAgain: SignInAgain | undefined;
export function onSignedOut(again: SignInAgain | undefined): void {
  signInAgain = again;
}

async function call(base: string, name: string, args: unknown[]): Promise<unknown> {
  for (;;) {
    const answer = await fetch(`${base}/act/${name}`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(args),
    });
    if (answer.status === 204) return undefined;
    if (answer.ok) return answer.json();
    // The session has ended: what was asked for waits until one has signed in again, so that nothing is lost.
    if (answer.status === 401 && signInAgain) {
      await signInAgain();
      continue;
    }
    const told = (await answer.json().catch(() => ({}))) as { problem?: string };
    throw new ActionError(answer.status, told.problem ?? t("The server could not do this. Try again."));
  }
}

/** Functions that ask the server under an address. Each throws an `ActionError` if it is refused. */
const asking = (base: string): unknown =>
  new Proxy({} as Record<string, (...args: unknown[]) => Promise<unknown>>, {
    // The very same function each time, so that who depends on it sees no change.
    get: (made, name) => (typeof name === "string" ? (made[name] ??= (...args) => call(base, name, args)) : undefined),
  });

/** What may be asked on a site. */
export const actionsOf = (site: string): Actions => asking(siteBase(site)) as Actions;
/** What may be asked of the installation. */
export const installationActions = asking("") as InstallationActions;

/** Why something failed, in words for whoever asked for it. */
export const whyNot = (error: unknown): string =>
  error instanceof ActionError ? error.message : t("The server could not be reached. Nothing was changed.");
