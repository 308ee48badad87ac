/** An id for something new that is kept beside the draft: a lens, a check. */
export const freshName = (stem: string): string => `${stem}-${Date.now().toString(36)}`;
