import { t } from "../messages/t";
import { parseTemplate } from "url-template";

/** Variables that a redirect's template may name (docs/engine.md, section 8). */
export const templateVariables = ["scheme", "host", "path", "query", "country", "region", "city", "language"] as const;

const expression = /^[+#./;?&]?([^+#./;?&].*)$/;
const varspec = /^((?:[A-Za-z0-9_]|%[0-9A-Fa-f]{2})(?:\.?(?:[A-Za-z0-9_]|%[0-9A-Fa-f]{2}))*)(?:\*|:[1-9]\d{0,3})?$/;
/** What RFC 6570 section 2.1 lets stand outside expressions. */
const literals = /^(?:[!#$&()*+,\-./0-9:;=?@A-Z[\]_a-z~']|%[0-9A-Fa-f]{2}|[\u00A0-\u{10FFFD}])*$/u;

/** The variables of an RFC 6570 template, or what is wrong with it. */
export function templateParts(template: string): { names: string[] } | { problem: string } {
  const names: string[] = [];
  let rest = template;
  while (rest !== "") {
    const open = rest.indexOf("{");
    const literal = open < 0 ? rest : rest.slice(0, open);
    if (!literals.test(literal))
      return { problem: t('has characters that an address may not have: "{literal}"', { literal }) };
    if (open < 0) break;
    const close = rest.indexOf("}", open);
    if (close < 0) return { problem: t("has a { that is not closed") };
    const body = expression.exec(rest.slice(open + 1, close));
    if (!body)
      return {
        problem: t("has an expression that is not understood: {{rest}}", { rest: rest.slice(open + 1, close) }),
      };
    for (const spec of (body[1] as string).split(",")) {
      const match = varspec.exec(spec);
      if (!match) return { problem: t('has a variable that is not well-formed: "{spec}"', { spec }) };
      names.push(match[1] as string);
    }
    rest = rest.slice(close + 1);
  }
  return { names };
}

/** What is wrong with a redirect's template, if anything. */
export function templateProblem(template: string): string | undefined {
  const parts = templateParts(template);
  if ("problem" in parts) return parts.problem;
  const foreign = parts.names.find((name) => !(templateVariables as readonly string[]).includes(name));
  return (
    foreign &&
    t('names "{foreign}"; it may name {templateVariables}', {
      foreign,
      templateVariables: templateVariables.join(", "),
    })
  );
}

/** The host that a template names outright; undefined for the site's own pages, null where a value would choose it. */
function hostOf(template: string): string | null | undefined {
  const match = /^(?:[a-z][a-z0-9+.-]*|\{[^}]*scheme[^}]*\}):\/\/([^/?#]*)|^\/\/([^/?#]*)/i.exec(template);
  const host = match?.[1] ?? match?.[2];
  if (host === undefined || /^\{\+?host\}$/.test(host)) return undefined;
  return host.includes("{") ? null : host.toLowerCase();
}

/** What is wrong with where a redirect leads, in words: its template, or a host that the site does not send visitors to. */
export function targetProblem(template: string, origin: string, otherHosts: readonly string[]): string | undefined {
  const wrong = template === "" ? t("is missing") : templateProblem(template);
  if (wrong) return `It ${wrong}`;
  const host = hostOf(template);
  if (host === null) return t("The host must be written out: a value of the visit may not choose it");
  return host === undefined || host === new URL(origin).host || otherHosts.includes(host)
    ? undefined
    : t("It leads to {host}, which is not among the hosts that this site sends visitors to. Add it in Settings first", {
        host,
      });
}

/** Expands an RFC 6570 template. Halves of surrogate pairs, which have no UTF-8, become U+FFFD (as WHATWG URL has it). */
export const expandTemplate = (template: string, values: Record<string, string>): string =>
  parseTemplate(template).expand(
    Object.fromEntries(Object.entries(values).map(([name, value]) => [name, wellFormed(value)])),
  );
const wellFormed = <T>(value: T): T | string => (typeof value === "string" ? value.toWellFormed() : value);
