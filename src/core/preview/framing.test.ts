import { describe, expect, it } from "vitest";
import { mayBeFramed } from "./framing";

const workbench = "https://mirada.example.com";
const policy = (text: string) => ({ "content-security-policy": text });

// Sources: CSP Level 3, 6.4.2 and 6.7.2 (matching of sources); HTML, 7.7 (X-Frame-Options).
describe("whether a page may stand in a frame", () => {
  it.each([
    [{}],
    [policy("default-src 'none'")],
    [policy("frame-ancestors *")],
    [policy("frame-ancestors https://mirada.example.com")],
    [policy("frame-ancestors 'self' *.example.com")],
    [policy("frame-ancestors https:")],
    [policy("FRAME-ANCESTORS mirada.example.com:443")],
    [policy("frame-ancestors http://mirada.example.com")],
    [{ ...policy("frame-ancestors *"), "x-frame-options": "DENY" }],
    [{ "x-frame-options": "ALLOW-FROM https://other.example" }],
    [{ "x-frame-options": "nonsense" }],
  ])("%j lets it", (headers) => expect(mayBeFramed(headers, workbench)).toBe(true));

  it.each([
    [{ "x-frame-options": "DENY" }],
    [{ "x-frame-options": "sameorigin" }],
    [{ "x-frame-options": "SAMEORIGIN, SAMEORIGIN" }],
    [policy("frame-ancestors 'none'")],
    [policy("frame-ancestors 'self'")],
    [policy("frame-ancestors")],
    [policy("frame-ancestors example.com")],
    [policy("frame-ancestors *.mirada.example.com")],
    [policy("frame-ancestors mirada.example.com:8443")],
    [policy("frame-ancestors *, frame-ancestors 'none'")],
    [policy("script-src 'self'; frame-ancestors https://other.example")],
  ])("%j refuses it", (headers) => expect(mayBeFramed(headers, workbench)).toBe(false));
});
