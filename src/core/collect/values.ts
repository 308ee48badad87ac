/** Reading what a page says as a value. It runs in visitors' pages: small, and without packages. */

export type ValueKind = "text" | "texts" | "number" | "money" | "flag" | "date";
export type Value = string | number | boolean | string[];

const run = /[-−]?\d(?:[\d.,'’\s\u00a0\u202f]*\d)?/gu;
/** Signs of currencies (Unicode: Sc) and their ISO 4217 codes, beside a number. */
const before = /(?:\p{Sc}|[A-Z]{3})[\s\u00a0\u202f]*$/u;
const after = /^[\s\u00a0\u202f]*(?:\p{Sc}|[A-Z]{3}(?![A-Za-z]))/u;

/**
 * The first number in a text; of several that which stands beside a currency.
 * @param decimal what stands before the decimals. Twice in one number it groups digits.
 */
export function readNumber(text: string, decimal: "." | "," = "."): number | undefined {
  const runs = [...text.matchAll(run)];
  const priced = runs.find(
    ({ 0: digits, index }) => before.test(text.slice(0, index)) || after.test(text.slice(index + digits.length)),
  );
  const found = (priced ?? runs[0])?.[0];
  if (found === undefined) return undefined;
  const parts = found.replace(/[^\d.,]/g, "").split(decimal);
  const digits = (part: string) => part.replace(/\D/g, "");
  const number = Number(
    parts.length === 2 ? `${digits(parts[0] ?? "")}.${digits(parts[1] ?? "")}` : digits(parts.join("")),
  );
  return /^[-−]/.test(found) ? -number : number;
}

/** The decimal sign that a number is most likely written with; undefined: it could be either. */
export function likelyDecimal(text: string): "." | "," | undefined {
  const found = /\d(?:[\d.,'’\s\u00a0\u202f]*\d)?/u.exec(text)?.[0] ?? "";
  const last = /[.,](?=\d+$)/.exec(found)?.[0] as "." | "," | undefined;
  if (last === undefined) return undefined;
  const decimals = found.length - found.lastIndexOf(last) - 1;
  const both = found.includes(".") && found.includes(",");
  if (both) return last;
  if (found.split(last).length > 2) return last === "." ? "," : ".";
  return decimals === 3 ? undefined : last;
}

const list = (raw: unknown): unknown[] => (Array.isArray(raw) ? raw : [raw]);
const isPlain = (raw: unknown): raw is string | number | boolean => /^(string|number|boolean)$/.test(typeof raw);
const textOf = (raw: unknown): string | undefined => {
  const [first] = list(raw).filter(isPlain);
  const text = String(first ?? "").trim();
  return text === "" ? undefined : text;
};

/** What a page says, as a value of a kind; undefined: it says nothing that could be read so. */
export function readValue(raw: unknown, kind: ValueKind, decimal?: "." | ","): Value | undefined {
  if (kind === "texts") {
    const texts = list(raw)
      .filter(isPlain)
      .flatMap((item) => String(item).split(","))
      .map((item) => item.trim())
      .filter((item) => item !== "");
    return texts.length > 0 ? texts.slice(0, 100) : undefined;
  }
  const text = textOf(raw);
  if (text === undefined) return undefined;
  if (kind === "number" || kind === "money") {
    if (typeof raw === "number") return raw;
    return readNumber(text, decimal);
  }
  // Whatever is there is a yes, unless it says no.
  if (kind === "flag") return !/^(false|no|off|0)$/i.test(text);
  if (kind === "date") return /^\d{4}-\d\d-\d\d/.exec(text)?.[0];
  return text.slice(0, 5000);
}
