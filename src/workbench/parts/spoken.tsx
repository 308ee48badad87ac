"use client";
import { Suspense, use } from "react";
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

/** Waits in a browser for the messages of a language. A server knows by the request whom it speaks to (server/speech.ts). */
function Learned({ language, children }: { language: Exclude<Language, "en">; children: React.ReactNode }) {
  if (typeof window !== "undefined") {
    const known = asked.get(language) ?? learn(language);
    asked.set(language, known);
    use(known);
  }
  return children;
}

/** What is drawn in it speaks a language. */
export function Spoken({ language, children }: { language: Language; children: React.ReactNode }) {
  if (language === "en") return children;
  return (
    <Suspense>
      <Learned language={language}>{children}</Learned>
    </Suspense>
  );
}
