/** The languages that the interface speaks, by their tags, in their own words. */
export const languages = { en: "English", de: "Deutsch", pt: "Português" } as const;
export type Language = keyof typeof languages;

export const isLanguage = (tag: string): tag is Language => Object.hasOwn(languages, tag);

/** By which dates and numbers of each are written (BCP 47). */
export const locales: Readonly<Record<Language, string>> = { en: "en-GB", de: "de-DE", pt: "pt-PT" };

/** The cookie in which a browser keeps the language that was chosen. */
export const languageCookie = "mirada-language";
