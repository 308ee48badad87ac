/** The types that the workbench knows of what the server answers. */
export type { AuditLine } from "@/data/audit";
export type { SiteKey } from "@/data/keys";
export type { LookSource } from "@/data/passes";
export type { KeptPause } from "@/data/pauses";
export type { Invitation, PersonRow } from "@/data/people";
export type { ReleaseNote, WentLive } from "@/data/releases";
export type { Review, ReviewComment } from "@/data/reviews";
export type { Present, SessionRow } from "@/data/sessions";
export type { ServedBy } from "./actions/settings";
export type { ResultsNow } from "./actions/sending";
export type { DeskNews, OpenedDesk } from "./desk";
export type { Stale } from "./draft";
export type { PeopleNow } from "./people";
export type { Asked, ReleasesNow } from "./reviews";
export type { NewSite, NewSiteField, SiteMade, SitesNow } from "./sites";
export type { LookedBy } from "@/data/sites";
export type { SharedWords } from "./shared";
