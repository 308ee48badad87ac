import { describe, expect, it } from "vitest";
import { visit } from "../testing";
import { readRequest, visitOfRequest } from "./requests";

const origin = "https://shop.example";
const take = (text: string) => {
  const request = readRequest(text);
  return (
    request && {
      kind: request.kind,
      ...visitOfRequest(request, visit({ consent: true, place: { country: "PT" } }), origin),
    }
  );
};

describe("requests that are pasted", () => {
  it("curl commands, as browsers copy them", () => {
    const text = `curl 'http://shop.localhost:4300/ferns?utm_source=mail' \\
  -X GET \\
  -H 'User-Agent: Mozilla/5.0 (it\\'s)' --compressed \\
  -H "Accept-Language: de-DE,de;q=0.9" -H 'Cookie: a=1; b=x=y' -e https://other.example/ -d "secret"`;
    expect(take(text.replace("\\'", ""))).toMatchObject({
      kind: { message: "a curl command" },
      url: "https://shop.example/ferns?utm_source=mail",
      userAgent: "Mozilla/5.0 (its)",
      acceptLanguage: "de-DE,de;q=0.9",
      cookies: { a: "1", b: "x=y" },
      referrer: "https://other.example/",
      consent: true,
      place: { country: "PT" },
    });
  });
  it("lines of access logs: the example of Apache's documentation, and an escaped quote", () => {
    // Apache HTTP Server documentation, Log Files, Combined Log Format.
    const line = `127.0.0.1 - frank [10/Oct/2000:13:55:36 -0700] "GET /apache_pb.gif HTTP/1.0" 200 2326 "http://www.example.com/start.html" "Mozilla/4.08 [en] (Win98; I ;Nav)"`;
    const taken = take(line);
    expect(taken).toMatchObject({
      at: "2000-10-10T20:55:36.000Z",
      ip: "127.0.0.1",
      url: "https://shop.example/apache_pb.gif",
      referrer: "http://www.example.com/start.html",
      userAgent: "Mozilla/4.08 [en] (Win98; I ;Nav)",
    });
    // The address decides where such a visitor is.
    expect(taken).not.toHaveProperty("place");
    expect(take(`::1 - - [10/Oct/2000:13:55:36 +0000] "GET /?a=1 HTTP/2" 304 - "-" "a \\"b\\""`)).toMatchObject({
      userAgent: 'a "b"',
      url: "https://shop.example/?a=1",
    });
  });
  it("HAR entries, alone or in their file", () => {
    const entry = {
      startedDateTime: "2026-11-24T10:15:00.000+01:00",
      request: { url: "https://www.shop.example/tools", headers: [{ name: "Referer", value: "https://a.example/" }] },
    };
    for (const text of [JSON.stringify(entry), JSON.stringify({ log: { entries: [entry] } })])
      expect(take(text)).toMatchObject({
        kind: { message: "a HAR entry" },
        at: "2026-11-24T09:15:00.000Z",
        referrer: "https://a.example/",
      });
  });
  it("is nothing else", () => {
    for (const text of ["", "hello", "{", "{}", "curl", "GET / HTTP/1.1", "Mozilla/5.0 (X11)"])
      expect(readRequest(text)).toBeUndefined();
  });
});
