"use client";
import Link from "next/link";
import { useParams, usePathname } from "next/navigation";
import type { ComponentProps } from "react";

/** The part of every address that says which site one is at. */
export const siteBase = (site: string): string => `/s/${encodeURIComponent(site)}`;

/** The site that the address names. */
export const useSiteId = (): string => String(useParams<{ site?: string }>().site ?? "");

/** The screen that one is at, as `screens.ts` names it, whatever the site: `/findings`. */
export function useScreen(): string {
  const base = siteBase(useSiteId());
  const path = usePathname();
  return path.startsWith(`${base}/`) ? path.slice(base.length) : path;
}

/** A link to a screen of this site. */
export function To({ href, ...props }: Omit<ComponentProps<typeof Link>, "href"> & { href: string }) {
  return <Link href={`${siteBase(useSiteId())}${href}`} {...props} />;
}
