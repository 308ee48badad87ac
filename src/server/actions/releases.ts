import * as z from "zod";
import { id } from "@/core/formats/basics";
import { action } from "../act";
import { pause, releasesNow, returnTo, rulesetAt } from "../releases";
import { askForReview, commentOn, decideOn, withdraw } from "../reviews";

const number = z.number().int().min(1);
const what = z.strictObject({ kind: z.enum(["variant", "popup", "redirect"]), id });

/** From draft to live. Anybody may ask for a review and comment; what goes live, and what is paused, is an approver's. */
export const releaseActions = {
  askForReview: action(
    "signed in",
    [
      z.strictObject({
        note: z.string().max(500),
        version: z.number().int(),
        reason: z.string().max(500),
        live: z.boolean(),
        accepted: z.array(z.string().max(4000)).max(1000).optional(),
      }),
    ],
    askForReview,
  ),
  approve: action("release", [number, z.iso.datetime({ offset: true }).nullable()], (who, review, at) =>
    decideOn(who, review, { approve: true, at }),
  ),
  sendBack: action("release", [number], (who, review) => decideOn(who, review, { approve: false })),
  withdraw: action("signed in", [number], withdraw),
  returnTo: action("release", [number, z.string().max(500)], returnTo),
  comment: action("signed in", [number, z.string().max(300), z.string().trim().min(1).max(2000)], commentOn),
  releases: action("signed in", [], (who) => releasesNow(who.site)),
  rulesetAt: action("signed in", [z.enum(["release", "review"]), number], (who, kind, at) =>
    rulesetAt(who.site, kind, at),
  ),
  pause: action("release", [what, z.string().trim().min(1).max(300)], pause),
  endPause: action("release", [what], (who, paused) => pause(who, paused, null)),
};
