import { of, type Queryable } from "./pool";

/** One line of the audit trail. `before` and `after` are by the place that changed: a path of the draft, or a word. */
export interface AuditLine {
  number: number;
  at: string;
  person: string;
  kind: AuditKind;
  says: string;
  before: Record<string, unknown> | null;
  after: Record<string, unknown> | null;
}
export type AuditKind =
  | "draft"
  | "release"
  | "pause"
  | "people"
  | "settings"
  | "keys"
  | "lenses"
  | "checks"
  | "links"
  | "results"
  | "session";

export type Told = Pick<AuditLine, "kind" | "says"> & Partial<Pick<AuditLine, "before" | "after">>;

/** Writes down who did what. Within the caller's transaction, so that nothing is done without a line, and no line without a deed. */
export async function tell(
  site: string,
  person: string,
  { kind, says, before, after }: Told,
  db: Queryable = of(site),
): Promise<void> {
  await db.query("insert into audit_trail (site, person, kind, says, before, after) values ($1, $2, $3, $4, $5, $6)", [
    site,
    person,
    kind,
    says,
    before ? JSON.stringify(before) : null,
    after ? JSON.stringify(after) : null,
  ]);
}

interface Wanted {
  /** Before this number. */
  below?: number | undefined;
  person?: string | undefined;
  kind?: string | undefined;
  /** Words that a line has, all of them, in what it says or in the values before and after; small and capital letters alike. */
  words?: readonly string[] | undefined;
}

/** The latest lines, newest first, of those that are wanted. */
export async function readAudit(
  site: string,
  { below, person, kind, words = [] }: Wanted,
  most = 100,
): Promise<AuditLine[]> {
  const found = await of(site).query<Omit<AuditLine, "number" | "at"> & { number: string; at: Date }>(
    `select number, at, person, kind, says, before, after from audit_trail
     where site = $1 and ($2::bigint is null or number < $2) and ($3::text is null or person = $3)
       and ($4::text is null or kind = $4)
       and concat_ws(' ', says, before::text, after::text) ilike all ($6::text[])
     order by number desc limit $5`,
    [
      site,
      below ?? null,
      person ?? null,
      kind ?? null,
      most,
      words.map((word) => `%${word.replace(/[\\%_]/g, "\\$&")}%`),
    ],
  );
  return found.rows.map((row) => ({ ...row, number: Number(row.number), at: row.at.toISOString() }));
}

/** The latest change of the draft that touched a place: who made it. */
export async function lastAt(
  site: string,
  path: string,
  db: Queryable = of(site),
): Promise<{ person: string; at: string } | undefined> {
  const found = await db.query<{ person: string; at: Date }>(
    `select person, at from audit_trail where site = $1 and kind = 'draft'
       and (before ? $2 or after ? $2) order by number desc limit 1`,
    [site, path],
  );
  const row = found.rows[0];
  return row && { person: row.person, at: row.at.toISOString() };
}
