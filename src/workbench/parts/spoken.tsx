"use client";
import { use } from "react";
import { locales, type Language } from "@/core/messages/languages";
import { speakBy, type Speech } from "@/core/messages/t";

const catalogues: Readonly<Record<Exclude<Language, "en">, () => Promise<Speech["catalogue"]>>> = {
  de: async () => (await import("@/messages/de.json")).default,
  pt: async () => (await import("@/messages/pt.json")).default,
};
const asked = new Map<Language, Promise<void>>();

/** From here on this browser is spoken to in a language. */
async function learn(language: Exclude<Language, "en">): Promise<void> {
  const speech = { locale: locales[language], catalogue: await catalogues[language]() };
  speakBy(() => speech);
}

/** What is drawn in it speaks a language; in a browser it waits for the messages of that language. */
export function Spoken({ language, children }: { language: Language; children: React.ReactNode }) {
  // A server knows by the request whom it speaks to (server/speech.ts).
  if (typeof window !== "undefined" && language !== "en") {
    const known = asked.get(language) ?? learn(language);
    asked.set(language, known);
    use(known);
  }
  return children;
}
