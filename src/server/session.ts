import { cookies } from "next/headers";

/** The workbench session of the caller. The cookie is set by the proxy on the first visit, HttpOnly. */
export async function sessionId(): Promise<string> {
  return (await cookies()).get("mirada-session")?.value ?? "none";
}
