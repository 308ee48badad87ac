import { redirect } from "next/navigation";

/** A site's own address leads to its pages. */
export default async function Page({ params }: { params: Promise<{ site: string }> }) {
  redirect(`/s/${encodeURIComponent((await params).site)}/pages`);
}
