import { now } from "@/clock";

/** An id for something new that is kept beside the draft: a lens, a check. */
export const freshName = (stem: string): string => `${stem}-${now().toString(36)}`;
