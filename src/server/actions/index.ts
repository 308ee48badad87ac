import { draftActions } from "./draft";
import { healthActions } from "./health";
import { lookingActions } from "./looking";
import { peopleActions } from "./people";
import { releaseActions } from "./releases";
import { resultActions } from "./results";
import { sendingActions } from "./sending";
import { settingsActions } from "./settings";

/** Everything that the workbench may ask of the server, by name. Answered at /act/NAME. */
export const actions = {
  ...draftActions,
  ...lookingActions,
  ...settingsActions,
  ...releaseActions,
  ...peopleActions,
  ...resultActions,
  ...sendingActions,
  ...healthActions,
};

export type ActionName = keyof typeof actions;
/** The actions as a screen calls them: their arguments without who asks, and what they answer. */
export type Actions = {
  [K in ActionName]: (typeof actions)[K] extends { run: (who: never, ...args: infer A) => Promise<infer R> }
    ? (...args: A) => Promise<R>
    : never;
};
