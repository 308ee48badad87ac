/** The cookie that keeps at which site a browser was last. No secret: what one may see there is asked anew each time. */
export const lastSiteCookie = "mirada-site";

export function rememberSite(site: string): void {
  document.cookie = `${lastSiteCookie}=${encodeURIComponent(site)}; path=/; max-age=${180 * 86_400}; samesite=lax`;
}
