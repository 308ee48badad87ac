import * as z from "zod";
import {
  decidedSchema,
  decideSchema,
  driftSchema,
  driftTakenSchema,
  eventsSchema,
  lookAnswerSchema,
  lookSchema,
  openedAnswerSchema,
  openedSchema,
  pageAnswerSchema,
  pageSchema,
  problemSchema,
  takenSchema,
} from "./formats";

const json = (schema: z.ZodType, io: "input" | "output" = "output") => {
  const { $schema: _schema, ...made } = z.toJSONSchema(schema, { target: "draft-2020-12", io, unrepresentable: "any" });
  return { "application/json": { schema: made } };
};
const problems = (...statuses: number[]) =>
  Object.fromEntries(
    statuses.map((status) => [
      String(status),
      {
        description: {
          400: "The body could not be understood; `problems` says where.",
          401: "No key, or one that is not good.",
          403: "This origin may not ask.",
          404: "Nothing of this site is live, or the look has ended.",
          413: "The body is longer than 64 kB.",
          429: "Too many requests from one address: try again after `Retry-After`.",
          503: "Too many events are waiting: try again after `Retry-After`.",
        }[status],
        content: { "application/problem+json": json(problemSchema)["application/json"] },
      },
    ]),
  );

/** The description of the delivery server's interface (OpenAPI 3.1), made from the very schemas by which it reads and answers. */
export function openApi(address: string): object {
  const secret = [{ serverKey: [] }];
  return {
    openapi: "3.1.0",
    info: {
      title: "Mirada delivery",
      version: "1",
      description: "What a visit gets, the live ruleset, and what happened. Errors are problems by RFC 9457.",
    },
    servers: [{ url: address }],
    components: {
      securitySchemes: {
        serverKey: { type: "http", scheme: "bearer", description: "A secret key of the site (Settings, Connect)." },
      },
    },
    paths: {
      "/v1/decide": {
        post: {
          operationId: "decide",
          summary: "What a visit gets",
          security: secret,
          requestBody: { required: true, content: json(decideSchema, "input") },
          responses: {
            200: { description: "The decision under the live release.", content: json(decidedSchema) },
            ...problems(400, 401, 404, 413),
          },
        },
      },
      "/v1/ruleset": {
        get: {
          operationId: "ruleset",
          summary: "The live ruleset, as it is served",
          security: secret,
          parameters: [{ name: "if-none-match", in: "header", schema: { type: "string" } }],
          responses: {
            200: {
              description: "A ruleset (mirada-ruleset/1).",
              headers: { etag: { schema: { type: "string" } } },
              content: { "application/json": { schema: { type: "object" } } },
            },
            304: { description: "It is the one that is known." },
            ...problems(401, 404),
          },
        },
      },
      "/v1/page": {
        post: {
          operationId: "page",
          summary: "What a page gets, asked by its script",
          description:
            "Answered to allowed origins alone; 404 while nothing is live. The body may be sent as text/plain, so that browsers ask at once.",
          requestBody: { required: true, content: json(pageSchema, "input") },
          responses: {
            200: { description: "What stands in the page’s slots.", content: json(pageAnswerSchema) },
            ...problems(400, 401, 403, 404, 413, 429),
          },
        },
      },
      "/v1/opened": {
        post: {
          operationId: "opened",
          summary: "That a pop-up has opened, so that it counts for caps and gaps",
          description:
            "By the page script with the note that came with its answer; by a server with its secret key, after a decision with countPopups: opened.",
          requestBody: { required: true, content: json(openedSchema, "input") },
          responses: {
            200: { description: "What is remembered now.", content: json(openedAnswerSchema) },
            ...problems(400, 401, 403, 413, 429),
          },
        },
      },
      "/v1/look": {
        post: {
          operationId: "look",
          summary: "What a page gets that is looked at through a lens, asked by the page script’s lens mode",
          description: "By a pass of the workbench, or the name of a shared lens. Answered to allowed origins alone.",
          requestBody: { required: true, content: json(lookSchema, "input") },
          responses: {
            200: { description: "What that lens sees in the page’s slots.", content: json(lookAnswerSchema) },
            ...problems(400, 401, 403, 404, 413, 429),
          },
        },
      },
      "/v1/drift": {
        post: {
          operationId: "drift",
          summary: "Where a page no longer fits its slots, told by the page script once a session",
          requestBody: { required: true, content: json(driftSchema, "input") },
          responses: {
            202: { description: "It is counted.", content: json(driftTakenSchema) },
            ...problems(400, 401, 403, 404, 413, 429),
          },
        },
      },
      "/v1/events": {
        post: {
          operationId: "events",
          summary: "What happened: up to 200 events at once",
          security: [{}, ...secret],
          requestBody: { required: true, content: json(eventsSchema, "input") },
          responses: {
            202: {
              description: "They are taken, and written soon. One sent twice counts once.",
              content: json(takenSchema),
            },
            ...problems(400, 401, 403, 404, 413, 429, 503),
          },
        },
      },
      "/health": { get: { summary: "The process runs", responses: { 200: { description: "Yes." } } } },
      "/ready": {
        get: {
          summary: "Visitors can be answered",
          responses: { 200: { description: "Yes." }, 503: { description: "Not yet." } },
        },
      },
    },
  };
}
