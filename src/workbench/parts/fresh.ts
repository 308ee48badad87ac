import { now } from "@/clock";
import { uuid } from "@/script/happened";

/** An id for something new that is kept beside the draft: a lens, a check. No two are alike, whoever makes one at the same moment. */
export const freshName = (stem: string): string => `${stem}-${now().toString(36)}${uuid().slice(0, 6)}`;
