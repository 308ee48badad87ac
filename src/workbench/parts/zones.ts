/** The names of time zones that this browser knows, for pickers. */
export const zones: string[] = Intl.supportedValuesOf("timeZone");
