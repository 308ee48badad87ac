import { sharedLens } from "@/server/shared";
import { SharedLens } from "@/storefront/shared-lens";

export const dynamic = "force-dynamic";

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const lens = await sharedLens(id);
  if (!lens) return <p className="gone">This link has expired, or never was one. Ask whoever sent it for another.</p>;
  return <SharedLens id={id} {...lens} />;
}
