import type { Ruleset } from "@/core/formats/ruleset";
import type { Report } from "@/core/release/report";
import { of, type Queryable } from "./pool";

export type ReviewState = "open" | "approved" | "sent back" | "withdrawn" | "live" | "outdated";

/** What was asked to go live, and what became of it. Times are RFC 3339, people by id. */
export interface Review {
  number: number;
  askedAt: string;
  askedBy: string;
  note: string;
  sha256: string;
  draftVersion: number;
  basedOn: number | null;
  report: Report;
  override: string;
  state: ReviewState;
  decidedBy: string | null;
  decidedAt: string | null;
  liveAt: string | null;
  release: number | null;
  /** How many comments it has. */
  comments: number;
}
export interface ReviewComment {
  number: number;
  at: string;
  person: string;
  /** The change it is about; empty: the whole. */
  change: string;
  says: string;
}

interface Row {
  number: number;
  asked_at: Date;
  asked_by: string;
  note: string;
  sha256: string;
  draft_version: string;
  based_on: number | null;
  report: Report;
  override: string;
  state: ReviewState;
  decided_by: string | null;
  decided_at: Date | null;
  live_at: Date | null;
  release: number | null;
  comments: number;
}
const columns = `number, asked_at, asked_by, note, sha256, draft_version, based_on, report, override, state, decided_by,
  decided_at, live_at, release,
  (select count(*)::int from review_comments c where c.site = reviews.site and c.review = reviews.number) as comments`;
const review = (row: Row): Review => ({
  number: row.number,
  askedAt: row.asked_at.toISOString(),
  askedBy: row.asked_by,
  note: row.note,
  sha256: row.sha256,
  draftVersion: Number(row.draft_version),
  basedOn: row.based_on,
  report: row.report,
  override: row.override,
  state: row.state,
  decidedBy: row.decided_by,
  decidedAt: row.decided_at?.toISOString() ?? null,
  liveAt: row.live_at?.toISOString() ?? null,
  release: row.release,
  comments: row.comments,
});

export async function addReview(
  site: string,
  asked: Pick<Review, "askedBy" | "note" | "sha256" | "draftVersion" | "basedOn" | "report" | "override"> & {
    ruleset: Ruleset;
  },
  db: Queryable,
): Promise<number> {
  const found = await db.query<{ number: number }>(
    `insert into reviews (site, number, asked_by, note, ruleset, sha256, draft_version, based_on, report, override)
     select $1, coalesce(max(number), 0) + 1, $2, $3, $4, $5, $6, $7, $8, $9 from reviews where site = $1
     returning number`,
    [
      site,
      asked.askedBy,
      asked.note,
      JSON.stringify(asked.ruleset),
      asked.sha256,
      asked.draftVersion,
      asked.basedOn,
      JSON.stringify(asked.report),
      asked.override,
    ],
  );
  return found.rows[0]?.number as number;
}

/** The latest reviews, newest first. */
export async function listReviews(site: string, most = 50, db: Queryable = of(site)): Promise<Review[]> {
  const found = await db.query<Row>(`select ${columns} from reviews where site = $1 order by number desc limit $2`, [
    site,
    most,
  ]);
  return found.rows.map(review);
}

/** A review with its ruleset. `lock` holds it for the transaction, so that two people never decide at once. */
export async function readReview(
  site: string,
  number: number,
  db: Queryable = of(site),
  lock = false,
): Promise<(Review & { ruleset: Ruleset }) | undefined> {
  const found = await db.query<Row & { ruleset: Ruleset }>(
    `select ${columns}, ruleset from reviews where site = $1 and number = $2${lock ? " for update" : ""}`,
    [site, number],
  );
  const row = found.rows[0];
  return row && { ...review(row), ruleset: row.ruleset };
}

/** What becomes of a review. */
export async function decideReview(
  site: string,
  number: number,
  to: { state: ReviewState; by: string; liveAt?: string | null; release?: number },
  db: Queryable,
): Promise<void> {
  await db.query(
    `update reviews set state = $3, decided_by = $4, decided_at = now(), live_at = $5, release = $6
     where site = $1 and number = $2`,
    [site, number, to.state, to.by, to.liveAt ?? null, to.release ?? null],
  );
}

/**
 * An approved review whose time has come; it is held by whoever takes it, so that one of several processes does.
 * @param beside none of these, by site and number
 */
export async function dueReview(
  beside: readonly string[],
  db: Queryable,
): Promise<{ site: string; number: number } | undefined> {
  return (
    await db.query<{ site: string; number: number }>(
      `select site, number from reviews where state = 'approved' and live_at <= now()
         and site in (select site from sites where archived_at is null) and site || ' ' || number <> all($1)
       order by live_at limit 1 for update skip locked`,
      [beside],
    )
  ).rows[0];
}

export async function addComment(
  site: string,
  number: number,
  comment: Pick<ReviewComment, "person" | "change" | "says">,
  db: Queryable,
): Promise<void> {
  await db.query("insert into review_comments (site, review, person, change, says) values ($1, $2, $3, $4, $5)", [
    site,
    number,
    comment.person,
    comment.change,
    comment.says,
  ]);
}

export async function listComments(site: string, number: number): Promise<ReviewComment[]> {
  const found = await of(site).query<Omit<ReviewComment, "number" | "at"> & { number: string; at: Date }>(
    "select number, at, person, change, says from review_comments where site = $1 and review = $2 order by number",
    [site, number],
  );
  return found.rows.map((row) => ({ ...row, number: Number(row.number), at: row.at.toISOString() }));
}
