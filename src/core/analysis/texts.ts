/** Texts that tell conditions apart: for the conditions on one text, candidates among which every possible outcome is met. */
import { asksState, meaningOf, operators, valueReader, type Meaning, type OfText } from "../formats/operators";
import type { Condition } from "../formats/rule";
import { comparable } from "../text/fold";

export interface TextCandidates {
  texts: string[];
  /** Whether the candidates meet every combination of outcomes that any text could have: then a search among them is a proof. */
  exact: boolean;
}

/** A pattern of literals with any run of characters between them; `open` ends are where a run may stand. */
interface Pattern {
  parts: string[];
  openStart: boolean;
  openEnd: boolean;
}

const mostWords = 9;
const mostStates = 4000;
/** More patterns than this are not weighed in pairs, nor by their product. */
const mostPatterns = 12;

/** What a condition on a text asks of it; undefined where it asks only whether there is one, or has no value yet. */
const meaningOfText = ({ op, value, exact }: Condition): Meaning | undefined =>
  meaningOf(op, value, valueReader("text", "", exact));
/** Whether a condition asks what a text is, and not only whether there is one. */
export const isOfText = ({ op }: Condition): boolean => operators[op].kinds.includes("text") && !asksState(op);
/** Whether it names whole texts, so that no other text can meet what it asks. */
export const isEqual = (condition: Condition): boolean => meaningOfText(condition)?.is === "equal";

/** Text of another case, if there is one: told apart only where capital letters count. */
const swapped = (text: string): string => {
  const upper = text.toUpperCase();
  return upper === text ? text.toLowerCase() : upper;
};

/** Candidates for the conditions on one text signal. Absence is the caller's. */
export function textCandidates(conditions: readonly Condition[]): TextCandidates {
  const equal = new Set<string>();
  const patterns: { pattern: Pattern; exact: boolean }[] = [];
  const wordLists: { phrase: boolean; words: string[]; text: string }[] = [];
  let caseCounts = false;
  for (const condition of conditions) {
    if (condition.exact) caseCounts = true;
    const meaning = meaningOfText(condition);
    if (!meaning) continue;
    const exact = condition.exact === true;
    switch (meaning.is) {
      case "equal":
        for (const item of [condition.value].flat()) if (typeof item === "string") equal.add(item);
        break;
      case "pattern":
        patterns.push({ pattern: { ...meaning, parts: [...meaning.parts] }, exact });
        break;
      case "words":
      case "phrase":
        wordLists.push({ phrase: meaning.is === "phrase", words: [...meaning.words], text: String(condition.value) });
        break;
      default:
        // Nothing else asks anything of a text: whether there is one is the caller's.
        meaning satisfies Exclude<Meaning, OfText>;
    }
  }
  const texts = new Set<string>();
  const add = (text: string) => {
    texts.add(text);
    if (caseCounts) texts.add(swapped(text));
  };
  for (const text of equal) add(text);
  add("elsewhere");
  add("");
  // Something of each kind of open condition, so that even an inexact search has good candidates.
  for (const { pattern } of patterns) {
    const plain = pattern.parts.join("");
    add(plain);
    add(
      `${pattern.openStart ? "a" : ""}${pattern.parts.join(pattern.parts.length > 1 ? "-" : "")}${pattern.openEnd ? "z" : ""}`,
    );
  }
  for (const list of wordLists) add(list.text);

  let exact = true;
  if (wordLists.length > 0) {
    const all = [...new Set(wordLists.flatMap((list) => list.words))];
    const phrases = wordLists.some((list) => list.phrase);
    exact = !phrases && patterns.length === 0 && all.length <= mostWords && !caseCounts;
    const some = all.slice(0, mostWords);
    for (let bits = 1; bits < 1 << some.length; bits++) add(some.filter((_, index) => bits & (1 << index)).join(" "));
    if (all.length > mostWords) {
      for (const word of all) add(word);
      add(all.join(" "));
    }
    if (phrases) {
      const told = wordLists.filter((list) => list.phrase).map((list) => list.text);
      for (const phrase of told) for (const other of wordLists) add(`${phrase} ${other.text}`);
      add(told.join(" "));
    }
    if (patterns.length <= mostPatterns)
      for (const { pattern } of patterns) for (const list of wordLists) add(joined([pattern], list.text));
  }
  if (patterns.length > 0) {
    if (patterns.length <= mostPatterns)
      for (const a of patterns) for (const b of patterns) if (a !== b) add(joined([a.pattern, b.pattern]));
    add(joined(patterns.map((item) => item.pattern)));
    if (!caseCounts && wordLists.length === 0 && patterns.length + equal.size <= 2 * mostPatterns) {
      const literals = [...equal].map((text) => comparable(text));
      const found = product([
        ...patterns.map((item) => item.pattern),
        ...literals.map((text) => ({ parts: [text].filter(Boolean), openStart: false, openEnd: false })),
      ]);
      if (found) for (const text of found) add(text);
      else exact = false;
    } else exact = false;
  }
  return { texts: [...texts], exact };
}

