import type { FastifyReply } from "fastify";

/** Answers with a problem (RFC 9457): what is wrong, in words, and where. */
export function problem(reply: FastifyReply, status: number, title: string, detail?: string, more: object = {}) {
  const body = { type: "about:blank", title, status, ...(detail ? { detail } : {}), ...more };
  // As bytes: a text would be given a charset, which this media type does not have.
  return reply
    .code(status)
    .header("content-type", "application/problem+json")
    .send(Buffer.from(JSON.stringify(body)));
}
