/** Writes the reference of signals and operators, docs/signals.md, from their tables. Run: npm run reference */
import { writeFileSync } from "node:fs";
import { signalReference } from "@/core/ruleset/reference";

writeFileSync("docs/signals.md", signalReference());
