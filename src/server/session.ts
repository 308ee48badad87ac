import { cookies } from "next/headers";

const sessionCookie = "mirada-session";

/** The workbench session of the caller. The cookie is set by the proxy on the first visit, HttpOnly. */
export async function sessionId(): Promise<string> {
  return (await cookies()).get(sessionCookie)?.value ?? "none";
}

/** Whether a request comes from a page of the workbench itself, in a session: another site's page can send none such. */
export async function isOwnRequest(request: Request): Promise<boolean> {
  const origin = request.headers.get("origin");
  const host = request.headers.get("host");
  if (!(await cookies()).has(sessionCookie) || !origin || !URL.canParse(origin)) return false;
  return new URL(origin).host === host;
}
