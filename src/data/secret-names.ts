import { createHash, randomBytes } from "node:crypto";

/** What is kept of a secret name: its SHA-256, so that the database alone opens nothing. */
export const digest = (name: string): string => createHash("sha256").update(name).digest("base64url");
/** A name that cannot be guessed: 192 random bits. */
export const secretName = (): string => randomBytes(24).toString("base64url");
