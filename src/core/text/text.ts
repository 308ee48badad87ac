import { fold } from "./fold";
import { words } from "./words";

/** A text value of a visit, with its comparable forms worked out once, when first asked for. */
export class Text {
  #folded: string | undefined;
  #exact: string | undefined;
  #words: string[] | undefined;
  #exactWords: string[] | undefined;
  constructor(readonly raw: string) {}

  get folded(): string {
    return (this.#folded ??= fold(this.raw));
  }
  get exact(): string {
    return (this.#exact ??= this.raw.normalize("NFC"));
  }
  /** Words in comparable form, in their order. */
  words(exact: boolean): string[] {
    return exact ? (this.#exactWords ??= words(this.exact)) : (this.#words ??= words(this.folded));
  }
}

/** The same with a capital letter at its beginning. */
export const capitalized = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