/** A text that meets several patterns at once, if they let it: what is fixed at the ends goes there, the rest between. */
function joined(patterns: readonly Pattern[], middle = ""): string {
  const head = patterns
    .filter((item) => !item.openStart)
    .sort((a, b) => (b.parts[0]?.length ?? 0) - (a.parts[0]?.length ?? 0))[0];
  const tail = patterns
    .filter((item) => !item.openEnd)
    .sort((a, b) => (b.parts.at(-1)?.length ?? 0) - (a.parts.at(-1)?.length ?? 0))[0];
  const rest = patterns.filter((item) => item !== head && item !== tail).flatMap((item) => item.parts);
  const parts = [
    ...(head?.parts ?? []),
    ...rest,
    ...(middle ? [middle] : []),
    ...(tail && tail !== head ? tail.parts : []),
  ];
  return parts.join(" ");
}

/**
 * The product of the patterns' automata: a shortest text for every combination of outcomes that any text can have.
 * Undefined if there are too many states to look at.
 */
function product(patterns: readonly Pattern[]): string[] | undefined {
  const machines = patterns.map(machineOf);
  const letters = new Set(patterns.flatMap((item) => item.parts.flatMap((part) => [...part])));
  let other = "a";
  for (let code = 97; letters.has(other); code++) other = String.fromCodePoint(code);
  const alphabet = [...letters, other];
  const start = machines.map((machine) => machine.start);
  const seen = new Map<string, string>([[start.join(" "), ""]]);
  const outcomes = new Map<string, string>();
  const queue: { states: number[]; text: string }[] = [{ states: start, text: "" }];
  for (let head = 0; head < queue.length; head++) {
    const { states, text } = queue[head] as { states: number[]; text: string };
    const outcome = machines.map((machine, i) => (machine.accepts(states[i] as number) ? "1" : "0")).join("");
    if (!outcomes.has(outcome)) outcomes.set(outcome, text);
    for (const letter of alphabet) {
      const next = machines.map((machine, i) => machine.next(states[i] as number, letter));
      const key = next.join(" ");
      if (seen.has(key)) continue;
      if (seen.size >= mostStates) return undefined;
      seen.set(key, "");
      queue.push({ states: next, text: text + letter });
    }
  }
  return [...outcomes.values()];
}

/** A pattern as a deterministic automaton, its states numbered as they are met. */
function machineOf({ parts, openStart, openEnd }: Pattern) {
  // Positions of a text made of the parts' letters, with a loop (any letter) where a run may stand.
  const letters = parts.flatMap((part) => [...part]);
  const loops = new Set<number>();
  let at = 0;
  if (openStart) loops.add(0);
  parts.forEach((part, index) => {
    at += [...part].length;
    if (index < parts.length - 1 || openEnd) loops.add(at);
  });
  if (parts.length === 0 && (openStart || openEnd)) loops.add(0);
  const sets: number[][] = [];
  const numbers = new Map<string, number>();
  const number = (positions: number[]): number => {
    const key = positions.join(",");
    let known = numbers.get(key);
    if (known === undefined) {
      known = sets.length;
      sets.push(positions);
      numbers.set(key, known);
    }
    return known;
  };
  const steps = new Map<string, number>();
  return {
    start: number([0]),
    accepts: (state: number) => (sets[state] as number[]).includes(letters.length),
    next(state: number, letter: string): number {
      const key = `${state} ${letter}`;
      let known = steps.get(key);
      if (known === undefined) {
        const to = new Set<number>();
        for (const position of sets[state] as number[]) {
          if (loops.has(position)) to.add(position);
          if (letters[position] === letter) to.add(position + 1);
        }
        steps.set(key, (known = number([...to].sort((a, b) => a - b))));
      }
      return known;
    },
  };
}
