import { listen } from "@/data/listen";
import { liveChannel } from "@/data/releases";
import { deskChannel } from "@/data/sessions";

type Hear = () => void;

/** Tells whoever has a site's desk open that something has changed, whichever process changed it. */
class DeskNews {
  readonly #listeners = new Map<string, Set<Hear>>();
  constructor() {
    const heard = (site: string) => this.#listeners.get(site)?.forEach((hear) => hear());
    void listen(deskChannel, heard);
    void listen(liveChannel, heard);
  }
  /** @returns a function that stops hearing */
  subscribe(site: string, hear: Hear): () => void {
    const there = this.#listeners.get(site) ?? new Set();
    this.#listeners.set(site, there.add(hear));
    return () => void there.delete(hear);
  }
}
const shared = globalThis as { miradaNews?: DeskNews };
export const deskNews = (): DeskNews => (shared.miradaNews ??= new DeskNews());
