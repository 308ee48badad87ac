/** Text as people see it: white space of any length is one space, and none stands at its ends. */
export const spaced = (text: string): string => text.replace(/\s+/g, " ").trim();
