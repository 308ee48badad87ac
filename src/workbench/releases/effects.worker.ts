import { effects, type Compared } from "@/core/analysis/effects";

/** Looks for what another ruleset changes, off the screen's own thread, and tells each step. Whoever started it ends it. */
self.onmessage = (event: MessageEvent<Compared>) => {
  for (const step of effects(event.data)) self.postMessage(step);
  self.postMessage("done");
};
