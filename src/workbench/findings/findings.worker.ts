import { speakBy, type Speech } from "@/core/messages/t";
import { findings } from "@/core/analysis/findings";
import type { Domain } from "@/core/analysis/facet";

/** Looks through a ruleset off the screen's own thread, and tells each step. Whoever started it ends it. */
self.onmessage = (event: MessageEvent<Domain & { speech: Speech }>) => {
  speakBy(() => event.data.speech);
  let last = 0;
  for (const step of findings(event.data)) {
    if (!step.finding && step.done === last) continue;
    last = step.done;
    self.postMessage(step);
  }
  self.postMessage("done");
};
