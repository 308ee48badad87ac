import { fold } from "./fold";

/** What finds a text by all the words that are asked for, whatever their order and letters; nothing asked for finds everything. */
export function finder(asked: string): (text: string) => boolean {
  const words = fold(asked).split(/\s+/).filter(Boolean);
  return (text) => {
    const own = fold(text);
    return words.every((word) => own.includes(word));
  };
}
