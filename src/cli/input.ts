import { readFileSync } from "node:fs";
import { parseArgs, type ParseArgsConfig } from "node:util";
import type { Problem } from "@/core/formats/problem";
import type { Ruleset } from "@/core/formats/ruleset";
import { readVisit, type Visit } from "@/core/formats/visit";
import { readRuleset } from "@/core/ruleset/check";
import { readMmdb } from "@/core/visit/mmdb";
import { firstOf, readPlaceCsv, type PlaceLookup } from "@/core/visit/places";

/** Something the caller must mend: said in one line on standard error, exit 2. */
export class BadInput extends Error {}

/** Runs a program to its exit code; bad input is said in one line, and is exit 2. */
export function exitBy(program: () => Promise<number>): void {
  process.stdout.on("error", (error: NodeJS.ErrnoException) => {
    if (error.code === "EPIPE") process.exit(0);
    throw error;
  });
  program().then(
    (code) => {
      process.exitCode = code;
    },
    (error: unknown) => {
      if (!(error instanceof BadInput)) throw error;
      process.stderr.write(`mirada: ${error.message}\n`);
      process.exitCode = 2;
    },
  );
}

export function readText(file: string): string {
  try {
    return readFileSync(file === "-" ? 0 : file, "utf8").replace(/^\uFEFF/, "");
  } catch (error) {
    throw new BadInput(`cannot read ${file}: ${(error as NodeJS.ErrnoException).code ?? "unknown error"}`);
  }
}

export function parseJson(text: string, what: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new BadInput(`${what} is not JSON: ${(error as Error).message.replaceAll(/\s+/g, " ")}`);
  }
}

const first = (problems: Problem[]): string => {
  const [problem, ...more] = problems;
  return `${problem?.path || "(whole)"}: ${problem?.problem}${more.length > 0 ? ` (and ${more.length} more)` : ""}`;
};

export function loadRuleset(file: string): Ruleset {
  const read = readRuleset(parseJson(readText(file), file));
  if (!read.ok) throw new BadInput(`${file}: ${first(read.problems)}`);
  return read.value;
}

/** Visits from a JSON visit, a JSON array of visits or NDJSON. All of them are read before any is answered. */
export function loadVisits(file: string): Visit[] {
  const text = readText(file);
  const trimmed = text.trim();
  if (trimmed === "") return [];
  let raw: unknown[];
  try {
    const whole: unknown = JSON.parse(trimmed);
    raw = Array.isArray(whole) ? whole : [whole];
  } catch {
    raw = text
      .split(/\r?\n/)
      .map((line, index) => ({ line, index }))
      .filter(({ line }) => line.trim() !== "")
      .map(({ line, index }) => parseJson(line, `${file} line ${index + 1}`));
  }
  return raw.map((item, index) => {
    const read = readVisit(item);
    if (!read.ok) throw new BadInput(`${file}, visit ${index + 1}: ${first(read.problems)}`);
    return read.value;
  });
}

/** Place data from CSV or MMDB files, asked in their order. */
export function loadPlaces(files: readonly string[]): PlaceLookup | undefined {
  if (files.length === 0) return undefined;
  return firstOf(
    files.map((file) => {
      if (/\.mmdb$/i.test(file)) {
        try {
          return readMmdb(readFileSync(file));
        } catch {
          throw new BadInput(`${file} is no MMDB file`);
        }
      }
      const read = readPlaceCsv(readText(file));
      if ("problems" in read) throw new BadInput(`${file}: ${first(read.problems).replace(/^\//, "line ")}`);
      return read.lookup;
    }),
  );
}

/** Arguments of a command: exactly the named positions, and options. */
export function readArgs<O extends NonNullable<ParseArgsConfig["options"]>>(
  args: string[],
  positions: readonly string[],
  options: O,
) {
  try {
    const parsed = parseArgs({ args, options, allowPositionals: true });
    if (parsed.positionals.length !== positions.length) throw new Error(`expected ${positions.join(" ")}`);
    return { values: parsed.values, positionals: parsed.positionals };
  } catch (error) {
    throw new BadInput((error as Error).message.replaceAll(/\s+/g, " "));
  }
}
