import { speakBy, type Speech } from "@/core/messages/t";
import { effects, type Compared } from "@/core/analysis/effects";

/** Looks for what another ruleset changes, off the screen's own thread, and tells each step. Whoever started it ends it. */
self.onmessage = (event: MessageEvent<Compared & { speech: Speech }>) => {
  speakBy(() => event.data.speech);
  try {
    for (const step of effects(event.data)) self.postMessage(step);
  } catch (error) {
    // What was found so far is shown; the rest is not waited for.
    console.error("What changes could not be worked out", error);
  }
  self.postMessage("done");
};
