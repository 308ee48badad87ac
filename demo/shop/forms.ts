import { localPath } from "@/core/visit/url";

/** Small helpers for the shop's forms, which work without JavaScript. */

/** Back to the page that a form was sent from: a path of this shop, never another address. */
export const backTo = (form: FormData): string => localPath(String(form.get("back") ?? "/"));

/** Sends the visitor on after a form (303: by GET). */
export const seeOther = (location: string): Response => new Response(null, { status: 303, headers: { location } });

/** The fields of a form; empty if it cannot be read. */
export const readForm = (request: Request): Promise<FormData> => request.formData().catch(() => new FormData());

/** How the shop's own cookies are set. */
export const cookieOptions = { httpOnly: true, sameSite: "lax", path: "/" } as const;
