import * as z from "zod";
import { decisionSchema } from "./decision-schema";
import { rulesetSchema } from "./ruleset";
import { visitSchema } from "./visit";

type Node = Record<string, unknown>;

/** Lets every key that may be left out be null too: null means left out. */
function allowNull(node: unknown): void {
  if (typeof node !== "object" || node === null) return;
  if (Array.isArray(node)) return node.forEach(allowNull);
  const { properties, required } = node as { properties?: Record<string, Node>; required?: string[] };
  Object.values(node).forEach(allowNull);
  if (properties)
    for (const [key, value] of Object.entries(properties))
      if (!required?.includes(key) && Object.keys(value).length > 0)
        properties[key] = { anyOf: [value, { type: "null" }] };
}

/** The JSON Schemas (draft 2020-12) of the formats, by name. What they cannot say, `mirada validate` does. */
export function jsonSchemas(): Record<"visit" | "ruleset" | "decision", Node> {
  const make = (schema: z.ZodType, title: string): Node => {
    const json = z.toJSONSchema(schema, { target: "draft-2020-12", io: "input", unrepresentable: "any" }) as Node;
    allowNull(json);
    return { ...json, title };
  };
  return {
    visit: make(visitSchema, "A visit: what is known about one page request"),
    ruleset: make(rulesetSchema, "A Mirada ruleset"),
    decision: make(decisionSchema, "A decision: what one visit gets"),
  };
}
